import { asks, reachedIds } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import type { House } from '@/house/house';
import { recordOfSlug as find } from '@/store/slugs';

/** The record at an event's address. `null`: there never was such an address. */
export function recordOfSlug(house: House, doer: Doer, slug: string): RecordId | null {
  asks(doer, 'recordOfSlug');
  const id = find(house.db, decodeURIComponent(slug));
  const reached = reachedIds(house.db, doer);
  return id === null || reached === null || reached.has(id) ? id : null;
}
