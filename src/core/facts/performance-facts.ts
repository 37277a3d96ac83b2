import type { Currency } from '../base/money';
import { longDate, zonePlace, type KnownDay } from '../dates/date-words';
import { roomFor, type Point, type Venue } from '../record/directory';
import { doorsDate } from '../dates/readings';
import type { LineUpEntry, Performance } from '../record/record';
import { followable, type Precision, type Turn } from '../record/choices';
import { lineUpWords } from '../record/roles';
import { addDays, instantOf, sameZone, type Instant } from '../base/zones';

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
  /** `Adelaide time`, where the zone is not the house's: its clock then reads otherwise. Empty where it is. */
  zoneNote: string;
  /** Calendar date of the start, in `zone`. */
  date: string;
  /** Last day of an event of several days. */
  lastDate: string | null;
  /** The date as far as it is known: `March 2027, date to follow`. Empty where it is exact. */
  dateNote: string;
  place: PlaceFacts | null;
  /** Only held, and told to nobody. */
  pencilled: boolean;
  turn: Turn;
  /** When it was to begin before it was moved to another day; missing: it was not, or nobody knows. */
  previousStart?: Instant;
  soldOut: boolean;
  note: string;
  lineUp: string;
  /** Where this one is sold, if not where the others are. */
  ownLink: string | null;
}

interface PlaceFacts {
  venueId: string;
  roomId: string | null;
  venue: string;
  room: string | null;
  address: string;
  town: string;
  country: string;
  capacity: number | null;
  /** What one pays with there; `null`: not known. */
  pays: Currency | null;
  point: Point | null;
  findIt: string;
  /** The venue's own site; empty where it has none. */
  site: string;
  /** The venue's own id on a channel. */
  channelIds: Readonly<Record<string, string>>;
}

/** The next performance that is not over, or the last one. */
export function nextOf(performances: readonly PerformanceFacts[], now: Instant): PerformanceFacts | undefined {
  return performances.find((performance) => performance.over >= now) ?? performances[performances.length - 1];
}

/** The day of a performance as far as it is known: none where its date is open, or was given up and another follows. */
export function knownDay(performance: Pick<PerformanceFacts, 'precision' | 'turn' | 'date'> | undefined): KnownDay {
  if (!performance || performance.precision === 'open' || performance.turn === 'postponed') return '';
  return performance.precision === 'month' ? performance.date.slice(0, 7) : performance.date;
}

/** What the public reads in place of what is not known yet; an empty text: nothing. */
export type FollowWords = Readonly<Record<(typeof followable)[number], string>>;

/** What is said of what is to follow, where neither house nor record says otherwise. */
export const usualFollowWords: FollowWords = {
  date: 'date to follow',
  time: 'time to follow',
  place: '',
  lineUp: '',
  price: '',
};

/** What of a house the facts of a performance are made with. */
interface FactsOf {
  venues: ReadonlyMap<string, Venue>;
  follow?: FollowWords;
  /** The house's zone; not there: the public is told of none. */
  houseZone?: string;
}

interface MadeFacts extends FactsOf {
  /** The line-up in one text: equal texts are equal line-ups. */
  billing: string;
  facts: PerformanceFacts | null;
}

const madeBefore = new WeakMap<Performance, MadeFacts>();

/**
 * A performance's facts; made anew only when it or the directory is another object than before, or the line-up reads
 * otherwise.
 */
export function performanceFacts(
  performance: Performance,
  lineUp: readonly LineUpEntry[],
  billing: string,
  { venues, follow = usualFollowWords, houseZone }: FactsOf,
): PerformanceFacts | null {
  const kept = madeBefore.get(performance);
  if (
    kept?.billing === billing &&
    kept.venues === venues &&
    kept.houseZone === houseZone &&
    sameWords(kept.follow, follow)
  )
    return kept.facts;
  const facts = makePerformanceFacts(performance, lineUp, { venues, follow, houseZone });
  madeBefore.set(performance, { billing, venues, follow, houseZone, facts });
  return facts;
}

const sameWords = (a: FollowWords = usualFollowWords, b: FollowWords = usualFollowWords) =>
  a === b || followable.every((key) => a[key] === b[key]);

