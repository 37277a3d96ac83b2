import type { Notice, RecordContent } from './record';

/** What befell the event as a whole: every performance of it is cancelled, or none of them has a date to stand on any more. `null`: neither. */
export function turnOf({ performances }: Pick<RecordContent, 'performances'>): 'cancelled' | 'postponed' | null {
  if (performances.length === 0) return null;
  if (performances.every((one) => one.turn === 'cancelled')) return 'cancelled';
  return performances.every((one) => one.turn === 'cancelled' || one.turn === 'postponed') ? 'postponed' : null;
}

/**
 * Notices with those taken off that were planned before the event was cancelled or postponed, and that nobody has touched since: a
 * reminder or "two days to go" must not go out with it. What is new or was changed along with the turn speaks of it, and stays. Where
 * the turn is taken back, they are as they were. `went`: whether a notice has gone out already.
 */
export function takeOffPlanned(
  before: RecordContent,
  after: RecordContent,
  went: (id: string) => boolean,
): RecordContent {
  const [was, is] = [turnOf(before), turnOf(after)];
  if (was === is) return after;
  const known = new Map(before.notices.map((one) => [one.id, one]));
  const untouched = (one: Notice) => {
    const old = known.get(one.id);
    return old !== undefined && old.words === one.words && old.subject === one.subject && !went(one.id);
  };
  const notices = after.notices.map((one) => {
    if (is === null) return one.offSince === null ? one : { ...one, offSince: null };
    return untouched(one) ? { ...one, offSince: is } : one;
  });
  return notices.every((one, i) => one === after.notices[i]) ? after : { ...after, notices };
}
