import { z } from 'zod';
import type { ListingId, RecordId } from '@/core/base/ids';
import type { Instant } from '@/core/base/zones';
import type { ShownValue } from '@/core/listing/shown';
import { shownValueSchema } from '@/core/listing/shown-schema';
import { readBack, readerOf, type Tx } from './database';
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

const keysSchema = z.record(z.string(), shownValueSchema.nullable());

/** What was left of all records, or of some. */
export const leftLocksOf = readerOf(
  'left locks',
  leftLocks.recordId,
  (db, mine) => db.select().from(leftLocks).where(mine),
  ({ listingId, keys, ...row }): LeftLockRow => ({ ...row, listing: listingId, keys: readBack(keysSchema, keys) }),
);

/** Says that what is locked stays, in place of what was said of that listing before. */
export function putLeftLock(db: Tx, { listing, keys, ...row }: LeftLockRow): void {
  const set = { ...row, keys: JSON.stringify(keys) };
  db.insert(leftLocks)
    .values({ listingId: listing, ...set })
    .onConflictDoUpdate({ target: leftLocks.listingId, set })
    .run();
  markStale(db, row.recordId);
}
