import { accountOf } from '@/store/channels';
import { sqliteCode, transaction } from '@/store/database';
import {
  claimErrand,
  lodgedDue,
  claimsLeft,
  errandDue,
  freeStaleClaims,
  momentsDue,
  wakeMoments,
  type Errand,
} from '@/store/errands';
import { dueToRead } from '@/store/listings';
import type { Channel } from '@/channels/channels';
import { channelsOf, type House } from '@/house/house';
import { collectErrand, runErrand } from './errand/run-errand';
import { leaseMs } from '@/house/leadership';
import { readListingBack } from './readings';
import { countStale } from './tally';

const beatMs = 200;
const clockBeatMs = 1_000;
/**
 * After the database refused to write, so long nothing more is begun: each try holds up everything else of this
 * process.
 */
const pauseMs = 3_000;

/** What keeps the queue from working, in words; `null`: nothing. */
export type Trouble = 'disk-full' | 'locked' | 'failing' | null;

export interface Runner {
  stop(): Promise<void>;
  /** True where nothing runs and nothing is due, to be sent or read, within `withinMs`. */
  idle(withinMs?: number): boolean;
  /** Why nothing goes on. */
  trouble(): Trouble;
  leading(): boolean;
}

/**
 * Works through the queue: of each channel as many errands at once as its rules allow, channels beside each other, so
 * that one that is stuck holds up no other; and reads back what is due, beside the errands and with a share of its own.
 * Only one process works on a data folder: a lease with a fence says which.
 */
export function startRunner(house: FollowingHouse): Runner {
  return new QueueRunner(house);
}

type FollowingHouse = House & { follow?: () => Promise<boolean> };

class QueueRunner implements Runner {
  private readonly running = new Map<number, Errand>();
  private readonly reading = new Map<string, string>();
  /** Accounts by channel, as they were at the last beat. */
  private accounts = new Map<string, string>();
  private stopped = false;
  private leads = false;
  private keptBy: Trouble = null;
  private pausedUntil = 0;
  private readonly timers: ReturnType<typeof setInterval>[];

  constructor(private readonly house: FollowingHouse) {
    this.takeLead();
    this.timers = [
      setInterval(() => this.beat(), beatMs),
      setInterval(() => this.takeLead(), leaseMs / 3),
      setInterval(() => void house.follow?.(), clockBeatMs),
      setInterval(() => this.count(), 2 * beatMs),
    ];
    void house.follow?.().then(() => this.beat());
  }

  trouble(): Trouble {
    return this.keptBy;
  }

  leading(): boolean {
    return this.leads;
  }

  idle(withinMs = 2 * clockBeatMs): boolean {
    const { house } = this;
    if (this.running.size > 0 || this.reading.size > 0) return false;
    if (errandDue(house.db, house.monotonic(), withinMs) || momentsDue(house.db, house.clock.now() + withinMs))
      return false;
    return channelsOf(house, house.db).every(
      ({ row }) => !row.connected || dueToRead(house.db, row.id, house.monotonic() + withinMs, 1).length === 0,
    );
  }

  async stop(): Promise<void> {
    this.stopped = true;
    this.timers.forEach(clearInterval);
    while (this.running.size > 0 || this.reading.size > 0) await new Promise((resolve) => setTimeout(resolve, 20));
    if (this.leads) this.house.lead.letGo();
    this.leads = false;
  }

  private readonly report = (error: unknown): void => {
    const code = sqliteCode(error);
    // What is wrong with the database is told on every screen; it is tried again by itself.
    this.keptBy =
      code === 'SQLITE_FULL' || code?.startsWith('SQLITE_IOERR')
        ? 'disk-full'
        : code?.startsWith('SQLITE_BUSY') || code?.startsWith('SQLITE_LOCKED')
          ? 'locked'
          : 'failing';
    if (code !== null) this.pausedUntil = performance.now() + pauseMs;
    console.error('runner:', code ?? error);
  };

  private goesOn(): boolean {
    return !this.stopped && this.leads && performance.now() >= this.pausedUntil;
  }

