import { inZone, longDate, momentWords } from '../dates/date-words';
import type { Facts } from '../facts/facts';
import { mapAddress } from '../facts/map-address';
import type { PerformanceFacts } from '../facts/performance-facts';
import { quoted } from '../base/quoted';
import { toLocal } from '../base/zones';

/** What words may be filled with, and how each is explained to a person who picks one. */
export const tokens = {
  title: 'the title',
  subtitle: 'the subtitle',
  line_up: 'the line-up in words',
  headliner: 'the headliner',
  date: 'Thursday 4 February 2027',
  day: '4 February',
  weekday: 'Thursday',
  doors: 'when the doors open, 19:00',
  start: 'when it starts, 19:30',
  end: 'when it ends, 22:15',
  zone: 'whose time that is, where it is not the house’s: Adelaide time',
  venue: 'the venue',
  room: 'the room',
  town: 'the town',
  address: 'the venue’s address',
  find_it: 'how to find the venue',
  map: 'where the venue lies, as an address that a map opens',
  price: 'the price, as it is now',
  sale: 'how the sale stands: on sale Fri 12 Feb 10:00',
  link: 'the ticket link',
  age: 'the age guidance',
  organiser: 'the organiser',
  about_organiser: 'the organiser’s standing paragraph',
  house_mail: 'where one writes to the house',
  hashtag: 'the hashtags',
  series: 'a series in one line: Tuesdays 19:45 until 20 April',
} as const;
export type Token = keyof typeof tokens;

/** The text that stands for a token in words: `{{ date }}`. */
export function tokenText(token: Token): string {
  return `{{ ${token} }}`;
}

/** Words after filling, with tokens that mean nothing and tokens that the record has no value for. */
export interface Filled {
  text: string;
  unknown: string[];
  empty: string[];
  /** What stands between `{{` and `}}`, or is not closed, is no token. */
  broken: string | null;
}

/** Longest inside of a token that is looked at, and the longest text that filling may make, in UTF-16 units. */
const mostTokenChars = 60;
const mostFilledChars = 400_000;

/** A piece of words: plain text, or what stands between `{{` and `}}`. */
type Piece = { kind: 'text'; text: string } | { kind: 'token'; name: string } | { kind: 'broken'; text: string };

/** Takes words apart at their tokens: one pass, whatever they hold. */
function tokenPieces(text: string): Piece[] {
  const pieces: Piece[] = [];
  let from = 0;
  for (let at = text.indexOf('{{'); at >= 0; at = text.indexOf('{{', from)) {
    if (at > from) pieces.push({ kind: 'text', text: text.slice(from, at) });
    const inside = text.slice(at + 2, at + 2 + mostTokenChars + 2);
    const end = inside.indexOf('}}');
    const name = /^\s*(\w{1,40})\s*$/.exec(inside.slice(0, Math.max(0, end)))?.[1];
    if (end >= 0 && name !== undefined) {
      pieces.push({ kind: 'token', name });
      from = at + 2 + end + 2;
      continue;
    }
    // What is no token stays as it was written.
    pieces.push({ kind: 'broken', text: text.slice(at, end < 0 ? at + 2 : at + 4 + end) });
    from = end < 0 ? at + 2 : at + 4 + end;
  }
  if (from < text.length) pieces.push({ kind: 'text', text: text.slice(from) });
  return pieces;
}

/** Whether the day of a performance may be told: it is known, and not put off without another. */
export function dayStands({ precision, turn }: Pick<PerformanceFacts, 'precision' | 'turn'>): boolean {
  return (precision === 'exact' || precision === 'day') && turn !== 'postponed';
}

const wantsTime = ({ precision, turn }: PerformanceFacts) => precision === 'day' || turn === 'postponed';

