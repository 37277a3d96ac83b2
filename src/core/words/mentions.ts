import * as chrono from 'chrono-node/en';
import type { ParsedResult } from 'chrono-node/en';
import { dateParts, longDate, parseTimeOfDay } from '../date-words';
import type { Facts, PerformanceFacts } from '../facts';
import { moneyWords, parsePrice, type Currency } from '../money';
import { addDays, toLocal, type Instant } from '../zones';
import { spokenTimes } from './spoken-times';
import type { Token } from './tokens';

/** What a mention says of the record: it is wrong, it was right once, or it is right and will not follow. */
export type Verdict = 'contradicts' | 'stale' | 'typed';

/** A fact that stands typed in prose, held against the record. */
export interface Mention {
  kind: 'date' | 'time' | 'price' | 'place' | 'name' | 'link';
  /** Where it stands in the text, in UTF-16 units. */
  from: number;
  to: number;
  text: string;
  verdict: Verdict;
  /** What the record says there, in words. */
  says: string;
  /** The token that would follow the record, where one says just this. */
  token: Token | null;
}

/** What the record said at earlier revisions, so that an old truth is told from an error. */
export interface Earlier {
  dates: readonly string[];
  times: readonly string[];
  /** In minor units: all that was asked, and the lowest of them. */
  prices: readonly number[];
  from: readonly number[];
  places: readonly string[];
  names: readonly string[];
  links: readonly string[];
}

export const noEarlier: Earlier = { dates: [], times: [], prices: [], from: [], places: [], names: [], links: [] };

/** What mentions are held against. */
export interface MentionGround {
  facts: Facts;
  now: Instant;
  earlier: Earlier;
  /** Names of all rooms of the record's venues. */
  rooms: readonly string[];
}

/** Longest text that is searched, in UTF-16 units; beyond it nothing is said. */
export const mostMentionChars = 60_000;
/** Most mentions told of one text. */
const mostMentions = 200;

/** Finds dates, times, prices, places, names and links typed into plain text, in order, each with its verdict. */
export function findMentions(text: string, ground: MentionGround): Mention[] {
  const searched = withoutTokens(text.slice(0, mostMentionChars));
  const taken: Mention[] = [];
  const add = (found: Mention[]) => {
    for (const one of found) if (!taken.some((other) => one.from < other.to && other.from < one.to)) taken.push(one);
  };
  add(links(searched, ground));
  add(prices(searched, ground));
  add(datesAndTimes(searched, ground));
  add(places(searched, ground));
  add(names(searched, ground));
  return taken.sort((a, b) => a.from - b.from).slice(0, mostMentions).map((one) => ({ ...one, text: text.slice(one.from, one.to) }));
}

/** Tokens are not typed facts: they are blanked out, and everything keeps its place. */
function withoutTokens(text: string): string {
  return text.replace(/\{[{%][\s\S]*?[%}]\}/g, (token) => '\u0000'.repeat(token.length));
}

const before = (text: string, at: number, length = 24) => text.slice(Math.max(0, at - length), at);

// ── Dates and times ──────────────────────────────────────────────────────────────────────────────

const elsewhere = /\b(since|founded|born|formed|released|recorded|established|from their|back in|until|died|premiered)\s+(in\s+|on\s+)?$/i;

function datesAndTimes(text: string, ground: MentionGround): Mention[] {
  const { facts, now } = ground;
  const zone = facts.performances[0]?.zone ?? 'UTC';
  const today = toLocal(now, zone).date;
  const found: Mention[] = [];
  for (const part of chrono.GB.parse(text, { instant: new Date(`${today}T12:00:00Z`), timezone: 'UTC' }, { forwardDate: true })) {
    const { start } = part;
    if (namesDay.test(part.text)) found.push(...aboutDate(text, part, ground, today));
    else if (start.isCertain('hour') && /\d/.test(part.text)) found.push(...aboutTime(text, part.index, part.text, timesIn(part.text), ground, null));
  }
  // A clock reading with a point is a number to the date parser; after `doors` or `starts` it is a time.
  for (const one of text.matchAll(/\b(?:doors?|opens?|starts?|begins?|until|ends?)\s*:?\s*(\d{1,2}[.:]\d{2})\b/gi)) {
    const from = one.index + one[0].length - (one[1]?.length ?? 0);
    if (!found.some((other) => other.from < from + 1 && from < other.to)) found.push(...aboutTime(text, from, one[1] ?? '', timesIn(one[1] ?? ''), ground, null));
  }
  for (const spoken of spokenTimes(text)) found.push(...aboutTime(text, spoken.from, text.slice(spoken.from, spoken.to), spoken.times, ground, null));
  return found;
}

