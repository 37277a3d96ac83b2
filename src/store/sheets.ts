import { and, eq } from 'drizzle-orm';
import type { RecordId } from '@/core/base/ids';
import type { SheetTick } from '@/core/listing/sale-sheet';
import { readerOf, type Tx } from './database';
import { sheetTicks } from './schema';

/** The ticked lines of all records' sheets, or of some. */
export const ticksOf = readerOf(
  'ticks',
  sheetTicks.recordId,
  (db, mine) => db.select().from(sheetTicks).where(mine),
  (row): SheetTick & { recordId: RecordId } => row,
);

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