/** The values of all tokens for one performance; an empty text where the record does not say. */
export function tokenValues(facts: Facts, performance: PerformanceFacts | undefined): Record<Token, string> {
  const exact = performance !== undefined && dayStands(performance);
  const time = (at: number | null | undefined) =>
    at === null || at === undefined || !performance || performance.turn === 'postponed'
      ? ''
      : toLocal(at, performance.zone).time;
  const date = exact ? longDate(performance.date) : (performance?.dateNote ?? '');
  return {
    title: facts.title,
    subtitle: facts.subtitle,
    line_up: performance?.lineUp ?? facts.lineUp,
    headliner: facts.headliner,
    date,
    day: exact ? date.split(' ').slice(1, 3).join(' ') : date,
    weekday: exact ? (date.split(' ')[0] ?? '') : '',
    doors: time(performance?.doors),
    start: time(performance?.start) || (performance && wantsTime(performance) ? facts.follow.time : ''),
    end: time(performance?.end),
    zone: performance?.zoneNote ?? '',
    venue: performance?.place?.venue ?? facts.follow.place,
    room: performance?.place?.room ?? '',
    town: performance?.place?.town ?? '',
    address: performance?.place?.address ?? '',
    find_it: performance?.place?.findIt ?? '',
    map: mapAddress(performance?.place?.point ?? null, facts.aboutUs),
    price: facts.price.kind === 'unknown' ? facts.follow.price : facts.price.words,
    sale: saleWords(facts),
    link: facts.link.kind === 'known' ? facts.link.href : '',
    age: facts.age,
    organiser: facts.organiser?.name ?? '',
    about_organiser: facts.organiser?.boilerplate ?? '',
    house_mail: facts.aboutUs.mail,
    hashtag: hashtagWords(facts.hashtags),
    series: facts.series,
  };
}

/** `#HarpNight #MarrowbyFestival`. */
export function hashtagWords(hashtags: readonly string[]): string {
  return hashtags.map((hashtag) => `#${hashtag}`).join(' ');
}

/**
 * How the sale stands, by the clock: `on sale Fri 12 Feb 10:00` before it opens, `on sale now` after; empty where
 * nothing is sold.
 */
function saleWords({ availability, price, performances, ticketed }: Facts): string {
  if (!ticketed) return '';
  switch (availability) {
    case 'not yet on sale':
      return price.kind === 'priced' && price.opens !== null
        ? `on sale ${inZone(momentWords(price.opens, performances[0]?.zone ?? 'UTC').replace(/ \d{4},/, ''), performances[0])}`
        : '';
    case 'on sale':
    case 'low':
      return price.kind === 'unknown' ? '' : 'on sale now';
    case 'sold out':
      return 'sold out';
    case 'off sale':
      return 'no longer on sale';
    case 'cancelled':
      return 'cancelled';
  }
}

/**
 * Fills tokens (`{{ name }}`, names from `tokens` alone) in plain or rich words from the facts of one performance. What
 * cannot be filled is left out and named; what is no token stays as it is written, and is told.
 */
export function fillTokens(
  text: string,
  facts: Facts,
  performance: PerformanceFacts | undefined,
  kind: 'plain' | 'rich',
): Filled {
  if (!text.includes('{{')) return { text, unknown: [], empty: [], broken: null };
  const values = tokenValues(facts, performance);
  const unknown = new Set<string>();
  const empty = new Set<string>();
  let broken: string | null = null;
  let filled = '';
  for (const piece of tokenPieces(text)) {
    if (piece.kind === 'text') filled += piece.text;
    else if (piece.kind === 'broken') {
      filled += piece.text;
      broken ??= `${quoted(text.slice(text.indexOf(piece.text)))} is none`;
    } else if (!Object.hasOwn(values, piece.name)) unknown.add(piece.name);
    else {
      const value = values[piece.name as Token];
      if (value === '') empty.add(piece.name);
      filled += kind === 'rich' ? escapeHtml(value) : value;
    }
    if (filled.length > mostFilledChars)
      return {
        text: filled.slice(0, mostFilledChars),
        unknown: [...unknown],
        empty: [...empty],
        broken: 'there are so many that the words grow beyond any length',
      };
  }
  return { text: filled, unknown: [...unknown], empty: [...empty], broken };
}

function escapeHtml(text: string): string {
  return text.replace(
    /[&<>"']/g,
    (mark) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[mark] ?? '&#39;',
  );
}

/** The tokens that begin with what is being typed at the end of `before`; `null` where no token is being typed. */
export function tokenBeingTyped(before: string): { typed: string; matches: Token[] } | null {
  const found = /\{\{?\s*(\w{0,20})$/.exec(before);
  if (!found) return null;
  const typed = (found[1] ?? '').toLowerCase();
  return {
    typed: found[0],
    matches: (Object.keys(tokens) as Token[]).filter((candidate) => candidate.startsWith(typed)),
  };
}
