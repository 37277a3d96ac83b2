import type { DispatchId, ListingId, RecordId } from '@/core/base/ids';
import { narrowing } from '@/core/errands/narrowing';
import type { SurveyedListing } from '@/core/errands/surveyed';
import type { House } from '@/house/house';
import { listingNow } from '@/house/survey';
import type { Tx } from '@/store/database';
import { addErrand, newestErrandOf } from '@/store/errands';

/**
 * Walks the line of one listing again: what stands there beyond the record as it is now is taken back by an errand of
 * its own, without asking; where that cannot be undone, a person is asked by a finding, and nothing is done. What goes
 * out of it already walks the line by itself.
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

/**
 * What others read at our own house is never seen beyond the record: it is taken out by itself, whenever the record
 * came to say less.
 */
export function followShelves(house: House, tx: Tx, listings: readonly SurveyedListing[], revision: number): void {
  for (const listing of listings) {
    if (listing.rules.answers !== 'pulled') continue;
    const newest = narrowing(listing) === null ? null : newestErrandOf(tx, listing.id);
    if (newest) takeBack(house, tx, listing, revision, newest.dispatchId);
  }
}

function takeBack(house: House, tx: Tx, listing: SurveyedListing, revision: number, dispatchId: DispatchId): void {
  const back = narrowing(listing);
  if (back === null || back.asks) return;
  const newest = newestErrandOf(tx, listing.id);
  // One is enough; and what was refused, or came to nothing, is not tried again for the same words.
  if (newest?.narrows === true && newest.state !== 'done' && (isOpen(newest) || newest.revision === revision)) return;
  addErrand(
    tx,
    dispatchId,
    {
      ...{ listing: listing.id, record: listing.record, channel: listing.channel, revision },
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
    house.monotonic(),
  );
}
