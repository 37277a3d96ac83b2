import type { Notice, RecordContent } from './record';

/**
 * What befell the event as a whole: every performance of it is cancelled, or none of them has a date to stand on any
 * more. `null`: neither.
 */
function turnOf({ performances }: Pick<RecordContent, 'performances'>): 'cancelled' | 'postponed' | null {
  if (performances.length === 0) return null;
  if (performances.every((performance) => performance.turn === 'cancelled')) return 'cancelled';
  return performances.every((performance) => performance.turn === 'cancelled' || performance.turn === 'postponed')
    ? 'postponed'
    : null;
}

/**
 * Notices with those taken off that were planned before the event was cancelled or postponed, and that nobody has
 * touched since: a reminder or "two days to go" must not go out with it. What is new or was changed along with the turn
 * speaks of it, and stays. Where the turn is taken back, they are as they were. `went`: whether a notice has gone out
 * already.
 */
export function takeOffPlanned(
  before: RecordContent,
  after: RecordContent,
  went: (id: string) => boolean,
): RecordContent {
  const [was, is] = [turnOf(before), turnOf(after)];
  if (was === is) return after;
  const known = new Map(before.notices.map((notice) => [notice.id, notice]));
  const untouched = (notice: Notice) => {
    const old = known.get(notice.id);
    return old !== undefined && old.words === notice.words && old.subject === notice.subject && !went(notice.id);
  };
  const notices = after.notices.map((notice) => {
    if (is === null) return notice.offSince === null ? notice : { ...notice, offSince: null };
    return untouched(notice) ? { ...notice, offSince: is } : notice;
  });
  return notices.every((notice, i) => notice === after.notices[i]) ? after : { ...after, notices };
}
