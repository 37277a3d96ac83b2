import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { channelsOf, type House } from '@/house/house';
import { zoneOfHouse } from '@/house/house-zone';
import { countStale } from '@/runner/tally';
import { groupClashes } from '@/core/clashes/group-clashes';
import { allClashes } from '../records/bookings';
import { pulseRow, staleRecords } from '@/store/pulse';
import { troubleNow } from './the-house';

/** How long one who asks waits for numbers that are being counted anew, in milliseconds. */
const patienceMs = 300;

/** The house's numbers: counted anew where something changed, but for no longer than one who asks can wait. */
async function numbers(house: House): Promise<ReturnType<typeof pulseRow>> {
  if (staleRecords(house.db, house.clock.now(), 1).length > 0) {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const counting = countStale(house).catch((error: unknown) => console.error('numbers:', error));
    await Promise.race([counting, new Promise((resolve) => (timer = setTimeout(resolve, patienceMs)))]);
    clearTimeout(timer);
  }
  return pulseRow(house.db);
}

/** The house's state in a few numbers, for the frame of every screen. */
export async function pulse(house: House, doer: Doer) {
  asks(doer, 'pulse');
  const { toSend, asks: asking, beyond, held, writes } = await numbers(house);
  return {
    // Whoever is let in for some events alone is told nothing of the others.
    ...(doer.only === null
      ? { toSend, asks: asking, beyond, held, clashes: clashCount(house, writes), silent: silentChannels(house) }
      : { toSend: 0, asks: 0, beyond: 0, held: 0, clashes: 0, silent: [] }),
    now: house.clock.now(),
    clock: house.clock.kind,
    zone: houseZone(house),
    trouble: troubleNow(),
    // Once a minute by the clock, too: embargoes end and delays pass without anything being written.
    mark: `${writes}.${Math.floor(house.clock.now() / 60_000)}`,
  };
}

/** An account that failed so often in a row is told of on every screen. */
const oftenFailed = 2;

/** Channels that do not answer, by name, and since when by the house's clock: the most named first, a few. */
function silentChannels(house: House): { name: string; since: number }[] {
  const failing = [...house.outside.failing()].filter(([, account]) => account.failures >= oftenFailed);
  if (failing.length === 0) return [];
  const channels = channelsOf(house, house.db);
  const behind = house.clock.now() - house.monotonic();
  return failing.flatMap(([account, { failingSince }]) => {
    const name = channels.find(({ row }) => row.id === account && row.connected)?.rules.name;
    return name === undefined ? [] : [{ name, since: (failingSince ?? house.monotonic()) + behind }];
  });
}

/** So long, at the least, lies between two searches for clashes, in milliseconds. */
const searchEveryMs = 5_000;
const searched = new WeakMap<House['db'], { writes: number; at: number; count: number }>();

/** How many clashes there are in the season, as they were last looked for: anew, beside this, once something changed. */
function clashCount(house: House, writes: number): number {
  const last = searched.get(house.db);
  const at = performance.now();
  if (last && (last.writes === writes || at - last.at < searchEveryMs)) return last.count;
  searched.set(house.db, { writes, at, count: last?.count ?? 0 });
  setImmediate(() => {
    try {
      const count = groupClashes(allClashes(house)).filter(({ weight }) => weight !== 'notes').length;
      searched.set(house.db, { writes, at: performance.now(), count });
    } catch (error) {
      // The house may have been closed meanwhile; it is looked for again at the next asking.
      console.error('clashes:', error);
    }
  });
  return last?.count ?? 0;
}

/** The house's IANA zone. */
export function houseZone({ db }: House): string {
  return zoneOfHouse(db);
}
