import type { RecordId } from '@/core/base/ids';
import type { House } from '@/house/house';
import { recordOfSlug as find } from '@/store/slugs';

/** The record at an event's address. `null`: there never was such an address. */
export function recordOfSlug(house: House, slug: string): RecordId | null {
  return find(house.db, decodeURIComponent(slug));
}
