import { by, keeper } from '@/core/testing/doers';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { execFileSync } from 'node:child_process';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { create, extract } from 'tar';
import { newPicture } from '@/core/record/new-record';
import type { RecordId } from '@/core/base/ids';
import { directoryView } from '@/desk/directory/directory-view';
import { exportEvents } from '@/desk/files/export-events';
import { addDocument } from '@/desk/records/add-document';
import { addPicture } from '@/desk/records/add-picture';
import { backUp, restore } from '@/store/backup';
import { connectionOf } from '@/store/channels';
import { channelIdSchema } from '@/core/base/ids';
import { openDatabase, transaction, type Db } from '@/store/database';
import { putSetting } from '@/store/settings';
import { World } from './scripted/world';

let world: World;
let folder: string;
const ids: RecordId[] = [];
const at = (name: string) => path.join(folder, name);
const now = Date.parse('2027-02-02T10:20Z');

beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-backup-'));
  world = new World(['plain', 'marks']);
  const bytes = await sharp({ create: { width: 1500, height: 1000, channels: 3, background: '#7b2d4c' } })
    .jpeg()
    .toBuffer();
  const picture = await addPicture(world.house, by('Maren'), 'poster.jpg', bytes);
  const document = await addDocument(world.house, keeper, 'rider.pdf', Buffer.from('%PDF-1.7\n%%EOF'));
  if (!picture.ok || !document.ok) throw new Error('no files');
  for (const title of ['Harp', 'Tape', 'Reed'])
    ids.push(
      world.make({
        title,
        pictures: [newPicture(picture.value, { alt: 'A poster' })],
        documents: [{ id: 'd', title: 'Rider', who: 'anyone', from: null, ...document.value } as never],
      }) as RecordId,
    );
  world.sendAll();
  await world.settle(40);
});
afterAll(async () => {
  await world.end();
  rmSync(folder, { recursive: true, force: true });
});

/** All that a house says of itself: its records as files, its directory, its log of errands. */
function whole(db: Db): string {
  const house = { ...world.house, db };
  return JSON.stringify([
    (['json', 'csv', 'ics'] as const).map((format) => exportEvents(house, keeper, ids, format).text),
    directoryView(house, keeper),
    ['records', 'revisions', 'listings', 'errands', 'receipts', 'channels', 'venues', 'settings'].map((table) =>
      db.all(`SELECT * FROM ${table} WHERE ${table === 'settings' ? "name <> 'house-id'" : '1'}`),
    ),
  ]);
}
async function made(name: string): Promise<string> {
  const answer = await backUp(world.house.db, world.folder, at(name), now);
  if (!answer.ok) throw new Error(answer.error);
  return at(name);
}

test('a house that is restored says what the one that was backed up says, credentials and files with it', async () => {
  const file = await made('one.tar.gz');
  expect((statSync(file).mode & 0o777).toString(8)).toBe('600');
  const restored = await restore(file, at('restored'));
  expect(restored.ok && [restored.value.records, restored.value.madeAt]).toEqual([3, '2027-02-02T10:20:00.000Z']);
  const db = openDatabase(at('restored'));
  expect(whole(db)).toBe(whole(world.house.db));
  expect(connectionOf(db, channelIdSchema.parse('plain'))).toEqual(
    connectionOf(world.house.db, channelIdSchema.parse('plain')),
  );
  db.close();
  for (const sort of ['pictures', 'documents']) {
    const [name = ''] = readdirSync(path.join(world.folder, sort));
    expect(
      readFileSync(path.join(at('restored'), sort, name)).equals(readFileSync(path.join(world.folder, sort, name))),
    ).toBe(true);
  }
  // Nothing half done lies about.
  expect(readdirSync(folder).sort()).toEqual(['one.tar.gz', 'restored']);
});

test('while it is written to, it is the house of one moment: all of a transaction or nothing', async () => {
  let goes = true;
  const writing = (async () => {
    for (let n = 0; goes; n += 1) {
      transaction(world.house.db, (tx) => {
        putSetting(tx, 'left', String(n));
        putSetting(tx, 'right', String(n));
      });
      await new Promise((resolve) => setImmediate(resolve));
    }
  })();
  const file = await made('busy.tar.gz');
  goes = false;
  await writing;
  expect((await restore(file, at('busy'))).ok).toBe(true);
  const db = openDatabase(at('busy'));
  const values = db
    .all<{ value: string }>("SELECT value FROM settings WHERE name IN ('left', 'right')")
    .map(({ value }) => value);
  expect([values.length, new Set(values).size]).toEqual([2, 1]);
  db.close();
});

/** A backup with something done to what is in it. */
async function spoilt(name: string, change: (opened: string) => void | Promise<void>): Promise<string> {
  const opened = at(`${name}-opened`);
  mkdirSync(opened);
  await extract({ file: await made(`${name}-good.tar.gz`), cwd: opened });
  await change(opened);
  await create({ file: at(`${name}.tar.gz`), cwd: opened, gzip: true }, readdirSync(opened));
  return at(`${name}.tar.gz`);
}
const manifest = (opened: string, change: (said: Record<string, unknown>) => Record<string, unknown>) => {
  const page = path.join(opened, 'manifest.json');
  writeFileSync(page, JSON.stringify(change(JSON.parse(readFileSync(page, 'utf8')) as Record<string, unknown>)));
};
const first = (opened: string, sort: string) => path.join(opened, sort, readdirSync(path.join(opened, sort))[0] ?? '');

