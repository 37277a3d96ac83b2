import { Liquid } from 'liquidjs';
import { longDate } from '../date-words';
import type { Facts } from '../facts';
import type { PerformanceFacts } from '../performance-facts';
import { toLocal } from '../zones';

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
  venue: 'the venue',
  room: 'the room',
  town: 'the town',
  address: 'the venue’s address',
  find_it: 'how to find the venue',
  price: 'the price, as it is now',
  link: 'the ticket link',
  age: 'the age guidance',
  organiser: 'the organiser',
  about_organiser: 'the organiser’s standing paragraph',
  hashtag: 'the hashtag',
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
  /** The template itself is broken: an unclosed token, or more than a token. */
  broken: string | null;
}

const bounds = { parseLimit: 200_000, renderLimit: 200, memoryLimit: 5_000_000 };
const plainEngine = new Liquid({ ...bounds, ownPropertyOnly: true });
const richEngine = new Liquid({ ...bounds, ownPropertyOnly: true, outputEscape: 'escape' });
// Tokens and filters only: no loops, no conditions, no files.
for (const engine of [plainEngine, richEngine]) for (const name of Object.keys(engine.tags)) delete engine.tags[name];

/** The values of all tokens for one performance; an empty text where the record does not say. */
export function tokenValues(facts: Facts, one: PerformanceFacts | undefined): Record<Token, string> {
  const time = (at: number | null | undefined) => (at === null || at === undefined || !one ? '' : toLocal(at, one.zone).time);
  const exact = one?.precision === 'exact' || one?.precision === 'day';
  const date = one && exact ? longDate(one.date) : (one?.dateNote ?? '');
  return {
    title: facts.title, subtitle: facts.subtitle, line_up: one?.lineUp ?? facts.lineUp, headliner: facts.headliner,
    date, day: exact ? date.split(' ').slice(1, 3).join(' ') : date, weekday: exact ? (date.split(' ')[0] ?? '') : '',
    doors: time(one?.doors), start: time(one?.start), end: time(one?.end),
    venue: one?.place?.venue ?? '', room: one?.place?.room ?? '', town: one?.place?.town ?? '', address: one?.place?.address ?? '', find_it: one?.place?.findIt ?? '',
    price: facts.price.kind === 'priced' ? facts.price.words : facts.price.kind === 'free' ? 'free' : '',
    link: facts.link.kind === 'known' ? facts.link.href : '',
    age: facts.age, organiser: facts.organiser?.name ?? '', about_organiser: facts.organiser?.boilerplate ?? '', hashtag: facts.hashtag === '' ? '' : `#${facts.hashtag}`,
  };
}

/**
 * Fills tokens in plain or rich words from the facts of one performance. What cannot be filled is left out and named;
 * a broken template comes back as it is. Work and memory are bounded.
 */
export function fillTokens(text: string, facts: Facts, one: PerformanceFacts | undefined, kind: 'plain' | 'rich'): Filled {
  if (!text.includes('{{') && !text.includes('{%')) return { text, unknown: [], empty: [], broken: null };
  const values: Record<string, string> = tokenValues(facts, one);
  const named = [...text.matchAll(/\{\{-?\s*([\w.]+)/g)].map((found) => found[1] ?? '');
  const unknown = [...new Set(named.filter((name) => !(name in values)))];
  const empty = [...new Set(named.filter((name) => values[name] === ''))];
  try {
    const engine = kind === 'rich' ? richEngine : plainEngine;
    return { text: engine.parseAndRenderSync(text, values) as string, unknown, empty, broken: null };
  } catch (error) {
    return { text, unknown, empty, broken: error instanceof Error ? (error.message.split('\n')[0] ?? '') : 'it cannot be read' };
  }
}

/** The tokens that begin with what is being typed at the end of `before`; `null` where no token is being typed. */
export function tokenBeingTyped(before: string): { typed: string; matches: Token[] } | null {
  const found = /\{\{?\s*(\w{0,20})$/.exec(before);
  if (!found) return null;
  const typed = (found[1] ?? '').toLowerCase();
  return { typed: found[0], matches: (Object.keys(tokens) as Token[]).filter((one) => one.startsWith(typed)) };
}
