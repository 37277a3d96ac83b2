import { pulseMark } from '@/store/pulse';
import { allVenues } from '@/store/venues';
import type { House } from '@/house/house';
import { houseCounts } from '../survey/house-counts';

/** The house's state in a few numbers, for the frame of every screen. */
export async function pulse(house: House) {
  return {
    ...(await houseCounts(house)),
    now: house.clock.now(),
    clock: house.clock.kind,
    zone: houseZone(house),
    // Once a minute by the clock, too: embargoes end and delays pass without anything being written.
    mark: `${pulseMark(house.db)}.${Math.floor(house.clock.now() / 60_000)}`,
  };
}

/** The zone that times are shown in where no event says otherwise: set, or that of the first venue, or the machine's. */
export function houseZone(house: House): string {
  if (process.env.NUNTIAX_ZONE) return process.env.NUNTIAX_ZONE;
  const [first] = allVenues(house.db).values();
  return first?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone;
}
