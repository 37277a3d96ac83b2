import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { randomBytes } from 'node:crypto';
import Database from 'better-sqlite3';

/** Anything that stands on a stand-in's shelf: its own body as JSON, a version, and the owner's reference. */
export interface Thing<T> {
  id: string;
  reference: string | null;
  version: number;
  body: T;
}

interface ThingRow {
  id: string;
  reference: string | null;
  version: number;
  body: string;
}

/** The stand-ins' own data, in one SQLite file of their own. */
export type OutsideStore = ReturnType<typeof openStore>;

/** Opens (and where needed makes) the file `outside.sqlite` in `folder`. */
export function openStore(folder: string) {
  mkdirSync(folder, { recursive: true });
  const db = new Database(path.join(folder, 'outside.sqlite'));
  db.pragma('journal_mode = WAL');
  db.exec(`
    CREATE TABLE IF NOT EXISTS things (shelf TEXT, id TEXT, reference TEXT, version INTEGER, body TEXT, PRIMARY KEY (shelf, id));
    CREATE TABLE IF NOT EXISTS media (shelf TEXT, file TEXT, bytes BLOB, PRIMARY KEY (shelf, file));
    CREATE TABLE IF NOT EXISTS answers (shelf TEXT, key TEXT, answer TEXT, PRIMARY KEY (shelf, key));
    CREATE TABLE IF NOT EXISTS settings (name TEXT PRIMARY KEY, value TEXT);
  `);
  const toThing = <T>(row: ThingRow): Thing<T> => ({ ...row, body: JSON.parse(row.body) as T });
  const all = db.prepare<[string], ThingRow>(
    'SELECT id, reference, version, body FROM things WHERE shelf = ? ORDER BY rowid',
  );
  const statement = db.prepare<[string, string], ThingRow>(
    'SELECT id, reference, version, body FROM things WHERE shelf = ? AND id = ?',
  );
  const byReference = db.prepare<[string, string], ThingRow>(
    'SELECT id, reference, version, body FROM things WHERE shelf = ? AND reference = ? ORDER BY rowid',
  );
  const put = db.prepare('INSERT INTO things (shelf, id, reference, version, body) VALUES (?, ?, ?, 1, ?)');
  const change = db.prepare('UPDATE things SET body = ?, version = version + 1 WHERE shelf = ? AND id = ?');
  const setting = db.prepare<[string], { value: string }>('SELECT value FROM settings WHERE name = ?');
  const putSetting = db.prepare(
    'INSERT INTO settings (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value',
  );

  return {
    list: <T>(shelf: string) => all.all(shelf).map((row) => toThing<T>(row)),
    get: <T>(shelf: string, id: string) => {
      const row = statement.get(shelf, id);
      return row ? toThing<T>(row) : null;
    },
    find: <T>(shelf: string, reference: string) => byReference.all(shelf, reference).map((row) => toThing<T>(row)),
    make<T>(shelf: string, reference: string | null, body: T): Thing<T> {
      const id = randomBytes(6).toString('hex');
      put.run(shelf, id, reference, JSON.stringify(body));
      return { id, reference, version: 1, body };
    },
    change<T>(shelf: string, id: string, body: T): void {
      change.run(JSON.stringify(body), shelf, id);
    },
    remove: (shelf: string, id: string) =>
      void db.prepare('DELETE FROM things WHERE shelf = ? AND id = ?').run(shelf, id),
    putMedia: (shelf: string, file: string, bytes: Buffer) =>
      void db
        .prepare(
          'INSERT INTO media (shelf, file, bytes) VALUES (?, ?, ?) ON CONFLICT (shelf, file) DO UPDATE SET bytes = excluded.bytes',
        )
        .run(shelf, file, bytes),
    media: (shelf: string, file: string) =>
      db
        .prepare<[string, string], { bytes: Buffer }>('SELECT bytes FROM media WHERE shelf = ? AND file = ?')
        .get(shelf, file)?.bytes ?? null,
    answered: (shelf: string, key: string) =>
      db
        .prepare<[string, string], { answer: string }>('SELECT answer FROM answers WHERE shelf = ? AND key = ?')
        .get(shelf, key)?.answer ?? null,
    rememberAnswer: (shelf: string, key: string, answer: string) =>
      void db.prepare('INSERT OR IGNORE INTO answers (shelf, key, answer) VALUES (?, ?, ?)').run(shelf, key, answer),
    setting: (name: string) => setting.get(name)?.value ?? null,
    putSetting: (name: string, value: string) => void putSetting.run(name, value),
    /** Runs `work` in one transaction. */
    whole: <T>(work: () => T): T => db.transaction(work).immediate(),
    close: () => db.close(),
  };
}