/** A day is named by its date or its weekday. `Tonight`, `an hour` or `last` are not held against a calendar. */
const namesDay = /\b(?:mon|tues|wednes|thurs|fri|satur|sun)day\b|\b(?:mon|tue|wed|thu|fri|sat|sun)\b\.?,?\s+\d|\d{1,2}(?:st|nd|rd|th)?\s+(?:of\s+)?(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)|\b(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?\s+\d|\d{1,2}[/.]\d{1,2}|\d{4}-\d{2}-\d{2}/i;

function aboutDate(text: string, part: ParsedResult, ground: MentionGround, today: string): Mention[] {
  const { start, index } = part;
  const { performances } = ground.facts;
  if (performances.every((one) => one.precision === 'open')) return [];
  const date = dateOfParse(start, performances, today);
  const years = new Set(performances.flatMap((one) => [one.date, one.lastDate ?? one.date]).map((one) => Number(one.slice(0, 4))));
  // A date of another year, or one that tells of the past, is not about this event.
  if (date === null || elsewhere.test(before(text, index))) return [];
  // `Every Sunday`, `the first Sunday of the month`: a rule, not a day.
  if (!start.isCertain('day') && /\b(every|each|first|second|third|fourth|last|other)\s+$/i.test(before(text, index))) return [];
  const wasOurs = ground.earlier.dates.includes(date);
  if (start.isCertain('year') && !years.has(start.get('year') ?? 0) && !wasOurs) return [];
  const lead = /^(?:on|from)\s+/i.exec(part.text)?.[0].length ?? 0;
  const words = part.text.slice(lead).replace(/[,\s]*(at|from|,)?\s*$/i, '');
  const at = { kind: 'date' as const, from: index + lead, to: index + lead + words.length, text: words };
  const ours = performances.filter((one) => covers(one, date));
  const time = start.isCertain('hour') ? aboutTime(text, index, part.text, timesIn(part.text), ground, ours[0] ?? null).filter((one) => one.verdict !== 'typed') : [];
  if (time.length > 0 && ours.length > 0) return time;
  const wrongDay = wrongWeekday(start, date);
  if (wrongDay !== null) return [{ ...at, verdict: 'contradicts', says: wrongDay, token: 'date' }];
  if (ours.length > 0) return [{ ...at, verdict: 'typed', says: longDate(date), token: tokenFor(start, performances.length) }];
  if (wasOurs) return [{ ...at, verdict: 'stale', says: datesWords(performances), token: 'date' }];
  // A bare weekday says little: only one that points at a coming day is held against the record.
  const bare = !start.isCertain('day');
  if (bare && !/\b(this|on|next|coming)\b/i.test(`${before(text, index, 8)}${part.text}`)) return [];
  if (bare && performances.some((one) => dateParts(one.date).weekday.slice(0, 3).toLowerCase() === part.text.replace(/^(this|on|next|coming)\s+/i, '').slice(0, 3).toLowerCase())) return [];
  return [{ ...at, verdict: 'contradicts', says: datesWords(performances), token: 'date' }];
}

/** The date that was meant; where no year was said, that of our performance on that day and month, if there is one. */
function dateOfParse(start: ParsedResult['start'], performances: readonly PerformanceFacts[], today: string): string | null {
  const pad = (n: number | null) => String(n ?? 0).padStart(2, '0');
  const day = `${pad(start.get('month'))}-${pad(start.get('day'))}`;
  if (start.isCertain('day') && !start.isCertain('year')) {
    const ours = performances.find((one) => one.date.slice(5) === day || one.lastDate?.slice(5) === day);
    if (ours) return `${(ours.lastDate?.slice(5) === day ? ours.lastDate : ours.date).slice(0, 4)}-${day}`;
    const year = Number((performances.find((one) => one.date >= today) ?? performances[0])?.date.slice(0, 4) ?? today.slice(0, 4));
    return `${year}-${day}`;
  }
  const date = `${start.get('year')}-${day}`;
  return /^\d{4}-\d{2}-\d{2}$/.test(date) ? date : null;
}

function covers(one: PerformanceFacts, date: string): boolean {
  if (one.precision === 'month') return one.date.slice(0, 7) === date.slice(0, 7);
  return one.precision !== 'open' && one.date <= date && date <= (one.lastDate ?? one.date);
}

const weekdayNames = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];

