import type { Venue } from '@/core/record/directory';
import type { Tx } from '@/store/database';
import { allVenues } from '@/store/venues';
import { houseOwn } from './house-own';

/**
 * The house's IANA zone: that in which times are shown where no event says otherwise, and of which the public need not
 * be told. Set on screen, or by `NUNTIAX_ZONE`, or that of most venues, or the machine's.
 */
export function zoneOfHouse(db: Tx): string {
  return houseOwn.of(db).zone ?? process.env.NUNTIAX_ZONE ?? mostUsed(allVenues(db).values()) ?? machineZone();
}

const machineZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone;

/** The zone of most venues; of two with as many, the first by name. `null`: there are none. */
function mostUsed(venues: Iterable<Venue>): string | null {
  const counts = new Map<string, number>();
  for (const { zone } of venues) counts.set(zone, (counts.get(zone) ?? 0) + 1);
  const [most] = [...counts].sort(([a, n], [b, m]) => m - n || (a < b ? -1 : 1));
  return most?.[0] ?? null;
}
