import { eq, sql } from 'drizzle-orm';
import type { Tx } from './database';
import { settings } from './schema';

const name = 'directory';

/** A number that rises with every change of the directory: venues, rooms, people, tours. */
export function directoryMark(db: Tx): number {
  return Number(db.select().from(settings).where(eq(settings.name, name)).get()?.value ?? 0);
}

/** Says that the directory changed. Give it inside the transaction that changes it. */
export function markDirectory(db: Tx): void {
  db.insert(settings)
    .values({ name, value: '1' })
    .onConflictDoUpdate({ target: settings.name, set: { value: sql`CAST(${settings.value} AS INTEGER) + 1` } })
    .run();
}
