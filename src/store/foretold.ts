import { and, desc, eq, isNotNull, isNull, lte } from 'drizzle-orm';
import { groupBy } from '@/core/base/group-by';
import { quantile } from '@/core/base/quantile';
import type { DispatchId, ListingId } from '@/core/base/ids';
import type { Instant } from '@/core/base/zones';
import type { Foreseen } from '@/core/errands/foreseen';
import type { Tx } from './database';
import { foretold } from './schema';

/** What was foretold of one listing, with what became of it. */
export type Foretold = typeof foretold.$inferSelect;

const isOpen = (listingId: ListingId) =>
  and(eq(foretold.listingId, listingId), isNull(foretold.seenAt), eq(foretold.passedOver, false));

/** Keeps what was foretold of a dispatch. What was foretold of the same listings before and not seen is passed over. */
export function keepForetold(
  tx: Tx,
  dispatchId: DispatchId,
  items: readonly Foreseen[],
  at: Instant,
  monotonic: Instant,
): void {
  for (const { listing, record, channel, op, by, tells, told, leaves } of items) {
    tx.update(foretold).set({ passedOver: true }).where(isOpen(listing)).run();
    tx.insert(foretold)
      .values({
        ...{ dispatchId, recordId: record, listingId: listing, channel, op, at, monotonic, tells, told },
        ...{ earliest: by.earliest, asRule: by.asRule, atLatest: by.atLatest, leaves: [...leaves] },
      })
      .run();
  }
}

/**
 * Notes what a reading at a moment of the house's clock says of what was foretold of a listing: seen there, or not.
 * `sentAt`: when something was sent there last, by the monotonic clock.
 */
export function noteForetold(tx: Tx, listingId: ListingId, sentAt: Instant, seen: boolean, at: Instant): void {
  tx.update(foretold)
    .set(seen ? { seenAt: at } : { unseenAt: at })
    .where(and(isOpen(listingId), lte(foretold.monotonic, sentAt)))
    .run();
}

/** What was foretold of a dispatch. */
export function foretoldOf(db: Tx, dispatchId: DispatchId): Foretold[] {
  return db.select().from(foretold).where(eq(foretold.dispatchId, dispatchId)).all();
}

/** So many of what was seen lately are gone by, and so many of a channel are needed to say what is usual there. */
const [lately, enough] = [600, 10];

/**
 * How long nine in ten took to be seen lately, in ms, by channel: at least. What was looked for and not there yet says
 * so; what was there at the first look may have been so at once.
 */
export function usualDelays(db: Tx): Map<string, number> {
  const rows = db
    .select({ channel: foretold.channel, at: foretold.at, unseenAt: foretold.unseenAt })
    .from(foretold)
    .where(isNotNull(foretold.seenAt))
    .orderBy(desc(foretold.id))
    .limit(lately)
    .all();
  const out = new Map<string, number>();
  for (const [channel, mine] of groupBy(rows, (row) => row.channel)) {
    const waited = mine.map(({ at, unseenAt }) => (unseenAt ?? at) - at).sort((a, b) => a - b);
    const usual = quantile(waited, 0.9, enough);
    if (usual !== null) out.set(channel, usual);
  }
  return out;
}
