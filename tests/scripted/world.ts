import { channelIdSchema, unsavedRecord } from '@/core/base/ids';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { ChannelRow } from '@/core/listing/channel-row';
import type { RecordContent } from '@/core/record/record';
import { performance, sample } from '@/core/testing/samples';
import { decideErrand } from '@/desk/dispatch/decide-errand';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { keepTheirs, letItGo, sendOursAgain, takeIntoRecord } from '@/desk/drift/decide-drift';
import { takeTwinDown } from '@/desk/drift/take-twin-down';
import { makeVenue } from '@/desk/directory/make-venue';
import { saveRecord } from '@/desk/records/save-record';
import { channelsOf, openHouse, type OpenHouse } from '@/house/house';
import { surveyById } from '@/house/survey';
import { collectErrand, runErrand } from '@/runner/errand/run-errand';
import { makeLeadership, type Leadership } from '@/runner/leadership';
import { readListingBack } from '@/runner/readings';
import { accountOf, putChannel, takeChannelOff } from '@/store/channels';
import { whole } from '@/store/database';
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
import { Asleep, Board } from './board';
import { scripted, scriptedDoor } from './kinds';

export type KindName = keyof typeof scripted;

/** The scenario's morning. */
const morning = Date.parse('2027-02-02T10:20Z');

/**
 * A house with scripted boards, driven step by step: no timers, no network, its own clock. A process can end in the middle of
 * a call and another begin on the same folder; the one that ended may wake again later.
 */
export class World {
  readonly folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-world-'));
  readonly asleep = new Asleep();
  readonly boards = new Map<string, Board>();
  now = morning;
  house: OpenHouse;
  lead: Leadership;
  recordId = unsavedRecord;
  /** Houses of processes that ended. */
  private gone: OpenHouse[] = [];
  private place = { venueId: '', roomId: '' };

  constructor(kinds: readonly KindName[], maySend: (actor: string) => boolean = () => true) {
    this.maySend = maySend;
    for (const name of kinds) {
      const { conditional, answers } = scripted[name].rules({});
      const how = {
        marks: conditional === 'version',
        later: answers !== 'at once',
        steps: name === 'twostep' ? (2 as const) : (1 as const),
      };
      this.boards.set(name, new Board(how, this.asleep));
    }
    this.house = this.open();
    this.lead = makeLeadership(this.house);
    this.lead.renew();
    for (const name of kinds) this.connect(name);
    const venue = makeVenue(
      this.house,
      {
        name: 'Tallow Yard',
        address: '9 Wicker Lane',
        town: 'Marrowby',
        country: 'Ireland',
        zone: 'Europe/Dublin',
        room: 'The Vat',
        capacity: 420,
      },
      'Maren',
    );
    if (!venue.ok) throw new Error('no venue');
    this.place = { venueId: venue.value.venue.id, roomId: venue.value.roomId ?? '' };
  }
  private readonly maySend: (actor: string) => boolean;

  private open(): OpenHouse {
    const doors = Object.fromEntries(
      [...this.boards].map(([name, board]) => [
        name,
        scriptedDoor({
          marks: board.how.marks,
          twoSteps: board.how.steps === 2,
          gives: scripted[name as KindName].rules({}).gives,
        }),
      ]),
    );
    return openHouse(this.folder, null, {
      clock: { kind: 'simulated', now: () => this.now, follow: () => Promise.resolve(true) },
      kinds: [...this.boards.keys()].map((name) => scripted[name as KindName]),
      doors,
      http: (request) => (this.boards.get(new URL(request.url).hostname) ?? fault(request.url)).http(request),
      maySend: this.maySend,
    });
  }

  connect(name: string): void {
    const row: ChannelRow = {
      id: channelIdSchema.parse(name),
      kind: name,
      name,
      shortName: name,
      settings: {},
      through: null,
      connected: true,
    };
    whole(this.house.db, (tx) => {
      putChannel(tx, row, { address: `http://${name}`, credentials: {}, knownAs: 'us', at: this.now }, 'Maren');
      wakeErrands(tx);
    });
  }
  disconnect(name: string): void {
    whole(this.house.db, (tx) => {
      takeChannelOff(tx, channelIdSchema.parse(name));
      wakeErrands(tx);
    });
  }

  board(name: string): Board {
    return this.boards.get(name) ?? fault(name);
  }

  content(part: Partial<RecordContent> = {}): RecordContent {
    const made = sample({
      performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15')],
      pictures: [],
      ...part,
    });
    return {
      ...made,
      tickets: { ...made.tickets, mode: 'free entry' },
      performances: made.performances.map((one) => ({ ...one, ...this.place })),
    };
  }

