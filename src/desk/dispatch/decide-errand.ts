import type { House } from '@/house/house';
import { whole } from '@/store/database';
import { decideErrands } from '@/store/errands';

/**
 * A person's word on an errand that was refused or waits: try it again now, let it go without the link that it waits for, or
 * drop it. What waits for a dropped errand's link goes on waiting, and says so. Gives the number changed.
 */
export function decideErrand(house: House, errandId: number, verdict: 'again' | 'drop' | 'without'): number {
  return whole(house.db, (tx) => decideErrands(tx, [errandId], verdict, house.steady()));
}
