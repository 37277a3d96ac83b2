import type { BusyListing, PlannedErrand } from '@/core/errands/plan';
import { sameWish } from '@/core/errands/steps';
import type { Tx } from '@/store/database';
import { errandsWhere, openStates } from '@/store/errands';

/**
 * What goes behind an errand that runs or was handed over: what it does not say. `null`: nothing; one that only waits
 * says by itself what the record says then.
 */
export function goesBehind(tx: Tx, { listing, next }: BusyListing): PlannedErrand | null {
  if (next === null || next.notBefore !== null) return null;
  const open = errandsWhere(tx, { listingId: listing, states: openStates });
  // What goes under the standing leave says nothing that a person says.
  const waits = open.some((errand) => errand.state === 'waiting' && !errand.byClock);
  const said = open.some(({ lodged, changes }) => sameWish(lodged?.changes ?? changes, next.changes));
  return waits || said ? null : next;
}
