import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import type { ListingId } from '@/core/base/ids';
import type { Instant } from '@/core/base/zones';
import type { Tx } from './database';
import { untold } from './schema';

/** Who was told by nobody of what changed, of one listing. */
export type Untold = typeof untold.$inferSelect;

/** How it ends that somebody was not told. */
export type ToldHow = NonNullable<Untold['decision']>;

/** Notes that those who bought by a listing were not told of something. What was open of it before is still open. */
export function noteUntold(
  tx: Tx,
  item: Pick<Untold, 'listingId' | 'recordId' | 'channel' | 'sold' | 'what' | 'at' | 'actor'>,
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

/** Says how it ended that those who bought by some listings were not told. Gives how many were open. */
export function decideUntold(tx: Tx, ids: readonly ListingId[], how: ToldHow, by: string, at: Instant): number {
  return tx
    .update(untold)
    .set({ decision: how, decidedBy: by, decidedAt: at })
    .where(and(inArray(untold.listingId, [...ids]), isNull(untold.decision)))
    .run().changes;
}

/** What is open of that, the oldest first. By the index. */
export function openUntold(db: Tx): Untold[] {
  return db.select().from(untold).where(isNull(untold.decision)).orderBy(asc(untold.at)).all();
}
