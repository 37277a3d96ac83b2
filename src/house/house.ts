import path from 'node:path';
import { realHttp, type Http } from '@/channels/kit/http';
import type { Clock } from '@/core/base/clock';
import { openDatabase, type Db } from '@/store/database';
import { outsideClock, realClock, type FollowedClock } from './clocks';

/** Everything that the use-cases and the runner stand on. */
export interface House {
  db: Db;
  clock: Clock;
  /** Where the data lies: database, pictures, renditions. */
  folder: string;
  http: Http;
}

/** The folder of the data, from the environment. */
export function dataFolder(): string {
  return path.resolve(/* turbopackIgnore: true */ process.env.NUNTIAX_DATA ?? 'data');
}

/** Opens the house on `folder`. With `clockUrl`, time is the simulated one that is told there. */
export function openHouse(folder: string, clockUrl: string | null): House & { follow: FollowedClock['follow'] } {
  const db = openDatabase(folder);
  const clock = clockUrl === null ? realClock : outsideClock(db, clockUrl);
  return { db, clock, folder, http: realHttp, follow: clock.follow };
}