test.each<[string, (opened: string) => void, RegExp]>([
  ['a picture is missing', (opened) => rmSync(first(opened, 'pictures')), /one of its pictures is missing/],
  [
    'a document is damaged',
    (opened) => writeFileSync(first(opened, 'documents'), 'else'),
    /one of its documents is damaged/,
  ],
  ['its page is missing', (opened) => rmSync(path.join(opened, 'manifest.json')), /does not say what is in it/],
  [
    'its page is of another form',
    (opened) => manifest(opened, (said) => ({ ...said, form: 2 })),
    /no backup of this program/,
  ],
  [
    'a newer program made it',
    (opened) => manifest(opened, (said) => ({ ...said, steps: 9999 })),
    /A newer program made this/,
  ],
  [
    'it says more records',
    (opened) => manifest(opened, (said) => ({ ...said, records: 4 })),
    /says 4 records, and holds 3/,
  ],
  [
    'it keeps quiet about a picture',
    (opened) => manifest(opened, (said) => ({ ...said, files: { pictures: [], documents: [] }, lost: [] })),
    /1 of its pictures are not in it/,
  ],
  [
    'the database is no database',
    (opened) => writeFileSync(path.join(opened, 'nuntiax.sqlite'), 'x'.repeat(9000)),
    /Nothing was restored/,
  ],
  [
    'a file is a link out of it',
    (opened) => {
      const file = first(opened, 'pictures');
      rmSync(file);
      symlinkSync('/etc/hostname', file);
    },
    /one of its pictures is missing/,
  ],
])('one in which %s restores nothing', async (name, change, words) => {
  const file = await spoilt(name.replaceAll(' ', '-'), change);
  const answer = await restore(file, at('never'));
  expect([answer.ok ? 'restored' : answer.error, existsSync(at('never'))]).toEqual([
    expect.stringMatching(words),
    false,
  ]);
  expect(readdirSync(folder).filter((left) => left.startsWith('.nuntiax'))).toEqual([]);
});

test('what is no archive, or is not there, restores nothing; nor into a folder in which something lies', async () => {
  writeFileSync(at('text.tar.gz'), 'no archive at all');
  const file = await made('whole.tar.gz');
  const cut = at('cut.tar.gz');
  copyFileSync(file, cut);
  writeFileSync(cut, readFileSync(file).subarray(0, 4000));
  mkdirSync(at('full'));
  writeFileSync(at('full/letter.txt'), 'mine');
  const said = async (from: string, to: string) => {
    const answer = await restore(from, to);
    return answer.ok ? 'restored' : answer.error;
  };
  expect([
    await said(at('text.tar.gz'), at('no')),
    await said(cut, at('no')),
    await said(at('nowhere.tar.gz'), at('no')),
    await said(file, at('full')),
    await said(file, at('full/letter.txt')),
    existsSync(at('no')),
    readdirSync(at('full')),
  ]).toEqual([
    expect.stringMatching(/^Nothing was restored/),
    expect.stringMatching(/^Nothing was restored/),
    expect.stringMatching(/^There is no/),
    expect.stringMatching(/is not empty/),
    expect.stringMatching(/is not empty/),
    false,
    ['letter.txt'],
  ]);
  mkdirSync(at('empty'));
  expect(await said(file, at('empty'))).toBe('restored');
});

test('a picture that is damaged in the house itself is told, and the rest is backed up all the same', async () => {
  const [name = ''] = readdirSync(path.join(world.folder, 'pictures'));
  const file = path.join(world.folder, 'pictures', name);
  const bytes = readFileSync(file);
  writeFileSync(file, 'rot');
  const answer = await backUp(world.house.db, world.folder, at('rot.tar.gz'), now);
  writeFileSync(file, bytes);
  expect(answer.ok && [answer.value.lost, answer.value.files.pictures]).toEqual([[name], []]);
  expect((await restore(at('rot.tar.gz'), at('rot'))).ok).toBe(true);
});

test('what is there is never written over; where nothing can be written nothing is left', async () => {
  writeFileSync(at('mine.tar.gz'), 'mine');
  const again = await backUp(world.house.db, world.folder, at('mine.tar.gz'), now);
  expect([again.ok, readFileSync(at('mine.tar.gz'), 'utf8')]).toEqual([false, 'mine']);
  const both = await Promise.all([1, 2].map(() => backUp(world.house.db, world.folder, at('both.tar.gz'), now)));
  expect([both.filter(({ ok }) => ok).length, (await restore(at('both.tar.gz'), at('both'))).ok]).toEqual([1, true]);
  const nowhere = await backUp(world.house.db, world.folder, at('mine.tar.gz/x.tar.gz'), now);
  expect(nowhere.ok ? '' : nowhere.error).toMatch(/^No backup was made/);
});

test('from the machine: what stands in the backup is said, and no word of damage where there is none', async () => {
  const env = { ...process.env, NUNTIAX_DATA: world.folder };
  const backedUp = (name: string) =>
    execFileSync(process.execPath, [path.join('scripts', 'backup.mjs'), 'backup', at(name)], { env, encoding: 'utf8' });
  expect(backedUp('said.tar.gz')).toMatch(
    /^3 records, 1 pictures, 1 documents: \S+ \(\d+ bytes\), opened and held against what it says\.\nKeep the key/,
  );
  const [name = ''] = readdirSync(path.join(world.folder, 'pictures'));
  const file = path.join(world.folder, 'pictures', name);
  const bytes = readFileSync(file);
  writeFileSync(file, 'rot');
  expect(backedUp('said-rot.tar.gz')).toContain(
    `1 pictures are missing or damaged in the house itself, and not in it: ${name}`,
  );
  writeFileSync(file, bytes);
});
