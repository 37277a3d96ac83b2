import type { RecordId } from '@/core/base/ids';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { parseArgs } from 'node:util';
import Database from 'better-sqlite3';
import sharp from 'sharp';
import { newPicture } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { performance as night, sample } from '@/core/testing/samples';
import { addDays, toLocal } from '@/core/base/zones';
import { connectChannel } from '@/desk/channels/connect-channel';
import { decideErrand } from '@/desk/dispatch/decide-errand';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { makeVenue } from '@/desk/directory/make-venue';
import { readNow } from '@/desk/drift/read-now';
import { addPicture } from '@/desk/records/add-picture';
import { saveRecord } from '@/desk/records/save-record';
import { openHouse } from '@/house/house';
import { surveyAll } from '@/house/survey';
import { errandsWhere } from '@/store/errands';
import { allRecords, recordAt } from '@/store/records';

// The stand-ins stand on this machine.
process.env.NUNTIAX_PRIVATE ??= '127.0.0.1';

/*
 * Faults, with real processes: the application and the outside services are killed and stopped at random, answers are lost, a
 * second process opens the folder, listings are edited by hand, records are changed and made private while errands wait. What
 * came of it is judged from the stand-ins' own data, not through any reader of ours. Ends with one line of JSON.
 */

const { values } = parseArgs({
  options: {
    errands: { type: 'string', default: '150' },
    kills: { type: 'string', default: '12' },
    seed: { type: 'string', default: '1' },
    verbose: { type: 'boolean', default: false },
  },
});
const [wantErrands, wantKills] = [Number(values.errands), Number(values.kills)];
let state = Number(values.seed) >>> 0 || 1;
/** Mulberry32: the same seed, the same run of choices. */
const random = () => {
  state = (state + 0x6d2b79f5) >>> 0;
  let t = Math.imul(state ^ (state >>> 15), state | 1);
  t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
  return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
};
const pick = <T>(list: readonly T[]): T | undefined => list[Math.floor(random() * list.length)];
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const say = (...words: unknown[]) => void (values.verbose && console.error(...words));

const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-faults-'));
const port = await new Promise<number>((resolve) => {
  const server = createServer().listen(0, '127.0.0.1', () => {
    const address = server.address();
    server.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
  });
});
const base = `http://127.0.0.1:${port}`;
const env = {
  ...process.env,
  NUNTIAX_DATA: folder,
  OUTSIDE_PORT: String(port),
  NUNTIAX_CLOCK: `${base}/clock`,
  NUNTIAX_PRIVATE: '127.0.0.1',
  NUNTIAX_ZONE: 'Europe/Dublin',
  OUTSIDE_KEY: 'a-key-of-the-bench',
};
const withKey = { 'x-outside-key': env.OUTSIDE_KEY };

const children = new Set<ChildProcess>();
function begin(file: string): ChildProcess {
  const child = spawn(process.execPath, ['--import', 'tsx', file], {
    env,
    stdio: ['ignore', 'ignore', values.verbose ? 'inherit' : 'ignore'],
  });
  children.add(child);
  child.on('exit', () => children.delete(child));
  return child;
}
const answers = async () =>
  (await fetch(`${base}/about`, { signal: AbortSignal.timeout(1_000) }).catch(() => null))?.ok === true;
const up = async () => {
  while (!(await answers())) await pause(100);
};
const post = (where: string, body: string | URLSearchParams, json = true) =>
  fetch(`${base}${where}`, {
    method: 'POST',
    body,
    signal: AbortSignal.timeout(3_000),
    headers: { ...withKey, ...(json ? { 'content-type': 'application/json' } : {}) },
  }).catch(() => null);

let outside = begin('outside/main.ts');
await up();
const house = openHouse(folder, `${base}/clock`);
await house.follow();
const kinds = ['lectern', 'gatefold', 'hearthside'] as const;
const accounts = (await (await fetch(`${base}/accounts`, { method: 'POST', headers: withKey })).json()) as Record<
  string,
  Record<string, string>
