import { eq } from 'drizzle-orm';
import type { Tx } from './database';
import { settings } from './schema';

/** A setting by name. */
export function setting(db: Tx, name: string): string | null {
  return db.select().from(settings).where(eq(settings.name, name)).get()?.value ?? null;
}

export function putSetting(db: Tx, name: string, value: string): void {
  db.insert(settings).values({ name, value }).onConflictDoUpdate({ target: settings.name, set: { value } }).run();
}