function makePerformanceFacts(
  performance: Performance,
  lineUp: readonly LineUpEntry[],
  { venues, follow = usualFollowWords, houseZone }: FactsOf,
): PerformanceFacts | null {
  const times = timesOf(performance);
  if (times === null) return null;
  const venue = performance.venueId === null ? undefined : venues.get(performance.venueId);
  const names =
    performance.lineUpOut.length === 0 ? lineUp : lineUp.filter((entry) => !performance.lineUpOut.includes(entry.id));
  const words = lineUpWords(names);
  return {
    id: performance.id,
    precision: performance.precision,
    ...times,
    zone: performance.zone,
    zoneNote: zoneNote(performance.zone, houseZone),
    date: performance.date,
    lastDate: performance.lastDate,
    dateNote: dateNote(performance, follow),
    place: venue ? placeFacts(venue, performance) : null,
    pencilled: performance.pencilled,
    turn: performance.turn,
    ...previousStart(performance),
    soldOut: performance.soldOut,
    note: performance.note,
    ownLink: performance.link,
    lineUp:
      performance.lineUpExtra === ''
        ? words
        : [words, performance.lineUpExtra].filter((part) => part !== '').join(', also '),
  };
}

/** How long a performance of unknown end is taken to last, for order and clashes. */
export const assumedLengthMs = 3 * 3_600_000;

function timesOf(performance: Performance): Pick<PerformanceFacts, 'at' | 'start' | 'end' | 'doors' | 'over'> | null {
  const repeat = performance.repeat ?? 'first';
  const at = (date: string, time: string) => instantOf({ date, time }, performance.zone, repeat);
  const dawn = (date: string) => at(date, '00:00') ?? at(date, '01:00') ?? Date.parse(`${date}T00:00:00Z`);
  if (performance.precision === 'open')
    return { at: dawn(performance.date), start: null, end: null, doors: null, over: Infinity };
  if (performance.precision === 'month') {
    const first = `${performance.date.slice(0, 7)}-01`;
    return { at: dawn(first), start: null, end: null, doors: null, over: dawn(addDays(first, 31)) };
  }
  const last = dawn(addDays(performance.lastDate ?? performance.date, 1));
  const doors = performance.doors === null ? null : at(doorsDate(performance), performance.doors);
  if (performance.start === null || performance.precision === 'day')
    return { at: dawn(performance.date), start: null, end: null, doors: null, over: last };
  const start = at(performance.date, performance.start);
  if (start === null) return null;
  const end =
    performance.end === null
      ? null
      : at(
          performance.lastDate ?? (performance.endsNextDay ? addDays(performance.date, 1) : performance.date),
          performance.end,
        );
  const over = end ?? (performance.lastDate === null ? start + assumedLengthMs : last);
  return { at: start, start, doors, end: performance.endHidden ? null : end, over };
}

/** When a date that was moved to another day was to begin (schema.org, `previousStartDate`). */
function previousStart({ turn, was, zone }: Performance): Pick<PerformanceFacts, 'previousStart'> {
  if (turn !== 'rescheduled' || was?.start == null) return {};
  const at = instantOf({ date: was.date, time: was.start }, zone);
  return at === null ? {} : { previousStart: at };
}

const zoneNote = (zone: string, houseZone: string | undefined) =>
  houseZone === undefined || sameZone(zone, houseZone) ? '' : `${zonePlace(zone)} time`;

const dateToFollow = (follow: FollowWords) => follow.date.replace(/^./, (c) => c.toUpperCase());

/** What is known of a date that is not exact, as the public reads it. */
function dateNote({ precision, date, lastDate, turn }: Performance, follow: FollowWords): string {
  if (turn === 'postponed') return dateToFollow(follow);
  if (precision === 'exact' && (lastDate === null || lastDate === date)) return '';
  const [, day = '', month = '', year = ''] = /^\w+ (\d+) (\w+) (\d+)$/.exec(longDate(date)) ?? [];
  switch (precision) {
    case 'open':
      return dateToFollow(follow);
    case 'month':
      return [`${month} ${year}`, follow.date].filter((part) => part !== '').join(', ');
    case 'day':
      return [longDate(date), follow.time].filter((part) => part !== '').join(', ');
    case 'exact':
      return `${day} ${month} to ${longDate(lastDate ?? date).replace(/^\w+ /, '')}`;
  }
}

function placeFacts(venue: Venue, performance: Performance): PlaceFacts {
  const found = roomFor(venue, performance.roomId, performance.setUpId);
  return {
    venueId: venue.id,
    roomId: found?.room.id ?? null,
    venue: venue.name,
    room: found?.room.name ?? null,
    address: venue.address,
    town: venue.town,
    country: venue.country,
    capacity: found?.capacity ?? null,
    pays: venue.pays,
    point: venue.point,
    findIt: venue.findIt,
    site: venue.site,
    channelIds: venue.channelIds,
  };
}
