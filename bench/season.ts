import { machineDoer } from '@/core/people/doer';
import { by, keeper } from '@/core/testing/doers';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { RecordId } from '@/core/base/ids';
import { plainRow } from '@/channels/channels';
import { listingId } from '@/channels/survey';
import { addDays } from '@/core/base/zones';
import { newPicture } from '@/core/record/new-record';
import { performance as night, sample } from '@/core/testing/samples';
import { season } from '@/desk/records/season';
import { saveRecord } from '@/desk/records/save-record';
import { openHouse, type House } from '@/house/house';
import { surveyById } from '@/house/survey';
import { countStale } from '@/runner/tally';
import { putChannel } from '@/store/channels';
import { transaction } from '@/store/database';
import { listingById, noteObserved, noteSent, putListing } from '@/store/listings';
import { keptLines } from '@/store/pulse';
import { makeRecord } from '@/store/records';

/*
 * Houses of 1,000 and of 10,000 events on twelve channels, half of their listings placed: what the season and the count
 * beside it cost after a restart, again, and after one save; as a ratio to reading the kept lines alone, and what one
 * save costs in the big house by what it costs in the small one. With KEEP=folder the biggest house is left there, to
 * be opened by the application.
 */

const sizes = (process.env.EVENTS ?? '1000,10000').split(',').map(Number);
process.env.NUNTIAX_ZONE = 'Europe/Dublin';
const ids = [
  'lectern',
  'gatefold',
  'pennyseat',
  'vestibule',
  'hearthside',
  'hearthside-posts',
  'murmurline',
  'concourse',
  'fernway',
  'ostinato',
  'marrowby-diary',
  'postbag',
] as const;
const rows = ids.map((id) => plainRow(id));
const today = new Date().toISOString().slice(0, 10);
const timed = async <T>(work: () => T | Promise<T>): Promise<[number, T]> => {
  const started = performance.now();
  const made = await work();
  return [performance.now() - started, made];
};
const median = (list: number[]) => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;

/** Makes the house in `folder`, and counts it once. */
async function make(folder: string, events: number): Promise<void> {
  const house = openHouse(folder, null);
  const now = house.monotonic();
  transaction(house.db, (tx) => {
    for (const row of rows) {
      const connection = { address: `http://127.0.0.1:9/${row.id}`, credentials: {}, knownAs: 'bench', at: now };
      putChannel(tx, row, connection, 'bench');
    }
  });
  for (let at = 0; at < events; at += 500)
    transaction(house.db, (tx) => {
      for (let i = at; i < Math.min(events, at + 500); i += 1) {
        const content = sample({
          title: `Event number ${i}`,
          performances: [night('p1', addDays(today, 1 + (i % 700)), { venueId: null, roomId: null })],
          pictures: [newPicture({ id: '1'.repeat(64), width: 2000, height: 1400 }, { alt: 'x', credit: 'x' })],
        });
        makeRecord(tx, content, machineDoer('bench'), now, '');
      }
    });
  const all = keptLines(house.db, now).map((line) => line.id);
  for (let at = 0; at < all.length; at += 500)
    transaction(house.db, (tx) => {
      for (const record of all.slice(at, at + 500)) placeHalf({ ...house, db: tx as typeof house.db }, record, now);
    });
  const [counting] = await timed(() => countStale(house));
  console.log(`${events} events on ${rows.length} channels, counted once in ${Math.round(counting)} ms`);
  house.db.close();
}

/** Half of a record's listings stand on their channels, were read back, and are in step. */
function placeHalf(house: House, record: RecordId, now: number): void {
  const tx = house.db;
  for (const listing of surveyById(house, record)?.survey.listings.slice(0, 6) ?? []) {
    const { channel, part, performanceIds, wanted: sent, down } = listing;
    if (down !== null) continue;
    const id = listingId(record, channel, part);
    putListing(tx, { id, recordId: record, channel, part, performanceIds });
    const remote = { id: `x${record}`, publicUrl: null, etag: null, link: null, lapsesAt: null };
    const times = { at: now, readAt: now + 30 * 86_400_000 };
    const shown = { sent, previous: sent, believed: sent, remote, ...times };
    noteSent(tx, { id, recordId: record }, { ...shown, sentTimes: {}, revision: 1 });
    const stored = listingById(tx, id);
    if (stored) noteObserved(tx, stored, { ...shown, shown: sent, others: {}, gone: false });
  }
}

/**
 * Opens the house anew and says what is asked of it; gives what the season costs after one save, and after a restart,
 * in milliseconds.
 */
async function ask(folder: string): Promise<{ save: number; count: number; first: number }> {
  // A restart: nothing is in memory that was reckoned before, but the programs themselves.
  const house = openHouse(folder, null);
  const [floor, kept] = await timed(() =>
    keptLines(house.db, house.clock.now()).map((line) => ({
      ...line,
      read: JSON.parse(line.line ?? 'null') as unknown,
    })),
  );
  const say = (name: string, ms: number) =>
    console.log(`  ${name}: ${ms.toFixed(1)} ms, ${(ms / floor).toFixed(2)} times reading ${kept.length} lines`);
  console.log(`  reading the kept lines alone: ${floor.toFixed(1)} ms`);
  const [first] = await timed(() => season(house, keeper));
  say('season after a restart', first);
  say('season again', (await timed(() => season(house, keeper)))[0]);
  const saves: number[] = [];
  const counts: number[] = [];
  for (const { id } of kept.slice(0, 15)) {
    const record = surveyById(house, id)?.record;
    if (!record) throw new Error('a line of nothing');
    const content = { ...record.content, title: `Saved at ${Date.now()}` };
    const saved = saveRecord(house, by('bench'), { id, base: record.revision, content, reason: '' });
    if (saved.kind !== 'saved') throw new Error(JSON.stringify(saved));
    const [ms, made] = await timed(() => season(house, keeper));
    if (made.behind > 0 || made.rows.find((row) => row.id === id)?.title !== content.title)
      throw new Error('the season does not say what was saved');
    saves.push(ms);
    counts.push((await timed(() => countStale(house)))[0]);
  }
  say('season after one save (median of 15)', median(saves));
  say('the count after one save', median(counts));
  house.db.close();
  return { save: median(saves), count: median(counts), first };
}

const results: Awaited<ReturnType<typeof ask>>[] = [];
for (const events of sizes) {
  const keep = events === Math.max(...sizes) ? process.env.KEEP : undefined;
  const folder = keep ?? mkdtempSync(path.join(os.tmpdir(), 'nuntiax-season-'));
  await make(folder, events);
  results.push(await ask(folder));
  if (keep === undefined) rmSync(folder, { recursive: true, force: true });
}
const [small, big] = [results[0], results.at(-1)];
if (small && big && small !== big)
  console.log(
    `one save at ${sizes.at(-1)} events by one at ${sizes[0]}: season ${(big.save / small.save).toFixed(1)}, count ${(big.count / small.count).toFixed(1)}`,
  );
process.exit((big?.first ?? 0) <= 1_000 && (big?.save ?? 0) <= 30 ? 0 : 1);
