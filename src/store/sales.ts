import type { ChannelId, ListingId, RecordId } from '@/core/base/ids';
import { and, asc, desc, eq, notInArray, sql } from 'drizzle-orm';
import { groupBy } from '@/core/base/group-by';
import type { Instant } from '@/core/base/zones';
import type { SourceCount } from '@/core/facts/sales';
import { readerOf, type Tx } from './database';
import { sales, soldNow, sourceCounts } from './schema';

/** How many were sold of a level for a performance through an outlet, as counted at a moment. */
export interface SaleCount {
  recordId: RecordId;
  performanceId: string;
  levelId: string;
  outlet: string;
  sold: number;
  at: Instant;
}

/** The newest count of each outlet, performance and level, of all records or of some. */
export const soldCounts = readerOf(
  'sold',
  soldNow.recordId,
  (db, mine) => db.select().from(soldNow).where(mine),
  (row): SaleCount => row,
);

/** Every count of some records' sales, oldest first, by record. One query. */
export function salesUntilNow(db: Tx, records: readonly RecordId[]): Map<RecordId, SaleCount[]> {
  const { recordId, performanceId, levelId, outlet, sold, at } = sales;
  const rows = db
    .select({ recordId, performanceId, levelId, outlet, sold, at })
    .from(sales)
    .where(sql`${recordId} IN (SELECT value FROM json_each(${JSON.stringify(records)}))`)
    .orderBy(sales.id)
    .all();
  return groupBy(rows, (count) => count.recordId);
}

/** Every count of a record's sales, oldest first: how fast it sells follows from them. */
export function saleHistory(db: Tx, recordId: RecordId): SaleCount[] {
  const { performanceId, levelId, outlet, sold, at } = sales;
  return db
    .select({ recordId: sales.recordId, performanceId, levelId, outlet, sold, at })
    .from(sales)
    .where(eq(sales.recordId, recordId))
    .orderBy(sales.id)
    .all();
}

/** Notes a count; one that says the same as the last is not written again. True where something was written. */
export function noteSale(db: Tx, count: SaleCount & { by: string }): boolean {
  const { recordId, performanceId, levelId, outlet, sold, at } = count;
  const same = and(
    eq(soldNow.recordId, recordId),
    eq(soldNow.performanceId, performanceId),
    eq(soldNow.levelId, levelId),
    eq(soldNow.outlet, outlet),
  );
  const last = db.select({ sold: soldNow.sold }).from(soldNow).where(same).get();
  if (last?.sold === sold || (last === undefined && sold === 0)) return false;
  db.insert(sales).values(count).run();
  const target = [soldNow.recordId, soldNow.performanceId, soldNow.levelId, soldNow.outlet];
  db.insert(soldNow)
    .values({ recordId, performanceId, levelId, outlet, sold, at })
    .onConflictDoUpdate({ target, set: { sold, at } })
    .run();
  return true;
}

/** From where people came to a record's listings, the most first. */
export function sourcesOf(db: Tx, recordId: RecordId): SourceCount[] {
  const { channel, source, n } = sourceCounts;
  return db
    .select({ channel, source, n })
    .from(sourceCounts)
    .where(eq(sourceCounts.recordId, recordId))
    .orderBy(asc(channel), desc(n), asc(source))
    .all();
}

/** Notes from where people came to a listing, in place of what was known. True where that is something else. */
export function noteSources(
  db: Tx,
  { id, recordId, channel }: { id: ListingId; recordId: RecordId; channel: ChannelId },
  counts: readonly { source: string; n: number }[],
  at: Instant,
): boolean {
  const mine = eq(sourceCounts.listingId, id);
  const known = new Map(
    db
      .select({ source: sourceCounts.source, n: sourceCounts.n })
      .from(sourceCounts)
      .where(mine)
      .all()
      .map((item) => [item.source, item.n]),
  );
  if (known.size === counts.length && counts.every((count) => known.get(count.source) === count.n)) return false;
  const names = counts.map((count) => count.source);
  db.delete(sourceCounts)
    .where(and(mine, notInArray(sourceCounts.source, names)))
    .run();
  for (const { source, n } of counts)
    db.insert(sourceCounts)
      .values({ recordId, listingId: id, channel, source, n, at })
      .onConflictDoUpdate({ target: [sourceCounts.listingId, sourceCounts.source], set: { n, at } })
      .run();
  return true;
}
