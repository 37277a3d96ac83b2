/**
 * A listing's states: not seen yet, seen by everybody, found by its link alone, taken down or no longer sold, told to
 * be cancelled.
 */
export const listedStates = ['draft', 'public', 'unlisted', 'closed', 'cancelled'] as const;
export type ListedState = (typeof listedStates)[number];
