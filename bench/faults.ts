import { by, keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { parseArgs } from 'node:util';
import Database from 'better-sqlite3';
import sharp from 'sharp';
import { newPicture } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { newLevel, newNotice, newOutlet, newTickets } from '@/core/record/new-record';
import { performance as night, sample, tallowYard } from '@/core/testing/samples';
import { addDays } from '@/core/base/zones';
import { kinds as everyKind } from '@/channels/kinds-rules';
import { connectChannel } from '@/desk/channels/connect-channel';
import { decideErrand } from '@/desk/dispatch/decide-errand';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { makeVenue } from '@/desk/directory/make-venue';
import { saveVenue } from '@/desk/directory/save-directory';
import { readNow } from '@/desk/drift/read-now';
import { addPicture } from '@/desk/records/add-picture';
import { saveRecord } from '@/desk/records/save-record';
import { openHouse } from '@/house/house';
import { errandsWhere } from '@/store/errands';
import { allRecords, recordAt } from '@/store/records';
import { allVenues } from '@/store/venues';
import { chance } from './chance';
import { freePort } from './free-port';
import { judge, receiptsMissing, waysNow } from './faults-judge';
import { callOffs, handField, places, shelfOf, type Thing } from './faults-places';

// The stand-ins stand on this machine.
process.env.NUNTIAX_PRIVATE ??= '127.0.0.1';

/*
 * Faults, with real processes, over every kind (or those of `--kinds a,b`): the application and the outside services
 * are killed and stopped at random, a leader is frozen while a day goes by, answers of placings, changes and call-offs
 * are lost, calls are slow, rows are turned down, a second process opens the folder, listings are edited by hand,
 * records are changed, called off, and narrowed while something of them is out. What came of it is judged from the
 * stand-ins' own data, not through any reader of ours. Ends with one line of JSON.
 */

const { values } = parseArgs({
  options: {
    errands: { type: 'string', default: '150' },
    kills: { type: 'string', default: '12' },
    seed: { type: 'string', default: '1' },
    kinds: { type: 'string', default: '' },
    verbose: { type: 'boolean', default: false },
  },
});
const [wantErrands, wantKills] = [Number(values.errands), Number(values.kills)];
const random = chance(Number(values.seed));
const pick = <T>(list: readonly T[]): T | undefined => list[Math.floor(random() * list.length)];
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const say = (...words: unknown[]) => void (values.verbose && console.error(...words));

const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-faults-'));
const [port, feedPort] = [await freePort(), await freePort()];
const base = `http://127.0.0.1:${port}`;
const env = {
  ...process.env,
  NUNTIAX_DATA: folder,
  OUTSIDE_PORT: String(port),
  NUNTIAX_CLOCK: `${base}/clock`,
  NUNTIAX_PRIVATE: '127.0.0.1',
  NUNTIAX_ZONE: 'Europe/Dublin',
  OUTSIDE_KEY: 'a-key-of-the-bench',
  // Where the working half shows its calendar feeds.
  NUNTIAX_ORIGIN: `http://127.0.0.1:${feedPort}`,
};
process.env.NUNTIAX_ORIGIN = env.NUNTIAX_ORIGIN;
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
/** The stand-in behind a kind: its weather is that. */
const shelfOfService = (name: string) => everyKind.find((kind) => kind.id === name)?.connectsAs ?? name;
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
const asked = values.kinds.split(',').filter((candidate) => candidate !== '');
const names = everyKind.map((kind) => kind.id).filter((id) => asked.length === 0 || asked.includes(id));
const unknown = asked.filter((candidate) => !everyKind.some((kind) => kind.id === candidate));
if (unknown.length > 0) throw new Error(`there is no kind ${unknown.join(', ')}`);
const accounts = (await (await fetch(`${base}/accounts`, { method: 'POST', headers: withKey })).json()) as Record<
  string,
  Record<string, string>
>;
const connects = new Set(names.map((id) => everyKind.find((kind) => kind.id === id)?.connectsAs ?? id));
for (const kind of everyKind.filter((kind) => connects.has(kind.id))) {
  const connected = await connectChannel(
    house,
    by('bench'),
    { kind: kind.id },
    { address: `${base}/${kind.id}`, credentials: accounts[kind.id] ?? {} },
  );
  if (!connected.ok) throw new Error(JSON.stringify(connected.error));
}
const poster = await sharp({ create: { width: 1800, height: 1200, channels: 3, background: '#1c3d3a' } })
  .jpeg()
  .toBuffer();
const picture = await addPicture(house, by('bench'), 'harp.jpg', poster);
const venue = makeVenue(house, by('bench'), tallowYard);
if (!picture.ok || !venue.ok) throw new Error('the house could not be set up');
const place = { venueId: venue.value.venue.id, roomId: venue.value.roomId };
/** Whether the box offices know the venue: rows that name another are turned down. */
const venueKnown = (known: boolean) => {
  const item = allVenues(house.db).get(venue.value.venue.id);
  if (item)
    patient(() =>
      saveVenue(house, keeper, item.id, { ...item, channelIds: { pennyseat: known ? 'TYVAT' : 'NOSUCH' } }),
    );
};
const poster1 = newPicture(picture.value, { alt: 'x', credit: 'x' });
let app = begin('bench/faults-app.ts');

/** The stand-ins' own data: what the public sees. */
const outsideDb = new Database(path.join(folder, 'outside', 'outside.sqlite'));
outsideDb.pragma('busy_timeout = 5000');
const things = (): Thing[] =>
  (
    outsideDb.prepare('SELECT shelf, id, reference, body FROM things').all() as {
      shelf: string;
      id: string;
      reference: string;
      body: string;
    }[]
  )
    .filter((row) => names.some((name) => shelfOf(name) === row.shelf))
    .map((row) => ({ ...row, body: JSON.parse(row.body) as Thing['body'] }));

/** What was written there by hand: by reference. */
const byHand = new Map<string, string>();
let made = 0;
let kills = 0;
let number = 0;
let narrowed = 0;
const tally = {
  ...{ lost: 0, doubled: 0, wrong: 0, leaked: 0, overwritten: 0, stuck: 0, receiptsMissing: 0 },
  ...{ toldTwice: 0, late: 0 },
};

/** Counts something that must not be, and says what it was. */
function found(what: keyof typeof tally, ...words: unknown[]): void {
  tally[what] += 1;
  console.error(what, ...words);
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
  const sent = patient(() => makeDispatch(house, by('bench'), null, { seen: 'all', ways: waysNow(house) }));
  if (sent?.ok) made += sent.value.errands;
  else if (sent) say('not sent:', sent.error);
};
/** Makes a record say less, and counts it where something of it is out. */
const narrow = (id: RecordId, edit: (content: RecordContent) => RecordContent) => {
  if (errandsWhere(house.db, { recordId: id, states: ['waiting', 'running', 'lodged'] }).length > 0) narrowed += 1;
  change(id, edit);
};
const change = (id: RecordId, edit: (content: RecordContent) => RecordContent) => {
  const record = recordAt(house.db, id);
  if (record)
    patient(() =>
      saveRecord(house, by('bench'), { id, base: record.revision, content: edit(record.content), reason: '' }),
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
      const title = `Event ${number}`;
      const words = 'Come and hear {{ title }}';
      const notices = names
        .filter((name) => everyKind.find((kind) => kind.id === name)?.rules({}).notice)
        .map((name, i) => newNotice(`n${i}`, name, { words, segment: name === 'postbag' ? 'members' : '' }));
      const outlets = ['gatefold', 'pennyseat']
        .filter((name) => names.some((candidate) => candidate === name))
        .map((name, i) => newOutlet(`o${i}`, name, { channel: name, allocation: 30 }));
      const tickets = newTickets({ levels: [newLevel('s', 'Standard', 2200)], outlets });
      const lineUp = sample().lineUp;
      const online = { keep: null, join: null };
      const content = sample({ title, performances, pictures: [poster1], lineUp, notices, tickets, online });
      patient(() => saveRecord(house, by('bench'), { id: null, base: 0, content, reason: '' }));
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
          performances: c.performances.map((performance) => ({
            ...performance,
            start: performance.start === '19:30' ? '20:15' : '19:30',
          })),
        }));
      send();
    },
  ],
  [
    4,
    () => {
      const id = anyRecord();
      const way = Math.floor(random() * 3);
      const off = pick(names) ?? '';
      if (id)
        narrow(id, (c) =>
          way === 0
            ? {
                ...c,
                publicity: { ...c.publicity, visibility: c.publicity.visibility === 'private' ? 'public' : 'private' },
              }
            : way === 1
              ? {
                  ...c,
                  leftOff: c.leftOff.includes(off)
                    ? c.leftOff.filter((candidate) => candidate !== off)
                    : [...c.leftOff, off],
                }
              : { ...c, audience: c.audience.who === 'everyone' ? { who: 'members' } : { who: 'everyone' } },
        );
      if (random() < 0.5) send();
    },
  ],
  [
    2,
    async () => {
      // A call is slow, and meanwhile somebody changes their mind.
      const name = pick(names) ?? '';
      await post(
        `/weather/${shelfOfService(name)}`,
        JSON.stringify({ slowCalls: { [places[name]?.place ?? '']: 4_000 } }),
      );
      const id = anyRecord();
      if (!id) return;
      number += 1;
      change(id, (c) => ({ ...c, title: `${c.title.split(',')[0] ?? ''}, version ${number}` }));
      send();
      await pause(2_500);
      narrow(id, (c) => ({ ...c, publicity: { ...c.publicity, visibility: 'private' } }));
    },
  ],
  [
    2,
    async () => {
      // Called off, with the answer of the call-off lost.
      const id = anyRecord();
      if (!id || Object.keys(callOffs).every((name) => !names.some((candidate) => candidate === name))) return;
      for (const [name, call] of Object.entries(callOffs))
        if (names.some((candidate) => candidate === name) && random() < 0.7)
          await post(`/weather/${name}`, JSON.stringify({ loseCalls: { [call]: 1 } }));
      change(id, (c) => ({
        ...c,
        performances: c.performances.map((performance) => ({ ...performance, turn: 'cancelled' })),
      }));
      send();
    },
  ],
  [
    1,
    () => {
      venueKnown(false);
      send();
    },
  ],
  [1, () => venueKnown(true)],
  [
    2,
    () => {
      const waiting = pick(errandsWhere(house.db, { states: ['waiting', 'refused'] }));
      if (waiting) patient(() => decideErrand(house, keeper, waiting.id, random() < 0.5 ? 'drop' : 'again'));
      send();
    },
  ],
  [
    2,
    () => {
      const thing = pick(things().filter((thing) => !byHand.has(thing.reference) && handField(thing.shelf) !== null));
      if (!thing) return;
      const value = `By hand ${(number += 1)}`;
      outsideDb
        .prepare(`UPDATE things SET body = json_set(body, ?, ?), version = version + 1 WHERE shelf = ? AND id = ?`)
        .run(`$.${handField(thing.shelf)}`, value, thing.shelf, thing.id);
      byHand.set(thing.reference, value);
    },
  ],
  [
    4,
    async () => {
      const name = pick(names) ?? '';
      const call = pick(
        [places[name]?.place, places[name]?.open, places[name]?.amend].filter((candidate) => candidate != null),
      );
      if (call) await post(`/weather/${shelfOfService(name)}`, JSON.stringify({ loseCalls: { [call]: 1 } }));
    },
  ],
  [
    1,
    async () => {
      const name = pick(names) ?? '';
      await post(
        `/weather/${shelfOfService(name)}`,
        JSON.stringify({ slowCalls: { [places[name]?.place ?? '']: 16_000 } }),
      );
    },
  ],
  [2, async () => void (await post('/clock', new URLSearchParams({ ms: '3600000' }), false))],
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
    say('the leader is frozen for 40 s, and a day goes by');
    const frozen = app;
    frozen.kill('SIGSTOP');
    app = begin('bench/faults-app.ts');
    await pause(8_000);
    await post('/clock', new URLSearchParams({ ms: '86400000' }), false);
    await house.follow();
    send();
    await pause(32_000);
    frozen.kill('SIGCONT');
    await pause(3_000);
    frozen.kill('SIGKILL');
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
    // Each in its turn, so that few are enough to have met them all.
    await faults[(kills + Number(values.seed)) % faults.length]?.();
  }
  // Time goes on out there.
  if (random() < 0.2) await post('/clock', new URLSearchParams({ ms: '30000' }), false);
  await house.follow();
}

