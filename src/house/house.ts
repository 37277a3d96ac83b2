import path from 'node:path';
import { channelOf, type Channel } from '@/channels/channels';
import { doors as everyDoor } from '@/channels/kinds-doors';
import { kinds as everyKind } from '@/channels/kinds-rules';
import type { Http } from '@/channels/kit/http';
import { makeHttp, privateHosts } from '@/channels/kit/reach';
import type { Mail, MailLine } from '@/channels/kit/mail';
import { makeMail } from '@/channels/kit/smtp';
import type { Door, Kind } from '@/channels/kit/kind';
import type { Clock } from '@/core/base/clock';
import type { Instant } from '@/core/base/zones';
import { allChannels } from '@/store/channels';
import { openDatabase, type Db, type Tx } from '@/store/database';
import { leaseNow } from '@/store/lease';
import { type FollowedClock, keepClockAddress, keptClockAddress, outsideClock, realClock } from './clocks';
import { makeLeadership, type Leadership } from './leadership';
import { makeOutsideDoor, type OutsideDoor } from './outside-door';

/** Everything that the use-cases and the runner stand on. */
export interface House {
  db: Db;
  clock: Clock;
  /** Now, by a monotonic clock: what waits, waits by this one. */
  monotonic(): Instant;
  /** Where the data lies: database, pictures, renditions. */
  folder: string;
  outside: OutsideDoor;
  /** Letters of the house's own, such as an invitation: they tell nothing of any event. */
  ownMail: MailLine;
  /** This process's part in working the queue. */
  lead: Leadership;
  kinds: readonly Kind[];
  doors: Readonly<Record<string, Door>>;
  /**
   * The machine's own time, where it is a matter of how long something outside really takes: a simulated clock may
   * leap.
   */
  machine(): Instant;
}

export interface OpenHouse extends House {
  follow: FollowedClock['follow'];
}

/** What a house may be opened with in place of the usual. */
export interface HouseParts {
  kinds?: readonly Kind[];
  doors?: Readonly<Record<string, Door>>;
  http?: Http;
  mail?: Mail;
  clock?: FollowedClock;
  machine?: House['machine'];
}

/** The folder of the data, from the environment. */
export function dataFolder(): string {
  return path.resolve(/* turbopackIgnore: true */ process.env.NUNTIAX_DATA ?? 'data');
}

/** Time as it was last told where the folder was opened: for a script beside an application. */
export const asItWas = Symbol('the clock that is kept');

/**
 * Opens the house on `folder`. With the address of a clock, time is the simulated one that is told there; `null`: the
 * machine's own; `asItWas`: what the application that was opened on it last was told.
 */
export function openHouse(folder: string, clockAt: string | null | typeof asItWas, parts: HouseParts = {}): OpenHouse {
  const db = openDatabase(folder);
  const clockUrl = clockAt === asItWas ? keptClockAddress(db) : clockAt;
  if (clockAt !== asItWas && !parts.clock) keepClockAddress(db, clockUrl);
  const clock = parts.clock ?? (clockUrl === null ? realClock : outsideClock(db, clockUrl));
  const monotonic = makeMonotonic(clock, leaseNow(db)?.monotonic ?? null);
  const {
    kinds = everyKind,
    doors = everyDoor,
    http = makeHttp(privateHosts(process.env.NUNTIAX_PRIVATE)),
    mail = makeMail(privateHosts(process.env.NUNTIAX_PRIVATE)),
    machine = realClock.now,
  } = parts;
  return {
    db,
    clock,
    monotonic,
    folder,
    outside: makeOutsideDoor(db, http, monotonic, mail),
    ownMail: mail,
    lead: makeLeadership(db, monotonic),
    kinds,
    doors,
    machine,
    follow: clock.follow,
  };
}

/** A clock that never goes back: where the house's does, it goes on from where it stood. */
function makeMonotonic(clock: Clock, from: Instant | null): () => Instant {
  let last = from ?? -Infinity;
  let offset = 0;
  return () => {
    const now = clock.now() + offset;
    if (now < last) offset += last - now;
    return (last = Math.max(last, now));
  };
}

/** Every channel of the house, in its order. One whose kind this version does not know is passed over. */
export function channelsOf(house: Pick<House, 'kinds'>, db: Tx): Channel[] {
  return allChannels(db)
    .filter((row) => house.kinds.some((kind) => kind.id === row.kind))
    .map((row) => channelOf(row, house.kinds));
}

/** The channel with this id. `null` where there is none. */
export function channelById(house: Pick<House, 'kinds' | 'db'>, id: string): Channel | null {
  return channelsOf(house, house.db).find((channel) => channel.row.id === id) ?? null;
}
