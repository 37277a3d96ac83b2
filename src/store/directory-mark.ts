import { ask, type Tx } from './database';
import { freshId } from './ids';
import { markHouse } from './pulse';
import { settings } from './schema';

const name = 'directory';

/** A mark that is another with every change of the directory: venues, rooms, people, tours. */
export function directoryMark(db: Tx): string {
  return ask<{ value: string }>(db, 'SELECT value FROM settings WHERE name = ?', name)[0]?.value ?? '';
}

/**
 * Says that the directory changed. Give it inside the transaction that changes it: a mark of one that was taken back
 * never comes again.
 */
export function markDirectory(db: Tx): void {
  const value = freshId('m');
  db.insert(settings).values({ name, value }).onConflictDoUpdate({ target: settings.name, set: { value } }).run();
  markHouse(db);
}
