import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import { askReading, listingsOf, thoroughly } from '@/store/listings';
import { transaction } from '@/store/database';
import type { House } from '@/house/house';

/** Asks for every listing (or one record's) to be read back now. Gives their number. */
export function readNow(house: House, doer: Doer, recordId?: RecordId): number {
  asks(doer, 'readNow');
  return transaction(house.db, (tx) => {
    const standing = listingsOf(tx, recordId).filter((listing) => listing.remote !== null);
    for (const listing of standing) askReading(tx, listing.id, thoroughly);
    return standing.length;
  });
}
