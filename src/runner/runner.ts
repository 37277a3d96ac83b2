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
 * that
 * one that is stuck holds up no other; and reads back what is due, beside the errands and with a share of its own. Only
 * one
 * process works on a data folder: a lease with a fence says which.
 */
export function startRunner(house: House & { follow?: () => Promise<boolean> }): Runner {
  const running = new Map<number, Errand>();
  const reading = new Map<string, string>();
  const { lead } = house;
  let stopped = false;
  let leading = false;
  let trouble: Trouble = null;
  let pausedUntil = 0;

  const report = (error: unknown) => {
    const code = sqliteCode(error);
    // What is wrong with the database is told on every screen; it is tried again by itself.
    trouble =
      code === 'SQLITE_FULL' || code?.startsWith('SQLITE_IOERR')
        ? 'disk-full'
        : code?.startsWith('SQLITE_BUSY') || code?.startsWith('SQLITE_LOCKED')
          ? 'locked'
          : 'failing';
    if (code !== null) pausedUntil = performance.now() + pauseMs;
    console.error('runner:', code ?? error);
  };
  const begin = (errand: Errand) => {
    running.set(errand.id, errand);
    void runErrand(house, errand)
      .then(() => (trouble = null), report)
      .finally(() => {
        running.delete(errand.id);
        beat();
      });
  };
  /** How many more errands of a channel may begin: one alone where its account fails, to knock. */
  const roomFor = (channel: Channel): number => {
    const state = house.outside.state(accountOf(channel.row));
    if (house.monotonic() < state.blockedUntil) return 0;
    const account = accountOf(channel.row);
    const here = [...running.values()].filter((errand) => errand.channel === channel.row.id).length;
    if (state.failures === 0) return channel.rules.budget.atOnce - here;
    const onAccount = [...running.values()].filter((errand) => accounts.get(errand.channel) === account).length;
    return 1 - onAccount;
  };
  let accounts = new Map<string, string>();
  const takeUp = (channel: Channel) => {
    for (let room = roomFor(channel); room > 0; room -= 1) {
      const errand = transaction(house.db, (tx) => claimErrand(tx, channel.row.id, house.monotonic(), lead.fence()), {
        quiet: true,
      });
      if (errand === null) return;
      begin(errand);
    }
  };
  const readDue = (channel: Channel) => {
    const { row, rules } = channel;
    if (!row.connected || rules.observe === 'none' || reading.has(row.id)) return;
    const state = house.outside.state(accountOf(row));
    if (house.monotonic() < state.blockedUntil) return;
    // A listing that an errand is on is read when that has ended.
    const busy = [...running.values()].filter((errand) => errand.channel === row.id).map((errand) => errand.listingId);
    if (state.failures > 0 && busy.length > 0) return;
    const [id] = dueToRead(house.db, row.id, house.monotonic(), 1, busy);
    if (id === undefined) return;
    reading.set(row.id, id);
    void readListingBack(house, id)
      .catch(report)
      .finally(() => {
        reading.delete(row.id);
        beat();
      });
  };
  /** What was handed over to a channel that answers later is asked for. */
  const collect = ({ row, rules }: Channel) => {
    if (rules.answers === 'at once' || !row.connected) return;
    const errand = lodgedDue(house.db, row.id, house.monotonic(), [...running.keys()]);
    if (errand === null) return;
    running.set(errand.id, errand);
    void collectErrand(house, errand)
      .catch(report)
      .finally(() => running.delete(errand.id));
  };
  const beat = () => {
    if (stopped || !leading || performance.now() < pausedUntil) return;
    try {
      const channels = channelsOf(house, house.db);
      accounts = new Map(channels.map((channel) => [channel.row.id, accountOf(channel.row)]));
      if (momentsDue(house.db, house.clock.now())) transaction(house.db, (tx) => wakeMoments(tx, house.clock.now()));
      // A claim that nothing here works on was left behind by a write that failed.
      if (claimsLeft(house.db, [...running.keys()]))
        transaction(house.db, (tx) => freeStaleClaims(tx, lead.fence(), house.monotonic(), [...running.keys()]));
      const due = errandDue(house.db, house.monotonic(), 0);
      for (const channel of channels) {
        if (due && channel.row.connected) takeUp(channel);
        collect(channel);
        readDue(channel);
      }
      if (trouble === 'locked' || trouble === 'disk-full')
        transaction(house.db, (tx) => wakeMoments(tx, house.clock.now()), { quiet: true });
      trouble = null;
    } catch (error) {
      report(error);
    }
  };
  const takeLead = () => {
    if (stopped) return;
    try {
      const held = lead.renew();
      if (held && !leading) {
        const freed = transaction(house.db, (tx) => freeStaleClaims(tx, lead.fence(), house.monotonic()));
        if (freed > 0)
          console.log(
            `runner: ${freed} errands were under way when the last process ended; the channels are asked first`,
          );
      }
      leading = held;
      if (held) transaction(house.db, () => house.outside.keep(), { quiet: true });
    } catch (error) {
      leading = false;
      report(error);
    }
  };

  takeLead();
  const counting = setInterval(() => {
    if (!stopped && leading && performance.now() >= pausedUntil) void countStale(house).catch(report);
  }, 2 * beatMs);
  const timers = [
    setInterval(beat, beatMs),
    setInterval(takeLead, leaseMs / 3),
    setInterval(() => void house.follow?.(), clockBeatMs),
    counting,
  ];
  void house.follow?.().then(beat);
  return {
    trouble: () => trouble,
    leading: () => leading,
    idle: (withinMs = 2 * clockBeatMs) => {
      if (running.size > 0 || reading.size > 0) return false;
      if (errandDue(house.db, house.monotonic(), withinMs) || momentsDue(house.db, house.clock.now() + withinMs))
        return false;
      return channelsOf(house, house.db).every(
        ({ row }) => !row.connected || dueToRead(house.db, row.id, house.monotonic() + withinMs, 1).length === 0,
      );
    },
    async stop() {
      stopped = true;
      timers.forEach(clearInterval);
      while (running.size > 0 || reading.size > 0) await new Promise((resolve) => setTimeout(resolve, 20));
      if (leading) lead.letGo();
      leading = false;
    },
  };
}
