import { chmodSync, existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import type { RecordId } from '@/core/base/ids';
import { sql, type SQL } from 'drizzle-orm';
import type { AnySQLiteColumn } from 'drizzle-orm/sqlite-core';
import { drizzle } from 'drizzle-orm/better-sqlite3';
import { z } from 'zod';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import { liesOpen, sealAll, setKey } from './credentials';
import * as schema from './schema';
import { keyFile, openKey, type SealKey } from './sealed';

type Client = InstanceType<typeof Database>;
type Drizzled = ReturnType<typeof drizzle<typeof schema>>;
export type Db = ReturnType<typeof openDatabase>;
/** A database or a transaction on it. */
export type Tx = Pick<Db, 'select' | 'insert' | 'update' | 'delete' | 'all' | 'run'>;

/**
 * How long one call waits for another process's lock, in milliseconds: nothing else of this process goes on meanwhile.
 */
const busyMs = 1_000;

/** Opens `nuntiax.sqlite` in `folder` (made where missing), in WAL mode, and brings it to the newest migration. */
export function openDatabase(folder: string, migrationsFolder = usualMigrations()) {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const client = new Database(path.join(folder, 'nuntiax.sqlite'));
  forOwnerAlone(folder);
  try {
    client.pragma(`busy_timeout = ${busyMs}`);
    client.pragma('journal_mode = WAL');
    client.pragma('synchronous = FULL');
    client.pragma('foreign_keys = ON');
    const db = drizzle(client, { schema });
    const key = openKey(keyFile(folder));
    setKey(db, key);
    const behind = isBehind(client, migrationsFolder);
    if (behind) onCopy(client, folder, key, (copy) => migrate(copy, { migrationsFolder }));
    migrate(db, { migrationsFolder });
    if (behind) console.log('the data was brought to the form of this program; it was tried on a copy before');
    if (liesOpen(db)) closeCredentials(client, db, folder, key);
    return Object.assign(db, {
      close: () => client.close(),
      /** Copies the database into a file as it stands at one moment, while it is written to. */
      backUp: async (file: string) => void (await client.backup(file)),
    });
  } catch (error) {
    // One that could not be opened is let go of, so that the next try begins anew.
    client.close();
    throw error;
  }
}

/**
 * What lies in the folder is nobody's but the owner's: private events, addresses, credentials. One that an earlier
 * program left open is closed; where the file system knows no such thing, that is said.
 */
function forOwnerAlone(folder: string): void {
  try {
    chmodSync(folder, 0o700);
    for (const name of ['nuntiax.sqlite', 'nuntiax.sqlite-wal', 'nuntiax.sqlite-shm'])
      if (existsSync(path.join(folder, name))) chmodSync(path.join(folder, name), 0o600);
  } catch (error) {
    console.error(`the data folder could not be closed to others: ${String(error)}`);
  }
}

/** True where a database was written by an earlier program, whose form has fewer steps than this one's. */
function isBehind(client: Client, migrationsFolder: string): boolean {
  const known = client.prepare("SELECT name FROM sqlite_master WHERE name = '__drizzle_migrations'").get();
  if (known === undefined) return false;
  const { n } = client.prepare('SELECT count(*) AS n FROM __drizzle_migrations').get() as { n: number };
  return n > 0 && n < migrationSteps(migrationsFolder);
}

/** How many steps the form of this program's database has. */
export function migrationSteps(migrationsFolder = usualMigrations()): number {
  const journal = readFileSync(path.join(migrationsFolder, 'meta', '_journal.json'), 'utf8');
  return journalSchema.parse(JSON.parse(journal)).entries.length;
}
const journalSchema = z.object({ entries: z.array(z.unknown()) });
const usualMigrations = () => path.join(process.cwd(), 'src/store/migrations');

/** Tries `work` on a copy of a database, which is thrown away: what fails there has touched nothing. */
function onCopy(client: Client, folder: string, key: SealKey, work: (copy: Drizzled) => void): void {
  const file = path.join(folder, `nuntiax.sqlite.trial-${process.pid}`);
  rmSync(file, { force: true });
  client.prepare('VACUUM INTO ?').run(file);
  const copy = new Database(file);
  try {
    const db = drizzle(copy, { schema });
    setKey(db, key);
    work(db);
  } finally {
    copy.close();
    rmSync(file, { force: true });
  }
}

/**
 * Seals credentials that an earlier program kept as they are: on a copy first, then here; what stood before is written
 * over, in the log of writes too.
 */
function closeCredentials(client: Client, db: Drizzled, folder: string, key: SealKey): void {
  onCopy(client, folder, key, (copy) => sealAll(copy));
  client.pragma('secure_delete = ON');
  db.transaction((tx) => sealAll(tx), { behavior: 'immediate' });
  client.exec('VACUUM');
  client.pragma('wal_checkpoint(TRUNCATE)');
  console.log(
    'the credentials of channels are sealed now; the key lies beside the data folder: keep it apart from backups',
  );
}

/**
 * Runs `work` in one write transaction: all of it or nothing. Every such transaction raises the house's counter, by
 * which screens see that something was written; a `quiet` one writes nothing that a screen shows.
 */
export function transaction<T>(db: Db, work: (tx: Tx) => T, how: { quiet: boolean } = { quiet: false }): T {
  return db.transaction(
    (tx) => {
      const done = work(tx as unknown as Tx);
      if (!how.quiet) tx.run(sql`UPDATE pulse SET writes = writes + 1 WHERE id = 1`);
      return done;
    },
    { behavior: 'immediate' },
  );
}

const statements = new WeakMap<Client, Map<string, ReturnType<Client['prepare']>>>();

/**
 * Rows of a query that is asked all the time: its statement is made once for each connection. For what screens ask each
 * second and the queue each beat; everything else is built by Drizzle.
 */
export function ask<T>(db: Tx, text: string, ...values: (string | number)[]): T[] {
  const { client } = (db as unknown as { session: { client: Client } }).session;
  const mine = statements.get(client) ?? new Map<string, ReturnType<Client['prepare']>>();
  statements.set(client, mine);
  let statement = mine.get(text);
  if (!statement) mine.set(text, (statement = client.prepare(text)));
  return (statement as { all(...given: unknown[]): unknown[] }).all(...values) as T[];
}

const queries = new WeakMap<Client, Map<string, unknown>>();

/**
 * A query of Drizzle's under a name, built and prepared once for each connection: to build its text takes ten times as
 * long as to run it. `make` is to give the same query whenever it is asked, with placeholders for what differs.
 */
export function prepared<Q>(db: Tx, name: string, make: (db: Tx) => Q): Q {
  const { client } = (db as unknown as { session: { client: Client } }).session;
  const mine = queries.get(client) ?? new Map<string, unknown>();
  queries.set(client, mine);
  if (!mine.has(name)) mine.set(name, make(db));
  return mine.get(name) as Q;
}

/** Some records: one, several, or (where nothing is said) all. */
export type Which = RecordId | readonly RecordId[] | undefined;

/**
 * A reader of the rows that belong to some records. `name` is of the query, which is prepared once for each connection:
 * one for all records and one for those named. `select` gives the query up to its condition, `record` the column that
 * names the record, `read` makes of a row what is given. One query, however many records there are.
 */
export function readerOf<Row, R>(
  name: string,
  record: AnySQLiteColumn,
  select: (db: Tx, mine: SQL | undefined) => { prepare(): { all(values: { of: string }): Row[] } },
  read: (row: Row) => R,
): (db: Tx, which?: Which) => R[] {
  const named = sql`${record} IN (SELECT value FROM json_each(${sql.placeholder('of')}))`;
  return (db, which) => {
    const query = prepared(db, `${name} ${which === undefined ? 'all' : 'named'}`, (at) =>
      select(at, which === undefined ? undefined : named).prepare(),
    );
    return query.all({ of: JSON.stringify(typeof which === 'string' ? [which] : (which ?? [])) }).map(read);
  };
}

/**
 * What the database itself refused a write for (`SQLITE_BUSY`, `SQLITE_FULL` …), however deep it lies in an error;
 * `null`: something else was wrong.
 */
export function sqliteCode(error: unknown): string | null {
  if (error === null || typeof error !== 'object') return null;
  const { code, cause } = error as { code?: unknown; cause?: unknown };
  return typeof code === 'string' && code.startsWith('SQLITE_') ? code : sqliteCode(cause);
}