/** `the 14th is a Sunday`, where both a day and a weekday were said and they do not fit. */
function wrongWeekday(start: ParsedResult['start'], date: string): string | null {
  if (!start.isCertain('weekday') || !start.isCertain('day')) return null;
  const real = dateParts(date).weekday;
  return weekdayNames[start.get('weekday') ?? -1] === real ? null : `the ${ordinal(dateParts(date).day)} is a ${real}`;
}

function ordinal(n: number): string {
  const tail = n % 100 >= 11 && n % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return `${n}${tail}`;
}

function tokenFor(start: ParsedResult['start'], count: number): Token | null {
  if (count > 1) return null;
  if (!start.isCertain('day')) return 'weekday';
  return start.isCertain('weekday') || start.isCertain('year') ? 'date' : 'day';
}

function datesWords(performances: readonly PerformanceFacts[]): string {
  const said = performances.filter((one) => one.precision !== 'open').map((one) => (one.dateNote === '' ? longDate(one.date) : one.dateNote));
  return said.length > 3 ? `${said.slice(0, 2).join(', ')} and ${said.length - 2} more` : said.join(', ');
}

type TimeRole = 'doors' | 'start' | 'end' | null;

/** Times that a phrase names, each as the readings it may have (`at 7`: 07:00 or 19:00). */
function timesIn(text: string): string[][] {
  return [...text.matchAll(/\b(\d{1,2})(?:[:.h](\d{2}))?\s*(am|pm)?\b(?!\s*(?:st|nd|rd|th)?\s*(?:of\s+)?(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)|[/.]\d)/gi)]
    .filter(([whole, , minutes, half]) => minutes !== undefined || half !== undefined || /\bat\s*\d{1,2}$/i.test(text.slice(0, text.indexOf(whole) + whole.length)))
    .map(([whole, , , half]) => {
      const read = parseTimeOfDay(whole.trim());
      if (read === null) return [];
      const hour = Number(read.slice(0, 2));
      return half === undefined && hour >= 1 && hour < 12 ? [read, `${hour + 12}${read.slice(2)}`] : [read];
    })
    .filter((readings) => readings.length > 0);
}

function roleAt(text: string, from: number, phrase: string): TimeRole {
  const lead = `${before(text, from, 28)}${phrase}`.toLowerCase();
  const last = [...lead.matchAll(/\b(doors?|opens?|starts?|starting|begins?|beginning|kicks off|on stage|curtain|until|till|ends?|ending|finish(?:es)?|over by)\b/g)].pop()?.[1] ?? '';
  if (/^(door|open)/.test(last)) return 'doors';
  if (/^(start|begin|kick|on stage|curtain)/.test(last)) return 'start';
  return /^(until|till|end|finish|over)/.test(last) ? 'end' : null;
}

