import { zoneDataVersion } from '@/core/base/zones';
import { countOpen } from '@/store/errands';
import { pulseRow } from '@/store/pulse';
import { countRecords } from '@/store/records';
import type { House } from '@/house/house';
import { troubleNow } from './the-house';

/** How the house is: for a probe, and for the top line. `now` is ISO 8601 in UTC. */
export function health(house: House) {
  return {
    ok: troubleNow() === null,
    now: new Date(house.clock.now()).toISOString(),
    clock: house.clock.kind,
    zoneData: zoneDataVersion,
    records: countRecords(house.db),
    toSend: pulseRow(house.db).toSend,
    errandsWaiting: countOpen(house.db),
    trouble: troubleNow(),
  };
}
