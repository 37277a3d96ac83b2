import type { Clash } from './clashes';
import { momentWords } from '../dates/date-words';

type Words = { [C in Clash['code']]: (clash: Extract<Clash, { code: C }>) => string };

const minutes = (n: number) => (n >= 120 ? `${Math.round(n / 6) / 10} hours` : `${n} minutes`);

/** The one table that puts words to clashes: the evidence, and the way out. */
const words: Words = {
  'room-overlap': (c) => `Both are in ${c.room} for ${minutes(c.minutes)}. Move one of them, or give it another room.`,
  'venue-overlap': (c) =>
    `Both are in ${c.venue} for ${minutes(c.minutes)}, and ${c.room === null ? 'neither says in which room' : `one of them says no room; the other is in ${c.room}`}. Say the room.`,
  'room-changeover': (c) =>
    `${minutes(c.gap)} between them in ${c.room}, where changing over takes ${minutes(c.needed)}. Start the second later.`,
  'artist-twice': (c) =>
    `${c.artist} stands in both for ${minutes(c.minutes)}, in different places. One of them is wrong.`,
  'artist-travel': (c) =>
    `${c.artist} has ${c.gapHours} hours to get ${c.km} km further, which takes about ${c.neededHours}.`,
  radius: (c) =>
    `${c.artist} plays ${c.km} km away, ${c.days} days apart; the clause says nothing within ${c.limitKm} km and ${c.limitDays} days.`,
  'sale-after-start': (c) => `“${c.level}” goes on sale after the start. Move its window.`,
  'sale-never-open': (c) => `“${c.level}” closes before it opens: it can never be bought. Move its window.`,
  'sales-together': (c) =>
    `${c.count} sales of ours open at the same moment (${c.codes.join(', ')}). Move some, or be ready for it.`,
  'shown-late': (c) =>
    `${c.channels.join(', ')} would show it ${minutes(c.minutes)} after it begins, at the earliest: by the embargo and the usual delay there. Send it now, or let the embargo end sooner.`,
};

/** What each sort of clash is called. */
export const clashNames: Record<Clash['code'], string> = {
  'room-overlap': 'one room twice',
  'venue-overlap': 'one venue, no room',
  'room-changeover': 'short changeover',
  'artist-twice': 'in two places',
  'artist-travel': 'too far to travel',
  radius: 'radius clause',
  'sale-after-start': 'sale after the start',
  'sale-never-open': 'sale never opens',
  'sales-together': 'sales together',
  'shown-late': 'shown too late',
};

/** A clash in words for a person. */
export function clashWords(clash: Clash): string {
  // Each entry takes the clash with its own code; TypeScript cannot follow the pairing through an index.
  const say = words[clash.code] as (clash: Clash) => string;
  return say(clash);
}

/** One side of a clash: what and when. */
export function sideWords({ title, at, zone }: Clash['a']): string {
  return `${title}, ${momentWords(at, zone)}`;
}