>;
for (const kind of kinds) {
  const connected = await connectChannel(
    house,
    { kind },
    { address: `${base}/${kind}`, credentials: accounts[kind] ?? {} },
    'bench',
  );
  if (!connected.ok) throw new Error(JSON.stringify(connected.error));
}
const poster = await sharp({ create: { width: 1800, height: 1200, channels: 3, background: '#1c3d3a' } })
  .jpeg()
  .toBuffer();
const picture = await addPicture(house, 'harp.jpg', poster, 'bench');
const venue = makeVenue(
  house,
  {
    name: 'Tallow Yard',
    address: '9 Wicker Lane',
    town: 'Marrowby',
    country: 'Ireland',
    zone: 'Europe/Dublin',
    room: 'The Vat',
    capacity: 420,
  },
  'bench',
);
if (!picture.ok || !venue.ok) throw new Error('the house could not be set up');
const place = { venueId: venue.value.venue.id, roomId: venue.value.roomId };
const poster1 = newPicture(picture.value, { alt: 'x', credit: 'x' });
let app = begin('bench/faults-app.ts');

/** The stand-ins' own data: what the public sees. */
const outsideDb = new Database(path.join(folder, 'outside', 'outside.sqlite'));
outsideDb.pragma('busy_timeout = 5000');
interface Thing {
  shelf: string;
  id: string;
  reference: string;
  body: {
    title?: string;
    name?: string;
    headline?: string;
    status?: string;
    state?: string;
    visible?: boolean;
    dates?: { starts: string }[];
    sessions?: { starts_at: string }[];
    times?: { begins: number }[];
  };
}
const things = (): Thing[] =>
  (
    outsideDb
      .prepare("SELECT shelf, id, reference, body FROM things WHERE shelf IN ('lectern', 'gatefold', 'hearthside')")
      .all() as { shelf: string; id: string; reference: string; body: string }[]
  ).map((row) => ({ ...row, body: JSON.parse(row.body) as Thing['body'] }));
const titleOf = ({ body }: Thing) => body.title ?? body.name ?? body.headline ?? '';
const seen = ({ shelf, body }: Thing) =>
  shelf === 'lectern'
    ? body.status === 'published'
    : shelf === 'gatefold'
      ? body.state === 'open' || body.state === 'unlisted'
      : body.visible === true;
const startOf = ({ shelf, body }: Thing): string | undefined => {
  if (shelf === 'lectern') return body.dates?.[0]?.starts.slice(11, 16);
  const at =
    shelf === 'gatefold' ? Date.parse(body.sessions?.[0]?.starts_at ?? '') : (body.times?.[0]?.begins ?? NaN) * 1000;
  return Number.isNaN(at) ? undefined : toLocal(at, 'Europe/Dublin').time;
};

/** What was written there by hand: by reference. */
const byHand = new Map<string, string>();
let made = 0;
let kills = 0;
let number = 0;
const tally = { lost: 0, doubled: 0, wrong: 0, leaked: 0, overwritten: 0, stuck: 0, receiptsMissing: 0 };

/** Counts something that must not be, and says what it was. */
function found(what: keyof typeof tally, ...words: unknown[]): void {
  tally[what] += 1;
  say(what, ...words);
}

/** A write of ours, tried again where another process holds the database. */
function patient<T>(work: () => T): T | null {
  try {
    return work();
  } catch (error) {
    say('busy:', String(error).slice(0, 80));
    return null;
  }
}
const send = () => {
  const sent = patient(() => makeDispatch(house, null, 'bench', { seen: 'all' }));
  if (sent?.ok) made += sent.value.errands;
};
const change = (id: RecordId, edit: (content: RecordContent) => RecordContent) => {
  const record = recordAt(house.db, id);
  if (record)
    patient(() =>
      saveRecord(house, { id, base: record.revision, content: edit(record.content), actor: 'bench', reason: '' }),
    );
};
const anyRecord = () => pick(allRecords(house.db))?.id;

