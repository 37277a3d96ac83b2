import { and, eq, sql } from 'drizzle-orm';
import type { RecordId } from '@/core/base/ids';
import type { SheetTick } from '@/core/listing/sale-sheet';
import { ofRecords, type Tx, type Which, prepared } from './database';
import { sheetTicks } from './schema';

/** The ticked lines of all records' sheets, or of one's. */
export function ticksOf(db: Tx, which?: Which): (SheetTick & { recordId: RecordId })[] {
  if (typeof which === 'string')
    return prepared(db, 'ticks of one', (at) =>
      at
        .select()
        .from(sheetTicks)
        .where(eq(sheetTicks.recordId, sql.placeholder('of')))
        .prepare(),
    ).all({ of: which });
  return db.select().from(sheetTicks).where(ofRecords(sheetTicks.recordId, which)).all();
}

/** Ticks a line as it reads now. */
export function putTick(db: Tx, recordId: RecordId, tick: SheetTick): void {
  const { value, by, at } = tick;
  db.insert(sheetTicks)
    .values({ recordId, ...tick })
    .onConflictDoUpdate({ target: [sheetTicks.recordId, sheetTicks.line], set: { value, by, at } })
    .run();
}

/** Takes a tick back. */
export function dropTick(db: Tx, recordId: RecordId, line: string): void {
  db.delete(sheetTicks)
    .where(and(eq(sheetTicks.recordId, recordId), eq(sheetTicks.line, line)))
    .run();
}
