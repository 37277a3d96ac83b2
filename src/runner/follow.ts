import type { DispatchId, ListingId, RecordId } from '@/core/base/ids';
import { narrowing } from '@/core/errands/narrowing';
import type { SurveyedListing } from '@/core/errands/surveyed';
import type { House } from '@/house/house';
import { listingNow } from '@/house/survey';
import type { Tx } from '@/store/database';
import { addErrand, newestErrandOf } from '@/store/errands';

/**
 * Walks the line of one listing again: what stands there beyond the record as it is now is taken back by an errand of its own,
 * without asking; where that cannot be undone, a person is asked by a finding, and nothing is done. What goes out of it already
 * walks the line by itself.
 */
export function followNarrowing(
  house: House,
  tx: Tx,
  { listingId, recordId, dispatchId }: { listingId: ListingId; recordId: RecordId; dispatchId: DispatchId },
): void {
  const now = listingNow({ ...house, db: tx }, recordId, listingId);
  if (now) takeBack(house, tx, now.surveyed, now.record.record.revision, dispatchId);
}

const isOpen = ({ state }: { state: string }) => state === 'waiting' || state === 'running' || state === 'lodged';

/** What others read at our own house is never seen beyond the record: it is taken out by itself, whenever the record came to say less. */
export function followShelves(house: House, tx: Tx, listings: readonly SurveyedListing[], revision: number): void {
  for (const one of listings) {
    if (one.rules.answers !== 'pulled') continue;
    const newest = narrowing(one) === null ? null : newestErrandOf(tx, one.id);
    if (newest) takeBack(house, tx, one, revision, newest.dispatchId);
  }
}

function takeBack(house: House, tx: Tx, one: SurveyedListing, revision: number, dispatchId: DispatchId): void {
  const back = narrowing(one);
  if (back === null || back.asks) return;
  const newest = newestErrandOf(tx, one.id);
  // One is enough; and what was refused, or came to nothing, is not tried again for the same words.
  if (newest?.narrows === true && newest.state !== 'done' && (isOpen(newest) || newest.revision === revision)) return;
  addErrand(
    tx,
    dispatchId,
    {
      ...{ listing: one.id, record: one.record, channel: one.channel, revision },
      ...{
        op: back.op,
        changes: back.changes,
        awaits: null,
        notBefore: null,
        deadline: 0,
        gives: false,
        narrows: true,
      },
    },
    house.steady(),
  );
}
