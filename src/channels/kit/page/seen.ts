/** One answer about one thing: it is as typed, it is something else, or nobody can tell. */
export type Seen = { is: 'as typed' } | { is: 'else'; value: unknown } | { is: 'unsure' };
export const asTyped: Seen = { is: 'as typed' };
export const notSure: Seen = { is: 'unsure' };
