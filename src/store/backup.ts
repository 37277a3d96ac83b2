import { createHash, randomBytes } from 'node:crypto';
import {
  chmodSync,
  copyFileSync,
  createReadStream,
  existsSync,
  linkSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import { create, extract } from 'tar';
import { z } from 'zod';
import { fail, ok, type Result } from '@/core/base/result';
import { migrationSteps, type Db } from './database';
import { houseId } from './house-id';
import { jsonSetting } from './settings';

/*
 * A backup is one archive (tar, gzip): the database as it stood at one moment, the pictures and documents under their
 * hashes, and a page that says what is in it. What can be drawn again, and the key to the credentials, are not.
 */

const kept = ['pictures', 'documents'] as const;
const names: ReadonlySet<string> = new Set(['manifest.json', 'nuntiax.sqlite', ...kept]);
const hash = /^[0-9a-f]{64}$/;

const manifestSchema = z.object({
  form: z.literal(1, 'It is no backup of this program.'),
  /** How many steps the form of its database has. */
  steps: z.number().int().positive(),
  house: z.string().min(1),
  madeAt: z.iso.datetime(),
  records: z.number().int().nonnegative(),
  files: z.object({ pictures: z.array(z.string().regex(hash)), documents: z.array(z.string().regex(hash)) }),
  /** Pictures that the database names and that were missing or damaged in the house itself. */
  lost: z.array(z.string().regex(hash)),
});
export type Manifest = z.infer<typeof manifestSchema>;

/** When the last backup was made, where it went, and how large it is. */
export const lastBackup = jsonSetting(
  'last-backup',
  z.object({ at: z.number(), file: z.string(), bytes: z.number() }).nullable(),
  null,
);

/** The hashes under which files of a sort lie in a folder; what is half written is none. */
function hashesIn(folder: string, sort: string): string[] {
  const at = path.join(folder, sort);
  return existsSync(at)
    ? readdirSync(at)
        .filter((name) => hash.test(name))
        .sort()
    : [];
}

/** How many records stand in a database file. Throws where it is damaged. */
function recordsIn(file: string): number {
  const db = new Database(file, { readonly: true });
  try {
    const said = db.pragma('integrity_check', { simple: true });
    if (said !== 'ok') throw new Error(`the database is damaged: ${String(said)}`);
    return (db.prepare('SELECT count(*) AS n FROM records').get() as { n: number }).n;
  } finally {
    db.close();
  }
}

/** The pictures that the records of a database file are made with. */
function picturesOf(file: string): string[] {
  const db = new Database(file, { readonly: true });
  try {
    return (db.prepare('SELECT id FROM pictures').all() as { id: string }[]).map(({ id }) => id);
  } finally {
    db.close();
  }
}

async function hashOf(file: string): Promise<string> {
  const sum = createHash('sha256');
  for await (const part of createReadStream(file)) sum.update(part as Buffer);
  return sum.digest('hex');
}

/** What an opened backup says of itself. Throws, with the reason, where what lies there is not what it says. */
async function proved(folder: string): Promise<Manifest> {
  const page = path.join(folder, 'manifest.json');
  if (!existsSync(page)) throw new Error('it is no backup: it does not say what is in it');
  const read = manifestSchema.safeParse(JSON.parse(readFileSync(page, 'utf8')));
  if (!read.success) throw new Error(read.error.issues[0]?.message ?? 'it is no backup');
  const manifest = read.data;
  const database = path.join(folder, 'nuntiax.sqlite');
  if (!existsSync(database)) throw new Error('it holds no database');
  const records = recordsIn(database);
  if (records !== manifest.records) throw new Error(`it says ${manifest.records} records, and holds ${records}`);
  for (const sort of kept)
    for (const id of manifest.files[sort]) {
      const file = path.join(folder, sort, id);
      if (!existsSync(file)) throw new Error(`one of its ${sort} is missing`);
      if ((await hashOf(file)) !== id) throw new Error(`one of its ${sort} is damaged`);
    }
  const there = new Set([...manifest.files.pictures, ...manifest.lost]);
  const lost = picturesOf(database).filter((id) => !there.has(id)).length;
  if (lost > 0) throw new Error(`${lost} of its pictures are not in it`);
  return manifest;
}

/** Opens an archive into a folder: what is named in it and nothing else, no links, nothing outside of the folder. */
async function open(file: string, into: string): Promise<void> {
  await extract({
    file,
    cwd: into,
    strict: true,
    preserveOwner: false,
    filter: (name, entry) => {
      const [top = '', leaf, ...deeper] = name.replace(/\/$/, '').split('/');
      const plain = 'type' in entry && (entry.type === 'File' || entry.type === 'Directory');
      return plain && names.has(top) && deeper.length === 0 && (leaf === undefined || hash.test(leaf));
    },
  });
}

function isEmptyFolder(target: string): boolean {
  return statSync(target).isDirectory() && readdirSync(target).length === 0;
}

const inWords = (error: unknown) => (error instanceof Error ? error.message : String(error)).slice(0, 300);

/** Lays a file where another is looked for, without a second copy where the disk is the same. */
function lay(from: string, to: string): void {
  try {
    linkSync(from, to);
  } catch {
    copyFileSync(from, to);
  }
}

/** Gives a finished file its name, unless another has it by now. */
function giveName(half: string, file: string): void {
  try {
    linkSync(half, file);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST' || existsSync(file))
      throw new Error(`${file} is there already`, { cause: error });
    // A file system without links: it is moved.
    renameSync(half, file);
  }
}

/**
 * Backs a house up into a file, while it is worked with: the database by SQLite's own online backup. What was written is
 * opened again and held against what it says, before it gets its name. `now`: the machine's time. What is there already
 * is never written over.
 */
export async function backUp(db: Db, folder: string, file: string, now: number): Promise<Result<Manifest, string>> {
  if (existsSync(file)) return fail(`${file} is there already: name another file.`);
  let work: string | null = null;
  const half = `${file}.half-${process.pid}-${randomBytes(3).toString('hex')}`;
  try {
    mkdirSync(path.dirname(file), { recursive: true });
    work = mkdtempSync(path.join(path.dirname(file), '.nuntiax-backup-'));
    const database = path.join(work, 'nuntiax.sqlite');
    const house = houseId(db);
    await db.backUp(database);
    // A file is there before the database names it: what the copy names is there now.
    const files: Manifest['files'] = { pictures: [], documents: [] };
    for (const sort of kept) {
      mkdirSync(path.join(work, sort));
      for (const id of hashesIn(folder, sort)) {
        const from = path.join(folder, sort, id);
        // What is damaged in the house is not kept as if it were whole: it is told.
        if ((await hashOf(from)) !== id) continue;
        files[sort].push(id);
        lay(from, path.join(work, sort, id));
      }
    }
    const whole = new Set(files.pictures);
    const manifest: Manifest = {
      form: 1,
      steps: migrationSteps(),
      house,
      madeAt: new Date(now).toISOString(),
      records: recordsIn(database),
      files,
      lost: picturesOf(database).filter((id) => !whole.has(id)),
    };
    writeFileSync(path.join(work, 'manifest.json'), JSON.stringify(manifest));
    await create({ file: half, cwd: work, gzip: true, portable: true }, [...names]);
    chmodSync(half, 0o600);
    const opened = path.join(work, 'opened');
    mkdirSync(opened);
    await open(half, opened);
    await proved(opened);
    giveName(half, file);
    return ok(manifest);
  } catch (error) {
    return fail(`No backup was made: ${inWords(error)}.`);
  } finally {
    if (existsSync(half)) rmSync(half);
    if (work !== null) rmSync(work, { recursive: true, force: true });
  }
}

/**
 * Restores a backup into a folder that is empty or not there: it is opened beside it and proved first, so that a folder
 * is restored whole or not at all. One that a newer program made is refused.
 */
export async function restore(file: string, folder: string): Promise<Result<Manifest, string>> {
  if (!existsSync(file)) return fail(`There is no ${file}.`);
  const target = path.resolve(folder);
  if (existsSync(target) && !isEmptyFolder(target))
    return fail(`${target} is not empty. Name an empty folder by NUNTIAX_DATA, or move away what is there.`);
  let work: string | null = null;
  try {
    mkdirSync(path.dirname(target), { recursive: true });
    work = mkdtempSync(path.join(path.dirname(target), '.nuntiax-restore-'));
    await open(file, work);
    const manifest = await proved(work);
    if (manifest.steps > migrationSteps())
      return fail('A newer program made this backup: restore it with that one, or a newer one still.');
    rmSync(path.join(work, 'manifest.json'));
    if (existsSync(target)) rmdirSync(target);
    renameSync(work, target);
    work = null;
    return ok(manifest);
  } catch (error) {
    return fail(`Nothing was restored: ${inWords(error)}.`);
  } finally {
    if (work !== null) rmSync(work, { recursive: true, force: true });
  }
}
