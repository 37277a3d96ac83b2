import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { plainRow } from '@/channels/channels';
import { listingId } from '@/channels/survey';
import { addDays } from '@/core/base/zones';
import { newPicture } from '@/core/record/new-record';
import { performance as night, sample } from '@/core/testing/samples';
import { season } from '@/desk/records/season';
import { saveRecord } from '@/desk/records/save-record';
import { openHouse } from '@/house/house';
import { surveyById } from '@/house/survey';
import { countStale } from '@/runner/tally';
import { putChannel } from '@/store/channels';
import { transaction } from '@/store/database';
import { listingById, noteObserved, noteSent, putListing } from '@/store/listings';
import { keptLines } from '@/store/pulse';
import { makeRecord } from '@/store/records';

/*
 * A house of 10,000 events on twelve channels, half of their listings placed: what the season costs after a restart, again, after
 * one save, and when the clock moves on; as a ratio to reading its kept lines alone. With KEEP=folder the house is left there, to be
 * opened by the application.
 */

const events = Number(process.env.EVENTS ?? 10_000);
const folder = process.env.KEEP ?? mkdtempSync(path.join(os.tmpdir(), 'nuntiax-season-'));
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

let house = openHouse(folder, null);
const now = house.monotonic();
transaction(house.db, (tx) => {
  for (const row of rows)
    putChannel(
      tx,
      row,
      { address: `http://127.0.0.1:9/${row.id}`, credentials: {}, knownAs: 'bench', at: now },
      'bench',
    );
});
for (let at = 0; at < events; at += 500)
  transaction(house.db, (tx) => {
    for (let i = at; i < Math.min(events, at + 500); i += 1) {
      const content = sample({
        title: `Event number ${i}`,
        performances: [night('p1', addDays(today, 1 + (i % 700)), { venueId: null, roomId: null })],
        pictures: [newPicture({ id: '1'.repeat(64), width: 2000, height: 1400 }, { alt: 'x', credit: 'x' })],
      });
      makeRecord(tx, content, 'bench', now, '');
    }
  });
const all = keptLines(house.db, now).map((line) => line.id);
for (let at = 0; at < all.length; at += 500)
  transaction(house.db, (tx) => {
    for (const record of all.slice(at, at + 500)) {
      const wanted = surveyById({ ...house, db: tx as typeof house.db }, record)?.survey.listings ?? [];
      for (const { channel, part, performanceIds, wanted: sent, down } of wanted.slice(0, 6)) {
        if (down !== null) continue;
        const id = listingId(record, channel, part);
        putListing(tx, { id, recordId: record, channel, part, performanceIds });
        const remote = { id: `x${record}`, publicUrl: null, etag: null, link: null, lapsesAt: null };
        const times = { at: now, readAt: now + 30 * 86_400_000 };
        noteSent(
          tx,
          { id, recordId: record },
          { sent, sentTimes: {}, previous: sent, believed: sent, remote, revision: 1, ...times },
        );
        // It was read back, and is in step.
        const listing = listingById(tx, id);
        if (listing)
          noteObserved(tx, listing, {
            shown: sent,
            sent,
            previous: sent,
            believed: sent,
            others: {},
            remote,
            gone: false,
            ...times,
          });
      }
    }
  });
const [counting] = await timed(() => countStale(house));
console.log(
  `${events} events on ${rows.length} channels, counted once in the background in ${Math.round(counting)} ms`,
);
house.db.close();

// A restart: nothing is in memory that was reckoned before, but the programs themselves.
house = openHouse(folder, null);
const [floor, kept] = await timed(() =>
  keptLines(house.db, house.clock.now()).map((line) => JSON.parse(line.line ?? 'null') as unknown),
);
const say = (name: string, ms: number) =>
  console.log(`${name}: ${Math.round(ms)} ms, ${(ms / floor).toFixed(1)} times reading ${kept.length} lines`);
console.log(`reading the kept lines alone: ${Math.round(floor)} ms`);
const [first, made] = await timed(() => season(house));
say('season after a restart', first);
say('season again', (await timed(() => season(house)))[0]);
const [id] = all;
const record = id && surveyById(house, id)?.record;
if (record) {
  const saved = saveRecord(house, {
    id: record.id,
    base: record.revision,
    content: { ...record.content, subtitle: `at ${Date.now()}` },
    actor: 'bench',
    reason: '',
  });
  if (saved.kind !== 'saved') throw new Error(JSON.stringify(saved));
}
say('season after one save', (await timed(() => season(house)))[0]);
if (made.behind > 0) console.log(`${made.behind} lines were behind`);
house.db.close();
if (process.env.KEEP === undefined) rmSync(folder, { recursive: true, force: true });
process.exit(first <= 1_000 ? 0 : 1);
