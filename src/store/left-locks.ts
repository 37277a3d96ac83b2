import type { ListingId, RecordId } from '@/core/base/ids';
import type { Instant } from '@/core/base/zones';
import type { ShownValue } from '@/core/listing/shown';
import { readerOf, type Tx } from './database';
import { markStale } from './pulse';
import { leftLocks } from './schema';

/** A person's word that what is locked on a channel stays as it is there. */
export interface LeftLockRow {
  listing: ListingId;
  recordId: RecordId;
  /** What was wanted of each locked field when it was left. */
  keys: Readonly<Record<string, ShownValue | null>>;
  because: string;
  until: Instant;
  by: string;
  at: Instant;
}

/** What was left of all records, or of some. */
export const leftLocksOf = readerOf(
  'left locks',
  leftLocks.recordId,
  (db, mine) => db.select().from(leftLocks).where(mine),
  ({ listingId, ...row }): LeftLockRow => ({ ...row, listing: listingId }),
);

/** Says that what is locked stays, in place of what was said of that listing before. */
export function putLeftLock(db: Tx, { listing, keys, ...row }: LeftLockRow): void {
  const set = { ...row, keys: { ...keys } };
  db.insert(leftLocks)
    .values({ listingId: listing, ...set })
    .onConflictDoUpdate({ target: leftLocks.listingId, set })
    .run();
  markStale(db, row.recordId);
}
