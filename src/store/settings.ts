import { ask, type Tx } from './database';
import { settings } from './schema';

/** A setting by name. */
export function setting(db: Tx, name: string): string | null {
  return ask<{ value: string }>(db, 'SELECT value FROM settings WHERE name = ?', name)[0]?.value ?? null;
}

export function putSetting(db: Tx, name: string, value: string): void {
  db.insert(settings).values({ name, value }).onConflictDoUpdate({ target: settings.name, set: { value } }).run();
}