say(`${made} errands, ${kills} faults: fair weather now, and everything is worked off`);
for (const child of children) if (child !== app && child !== outside) child.kill('SIGKILL');
await up();
for (const name of names)
  await post(`/weather/${shelfOfService(name)}`, JSON.stringify({ loseCalls: {}, slowCalls: {}, answerCalls: {} }));
venueKnown(true);
const open = () => errandsWhere(house.db, { states: ['waiting', 'running', 'lodged'] });
const waitsForNothing = () => open().filter((errand) => errand.awaits === null && errand.notBefore === null);
for (let round = 0; round < 5; round += 1) {
  // What was refused for a row or a rule is tried again; what somebody edited there is theirs to decide.
  for (const errand of errandsWhere(house.db, { states: ['refused'] }))
    if (errand.lastError?.kind !== 'conflict' && errand.lastError?.kind !== 'gone')
      patient(() => decideErrand(house, keeper, errand.id, 'again'));
  send();
  for (let i = 0; i < 400 && (i < 10 || waitsForNothing().some((errand) => errand.state !== 'lodged')); i += 1) {
    await pause(150);
    if (i % 4 === 0) await post('/clock', new URLSearchParams({ ms: '20000' }), false);
    await house.follow();
  }
  // Batches, visits and mirrors take their time: two days go by.
  for (let i = 0; i < 16; i += 1) {
    await post('/clock', new URLSearchParams({ ms: String(3 * 3_600_000) }), false);
    await house.follow();
    await pause(600);
  }
  patient(() => readNow(house, keeper));
  await pause(5_000);
}

judge(house, things(), names, byHand, found);
tally.stuck = waitsForNothing().length;
for (const errand of open())
  say('open', errand.id, errand.listingId, errand.state, errand.awaits, errand.lastError?.message);
tally.receiptsMissing = receiptsMissing(house);

house.db.close();
outsideDb.close();
for (const child of children) child.kill('SIGKILL');
await pause(200);
if (!values.verbose) rmSync(folder, { recursive: true, force: true });
else say('kept:', folder);
console.log(JSON.stringify({ errands: made, kills, kinds: names.length, narrowed, ...tally }));
process.exit(Object.values(tally).every((n) => n === 0) ? 0 : 1);
