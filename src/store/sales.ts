import { and, desc, eq } from 'drizzle-orm';
import type { Instant } from '@/core/base/zones';
import type { Tx } from './database';
import { sales } from './schema';

/** How many were sold of a level for a performance through an outlet, as counted at a moment. */
export interface SaleCount {
  recordId: string;
  performanceId: string;
  levelId: string;
  outlet: string;
  sold: number;
  at: Instant;
  by: string;
}

/** Every count, oldest first; of one record where it is given. */
export function saleCounts(db: Tx, recordId?: string): SaleCount[] {
  const all = db.select().from(sales);
  return (recordId === undefined ? all : all.where(eq(sales.recordId, recordId))).orderBy(sales.id).all();
}

/** Notes a count; one that says the same as the last is not written again. True where something was written. */
export function noteSale(db: Tx, count: SaleCount): boolean {
  const same = and(
    eq(sales.recordId, count.recordId),
    eq(sales.performanceId, count.performanceId),
    eq(sales.levelId, count.levelId),
    eq(sales.outlet, count.outlet),
  );
  const last = db.select({ sold: sales.sold }).from(sales).where(same).orderBy(desc(sales.id)).limit(1).get();
  if (last?.sold === count.sold || (last === undefined && count.sold === 0)) return false;
  db.insert(sales).values(count).run();
  return true;
}
