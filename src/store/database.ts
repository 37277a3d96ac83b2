import { mkdirSync } from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import type { RecordId } from '@/core/base/ids';
import { sql, type SQL } from 'drizzle-orm';
import type { AnySQLiteColumn } from 'drizzle-orm/sqlite-core';
import { drizzle } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import * as schema from './schema';

export type Db = ReturnType<typeof openDatabase>;
/** A database or a transaction on it. */
export type Tx = Pick<Db, 'select' | 'insert' | 'update' | 'delete' | 'all' | 'run'>;

/**
 * How long one call waits for another process's lock, in milliseconds: nothing else of this process goes on meanwhile.
 */
const busyMs = 1_000;

/** Opens `nuntiax.sqlite` in `folder` (made where missing), in WAL mode, and brings it to the newest migration. */
export function openDatabase(folder: string, migrationsFolder = path.join(process.cwd(), 'src/store/migrations')) {
  mkdirSync(folder, { recursive: true });
  const client = new Database(path.join(folder, 'nuntiax.sqlite'));
  try {
    client.pragma(`busy_timeout = ${busyMs}`);
    client.pragma('journal_mode = WAL');
    client.pragma('synchronous = FULL');
    client.pragma('foreign_keys = ON');
    const db = drizzle(client, { schema });
    migrate(db, { migrationsFolder });
    return Object.assign(db, { close: () => client.close() });
  } catch (error) {
    // One that could not be opened is let go of, so that the next try begins anew.
    client.close();
    throw error;
  }
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

type Client = InstanceType<typeof Database>;
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
