import type { ListingId, RecordId } from '@/core/base/ids';
import { refusalOf } from '@/core/errands/narrowing';
import type { Change } from '@/core/errands/steps';
import type { Operation } from '@/core/listing/operations';
import { OutsideError } from '@/channels/kit/http';
import type { Tx } from '@/store/database';
import type { House } from './house';
import { goingOut } from './outside-door';
import { listingNow } from './survey';

/**
 * What is about to leave the house: of which listing, by which operation, with what, and under which time of leading.
 */
export interface Leaving {
  record: RecordId;
  listing: ListingId;
  op: Operation;
  changes: readonly Change[];
  fence: number;
}

/**
 * The one question before anything that carries our facts leaves the house or lies where others read it: a request, a
 * letter, a batch, an entry of a feed, a trial order. Does this process still lead, and may this be seen, by the record
 * as it is now? Asked inside one transaction, in which what was kept in mind before the writing is written too. Throws
 * where it may not.
 */
export function askWayOut(house: House, tx: Tx, { record, listing, op, changes, fence }: Leaving): void {
  if (!house.lead.stillLeads(fence, tx)) throw stoppedBy('another process leads now');
  const now = listingNow({ ...house, db: tx }, record, listing);
  const refusal = refusalOf(now?.surveyed, op, changes);
  if (refusal !== null) throw stoppedBy(refusal);
}

/**
 * Does something about a listing that a person asks for and that no errand carries: a trial order. It goes the same
 * way: only where this process leads, or takes the lead for that long, and only as long as the listing may be seen.
 */
export async function onOwnBehalf<T>(
  house: House,
  { id: listing, recordId: record }: { id: ListingId; recordId: RecordId },
  work: () => Promise<T>,
): Promise<T> {
  const led = house.lead.fence() !== 0;
  if (!led && !house.lead.renew()) throw stoppedBy('another process works the queue: ask there');
  const fence = house.lead.fence();
  const leaving: Leaving = { record, listing, op: 'amend', changes: [], fence };
  try {
    return await goingOut({ sort: 'errand', before: (tx) => askWayOut(house, tx, leaving) }, work);
  } finally {
    if (!led) house.lead.letGo();
  }
}

/** What an errand is told that may not go on: the record, or who leads, changed while it was under way. */
function stoppedBy(why: string): OutsideError {
  return new OutsideError('stopped', why);
}
