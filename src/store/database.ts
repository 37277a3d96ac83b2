import { mkdirSync } from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import { drizzle } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import * as schema from './schema';

export type Db = ReturnType<typeof openDatabase>;
/** A database or a transaction on it. */
export type Tx = Pick<Db, 'select' | 'insert' | 'update' | 'delete' | 'all'>;

/** Opens `nuntiax.sqlite` in `folder` (made where missing), in WAL mode, and brings it to the newest migration. */
export function openDatabase(folder: string, migrationsFolder = path.join(process.cwd(), 'src/store/migrations')) {
  mkdirSync(folder, { recursive: true });
  const client = new Database(path.join(folder, 'nuntiax.sqlite'));
  client.pragma('journal_mode = WAL');
  client.pragma('synchronous = FULL');
  client.pragma('foreign_keys = ON');
  client.pragma('busy_timeout = 5000');
  const db = drizzle(client, { schema });
  migrate(db, { migrationsFolder });
  return Object.assign(db, { close: () => client.close() });
}

/** Runs `work` in one write transaction: all of it or nothing. */
export function whole<T>(db: Db, work: (tx: Tx) => T): T {
  return db.transaction((tx) => work(tx as unknown as Tx), { behavior: 'immediate' });
}

/** JSON text from a column. */
export function parseJson(text: string | null): unknown {
  return text === null ? null : (JSON.parse(text) as unknown);
}

/** What the database itself refused a write for (`SQLITE_BUSY`, `SQLITE_FULL` …), however deep it lies in an error; `null`: something else was wrong. */
export function sqliteCode(error: unknown): string | null {
  if (error === null || typeof error !== 'object') return null;
  const { code, cause } = error as { code?: unknown; cause?: unknown };
  return typeof code === 'string' && code.startsWith('SQLITE_') ? code : sqliteCode(cause);
}
