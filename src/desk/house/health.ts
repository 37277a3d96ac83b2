import { zoneDataVersion } from '@/core/base/zones';
import { errandsWhere } from '@/store/errands';
import { countRecords } from '@/store/records';
import type { House } from '@/house/house';
import { houseCounts } from '../survey/house-counts';

/** A probe is answered at once, with the numbers that there are. */
const probePatienceMs = 300;

/** How the house is: for a probe, and for the top line. `now` is ISO 8601 in UTC. */
export async function health(house: House) {
  const waiting = errandsWhere(house.db, { states: ['waiting', 'running'] });
  return {
    ok: true as const,
    now: new Date(house.clock.now()).toISOString(),
    clock: house.clock.kind,
    zoneData: zoneDataVersion,
    records: countRecords(house.db),
    toSend: (await houseCounts(house, probePatienceMs)).toSend,
    errandsWaiting: waiting.length,
  };
}
