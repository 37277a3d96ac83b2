import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { keeper } from '@/core/testing/doers';
import { addDays } from '@/core/base/zones';
import { performance } from '@/core/testing/samples';
import { documentPath } from '@/house/renditions';
import { addDocument, documentBytes, mostDocumentBytes } from '@/desk/records/add-document';
import { morning, World } from './scripted/world';

/*
 * How often a listing is read again, by how near its next show is; and what is taken for a document.
 */

const minute = 60_000;
const hour = 60 * minute;
const today = '2027-02-02';
let world: World;
afterEach(() => world.end());

/** How long after the last reading the next one is due, once it shows what was sent; `null`: it is not read again. */
async function pause(date: string, before: () => void = () => undefined): Promise<number | null> {
  world = new World(['plain']);
  world.make({ performances: [performance('p1', date, { start: '10:20', doors: null, end: null })] });
  world.send();
  await world.settle();
  before();
  await world.settle();
  const { readAt, observedAt } = world.stored('plain') ?? {};
  return readAt == null || observedAt == null ? null : readAt - observedAt;
}

// The show is at 10:20 in Dublin, as late in the day as the scenario's morning.
test('a document is asked for by what it is called here, and by nothing else', async () => {
  world = new World(['plain']);
  const kept = await addDocument(world.house, keeper, 'plan.txt', Buffer.from('Plan'));
  if (!kept.ok) throw new Error(kept.error);
  writeFileSync(path.join(world.house.folder, 'secret'), 'nobody reads this');
  const { fileId } = kept.value;
  const read = async (id: string) => (await documentBytes(world.house, keeper, id))?.length ?? null;
  const away = path.relative(
    path.dirname(documentPath(world.house.folder, fileId)),
    path.join(world.house.folder, 'secret'),
  );
  expect([
    await read(fileId),
    await read('0'.repeat(64)),
    await read(away),
    await read(`${fileId}/../${fileId}`),
  ]).toEqual([4, null, null, null]);
});

test.each([
  ['tomorrow', 1, 15 * minute],
  ['in two days', 2, 15 * minute],
  ['in four days', 4, hour],
  ['in thirteen days', 13, hour],
  ['in fifteen days', 15, 4 * hour],
  ['in a year', 365, 4 * hour],
])('where it begins %s, it is read again after so long', async (_, days, ms) => {
  expect(await pause(addDays(today, days))).toBe(ms);
});

test('what is out of sight is read twice a day, however near it is', async () => {
  const off = () => {
    world.save((content) => ({ ...content, publicity: { visibility: 'private', announce: null } }));
    world.send();
  };
  expect(await pause(addDays(today, 2), off)).toBe(12 * hour);
});

test('three days after the show nobody looks any more', async () => {
  await pause(addDays(today, 1));
  world.now = morning + 3 * 24 * hour;
  world.house.db.run('UPDATE listings SET read_at = 0');
  await world.readOne();
  expect(world.stored('plain')?.readAt).not.toBeNull();
  world.now = morning + 6 * 24 * hour;
  world.house.db.run('UPDATE listings SET read_at = 0');
  await world.readOne();
  expect(world.stored('plain')?.readAt).toBeNull();
});

test.each<[string, string, Buffer, string]>([
  ['a document', 'plan.pdf', Buffer.from('%PDF-1.4\n'), ''],
  ['plain text', 'plan.txt', Buffer.from('Doors at seven'), ''],
  ['nothing', 'plan.pdf', Buffer.alloc(0), 'is empty'],
  ['more than is taken', 'plan.txt', Buffer.alloc(mostDocumentBytes + 1, 65), 'at most 15 MB'],
  ['as much as is taken', 'plan.txt', Buffer.alloc(mostDocumentBytes, 65), ''],
  ['a program', 'plan.exe', Buffer.from('MZ'), 'none of the documents'],
  ['a picture that says it is a document', 'plan.pdf', Buffer.from([0xff, 0xd8, 0xff]), 'not what its ending says'],
  ['text that holds none', 'plan.txt', Buffer.from([65, 0, 66]), 'not what its ending says'],
])('%s as a document', async (_, name, bytes, refused) => {
  world = new World(['plain']);
  const answer = await addDocument(world.house, keeper, name, bytes);
  if (refused === '') expect(answer).toMatchObject({ ok: true, value: { name, bytes: bytes.length } });
  else expect(answer).toEqual({ ok: false, error: expect.stringContaining(refused) as string });
});
