import { whole } from '@/store/database';
import { decideErrands, dependentsOf } from '@/store/errands';
import type { House } from '@/house/house';

/**
 * A person's word on an errand that was refused or waits: try it again now, or drop it. What waits for a dropped
 * errand's link could never go and is dropped with it; it comes up under "to send" again. Gives the number changed.
 */
export function decideErrand(house: House, errandId: number, verdict: 'again' | 'drop'): number {
  return whole(house.db, (tx) => {
    const now = house.clock.now();
    const ids = verdict === 'drop' ? [errandId, ...dependentsOf(tx, [errandId])] : [errandId];
    return decideErrands(tx, ids, verdict, now);
  });
}
