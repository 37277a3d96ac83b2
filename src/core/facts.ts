import { longDate } from './date-words';
import { roomFor, type Organiser, type Point, type Venue } from './directory';
import type { EventKind, LineUpEntry, Override, Performance, PictureUse, Precision, RecordContent, Turn } from './record';
import type { Currency } from './money';
import { houseOf, type House, type Sold } from './tickets/seats';
import { availability, priceNow, type Availability, type PriceFacts } from './tickets/price-now';
import type { Buyers, Fee, Outlet, Registration } from './ticket-schema';
import { saleWindow } from './tickets/windows';
import { addDays, instantOf, type Instant } from './zones';

export type { PriceFacts } from './tickets/price-now';

/** One performance in canonical form: instants, and the place in words. */
export interface PerformanceFacts {
  id: string;
  precision: Precision;
  /** For the order: the start, or the beginning of the day or month that is known. */
  at: Instant;
  start: Instant | null;
  /** The end that the public may see. */
  end: Instant | null;
  doors: Instant | null;
  /** From this moment on it is over, as far as is known. */
  over: Instant;
  zone: string;
  /** Calendar date of the start, in `zone`. */
  date: string;
  /** Last day of an event of several days. */
  lastDate: string | null;
  /** The date as far as it is known: `March 2027, date to follow`. Empty where it is exact. */
  dateNote: string;
  place: PlaceFacts | null;
  turn: Turn;
  soldOut: boolean;
  note: string;
  lineUp: string;
  /** Where this one is sold, if not where the others are. */
  ownLink: string | null;
}

export interface PlaceFacts {
  venueId: string;
  roomId: string | null;
  venue: string;
  room: string | null;
  address: string;
  town: string;
  country: string;
  capacity: number | null;
  point: Point | null;
  findIt: string;
  /** The venue's own id on a channel. */
  channelIds: Readonly<Record<string, string>>;
}

/** Where a member of the public gets a ticket: known, still to come from an upstream channel, or nowhere. */
export type LinkFacts = { kind: 'known'; href: string } | { kind: 'awaited'; from: string; track: { name: string; value: string } | null } | { kind: 'none' };

export interface LevelFacts {
  id: string;
  name: string;
  minor: number;
  currency: Currency;
  quantity: number | null;
  hidden: boolean;
  buyers: Buyers;
  /** The code that opens a hidden level. */
  code: string;
  /** Zone of the sale's moments. */
  zone: string;
  opens: Instant | null;
  closes: Instant | null;
  most: number | null;
}

/** What a record says at one revision, made canonical. */
export interface Facts {
  code: string;
  title: string;
  shortTitle: string;
  subtitle: string;
  kind: EventKind;
  tags: readonly string[];
  hashtag: string;
  organiser: Organiser | null;
  performances: PerformanceFacts[];
  lineUp: string;
  headliner: string;
  price: PriceFacts;
  availability: Availability;
  house: House;
  levels: LevelFacts[];
  ticketed: boolean;
  registration: Registration | null;
  mode: RecordContent['tickets']['mode'];
  /** What can be linked to in order of priority; a channel picks the first that is to be had (see `linkFor`). */
  outlets: readonly Outlet[];
  link: LinkFacts;
  online: string | null;
  line: string;
  teaser: string;
  short: string;
  full: string;
  access: string;
  age: string;
  pictures: readonly PictureUse[];
  overrides: readonly Override[];
  visibility: 'private' | 'unlisted' | 'public';
  pencilled: boolean;
  carried: RecordContent['carried'];
  /** Lengths that were drafted and not looked at yet. */
  drafted: readonly string[];
  announceAt: Instant | null;
  announceZone: string;
}

/** What facts need beside the record itself. */
export interface FactsContext {
  code: string;
  venues: ReadonlyMap<string, Venue>;
  organisers?: ReadonlyMap<string, Organiser>;
  now: Instant;
  /** Purchases so far, by performance id and level id. */
  sold?: ReadonlyMap<string, Sold>;
}

const noSales: Sold = new Map();

/** Makes a record's content canonical. Pure; unknown stays unknown. */
export function facts(content: RecordContent, context: FactsContext): Facts {
  const { announce, visibility } = content.publicity;
  const billing = content.lineUp.map((one) => `${one.id} ${one.role} ${one.name}`).join('|');
  const performances = content.performances
    .map((one) => performanceFacts(one, content.lineUp, billing, context.venues))
    .filter((one): one is PerformanceFacts => one !== null)
    .sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1));
  const next = nextOf(performances, context.now);
  const saleOf = sale(content, next, context);
  return {
    code: context.code,
    title: content.title,
    shortTitle: content.shortTitle,
    subtitle: content.subtitle,
    kind: content.kind,
    tags: content.tags,
    hashtag: content.hashtag,
    organiser: (content.organiserId !== null && context.organisers?.get(content.organiserId)) || null,
    performances,
    lineUp: lineUpWords(content.lineUp),
    headliner: listWords(content.lineUp.filter((one) => one.role === 'headliner').map((one) => one.name)),
    ...saleOf,
    ticketed: content.tickets.mode === 'ticketed',
    registration: content.tickets.mode === 'registration' ? content.tickets.registration : null,
    mode: content.tickets.mode,
    outlets: content.tickets.outlets,
    link: ['elsewhere', 'registration'].includes(content.tickets.mode) && content.tickets.link !== null ? { kind: 'known', href: content.tickets.link } : { kind: 'none' },
    online: content.online?.link ?? null,
    line: content.words.line.trim(),
    teaser: content.words.teaser.trim(),
    short: content.words.short.trim(),
    full: content.words.full,
    access: content.words.access.trim(),
    age: content.words.age.trim(),
    pictures: content.pictures,
    overrides: content.overrides,
    visibility,
    pencilled: content.stage === 'pencilled',
    carried: content.carried,
    drafted: content.words.drafted,
    announceAt: announce === null ? null : instantOf(announce, announce.zone),
    announceZone: announce?.zone ?? content.performances[0]?.zone ?? 'UTC',
  };
}