function aboutTime(text: string, from: number, phrase: string, times: readonly string[][], { facts, earlier }: MentionGround, only: PerformanceFacts | null): Mention[] {
  const [readings] = times;
  if (!readings) return [];
  const role = roleAt(text, from, phrase.slice(0, Math.max(0, phrase.search(/\d/))));
  const performances = only ? [only] : facts.performances;
  const clock = (one: PerformanceFacts, which: 'doors' | 'start' | 'end') => (one[which] === null ? null : toLocal(one[which], one.zone).time);
  const known = (which: 'doors' | 'start' | 'end') => [...new Set(performances.map((one) => clock(one, which)).filter((time) => time !== null))];
  const at = { kind: 'time' as const, from, to: from + phrase.length, text: phrase };
  const roles = role === null ? (['start', 'doors', 'end'] as const) : ([role] as const);
  const hit = roles.find((which) => known(which).some((time) => readings.includes(time)));
  if (hit) return [{ ...at, verdict: 'typed', says: `${hit} ${known(hit).join(', ')}`, token: known(hit).length === 1 ? hit : null }];
  const target = role ?? (only ? 'start' : null);
  // A time that is neither said to be doors, start or end nor stands at one of our dates may be about anything.
  if (target === null || known(target).length === 0) return readings.some((time) => earlier.times.includes(time)) ? [{ ...at, verdict: 'stale', says: `start ${known('start').join(', ')}`, token: 'start' }] : [];
  const verdict = readings.some((time) => earlier.times.includes(time)) ? 'stale' : 'contradicts';
  return [{ ...at, verdict, says: `${target} ${known(target).join(', ')}`, token: known(target).length === 1 ? target : null }];
}

// ── Prices ───────────────────────────────────────────────────────────────────────────────────────

const signs: Record<string, Currency[]> = { '€': ['EUR'], '£': ['GBP'], $: ['USD', 'CAD', 'AUD'], kr: ['ISK'], zł: ['PLN'] };
const priceShape = /(from\s+|only\s+|just\s+)?(?:(€|£|\$|kr|zł)\s?(\d[\d.,]*\d|\d)|(\d[\d.,]*\d|\d)\s?(€|euros?\b|pounds?\b|zł|kr\b))/gi;

function prices(text: string, { facts, earlier }: MentionGround): Mention[] {
  const { price, levels } = facts;
  return [...text.matchAll(priceShape)].flatMap((found): Mention[] => {
    const [whole, lead = '', sign = '', after, first, word = ''] = found;
    if (price.kind !== 'priced' || /\b(worth|prize|raised?|raising|cost of|grant|award)\b[^.]{0,16}$/i.test(before(text, found.index))) return [];
    const mark = (sign || word).toLowerCase().replace(/^euros?$/, '€').replace(/^pounds?$/, '£');
    if (!signs[mark]?.includes(price.currency)) return [];
    const minor = parsePrice((after ?? first ?? '').replace(/[.,]$/, ''), price.currency);
    if (minor === null) return [];
    const at = { kind: 'price' as const, from: found.index, to: found.index + whole.length, text: whole };
    const isFrom = /^from/i.test(lead);
    const says = price.words;
    const right = isFrom ? minor === price.from : minor === price.from || minor === price.withFees || levels.some((level) => level.minor === minor);
    // The token says what the record says of its price; it stands for this only where they say the same.
    if (right) return [{ ...at, verdict: 'typed', says, token: isFrom || price.from === price.to ? 'price' : null }];
    return [{ ...at, verdict: (isFrom ? earlier.from : earlier.prices).includes(minor) ? 'stale' : 'contradicts', says: isFrom ? `from ${moneyWords(price.from, price.currency)}` : says, token: 'price' }];
  });
}

// ── Places, names, links ─────────────────────────────────────────────────────────────────────────

/** Every place where a whole name stands in a text. */
function standings(text: string, name: string): { from: number; to: number }[] {
  if (name.trim().length < 3) return [];
  const found: { from: number; to: number }[] = [];
  const lower = text.toLowerCase();
  const wanted = name.toLowerCase();
  for (let at = lower.indexOf(wanted); at >= 0 && found.length < 20; at = lower.indexOf(wanted, at + wanted.length)) {
    const edge = (char: string | undefined) => char === undefined || !/[\p{L}\p{N}]/u.test(char);
    if (edge(lower[at - 1]) && edge(lower[at + wanted.length])) found.push({ from: at, to: at + wanted.length });
  }
  return found;
}

