import type { House } from '@/house/house';
import { feedUnder, type FeedForm } from '@/house/feeds';

const types: Record<FeedForm, string> = {
  ics: 'text/calendar; charset=utf-8',
  atom: 'application/atom+xml; charset=utf-8',
};

/** The feed of an address, as a calendar (`KEY.ics`) or as news (`KEY.atom`), with its type. `null`: there is none. */
export function feedOf(house: House, file: string): { text: string; type: string } | null {
  const [, key, form] = /^([\w-]{10,60})\.(ics|atom)$/.exec(file) ?? [];
  if (key === undefined || (form !== 'ics' && form !== 'atom')) return null;
  const text = feedUnder(house, key, form);
  return text === null ? null : { text, type: types[form] };
}
