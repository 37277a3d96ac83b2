import { by, keeper } from '@/core/testing/doers';
import { channelIdSchema, unsavedRecord } from '@/core/base/ids';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { ChannelRow } from '@/core/listing/channel-row';
import type { RecordContent } from '@/core/record/record';
import { performance, sample, tallowYard } from '@/core/testing/samples';
import { decideErrand } from '@/desk/dispatch/decide-errand';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { keepTheirs, letItGo, sendOursAgain, takeIntoRecord } from '@/desk/drift/decide-drift';
import { takeTwinDown } from '@/desk/drift/take-twin-down';
import { makeVenue } from '@/desk/directory/make-venue';
import { saveVenue } from '@/desk/directory/save-directory';
import { allVenues } from '@/store/venues';
import { saveRecord } from '@/desk/records/save-record';
import { feedAddress } from '@/house/feeds';
import { channelsOf, openHouse, type OpenHouse } from '@/house/house';
import { surveyById } from '@/house/survey';
import { collectErrand, runErrand } from '@/runner/errand/run-errand';
import type { Leadership } from '@/house/leadership';
import { countStale } from '@/runner/tally';
import { readListingBack } from '@/runner/readings';
import { accountOf, putChannel, takeChannelOff } from '@/store/channels';
import { transaction } from '@/store/database';
import {
  claimErrand,
  claimsLeft,
  errandsWhere,
  freeStaleClaims,
  lodgedDue,
  momentsDue,
  wakeErrands,
  wakeMoments,
} from '@/store/errands';
import { dueToRead, listingsOf } from '@/store/listings';
import { recordAt } from '@/store/records';
import type { Door, Kind } from '@/channels/kit/kind';
import { Board } from './board';
import type { Place } from './place';
import { scripted, scriptedDoor } from './kinds';

export type KindName = keyof typeof scripted;

/** A channel of a house in a test: its kind and door, and the place outside that stands for it. */
export interface Entry {
  kind: Kind;
  door: Door;
  board: Place;
  address: string;
  credentials: Record<string, string>;
  /** The channel whose connection it uses. */
  through: string | null;
}

function scriptedEntry(name: KindName): Entry {
  const kind = scripted[name];
  const { conditional, answers, gives } = kind.rules({});
  const marks = conditional === 'version';
  const steps = name === 'twostep' ? (2 as const) : (1 as const);
  const keyed = name === 'keyed';
  const board = new Board({ marks, later: answers !== 'at once', steps, looks: name === 'looked', keyed });
  const door = scriptedDoor({ marks, twoSteps: steps === 2, keyed, callsOff: name === 'calledoff', gives });
  return { kind, door, board, address: `http://${name}`, credentials: {}, through: null };
}

const turnMs = 5_000;
const putBackMs = 40 * 86_400_000;
/** The scenario's morning. */
export const morning = Date.parse('2027-02-02T10:20Z');

/**
 * A house with scripted boards, driven step by step: no timers, no network, its own clock. A process can end in the
 * middle of a call and another begin on the same folder; the one that ended may wake again later.
 */
export class World {
  readonly folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-world-'));
  private readonly entries: ReadonlyMap<string, Entry>;
  /** A simulated clock was put back once: the monotonic one is far ahead of it, and nobody may take one for the other. */
  now = morning + putBackMs;
  /** The machine's own time, where the world's clock leaps ahead of it. */
  machine: number | null = null;
  house: OpenHouse;
  lead: Leadership;
  recordId = unsavedRecord;
  /** Houses of processes that ended. */
  private gone: OpenHouse[] = [];
  private room = { venueId: '', roomId: '' };

  constructor(on: readonly (KindName | Entry)[]) {
    const entries = on.map((item) => (typeof item === 'string' ? scriptedEntry(item) : item));
    this.entries = new Map(entries.map((entry) => [entry.kind.id, entry]));
    for (const { board } of entries) if (board instanceof Board) board.now = () => this.now;
    this.house = this.open();
    this.lead = this.house.lead;
    this.lead.renew();
    this.now = morning;
    this.house.monotonic();
    for (const name of this.entries.keys()) this.connect(name);
    const venue = makeVenue(this.house, by('Maren'), tallowYard);
    if (!venue.ok) throw new Error('no venue');
    this.room = { venueId: venue.value.venue.id, roomId: venue.value.roomId ?? '' };
  }

  private open(): OpenHouse {
    const entries = [...this.entries.values()];
    const house = openHouse(this.folder, null, {
      clock: { kind: 'simulated', now: () => this.now, follow: () => Promise.resolve(true) },
      kinds: entries.map((entry) => entry.kind),
      doors: Object.fromEntries(entries.map((entry) => [entry.kind.id, entry.door])),
      http: (request) => this.place(new URL(request.url).hostname).http(request),
      mail: (letter) => this.place(letter.host).mail(letter),
      machine: () => this.machine ?? this.now,
    });
    // No test cuts the power: a process that ends leaves whole files without it.
    house.db.run('PRAGMA synchronous = OFF');
    return house;
  }