  private takeLead(): void {
    if (this.stopped) return;
    const { db, lead, monotonic, outside } = this.house;
    try {
      const held = lead.renew();
      if (held && !this.leads) {
        const freed = transaction(db, (tx) => freeStaleClaims(tx, lead.fence(), monotonic()));
        if (freed > 0)
          console.log(
            `runner: ${freed} errands were under way when the last process ended; the channels are asked first`,
          );
      }
      this.leads = held;
      if (held) transaction(db, () => outside.keep(), { quiet: true });
    } catch (error) {
      this.leads = false;
      this.report(error);
    }
  }

  private count(): void {
    if (this.goesOn()) void countStale(this.house).catch(this.report);
  }

  private beat(): void {
    if (!this.goesOn()) return;
    const { db, clock, monotonic } = this.house;
    try {
      const channels = channelsOf(this.house, db);
      this.accounts = new Map(channels.map((channel) => [channel.row.id, accountOf(channel.row)]));
      this.wake();
      const due = errandDue(db, monotonic(), 0);
      for (const channel of channels) {
        if (due && channel.row.connected) this.takeUp(channel);
        this.collect(channel);
        this.readDue(channel);
      }
      // Whether it can be written again is known by writing.
      if (this.keptBy === 'locked' || this.keptBy === 'disk-full')
        transaction(db, (tx) => wakeMoments(tx, clock.now()), { quiet: true });
      this.keptBy = null;
    } catch (error) {
      this.report(error);
    }
  }

  /** Wakes what waited for a moment that has come, and what a write that failed left claimed. */
  private wake(): void {
    const { db, lead, clock, monotonic } = this.house;
    if (momentsDue(db, clock.now())) transaction(db, (tx) => wakeMoments(tx, clock.now()));
    // A claim that nothing here works on was left behind.
    const mine = [...this.running.keys()];
    if (claimsLeft(db, mine)) transaction(db, (tx) => freeStaleClaims(tx, lead.fence(), monotonic(), mine));
  }

  private takeUp(channel: Channel): void {
    const { db, lead, monotonic } = this.house;
    for (let room = this.roomFor(channel); room > 0; room -= 1) {
      const errand = transaction(db, (tx) => claimErrand(tx, channel.row.id, monotonic(), lead.fence()), {
        quiet: true,
      });
      if (errand === null) return;
      this.begin(errand);
    }
  }

  /** How many more errands of a channel may begin: one alone where its account fails, to knock. */
  private roomFor(channel: Channel): number {
    const account = accountOf(channel.row);
    const state = this.house.outside.state(account);
    if (this.house.monotonic() < state.blockedUntil) return 0;
    const running = [...this.running.values()];
    if (state.failures === 0)
      return channel.rules.budget.atOnce - running.filter((errand) => errand.channel === channel.row.id).length;
    return 1 - running.filter((errand) => this.accounts.get(errand.channel) === account).length;
  }

  private begin(errand: Errand): void {
    this.running.set(errand.id, errand);
    void runErrand(this.house, errand)
      .then(() => (this.keptBy = null), this.report)
      .finally(() => {
        this.running.delete(errand.id);
        this.beat();
      });
  }

  /** What was handed over to a channel that answers later is asked for. */
  private collect({ row, rules }: Channel): void {
    if (rules.answers === 'at once' || !row.connected) return;
    const errand = lodgedDue(this.house.db, row.id, this.house.monotonic(), [...this.running.keys()]);
    if (errand === null) return;
    this.running.set(errand.id, errand);
    void collectErrand(this.house, errand)
      .catch(this.report)
      .finally(() => this.running.delete(errand.id));
  }

  private readDue({ row, rules }: Channel): void {
    const { house } = this;
    if (!row.connected || rules.observe === 'none' || this.reading.has(row.id)) return;
    const state = house.outside.state(accountOf(row));
    if (house.monotonic() < state.blockedUntil) return;
    // A listing that an errand is on is read when that has ended.
    const busy = [...this.running.values()]
      .filter((errand) => errand.channel === row.id)
      .map((errand) => errand.listingId);
    if (state.failures > 0 && busy.length > 0) return;
    const [id] = dueToRead(house.db, row.id, house.monotonic(), 1, busy);
    if (id === undefined) return;
    this.reading.set(row.id, id);
    void readListingBack(house, id)
      .catch(this.report)
      .finally(() => {
        this.reading.delete(row.id);
        this.beat();
      });
  }
}