const doings: [number, () => void | Promise<void>][] = [
  [
    8,
    () => {
      number += 1;
      const performances = [
        { ...night('p1', addDays('2027-03-01', number % 200), { start: '19:30', doors: null, end: null }), ...place },
      ];
      const content = sample({ title: `Event ${number}`, performances, pictures: [poster1], lineUp: [] });
      patient(() => saveRecord(house, { id: null, base: 0, content, actor: 'bench', reason: '' }));
      send();
    },
  ],
  [
    6,
    () => {
      const id = anyRecord();
      number += 1;
      if (id) change(id, (c) => ({ ...c, title: `${c.title.split(',')[0] ?? ''}, version ${number}` }));
      if (random() < 0.7) send();
    },
  ],
  [
    3,
    () => {
      const id = anyRecord();
      if (id)
        change(id, (c) => ({
          ...c,
          performances: c.performances.map((one) => ({ ...one, start: one.start === '19:30' ? '20:15' : '19:30' })),
        }));
      send();
    },
  ],
  [
    3,
    () => {
      const id = anyRecord();
      if (id)
        change(id, (c) => ({
          ...c,
          publicity: { ...c.publicity, visibility: c.publicity.visibility === 'private' ? 'public' : 'private' },
        }));
      if (random() < 0.6) send();
    },
  ],
  [
    2,
    () => {
      const waiting = pick(errandsWhere(house.db, { states: ['waiting', 'refused'] }));
      if (waiting) patient(() => decideErrand(house, waiting.id, random() < 0.5 ? 'drop' : 'again'));
      send();
    },
  ],
  [
    2,
    () => {
      const thing = pick(things().filter((one) => !byHand.has(one.reference)));
      if (!thing) return;
      const value = `By hand ${(number += 1)}`;
      const key = thing.shelf === 'lectern' ? 'title' : thing.shelf === 'gatefold' ? 'name' : 'headline';
      outsideDb
        .prepare(
          `UPDATE things SET body = json_set(body, '$.${key}', ?), version = version + 1 WHERE shelf = ? AND id = ?`,
        )
        .run(value, thing.shelf, thing.id);
      byHand.set(thing.reference, value);
    },
  ],
  [
    4,
    async () => {
      const calls = {
        lectern: ['POST /entries', 'PATCH /entries/:id'],
        gatefold: ['POST /listings', 'POST /listings/:id/open', 'PATCH /listings/:id'],
        hearthside: ['event.create', 'event.update'],
      };
      const kind = pick(kinds) ?? 'lectern';
      await post(`/weather/${kind}`, JSON.stringify({ loseCalls: { [pick(calls[kind]) ?? '']: 1 } }));
    },
  ],
  [
    1,
    async () => {
      await post(
        `/weather/${pick(kinds) ?? ''}`,
        JSON.stringify({ slowCalls: { 'event.create': 16_000, 'POST /entries': 16_000 } }),
      );
    },
  ],
];
const faults: (() => Promise<void>)[] = [
  async () => {
    say('kill the application');
    app.kill('SIGKILL');
    await pause(random() * 1_500);
    app = begin('bench/faults-app.ts');
  },
  async () => {
    say('kill the outside');
    outside.kill('SIGKILL');
    await pause(random() * 4_000);
    outside = begin('outside/main.ts');
    await up();
  },
  async () => {
    const ms = 10_000 + random() * 30_000;
    say('the application sleeps', Math.round(ms / 1000), 's, another opens the folder');
    const slept = app;
    slept.kill('SIGSTOP');
    app = begin('bench/faults-app.ts');
    await pause(ms);
    slept.kill('SIGCONT');
    await pause(3_000);
    slept.kill('SIGKILL');
  },
  async () => {
    const ms = 10_000 + random() * 15_000;
    say('the outside sleeps', Math.round(ms / 1000), 's');
    outside.kill('SIGSTOP');
    await pause(ms);
    outside.kill('SIGCONT');
  },
  async () => {
    say('a second process on the folder');
    const second = begin('bench/faults-app.ts');
    await pause(4_000);
    second.kill('SIGKILL');
  },
];

const weights = doings.reduce((sum, [weight]) => sum + weight, 0);
while (made < wantErrands || kills < wantKills) {
  let at = random() * weights;
  const doing = made < wantErrands ? doings.find(([weight]) => (at -= weight) < 0)?.[1] : undefined;
  await doing?.();
  await pause(random() * 700);
  if (kills < wantKills && random() < Math.max(0.12, kills / wantKills < made / wantErrands ? 0.35 : 0)) {
    kills += 1;
    await faults[Math.floor(random() * faults.length)]?.();
  }
  // Time goes on out there.
  if (random() < 0.2) await post('/clock', new URLSearchParams({ ms: '30000' }), false);
  await house.follow();
}