  connect(name: string): void {
    const { through, address, credentials } = this.entries.get(name) ?? fault(name);
    const row: ChannelRow = {
      id: channelIdSchema.parse(name),
      kind: name,
      name,
      shortName: name,
      settings: {},
      through: through === null ? null : channelIdSchema.parse(through),
      connected: true,
      audience: { who: 'everyone' as const },
      standingLeave: true,
    };
    transaction(this.house.db, (tx) => {
      putChannel(tx, row, { address, credentials, knownAs: 'us', at: this.now }, 'Maren');
      wakeErrands(tx);
    });
  }
  disconnect(name: string): void {
    transaction(this.house.db, (tx) => {
      takeChannelOff(tx, channelIdSchema.parse(name));
      wakeErrands(tx);
    });
  }

  /** The part of a feed's address that nobody can guess. */
  feedKey(channel: string): string {
    return feedAddress(this.house, channel).replace(/^.*\/|\.ics$/g, '');
  }

  /** Gives the venue the name that a channel knows it by. */
  nameVenue(channel: string, name: string): void {
    const venue = allVenues(this.house.db).get(this.room.venueId);
    if (!venue) throw new Error('no venue');
    const saved = saveVenue(this.house, keeper, venue.id, {
      ...venue,
      channelIds: { ...venue.channelIds, [channel]: name },
    });
    if (!saved.ok) throw new Error(JSON.stringify(saved.error));
  }

  /** The place outside that stands for a channel. */
  place(name: string): Place {
    return this.entries.get(name)?.board ?? fault(name);
  }
  board(name: string): Board {
    const place = this.place(name);
    return place instanceof Board ? place : fault(name);
  }

  content(part: Partial<RecordContent> = {}): RecordContent {
    const made = sample({
      performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15')],
      pictures: [],
      ...part,
    });
    return {
      ...made,
      tickets: part.tickets ?? { ...made.tickets, mode: 'free entry' },
      performances: made.performances.map((performance) => ({ ...performance, ...this.room })),
    };
  }

  make(part: Partial<RecordContent> = {}): string {
    const saved = saveRecord(this.house, by('Maren'), {
      id: null,
      base: 0,
      content: this.content(part),
      reason: '',
    });
    if (saved.kind !== 'saved') throw new Error(JSON.stringify(saved));
    return (this.recordId = saved.id);
  }

  get record() {
    const record = recordAt(this.house.db, this.recordId);
    if (!record) throw new Error('no record');
    return record;
  }

  save(change: (content: RecordContent) => RecordContent, doer = by('Maren')) {
    const { id, revision, content } = this.record;
    return saveRecord(this.house, doer, { id, base: revision, content: change(content), reason: '' });
  }

  /** Saves these contents as grown from a revision that may be old by now. */
  saveOn(base: number, content: RecordContent, doer = by('Maren')) {
    return saveRecord(this.house, doer, { id: this.record.id, base, content, reason: '' });
  }

  send(only: readonly string[] | null = null) {
    return makeDispatch(this.house, by('Maren'), only === null ? null : new Set(only), { seen: 'all' });
  }
  /** Sends everything there is to plan, under embargo too. */
  sendAll() {
    return this.send(this.listings().map((listing) => listing.id));
  }

  listings() {
    return surveyById(this.house, this.recordId)?.survey.listings ?? [];
  }
  listing(channel: string) {
    return this.listings().find((listing) => listing.channel === channel) ?? fault(channel);
  }
  stored(channel: string) {
    return listingsOf(this.house.db, this.recordId).find((listing) => listing.channel === channel) ?? null;
  }
  errands(channel?: string) {
    return errandsWhere(this.house.db, { recordId: this.recordId }).filter(
      (errand) => channel === undefined || errand.channel === channel,
    );
  }
  receipts(): number {
    return this.house.db.all<{ n: number }>('SELECT count(*) AS n FROM receipts')[0]?.n ?? 0;
  }
  decide(id: number, verdict: 'again' | 'drop' | 'without') {
    return decideErrand(this.house, keeper, id, verdict);
  }
  ours(channel: string, keys: readonly string[]) {
    return sendOursAgain(
      this.house,
      by('Maren'),
      this.recordId,
      this.listing(channel).id,
      keys.map((key) => ({ key })),
    );
  }
  theirs(channel: string, key: string) {
    return takeIntoRecord(this.house, by('Maren'), this.recordId, this.listing(channel).id, [{ key }]);
  }
  here(channel: string, key: string) {
    return keepTheirs(this.house, by('Maren'), this.recordId, this.listing(channel).id, [{ key }]);
  }
  letGo(channel: string) {
    return letItGo(this.house, by('Maren'), this.recordId, this.listing(channel).id);
  }

  oneDown(channel: string, place: string) {
    return takeTwinDown(this.house, by('Maren'), this.listing(channel).id, place);
  }

