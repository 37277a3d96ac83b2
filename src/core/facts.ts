import { moneyWords, type Currency } from './money';
import type { EventKind, Performance, PictureUse, RecordContent, Venue } from './record';
import { addDays, instantOf, type Instant } from './zones';

/** One performance in canonical form: instants, and the place in words. */
export interface PerformanceFacts {
  id: string;
  start: Instant;
  end: Instant | null;
  doors: Instant | null;
  zone: string;
  /** Calendar date of the start, in `zone`. */
  date: string;
  place: PlaceFacts | null;
}

export interface PlaceFacts {
  venue: string;
  room: string | null;
  address: string;
  town: string;
  country: string;
  capacity: number | null;
}

/** What a member of the public pays. */
export type PriceFacts =
  | { kind: 'unknown' }
  | { kind: 'free' }
  | { kind: 'priced'; currency: Currency; from: number; to: number; words: string };

/** Where a member of the public gets a ticket: known, still to come from an upstream channel, or nowhere. */
export type LinkFacts = { kind: 'known'; href: string } | { kind: 'awaited'; from: string } | { kind: 'none' };

export interface LevelFacts {
  id: string;
  name: string;
  minor: number;
  currency: Currency;
  quantity: number | null;
}

/** What a record says at one revision, made canonical. */
export interface Facts {
  code: string;
  title: string;
  subtitle: string;
  kind: EventKind;
  performances: PerformanceFacts[];
  lineUp: string;
  price: PriceFacts;
  levels: LevelFacts[];
  ticketed: boolean;
  link: LinkFacts;
  teaser: string;
  full: string;
  picture: PictureUse | null;
  visibility: 'private' | 'public';
  pencilled: boolean;
  announceAt: Instant | null;
  announceZone: string;
}

/** What facts need beside the record itself. */
export interface FactsContext {
  code: string;
  venues: ReadonlyMap<string, Venue>;
  /** The ticket link that an upstream channel has given, or the channel it is still to come from. */
  upstream: { href: string } | { from: string } | null;
}

/** Makes a record's content canonical. Pure; unknown stays unknown. */
export function facts(content: RecordContent, context: FactsContext): Facts {
  const { announce, visibility } = content.publicity;
  const performances = content.performances
    .map((one) => performanceFacts(one, context.venues))
    .filter((one): one is PerformanceFacts => one !== null)
    .sort((a, b) => a.start - b.start || (a.id < b.id ? -1 : 1));
  return {
    code: context.code,
    title: content.title,
    subtitle: content.subtitle,
    kind: content.kind,
    performances,
    lineUp: lineUpWords(content.lineUp),
    price: priceFacts(content),
    levels: levelFacts(content, performances),
    ticketed: content.tickets.mode === 'ticketed',
    link: linkFacts(content, context),
    teaser: content.words.teaser.trim(),
    full: content.words.full,
    picture: content.pictures[0] ?? null,
    visibility,
    pencilled: content.stage === 'pencilled',
    announceAt: announce === null ? null : instantOf(announce, announce.zone),
    announceZone: announce?.zone ?? content.performances[0]?.zone ?? 'UTC',
  };
}

function performanceFacts(one: Performance, venues: ReadonlyMap<string, Venue>): PerformanceFacts | null {
  const repeat = one.repeat ?? 'first';
  const at = (date: string, time: string) => instantOf({ date, time }, one.zone, repeat);
  const start = at(one.date, one.start);
  if (start === null) return null;
  const venue = one.venueId === null ? undefined : venues.get(one.venueId);
  return {
    id: one.id,
    start,
    end: one.end === null ? null : at(one.endsNextDay ? addDays(one.date, 1) : one.date, one.end),
    doors: one.doors === null ? null : at(one.date, one.doors),
    zone: one.zone,
    date: one.date,
    place: venue ? placeFacts(venue, one.roomId) : null,
  };
}

function placeFacts(venue: Venue, roomId: string | null): PlaceFacts {
  const room = venue.rooms.find((one) => one.id === roomId);
  return {
    venue: venue.name,
    room: room?.name ?? null,
    address: venue.address,
    town: venue.town,
    country: venue.country,
    capacity: room?.capacity ?? null,
  };
}

/** `X with Y and special guest Z`, in billing order. */
export function lineUpWords(lineUp: RecordContent['lineUp']): string {
  const named = (role: string) => lineUp.filter((one) => one.role === role).map((one) => one.name);
  const lead = listWords(named('headliner'));
  const guests = named('special guest').map((name) => `special guest ${name}`);
  const rest = listWords([...named('support'), ...guests]);
  if (lead === '') return rest;
  return rest === '' ? lead : `${lead} with ${rest}`;
}

/** `A`, `A and B`, `A, B and C`. */
function listWords(names: readonly string[]): string {
  const last = names[names.length - 1];
  if (last === undefined) return '';
  return names.length === 1 ? last : `${names.slice(0, -1).join(', ')} and ${last}`;
}

function priceFacts(content: RecordContent): PriceFacts {
  const { mode, levels, currency } = content.tickets;
  if (mode === 'free entry') return { kind: 'free' };
  if (levels.length === 0) return { kind: 'unknown' };
  const full = levels.filter((level) => !level.concession);
  const prices = levels.map((level) => level.price);
  const from = Math.min(...prices);
  const lowestFull = Math.min(...(full.length > 0 ? full : levels).map((level) => level.price));
  const to = Math.max(...prices);
  if (to === 0) return { kind: 'free' };
  return { kind: 'priced', currency, from, to, words: priceWords(from, lowestFull, to, currency) };
}

/** Concessions make a range (`€16–€22`); several full prices make a `from`; one price stands alone. */
function priceWords(from: number, lowestFull: number, to: number, currency: Currency): string {
  if (from < lowestFull) return `${moneyWords(from, currency)}–${moneyWords(lowestFull, currency)}`;
  return from < to ? `from ${moneyWords(from, currency)}` : moneyWords(from, currency);
}

function levelFacts(content: RecordContent, performances: readonly PerformanceFacts[]): LevelFacts[] {
  const capacity = performances[0]?.place?.capacity ?? null;
  const { mode, levels, currency } = content.tickets;
  if (mode !== 'ticketed') return [];
  return levels.map((level) => ({ id: level.id, name: level.name, minor: level.price, currency, quantity: level.quantity ?? capacity }));
}

function linkFacts(content: RecordContent, { upstream }: FactsContext): LinkFacts {
  if (content.tickets.mode === 'elsewhere') {
    return content.tickets.link === null ? { kind: 'none' } : { kind: 'known', href: content.tickets.link };
  }
  if (content.tickets.mode !== 'ticketed' || upstream === null) return { kind: 'none' };
  return 'href' in upstream ? { kind: 'known', href: upstream.href } : { kind: 'awaited', from: upstream.from };
}

/** A record's stage as the season shows it: what is typed, and what follows from cues and the clock. */
export function stageOf(facts: Facts, now: Instant): 'pencilled' | 'confirmed' | 'announced' | 'on sale' | 'played' {
  const last = facts.performances[facts.performances.length - 1];
  if (last && (last.end ?? last.start) < now) return 'played';
  if (facts.pencilled) return 'pencilled';
  if (facts.visibility === 'private' || (facts.announceAt !== null && facts.announceAt > now)) return 'confirmed';
  return facts.link.kind === 'known' ? 'on sale' : 'announced';
}