function places(text: string, { facts, rooms, earlier }: MentionGround): Mention[] {
  const ours = new Map<string, Token>();
  for (const { place } of facts.performances) {
    if (place?.room) ours.set(place.room, 'room');
    if (place) ours.set(place.venue, 'venue');
  }
  const rooming = [...ours].filter(([, token]) => token === 'room').map(([name]) => name).join(', ');
  const one = ours.size <= 2;
  const right = [...ours].flatMap(([name, token]) => standings(text, name).map((at): Mention => ({ kind: 'place', ...at, text: name, verdict: 'typed', says: name, token: one ? token : null })));
  const wrong = [...new Set([...rooms, ...earlier.places])].filter((name) => !ours.has(name)).flatMap((name) =>
    standings(text, name).map((at): Mention => ({
      kind: 'place', ...at, text: name, verdict: earlier.places.includes(name) ? 'stale' : 'contradicts',
      says: rooming === '' ? [...ours.keys()].join(', ') : rooming, token: one ? 'room' : null,
    })));
  return [...right, ...wrong];
}

/** Names that were on the line-up once and are not any more. Those that are stand in every text, and say nothing. */
function names(text: string, { facts, earlier }: MentionGround): Mention[] {
  return earlier.names.filter((name) => !facts.lineUp.includes(name) && name !== facts.title).flatMap((name) =>
    standings(text, name).map((at): Mention => ({ kind: 'name', ...at, text: name, verdict: 'stale', says: facts.lineUp === '' ? 'nobody is billed' : facts.lineUp, token: 'line_up' })));
}

const bare = (href: string) => href.replace(/^https?:\/\//i, '').replace(/[?#].*$/, '').replace(/\/$/, '').toLowerCase();

function links(text: string, { facts, earlier }: MentionGround): Mention[] {
  const ours = [facts.link.kind === 'known' ? facts.link.href : null, ...facts.outlets.map((one) => one.link), ...facts.performances.map((one) => one.ownLink)].filter((one): one is string => one !== null);
  const hosts = new Set([...ours, ...earlier.links].map((one) => bare(one).split('/')[0]));
  return [...text.matchAll(/https?:\/\/[^\s<>"”)\u0000]+/gi)].flatMap((found): Mention[] => {
    const href = found[0].replace(/[.,;:!?]+$/, '');
    const at = { kind: 'link' as const, from: found.index, to: found.index + href.length, text: href };
    const says = ours[0] ?? 'no ticket link';
    if (ours.some((one) => bare(one) === bare(href))) return [{ ...at, verdict: 'typed', says, token: 'link' }];
    if (earlier.links.some((one) => bare(one) === bare(href))) return [{ ...at, verdict: 'stale', says, token: 'link' }];
    return hosts.has(bare(href).split('/')[0]) ? [{ ...at, verdict: 'contradicts', says, token: 'link' }] : [];
  });
}

/** What earlier revisions said, from their facts. */
export function earlierFrom(all: readonly Facts[]): Earlier {
  const of = <T>(pick: (facts: Facts) => readonly (T | null)[]) => [...new Set(all.flatMap(pick))].filter((one): one is T => one !== null);
  const clock = (at: Instant | null, zone: string) => (at === null ? null : toLocal(at, zone).time);
  return {
    dates: of((f) => f.performances.flatMap((one) => [one.date, one.lastDate && addDays(one.lastDate, 0)])),
    times: of((f) => f.performances.flatMap((one) => [clock(one.doors, one.zone), clock(one.start, one.zone), clock(one.end, one.zone)])),
    prices: of((f) => (f.price.kind === 'priced' ? [f.price.from, f.price.to, f.price.withFees] : [])),
    from: of((f) => (f.price.kind === 'priced' ? [f.price.from] : [])),
    places: of((f) => f.performances.flatMap((one) => [one.place?.room ?? null, one.place?.venue ?? null])),
    names: of((f) => f.lineUp.split(/, | and | with |special guest /).map((name) => name.trim()).filter((name) => name !== '')),
    links: of((f) => [f.link.kind === 'known' ? f.link.href : null, ...f.outlets.map((one) => one.link), ...f.performances.map((one) => one.ownLink)]),
  };
}
