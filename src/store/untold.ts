import { and, asc, eq, inArray, isNull, notExists, sql } from 'drizzle-orm';
import type { ListingId, RecordId } from '@/core/base/ids';
import type { Instant } from '@/core/base/zones';
import type { Tx } from './database';
import { openStates } from './errands';
import { errands, untold } from './schema';

/** Who was told by nobody of what changed, of one listing. */
export type Untold = typeof untold.$inferSelect;

/** How it ends that somebody was not told. */
export type ToldHow = NonNullable<Untold['decision']>;

/**
 * Notes that those who bought by a listing were not told of something. What was open of it before is still open.
 * `tellsBy`: the errand under way that is to tell them.
 */
export function noteUntold(
  tx: Tx,
  item: Pick<Untold, 'listingId' | 'recordId' | 'channel' | 'sold' | 'what' | 'at' | 'actor' | 'tellsBy'>,
): void {
  const known = tx
    .select({ what: untold.what })
    .from(untold)
    .where(and(eq(untold.listingId, item.listingId), isNull(untold.decision)))
    .get();
  const what = [...new Set([...(known?.what ?? []), ...item.what])];
  const set = { ...item, what, decision: null, decidedBy: null, decidedAt: null };
  tx.insert(untold).values(set).onConflictDoUpdate({ target: untold.listingId, set }).run();
}

/**
 * Says how it ended that those who bought by a listing, or by all of a record's, were not told. Gives how many were
 * open.
 */
export function decideUntold(
  tx: Tx,
  of: { listing: ListingId } | { record: RecordId },
  how: ToldHow,
  by: string,
  at: Instant,
): number {
  return tx
    .update(untold)
    .set({ decision: how, decidedBy: by, decidedAt: at })
    .where(
      and('listing' in of ? eq(untold.listingId, of.listing) : eq(untold.recordId, of.record), isNull(untold.decision)),
    )
    .run().changes;
}

/** What is open of that, the oldest first, but for what an errand under way is to tell. By the index. */
export function openUntold(db: Tx): Untold[] {
  const underWay = db
    .select({ one: sql`1` })
    .from(errands)
    .where(and(eq(errands.id, untold.tellsBy), inArray(errands.state, openStates)));
  return db
    .select()
    .from(untold)
    .where(and(isNull(untold.decision), notExists(underWay)))
    .orderBy(asc(untold.at))
    .all();
}
