import { asks, reachesRecord } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import { mergeRows } from '@/core/record/merge';
import type { House } from '@/house/house';
import { recordAt } from '@/store/records';

/** One field that a revision changed. */
export interface RevisionChange {
  path: string;
  before: unknown;
  after: unknown;
}

/** What a revision changed, field by field, against the one before it. `null`: there is no such revision. */
export function revisionChanges(house: House, doer: Doer, id: RecordId, number: number): RevisionChange[] | null {
  asks(doer, 'revisionChanges');
  const after = recordAt(house.db, id, number);
  const newest = recordAt(house.db, id);
  if (!after || !newest || !reachesRecord(doer, newest)) return null;
  const before = number > 1 ? recordAt(house.db, id, number - 1) : null;
  if (!before) return [];
  return mergeRows(before.content, before.content, after.content).map(({ path, mine, theirs }) => ({
    path,
    before: mine ?? null,
    after: theirs ?? null,
  }));
}
