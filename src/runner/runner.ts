import { putSetting, setting } from '@/store/connections';
import { claimErrand, errandsWhere, freeStaleClaims } from '@/store/errands';
import { listingsToRead } from '@/store/listings';
import { whole } from '@/store/database';
import { z } from 'zod';
import type { House } from '../house/house';
import { readListingBack } from './read-listing';
import { runErrand } from './errand/run-errand';

const beatMs = 200;
const clockBeatMs = 1_000;
const leaseMs = 6_000;
const readsAtOnce = 4;
const leaseSchema = z.object({ pid: z.number(), at: z.number() });

export interface Runner {
  stop(): Promise<void>;
  /** True where nothing runs and nothing is due, to be sent or read, within `withinMs`. */
  idle(withinMs?: number): boolean;
}

/**
 * Works through the queue: one errand a channel at a time, channels beside each other, so that one that is stuck
 * holds up no other; and reads back what is due. Only one process works on a data folder: a lease says which.
 */
export function startRunner(house: House & { follow?: () => Promise<boolean> }): Runner {
  const busy = new Set<string>();
  const reading = new Set<string>();
  let stopped = false;
  let leader = false;

  const report = (error: unknown) => console.error('runner:', error);
  const runOne = (): boolean => {
    const errand = claimErrand(house.db, house.clock.now(), [...busy]);
    if (errand === null) return false;
    busy.add(errand.channel);
    void runErrand(house, errand)
      .catch(report)
      .finally(() => {
        busy.delete(errand.channel);
        beat();
      });
    return true;
  };
  const readDue = () => {
    for (const listing of listingsToRead(house.db, house.clock.now(), 50)) {
      // A channel that an errand is on is read when that has ended.
      if (reading.size >= readsAtOnce || reading.has(listing.channel) || busy.has(listing.channel)) continue;
      reading.add(listing.channel);
      void readListingBack(house, listing)
        .catch(report)
        .finally(() => {
          reading.delete(listing.channel);
          beat();
        });
    }
  };
  const beat = () => {
    if (stopped || !leader) return;
    try {
      while (runOne());
      readDue();
    } catch (error) {
      report(error);
    }
  };
  const lead = () => {
    const held = takeLease(house);
    if (held && !leader) {
      const freed = freeStaleClaims(house.db, house.clock.now());
      if (freed > 0)
        console.log(
          `runner: ${freed} errands were under way when the last process ended; the channels are asked first`,
        );
    }
    leader = held;
  };

  lead();
  const timers = [
    setInterval(beat, beatMs),
    setInterval(lead, leaseMs / 3),
    setInterval(() => void house.follow?.(), clockBeatMs),
  ];
  void house.follow?.().then(beat);
  return {
    idle: (withinMs = 2 * clockBeatMs) => {
      const now = house.clock.now();
      const due = errandsWhere(house.db, { states: ['waiting'] }).some((one) => one.nextTryAt <= now + withinMs);
      return busy.size === 0 && reading.size === 0 && !due && listingsToRead(house.db, now + withinMs, 1).length === 0;
    },
    async stop() {
      stopped = true;
      timers.forEach(clearInterval);
      while (busy.size > 0 || reading.size > 0) await new Promise((resolve) => setTimeout(resolve, 20));
      if (leader) putSetting(house.db, 'runner-lease', JSON.stringify({ pid: 0, at: 0 }));
    },
  };
}

/** Takes or renews the lease. A lease of a process that has ended is free at once. */
function takeLease(house: House): boolean {
  // The lease is between processes of one machine: it goes by the machine's clock, not the house's.
  const now = Date.now();
  return whole(house.db, (tx) => {
    const text = setting(tx, 'runner-lease');
    const held = text === null ? null : leaseSchema.safeParse(JSON.parse(text)).data;
    if (held && held.pid !== process.pid && now - held.at < leaseMs && lives(held.pid)) return false;
    putSetting(tx, 'runner-lease', JSON.stringify({ pid: process.pid, at: now }));
    return true;
  });
}

function lives(pid: number): boolean {
  if (pid === 0) return false;
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}
