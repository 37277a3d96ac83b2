import type { ChannelId, ListingId, RecordId } from '@/core/base/ids';
import { and, eq } from 'drizzle-orm';
import type { Instant } from '@/core/base/zones';
import type { Gift } from '@/core/listing/channel-rules';
import { readerOf, type Tx } from './database';
import { markStale } from './pulse';
import { errands, gifts } from './schema';

/** A value that one listing gives to others. */
export interface GiftRow {
  listingId: ListingId;
  gift: string;
  channel: ChannelId;
  value: string;
}

const { listingId, channel, value } = gifts;

/** The gifts of all records, or of some. */
export const giftsOf = readerOf(
  'gifts',
  gifts.recordId,
  (db, mine) => db.select({ listingId, gift: gifts.gift, channel, value }).from(gifts).where(mine),
  (row): GiftRow => row,
);

/** A listing gives nothing any more. */
export function noGiftsOf(db: Tx, from: { id: ListingId; recordId: RecordId }): void {
  db.delete(gifts).where(eq(gifts.listingId, from.id)).run();
  markStale(db, from.recordId);
}

/** Notes what a listing gives, and wakes every errand of the record that awaits it. `null`: it gives it no longer. */
export function noteGift(
  db: Tx,
  from: { id: ListingId; recordId: RecordId; channel: ChannelId },
  gift: Gift,
  value: string | null,
  at: Instant,
): void {
  const mine = and(eq(gifts.listingId, from.id), eq(gifts.gift, gift), eq(gifts.performanceId, ''));
  if (value === null) {
    if (db.delete(gifts).where(mine).run().changes > 0) markStale(db, from.recordId);
    return;
  }
  const before = db.select({ value: gifts.value }).from(gifts).where(mine).get();
  const row = { listingId: from.id, recordId: from.recordId, gift, channel: from.channel, value, since: at };
  db.insert(gifts)
    .values(row)
    .onConflictDoUpdate({
      target: [gifts.listingId, gifts.gift, gifts.performanceId],
      set: { value, channel: from.channel, since: at },
    })
    .run();
  if (before?.value !== value) markStale(db, from.recordId);
  db.update(errands)
    .set({ ready: true, awaits: null })
    .where(and(eq(errands.recordId, from.recordId), eq(errands.state, 'waiting'), eq(errands.awaits, from.channel)))
    .run();
}