  /**
   * One beat of the queue: takes up one errand where one may run. `asleep`: it is in the middle of a call that never
   * ends.
   */
  async beat(): Promise<'idle' | 'done' | 'asleep'> {
    const { db } = this.house;
    await countStale(this.house);
    if (momentsDue(db, this.now)) transaction(db, (tx) => wakeMoments(tx, this.now));
    if (claimsLeft(db, [])) transaction(db, (tx) => freeStaleClaims(tx, this.lead.fence(), this.house.monotonic()));
    for (const { row } of channelsOf(this.house, db)) {
      if (!row.connected || this.house.monotonic() < this.house.outside.state(accountOf(row)).blockedUntil) continue;
      const errand = transaction(db, (tx) => claimErrand(tx, row.id, this.house.monotonic(), this.lead.fence()));
      if (errand !== null) return this.raced(runErrand(this.house, errand));
      const lodged = lodgedDue(db, row.id, this.house.monotonic());
      if (lodged !== null) return this.raced(collectErrand(this.house, lodged));
    }
    return 'idle';
  }

  /** Reads back one listing that is due. */
  async readOne(): Promise<'idle' | 'done' | 'asleep'> {
    for (const { row } of channelsOf(this.house, this.house.db)) {
      if (!row.connected || this.house.monotonic() < this.house.outside.state(accountOf(row)).blockedUntil) continue;
      const [id] = dueToRead(this.house.db, row.id, this.house.monotonic(), 1);
      if (id !== undefined) return this.raced(readListingBack(this.house, id));
    }
    return 'idle';
  }

  /** Time passes; whoever leads says so all the while, as a runner does. */
  pass(ms: number): void {
    this.now += ms;
    this.lead.renew();
  }

  /** The process ends where it stands; another begins on the same folder. */
  restart(): void {
    this.gone.push(this.house);
    this.house = this.open();
    this.house.db.run("UPDATE lease SET boot = '', at = 0");
    this.lead = this.house.lead;
    this.lead.renew();
    transaction(this.house.db, (tx) => freeStaleClaims(tx, this.lead.fence(), this.house.monotonic()));
  }

  /** The processes that ended only slept: what they waited for comes, and they go on for a moment. */
  async wake(): Promise<void> {
    for (const { board } of this.entries.values()) board.asleep.wake();
    await new Promise((resolve) => setTimeout(resolve, 5));
  }

  /** Works everything off, with time passing, until nothing is left to do. Gives how many turns of 5 s that took. */
  async settle(most = 400): Promise<number> {
    for (let round = 0; round < most; round += 1) {
      const [did, read] = [await this.beat(), await this.readOne()];
      if (did === 'asleep' || read === 'asleep') this.restart();
      if (did !== 'idle' || read !== 'idle') continue;
      const waits = this.waits();
      if (waits === null) return round;
      const turns = Math.max(1, Math.ceil(waits / turnMs));
      this.pass(turns * turnMs);
      round += turns - 1;
    }
    return most;
  }

  /** Works everything off, with the time that a kind takes to answer and to show. */
  async patiently(name: string): Promise<void> {
    const { delayMs, answers } = (this.entries.get(name) ?? fault(name)).kind.rules({});
    for (let round = 0; round < 3; round += 1) {
      await this.settle();
      if (answers !== 'at once' || delayMs > 3_600_000) this.pass(delayMs + 3_600_000);
    }
    await this.settle();
  }

  /** So long nothing is to do that is near, in ms; `null`: nothing near is to come. */
  private waits(): number | null {
    const soon = this.house.monotonic();
    const rows = [
      ...this.house.db.all<{ at: number | null }>(
        `SELECT min(next_try_at) - ${soon} AS at FROM errands
         WHERE state IN ('waiting', 'running', 'lodged') AND ready = 1 AND next_try_at < ${soon + 400_000}
       UNION ALL SELECT min(read_at) - ${soon} FROM listings JOIN channels ON channels.id = listings.channel
         WHERE channels.connected = 1 AND read_at <= ${soon + 100_000}`,
      ),
    ].flatMap(({ at }) => (at === null ? [] : [at]));
    if (rows.length === 0) return null;
    const [moment] = this.house.db.all<{ at: number | null }>(
      `SELECT min(not_before) - ${this.now} AS at FROM errands WHERE state = 'waiting' AND ready = 0 AND not_before > ${this.now}`,
    );
    return Math.min(...rows, moment?.at ?? Infinity);
  }

  private get fell(): number {
    return [...this.entries.values()].reduce((sum, { board }) => sum + board.asleep.fell, 0);
  }
  /** What a step came to: it ended, or it waits for an answer that does not come. */
  private raced(work: Promise<unknown>): Promise<'done' | 'asleep'> {
    const before = this.fell;
    return new Promise((resolve, reject) => {
      let ended = false;
      const look = () => {
        if (ended) return;
        if (this.fell > before) return resolve('asleep');
        setTimeout(look, 2);
      };
      work.then(
        () => {
          ended = true;
          resolve('done');
        },
        (error: unknown) => {
          ended = true;
          reject(error as Error);
        },
      );
      setImmediate(look);
    });
  }

  async end(): Promise<void> {
    await this.wake();
    this.house.db.close();
    for (const house of this.gone) house.db.close();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

function fault(name: string): never {
  throw new Error(`no board ${name}`);
}