/** The next performance that is not over, or the last one. */
export function nextOf(performances: readonly PerformanceFacts[], now: Instant): PerformanceFacts | undefined {
  return performances.find((one) => one.over >= now) ?? performances[performances.length - 1];
}

/** Price, availability, sums and levels, as they are for the next performance. */
function sale(content: RecordContent, next: PerformanceFacts | undefined, { venues, now, sold }: FactsContext): Pick<Facts, 'price' | 'availability' | 'house' | 'levels'> {
  const { tickets } = content;
  const raw = content.performances.find((one) => one.id === next?.id);
  const room = raw && raw.venueId !== null ? roomFor(venues.get(raw.venueId), raw.roomId, raw.setUpId) : null;
  const fee = firstFee(tickets.outlets);
  const house = houseOf(tickets, room?.capacity ?? null, room?.holds ?? [], (next && sold?.get(next.id)) ?? noSales, fee);
  const at = { start: next?.start ?? null, zone: next?.zone ?? 'UTC', now, levels: house.levels, fee };
  return {
    house,
    price: priceNow(tickets, at),
    availability: availability(tickets.levels, at, { cancelled: next?.turn === 'cancelled', soldOut: next?.soldOut ?? false, left: house.left, pool: house.pool }),
    levels: tickets.mode !== 'ticketed' ? [] : tickets.levels.map((level): LevelFacts => {
      const { opens, closes } = saleWindow(level, at.start, at.zone);
      return {
        id: level.id, name: level.name, minor: level.price, currency: tickets.currency, most: level.most, buyers: level.buyers,
        quantity: level.quantity ?? house.pool, code: level.buyers === 'code' ? level.code : '', zone: at.zone, hidden: level.buyers === 'code' || level.buyers === 'members' || level.buyers === 'invited',
        opens, closes: level.closes === null ? null : closes,
      };
    }),
  };
}

/** The fee that the public meets first: that of the outlet of the highest priority. */
export function firstFee(outlets: readonly Outlet[]): Fee | null {
  return outlets.find((one) => one.fee !== null)?.fee ?? null;
}

interface MadeFacts {
  /** The line-up in one text: equal texts are equal line-ups. */
  billing: string;
  venues: ReadonlyMap<string, Venue>;
  facts: PerformanceFacts | null;
}

const madeBefore = new WeakMap<Performance, MadeFacts>();

/** A performance's facts; made anew only when it or the directory is another object than before, or the line-up reads otherwise. */
function performanceFacts(one: Performance, lineUp: readonly LineUpEntry[], billing: string, venues: ReadonlyMap<string, Venue>): PerformanceFacts | null {
  const kept = madeBefore.get(one);
  if (kept && kept.billing === billing && kept.venues === venues) return kept.facts;
  const facts = makePerformanceFacts(one, lineUp, venues);
  madeBefore.set(one, { billing, venues, facts });
  return facts;
}

function makePerformanceFacts(one: Performance, lineUp: readonly LineUpEntry[], venues: ReadonlyMap<string, Venue>): PerformanceFacts | null {
  const times = timesOf(one);
  if (times === null) return null;
  const venue = one.venueId === null ? undefined : venues.get(one.venueId);
  const names = one.lineUpOut.length === 0 ? lineUp : lineUp.filter((entry) => !one.lineUpOut.includes(entry.id));
  const words = lineUpWords(names);
  return {
    id: one.id, precision: one.precision, ...times, zone: one.zone, date: one.date, lastDate: one.lastDate, dateNote: dateNote(one),
    place: venue ? placeFacts(venue, one) : null,
    turn: one.turn, soldOut: one.soldOut, note: one.note, ownLink: one.link,
    lineUp: one.lineUpExtra === '' ? words : [words, one.lineUpExtra].filter((part) => part !== '').join(', also '),
  };
}

/** How long a performance of unknown end is taken to last, for order and clashes. */
export const assumedLengthMs = 3 * 3_600_000;

