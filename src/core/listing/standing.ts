import type { FieldComparison, ListingState, Outcome } from './compare';
import { isDown, listedState, type Shown } from './shown';

/** How a listing stands on its channel. */
export const standings = [
  'refused',
  'atodds',
  'drifted',
  'late',
  'underway',
  'due',
  'unread',
  'embargoed',
  'unplaced',
  'instep',
  'withdrawn',
] as const;
export type Standing = (typeof standings)[number];

/** What each standing is called on screen, and what it means. */
export const standingWords: Record<Standing, { name: string; meaning: string }> = {
  unplaced: { name: 'Not placed', meaning: 'wanted on this channel, never sent' },
  due: { name: 'To send', meaning: 'the record is ahead of what was sent' },
  underway: { name: 'Going out', meaning: 'an errand is queued or running' },
  unread: { name: 'Sent, unread', meaning: 'sent; not read back yet' },
  instep: { name: 'In step', meaning: 'the channel shows what was sent, and that is what the record says' },
  late: { name: 'Late to show', meaning: 'the usual delay has passed and the channel does not show it' },
  drifted: { name: 'Drifted', meaning: 'the channel shows something that was not sent' },
  atodds: { name: 'At odds', meaning: 'the record and the channel both changed the same field' },
  refused: { name: 'Refused', meaning: 'the channel said no: a person decides' },
  embargoed: { name: 'Under embargo', meaning: 'ready, and held until its announce moment' },
  withdrawn: { name: 'Taken down', meaning: 'was there, and was taken down on purpose' },
};

const asking: ReadonlySet<Standing | null> = new Set<Standing | null>(['refused', 'atodds', 'drifted', 'late']);

/** True where a listing that stands so asks a person. */
export function asksPerson(standing: Standing | null): boolean {
  return asking.has(standing);
}

export interface StandingInput {
  wanted: Shown;
  state: ListingState;
  comparison: readonly FieldComparison[];
  /** The newest errand that a person or the runner has still to deal with. */
  errand: 'none' | 'open' | 'refused';
  embargoed: boolean;
  /** It stands in a second place there, which nobody sent. */
  twice: boolean;
  /** A person at the channel turned it down. */
  turnedDown: boolean;
}

/** Some field came out so. */
function has(comparison: readonly FieldComparison[], outcome: Outcome): boolean {
  return comparison.some((field) => field.outcome === outcome);
}

/** A listing's standing follows from its fields and its errand; the most pressing one wins. */
export function standingOf({
  wanted,
  state,
  comparison,
  errand,
  embargoed,
  twice,
  turnedDown,
}: StandingInput): Standing {
  if (errand === 'refused') return 'refused';
  if (errand === 'open') return embargoed && state.sent === null ? 'embargoed' : 'underway';
  // Whether it stands there at all is being asked.
  if (state.sent === null && state.pendingOutcome) return 'underway';
  if (state.sent === null) return embargoed ? 'embargoed' : 'unplaced';
  if (turnedDown && !isDown(wanted)) return 'refused';
  if (has(comparison, 'at-odds')) return 'atodds';
  if (has(comparison, 'drifted') || twice) return 'drifted';
  if (has(comparison, 'to-send') || has(comparison, 'lapsing')) return 'due';
  if (has(comparison, 'late')) return 'late';
  if (has(comparison, 'not-yet')) return 'unread';
  // What is told to be cancelled is seen, and says what is wanted.
  return isDown(wanted) && listedState(wanted) !== 'cancelled' ? 'withdrawn' : 'instep';
}