say(`${made} errands, ${kills} faults: fair weather now, and everything is worked off`);
for (const child of children) if (child !== app && child !== outside) child.kill('SIGKILL');
await up();
for (const kind of kinds)
  await post(`/weather/${kind}`, JSON.stringify({ loseCalls: {}, slowCalls: {}, answerCalls: {} }));
const open = () => errandsWhere(house.db, { states: ['waiting', 'running'] });
for (let round = 0; round < 4; round += 1) {
  const works = () => open().some((one) => one.awaits === null && one.notBefore === null);
  for (let i = 0; i < 400 && (i < 10 || works()); i += 1) {
    await pause(150);
    if (i % 4 === 0) await post('/clock', new URLSearchParams({ ms: '20000' }), false);
    await house.follow();
  }
  patient(() => readNow(house));
  await pause(6_000);
  for (let i = 0; i < 20; i += 1) {
    await post('/clock', new URLSearchParams({ ms: '60000' }), false);
    await house.follow();
    await pause(200);
  }
  send();
}

// What came of it, by the stand-ins' own data.
const standing = things();
const byReference = new Map<string, Thing[]>();
for (const one of standing) byReference.set(one.reference, [...(byReference.get(one.reference) ?? []), one]);
const readings = house.db
  .all<{ observed: string | null }>('SELECT observed FROM readings')
  .map((one) => one.observed ?? '');
for (const [reference, list] of byReference) if (list.length > 1) found('doubled', reference);
for (const { record, survey } of surveyAll(house)) {
  for (const listing of survey.listings) {
    const [thing] = byReference.get(listing.id) ?? [];
    const hidden = record.content.publicity.visibility === 'private';
    if (hidden && thing && seen(thing)) found('leaked', record.code, listing.channel, listing.standing);
    const hand = byHand.get(listing.id);
    if (hand !== undefined && thing && titleOf(thing) !== hand && !readings.some((one) => one.includes(hand)))
      found('overwritten', record.code, listing.channel, hand);
    if (hidden || !kinds.some((kind) => kind === listing.channel)) continue;
    const asks = listing.standing !== null && ['refused', 'atodds', 'drifted'].includes(listing.standing);
    if (!thing && !asks) found('lost', record.code, listing.channel, listing.standing);
    else if (thing && !asks && hand === undefined) {
      const right =
        titleOf(thing) === record.content.title &&
        startOf(thing) === record.content.performances[0]?.start &&
        seen(thing);
      if (!right)
        found(
          'wrong',
          record.code,
          listing.channel,
          listing.standing,
          titleOf(thing),
          record.content.title,
          startOf(thing),
          seen(thing),
        );
    }
  }
}
tally.stuck = open().filter((one) => one.awaits === null && one.notBefore === null).length;
for (const one of open()) say('open', one.id, one.listingId, one.state, one.awaits, one.lastError?.message);
const [missing] = house.db.all<{ n: number }>(
  "SELECT count(*) AS n FROM errands e WHERE e.state IN ('done', 'refused', 'dropped', 'not needed') AND e.settled_at IS NOT NULL AND e.tries > 0 AND NOT EXISTS (SELECT 1 FROM receipts r WHERE r.errand_id = e.id)",
);
const dropped =
  house.db.all<{ n: number }>(
    "SELECT count(*) AS n FROM errands e WHERE e.state = 'dropped' AND e.tries > 0 AND NOT EXISTS (SELECT 1 FROM receipts r WHERE r.errand_id = e.id)",
  )[0]?.n ?? 0;
// What a person dropped needs no receipt: it never went.
tally.receiptsMissing = Math.max(0, (missing?.n ?? 0) - dropped);

house.db.close();
outsideDb.close();
for (const child of children) child.kill('SIGKILL');
await pause(200);
if (!values.verbose) rmSync(folder, { recursive: true, force: true });
else say('kept:', folder);
console.log(JSON.stringify({ errands: made, kills, ...tally }));
process.exit(Object.values(tally).every((n) => n === 0) ? 0 : 1);
