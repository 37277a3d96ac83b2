import type { Instant } from '../base/zones';
import type { ListedState } from './shown';

/** What an errand does on its channel. */
export const operations = [
  'place',
  'amend',
  'publish',
  'unpublish',
  'reschedule',
  'cancel',
  'remove',
  'renew',
  'correct',
] as const;
export type Operation = (typeof operations)[number];

const saysNothingNew: ReadonlySet<Operation> = new Set(['renew', 'unpublish', 'cancel', 'remove']);

/**
 * True where an operation tells nobody anything new: what is renewed, taken down, called off or deleted needs nothing
 * acknowledged.
 */
export function tellsNothingNew(op: Operation): boolean {
  return saysNothingNew.has(op);
}

/** What each operation is called. */
export const operationWords: Record<Operation, string> = {
  place: 'New listing',
  amend: 'Update',
  publish: 'Show again',
  unpublish: 'Take down',
  reschedule: 'Reschedule',
  cancel: 'Cancel',
  remove: 'Delete',
  renew: 'Renew',
  correct: 'Correct',
};

/** How far an operation can be taken back: wholly, in part (what stays is said), or never. */
export type Undo = { how: 'wholly' } | { how: 'in part'; stays: string } | { how: 'never' };

/** Something that an operation can do besides what it is for: off, unless a person asks for it each time. */
export interface SideEffect {
  /** Its name on the wire of its kind. */
  id: string;
  /** What it does, as a phrase for the person who ticks it: `posts on the page that there is such an event`. */
  does: string;
}

/** One operation of a kind, as data. */
export interface OperationRow {
  op: Operation;
  /** What it is called there, where that is not its usual name: a letter is sent, a post is posted. */
  called?: string;
  /** Fields that it can change; `all`: whatever is not locked; `state`: how far the listing is seen. */
  fields: 'all' | 'state' | readonly string[];
  /** The states that it leads to, where it changes the state. */
  leadsTo?: readonly ListedState[];
  /** What it needs of the user. */
  needs: readonly ('reason' | 'code')[];
  undo: Undo;
  /** Whom it tells by itself. */
  tells: 'nobody' | 'buyers' | 'followers' | 'subscribers';
  /** Requests that it costs. */
  requests: number;
  /** What it can do besides, and does only where a person asks for it. */
  effects?: readonly SideEffect[];
  /** What it does, for the user: `moves the date and writes to everybody who bought`. */
  does: string;
}

/** When a lock closes. */
type LockWhen =
  { after: 'first sale' } | { hoursBefore: number } | { minutesAfterSending: number } | { state: ListedState };

/** Fields that a channel does not let be changed any more from some moment on. */
export interface LockRow {
  fields: readonly string[];
  when: LockWhen;
  /** `none`: not at all; `only up`: a number may still rise; `only away`: it may be taken out, and not moved. */
  lets: 'none' | 'only up' | 'only away';
}

/** What locks are judged on: as observed, never as wished. */
export interface LockContext {
  /** How many the channel says that it has sold of this listing. */
  sold: number;
  /** Starts that stand there now, by performance. */
  starts: ReadonlyMap<string, Instant>;
  state: ListedState;
  sentAt: Instant | null;
  now: Instant;
}

const hourMs = 3_600_000;

/**
 * True where the lock has closed for a field of `item` (the performance it belongs to; `null`: of the whole listing).
 */
export function closed(
  { when }: LockRow,
  { sold, starts, state, sentAt, now }: LockContext,
  item: string | null,
): boolean {
  if ('after' in when) return sold > 0;
  if ('state' in when) return state === when.state;
  if ('minutesAfterSending' in when) return sentAt !== null && now - sentAt > when.minutesAfterSending * 60_000;
  const start = item === null ? Math.min(...starts.values()) : (starts.get(item) ?? Infinity);
  return start - now < when.hoursBefore * hourMs;
}

/** Those of the named side effects that an operation has there: what it does not have, nobody can ask of it. */
export function effectsOf(rows: readonly OperationRow[], op: Operation, asked: readonly string[]): SideEffect[] {
  return (rows.find((row) => row.op === op)?.effects ?? []).filter((effect) => asked.includes(effect.id));
}

/** Why a lock is closed, for the user. */
export function lockWords({ when }: LockRow, { sold }: LockContext): string {
  if ('after' in when)
    return `${sold} ${sold === 1 ? 'ticket is' : 'tickets are'} sold: it is locked there since the first sale`;
  if ('state' in when) return `it is locked there because the listing is ${when.state}`;
  if ('minutesAfterSending' in when)
    return when.minutesAfterSending === 0
      ? 'what was sent is sent: it cannot be changed any more'
      : `it is locked there ${when.minutesAfterSending} minutes after it was sent`;
  if (when.hoursBefore === 0) return 'it is locked there once it has begun';
  return `it is locked there in the last ${when.hoursBefore} hours before the start`;
}