function timesOf(one: Performance): Pick<PerformanceFacts, 'at' | 'start' | 'end' | 'doors' | 'over'> | null {
  const repeat = one.repeat ?? 'first';
  const at = (date: string, time: string) => instantOf({ date, time }, one.zone, repeat);
  const dawn = (date: string) => at(date, '00:00') ?? at(date, '01:00') ?? Date.parse(`${date}T00:00:00Z`);
  if (one.precision === 'open') return { at: dawn(one.date), start: null, end: null, doors: null, over: Infinity };
  if (one.precision === 'month') {
    const first = `${one.date.slice(0, 7)}-01`;
    return { at: dawn(first), start: null, end: null, doors: null, over: dawn(addDays(first, 31)) };
  }
  const last = dawn(addDays(one.lastDate ?? one.date, 1));
  const doors = one.doors === null ? null : at(one.date, one.doors);
  if (one.start === null || one.precision === 'day') return { at: dawn(one.date), start: null, end: null, doors: null, over: last };
  const start = at(one.date, one.start);
  if (start === null) return null;
  const end = one.end === null ? null : at(one.lastDate ?? (one.endsNextDay ? addDays(one.date, 1) : one.date), one.end);
  const over = end ?? (one.lastDate === null ? start + assumedLengthMs : last);
  return { at: start, start, doors, end: one.endHidden ? null : end, over };
}

/** What is known of a date that is not exact, as the public reads it. */
function dateNote({ precision, date, lastDate }: Performance): string {
  const [, day = '', month = '', year = ''] = /^\w+ (\d+) (\w+) (\d+)$/.exec(longDate(date)) ?? [];
  switch (precision) {
    case 'open':
      return 'Date to follow';
    case 'month':
      return `${month} ${year}, date to follow`;
    case 'day':
      return `${longDate(date)}, time to follow`;
    case 'exact':
      return lastDate === null || lastDate === date ? '' : `${day} ${month} to ${longDate(lastDate).replace(/^\w+ /, '')}`;
  }
}

function placeFacts(venue: Venue, one: Performance): PlaceFacts {
  const found = roomFor(venue, one.roomId, one.setUpId);
  return {
    venueId: venue.id, roomId: found?.room.id ?? null, venue: venue.name, room: found?.room.name ?? null, address: venue.address, town: venue.town,
    country: venue.country, capacity: found?.capacity ?? null, point: venue.point, findIt: venue.findIt, channelIds: venue.channelIds,
  };
}

/** `X with Y and special guest Z`, in billing order. */
export function lineUpWords(lineUp: readonly Pick<LineUpEntry, 'name' | 'role'>[]): string {
  const named = (role: string) => lineUp.filter((one) => one.role === role).map((one) => one.name);
  const lead = listWords(named('headliner'));
  const guests = named('special guest').map((name) => `special guest ${name}`);
  const rest = listWords([...named('support'), ...guests]);
  if (lead === '') return rest;
  return rest === '' ? lead : `${lead} with ${rest}`;
}

/** `A`, `A and B`, `A, B and C`. */
export function listWords(names: readonly string[]): string {
  const last = names[names.length - 1];
  if (last === undefined) return '';
  return names.length === 1 ? last : `${names.slice(0, -1).join(', ')} and ${last}`;
}

/** What a record's stage is called: what is typed, and what follows from cues, turns and the clock. */
export type Stage = 'pencilled' | 'confirmed' | 'announced' | 'on sale' | 'sold out' | 'postponed' | 'cancelled' | 'played';

/** A record's stage as the season shows it. */
export function stageOf(facts: Facts, now: Instant): Stage {
  const { performances } = facts;
  const all = (turn: Turn) => performances.length > 0 && performances.every((one) => one.turn === turn);
  if (all('cancelled')) return 'cancelled';
  if (all('postponed')) return 'postponed';
  if (performances.length > 0 && performances.every((one) => one.over < now)) return 'played';
  if (facts.pencilled) return 'pencilled';
  const left = performances.filter((one) => one.over >= now && one.turn !== 'cancelled');
  if (left.length > 0 && (left.every((one) => one.soldOut) || (left.length === 1 && facts.availability === 'sold out'))) return 'sold out';
  if (facts.visibility !== 'public' || (facts.announceAt !== null && facts.announceAt > now)) return 'confirmed';
  return facts.link.kind === 'known' && facts.availability !== 'not yet on sale' ? 'on sale' : 'announced';
}

/** What befell an event, as the public must be told: empty where nothing did. */
export function turnWords(performances: readonly PerformanceFacts[]): string {
  const words: Record<Exclude<Turn, 'none'>, string> = { postponed: 'Postponed', rescheduled: 'New date', moved: 'New place', cancelled: 'Cancelled' };
  const said = (one: PerformanceFacts) => (one.turn === 'none' ? (one.soldOut ? 'Sold out' : '') : words[one.turn]);
  const all = [...new Set(performances.map(said))];
  if (all.length === 1) return all[0] ?? '';
  return performances.filter((one) => said(one) !== '').slice(0, 6).map((one) => `${said(one)}: ${longDate(one.date).replace(/ \d{4}$/, '')}`).join('; ');
}
