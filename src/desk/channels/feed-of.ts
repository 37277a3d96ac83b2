import type { House } from '@/house/house';
import { feedUnder } from '@/house/feeds';

/** The calendar feed of an address: `KEY.ics`. `null`: there is none. */
export function feedOf(house: House, file: string): string | null {
  const key = /^([\w-]{10,60})\.ics$/.exec(file)?.[1];
  return key === undefined ? null : feedUnder(house, key);
}
