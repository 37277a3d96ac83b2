import type { RecordId } from '@/core/base/ids';
import { askReading, listingsOf, thoroughly } from '@/store/listings';
import { transaction } from '@/store/database';
import type { House } from '@/house/house';

/** Asks for every listing (or one record's) to be read back now. Gives their number. */
export function readNow(house: House, recordId?: RecordId): number {
  return transaction(house.db, (tx) => {
    const standing = listingsOf(tx, recordId).filter((listing) => listing.remote !== null);
    for (const listing of standing) askReading(tx, listing.id, thoroughly);
    return standing.length;
  });
}