  make(part: Partial<RecordContent> = {}): string {
    const saved = saveRecord(this.house, {
      id: null,
      base: 0,
      content: this.content(part),
      actor: 'Maren',
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

  save(change: (content: RecordContent) => RecordContent, actor = 'Maren') {
    const { id, revision, content } = this.record;
    return saveRecord(this.house, { id, base: revision, content: change(content), actor, reason: '' });
  }

  send(only: readonly string[] | null = null) {
    return makeDispatch(this.house, only === null ? null : new Set(only), 'Maren', { seen: 'all' });
  }
  /** Sends everything there is to plan, under embargo too. */
  sendAll() {
    return this.send(this.listings().map((one) => one.id));
  }

  listings() {
    return surveyById(this.house, this.recordId)?.survey.listings ?? [];
  }
  listing(channel: string) {
    return this.listings().find((one) => one.channel === channel) ?? fault(channel);
  }
  stored(channel: string) {
    return listingsOf(this.house.db, this.recordId).find((one) => one.channel === channel) ?? null;
  }
  errands(channel?: string) {
    return errandsWhere(this.house.db, { recordId: this.recordId }).filter(
      (one) => channel === undefined || one.channel === channel,
    );
  }
  receipts(): number {
    return this.house.db.all<{ n: number }>('SELECT count(*) AS n FROM receipts')[0]?.n ?? 0;
  }
  decide(id: number, verdict: 'again' | 'drop' | 'without') {
    return decideErrand(this.house, id, verdict);
  }
  ours(channel: string, keys: readonly string[]) {
    return sendOursAgain(
      this.house,
      this.recordId,
      this.listing(channel).id,
      keys.map((key) => ({ key })),
      'Maren',
    );
  }
  theirs(channel: string, key: string) {
    return takeIntoRecord(this.house, this.recordId, this.listing(channel).id, [{ key }], 'Maren');
  }
  here(channel: string, key: string) {
    return keepTheirs(this.house, this.recordId, this.listing(channel).id, [{ key }], 'Maren');
  }
  letGo(channel: string) {
    return letItGo(this.house, this.recordId, this.listing(channel).id, 'Maren');
  }

  oneDown(channel: string, place: string) {
    return takeTwinDown(this.house, this.listing(channel).id, place, 'Maren');
  }

  /** One beat of the queue: takes up one errand where one may run. `asleep`: it is in the middle of a call that never ends. */
  async beat(): Promise<'idle' | 'done' | 'asleep'> {
    const { db } = this.house;
    if (momentsDue(db, this.now)) whole(db, (tx) => wakeMoments(tx, this.now));
    if (claimsLeft(db, [])) whole(db, (tx) => freeStaleClaims(tx, this.lead.fence(), this.house.steady()));
    for (const { row } of channelsOf(this.house, db)) {
      if (!row.connected || this.house.steady() < this.house.outside.state(accountOf(row)).blockedUntil) continue;
      const errand = whole(db, (tx) => claimErrand(tx, row.id, this.house.steady(), this.lead.fence()));
      if (errand !== null) return raced(runErrand(this.house, errand, this.lead));
      const lodged = lodgedDue(db, row.id, this.house.steady());
      if (lodged !== null) return raced(collectErrand(this.house, lodged, this.lead));
    }
    return 'idle';
  }

  /** Reads back one listing that is due. */
  async readOne(): Promise<'idle' | 'done' | 'asleep'> {
    for (const { row } of channelsOf(this.house, this.house.db)) {
      if (!row.connected || this.house.steady() < this.house.outside.state(accountOf(row)).blockedUntil) continue;
      const [id] = dueToRead(this.house.db, row.id, this.house.steady(), 1);
      if (id !== undefined) return raced(readListingBack(this.house, id));
    }
    return 'idle';
  }

  pass(ms: number): void {
    this.now += ms;
  }

  /** The process ends where it stands; another begins on the same folder. */
  restart(): void {
    this.gone.push(this.house);
    this.house = this.open();
    this.house.db.run("UPDATE lease SET boot = '', at = 0");
    this.lead = makeLeadership(this.house);
    this.lead.renew();
    whole(this.house.db, (tx) => freeStaleClaims(tx, this.lead.fence(), this.house.steady()));
  }

  /** The processes that ended only slept: what they waited for comes, and they go on for a moment. */
  async wake(): Promise<void> {
    this.asleep.wake();
    await new Promise((resolve) => setTimeout(resolve, 5));
  }

  /** Works everything off, with time passing, until nothing is left to do. Gives how many turns that took. */
  async settle(most = 400): Promise<number> {
    for (let turn = 0; turn < most; turn += 1) {
      const [did, read] = [await this.beat(), await this.readOne()];
      if (did === 'asleep' || read === 'asleep') this.restart();
      if (did !== 'idle' || read !== 'idle') continue;
      const open = errandsWhere(this.house.db, { states: ['waiting', 'running', 'lodged'] }).filter(
        (one) => one.ready && one.nextTryAt < this.house.steady() + 400_000,
      );
      const due = channelsOf(this.house, this.house.db).some(
        ({ row }) => row.connected && dueToRead(this.house.db, row.id, this.house.steady() + 100_000, 1).length > 0,
      );
      if (open.length === 0 && !due) return turn;
      this.pass(5_000);
    }
    return most;
  }

  async end(): Promise<void> {
    await this.wake();
    this.house.db.close();
    for (const one of this.gone) one.db.close();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** What a step came to: it ended, or it waits for an answer that does not come. */
async function raced(work: Promise<unknown>): Promise<'done' | 'asleep'> {
  const late = new Promise<'asleep'>((resolve) => setTimeout(resolve, 30, 'asleep'));
  return Promise.race([work.then(() => 'done' as const), late]);
}

function fault(name: string): never {
  throw new Error(`no board ${name}`);
}
