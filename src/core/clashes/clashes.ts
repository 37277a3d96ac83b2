import type { Point } from '../record/directory';
import { distanceKm, travelHours } from '../record/geo';
import { groupBy } from '../base/group-by';
import { neverOpens } from '../facts/tickets/windows';
import type { Instant } from '../base/zones';

/** One performance as the search for clashes sees it. */
export interface Booking {
  record: string;
  code: string;
  title: string;
  performance: string;
  zone: string;
  /** Only held: it may yet give way. */
  pencilled: boolean;
  /** From doors (or start) to the end; what is not known is assumed, see `assumedLengthMs`. */
  from: Instant;
  until: Instant;
  start: Instant;
  room: { id: string; name: string; changeoverMs: number } | null;
  venue: string | null;
  venueName: string;
  point: Point | null;
  /** Who is on; the same artist has the same key in every record. */
  artists: readonly { key: string; name: string; headliner: boolean }[];
  tour: string | null;
  radius: { km: number; days: number } | null;
  /** Sale windows of its price levels. */
  sales: readonly { level: string; opens: Instant | null; closes: Instant | null }[];
  /** Channels that do not show it yet: when it can go there at the earliest, and the channel's usual delay. */
  awaiting: readonly { channel: string; earliest: Instant; delayMs: number }[];
}

interface Side {
  record: string;
  code: string;
  title: string;
  performance: string;
  at: Instant;
  zone: string;
}

/** Two things that cannot both be, or one that cannot be right, with the evidence. */
export type Clash = { weight: 'stops' | 'warns' | 'notes'; a: Side; b: Side | null } & (
  | { code: 'room-overlap'; room: string; minutes: number }
  | { code: 'venue-overlap'; venue: string; room: string | null; minutes: number }
  | { code: 'room-changeover'; room: string; gap: number; needed: number }
  | { code: 'artist-twice'; artist: string; minutes: number }
  | { code: 'artist-travel'; artist: string; km: number; gapHours: number; neededHours: number }
  | { code: 'radius'; artist: string; km: number; days: number; limitKm: number; limitDays: number }
  | { code: 'sale-after-start'; level: string }
  | { code: 'sale-never-open'; level: string }
  | { code: 'sales-together'; count: number; codes: string[] }
  | { code: 'shown-late'; channels: string[]; minutes: number }
);

const hourMs = 3_600_000;
const dayMs = 24 * hourMs;
const minutes = (ms: number) => Math.round(ms / 60_000);

const side = (booking: Booking): Side => ({
  record: booking.record,
  code: booking.code,
  title: booking.title,
  performance: booking.performance,
  at: booking.start,
  zone: booking.zone,
});

/**
 * Every clash among `bookings`, in order of time. Sorted lists are swept once for rooms and once for each artist, so
 * the work grows with the bookings and the clashes, not with their square.
 */
export function findClashes(bookings: readonly Booking[]): Clash[] {
  const ordered = [...bookings].sort((a, b) => a.from - b.from || (a.performance < b.performance ? -1 : 1));
  const clashes = [
    ...roomClashes(ordered),
    ...unroomedClashes(ordered),
    ...artistClashes(ordered),
    ...saleClashes(ordered),
    ...lateShowings(ordered),
  ];
  return clashes.sort((x, y) => x.a.at - y.a.at || x.code.localeCompare(y.code) || (x.b?.at ?? 0) - (y.b?.at ?? 0));
}

/** What is only held may give way: it warns. Two that are confirmed cannot both be. */
const graveOf = (a: Booking, b: Booking) => (a.pencilled || b.pencilled ? ('warns' as const) : ('stops' as const));

/**
 * Bookings after one that are held against it, and clashes of one sort that are told: a file of a thousand events on
 * one evening tells enough by these.
 */
const mostBeside = 100;
const mostOfOneSort = 5_000;
const mostOfOneArtist = 400;

function roomClashes(ordered: readonly Booking[]): Clash[] {
  const found: Clash[] = [];
  for (const [, list] of groupBy(
    ordered.filter((booking) => booking.room !== null),
    (booking) => booking.room?.id ?? '',
  )) {
    list.forEach((booking, i) => {
      const room = booking.room;
      if (!room) return;
      for (const next of list.slice(i + 1, i + mostBeside)) {
        if (next.from >= booking.until + room.changeoverMs || found.length >= mostOfOneSort) break;
        if (next.from < booking.until)
          found.push({
            code: 'room-overlap',
            weight: graveOf(booking, next),
            a: side(booking),
            b: side(next),
            room: room.name,
            minutes: minutes(Math.min(booking.until, next.until) - next.from),
          });
        else
          found.push({
            code: 'room-changeover',
            weight: 'warns',
            a: side(booking),
            b: side(next),
            room: room.name,
            gap: minutes(next.from - booking.until),
            needed: minutes(room.changeoverMs),
          });
      }
    });
  }
  return found;
}

/**
 * Two in one venue at once (who is there without saying where may be in any of its rooms), of which one or both say no
 * room.
 */
function unroomedClashes(ordered: readonly Booking[]): Clash[] {
  const found: Clash[] = [];
  for (const [, list] of groupBy(
    ordered.filter((booking) => booking.venue !== null),
    (booking) => booking.venue ?? '',
  )) {
    if (list.every((booking) => booking.room !== null)) continue;
    list.forEach((booking, i) => {
      for (const next of list.slice(i + 1, i + mostBeside)) {
        if (next.from >= booking.until || found.length >= mostOfOneSort) break;
        if (booking.room !== null && next.room !== null) continue;
        // Of the rooms that are not said, they may be two: it warns.
        found.push({
          code: 'venue-overlap',
          weight: 'warns',
          a: side(booking),
          b: side(next),
          venue: booking.venueName,
          room: booking.room?.name ?? next.room?.name ?? null,
          minutes: minutes(Math.min(booking.until, next.until) - next.from),
        });
      }
    });
  }
  return found;
}

interface Appearance {
  booking: Booking;
  name: string;
  headliner: boolean;
}

function artistClashes(ordered: readonly Booking[]): Clash[] {
  const appearances = ordered.flatMap((booking) =>
    booking.artists.map(({ key, name, headliner }) => ({ key, booking, name, headliner })),
  );
  const found: Clash[] = [];
  for (const [, list] of groupBy(appearances, (appearance) => appearance.key)) {
    const reach = list.reduce((most, { booking }) => Math.max(most, (booking.radius?.days ?? 0) * dayMs), 2 * dayMs);
    list.forEach((item, i) => {
      for (let n = i + 1; n < Math.min(list.length, i + mostOfOneArtist); n += 1) {
        const next = list[n];
        if (!next) break;
        if (next.booking.from - item.booking.until > reach) break;
        if (found.length >= mostOfOneSort) break;
        const clash = together(item, next) ?? apart(item, next);
        if (clash) found.push(clash);
        const near = withinRadius(item, next);
        if (near) found.push(near);
      }
    });
  }
  return found;
}

function together({ booking: a, name }: Appearance, { booking: b }: Appearance): Clash | null {
  if (b.from >= a.until || (a.record === b.record && a.room?.id === b.room?.id)) return null;
  // In one room it is the room's clash; of rooms that are not said, nothing is known.
  if (a.venue !== null && a.venue === b.venue && (a.room === null || b.room === null || a.room.id === b.room.id))
    return null;
  return {
    code: 'artist-twice',
    weight: graveOf(a, b),
    a: side(a),
    b: side(b),
    artist: name,
    minutes: minutes(Math.min(a.until, b.until) - b.from),
  };
}

function apart({ booking: a, name }: Appearance, { booking: b }: Appearance): Clash | null {
  if (a.point === null || b.point === null || b.from < a.until) return null;
  const km = distanceKm(a.point, b.point);
  const neededHours = travelHours(km);
  const gapHours = (b.from - a.until) / hourMs;
  if (km < 1 || gapHours >= neededHours) return null;
  return {
    code: 'artist-travel',
    weight: 'warns',
    a: side(a),
    b: side(b),
    artist: name,
    km: Math.round(km),
    gapHours: round(gapHours),
    neededHours: round(neededHours),
  };
}

const round = (n: number) => Math.round(n * 10) / 10;

/** A radius clause binds in both directions: before and after the show that has it. */
function withinRadius(appearance: Appearance, next: Appearance): Clash | null {
  const [a, b] = [appearance.booking, next.booking];
  if (a.record === b.record || a.point === null || b.point === null) return null;
  const km = distanceKm(a.point, b.point);
  const days = Math.abs(b.start - a.start) / dayMs;
  const clause = [appearance.headliner ? a.radius : null, next.headliner ? b.radius : null].find(
    (radius) => radius && km <= radius.km && days <= radius.days,
  );
  if (!clause) return null;
  return {
    code: 'radius',
    weight: 'warns',
    a: side(a),
    b: side(b),
    artist: appearance.name,
    km: Math.round(km),
    days: Math.round(days),
    limitKm: clause.km,
    limitDays: clause.days,
  };
}

function saleClashes(ordered: readonly Booking[]): Clash[] {
  const found: Clash[] = [];
  const openings = new Map<Instant, Booking[]>();
  const said = new Set<string>();
  for (const booking of ordered) {
    for (const { level, opens, closes } of booking.sales) {
      if (opens === null || said.has(`${booking.record} ${level}`)) continue;
      if (opens >= booking.start)
        found.push({ code: 'sale-after-start', weight: 'stops', a: side(booking), b: null, level });
      else if (neverOpens({ opens, closes }))
        found.push({ code: 'sale-never-open', weight: 'stops', a: side(booking), b: null, level });
      said.add(`${booking.record} ${level}`);
      const list = openings.get(opens) ?? [];
      if (
        !list.some((other) => other.record === booking.record || (other.tour !== null && other.tour === booking.tour))
      )
        list.push(booking);
      openings.set(opens, list);
    }
  }
  for (const [opens, list] of openings) {
    const [first] = list;
    if (first && list.length > 1)
      found.push({
        code: 'sales-together',
        weight: 'notes',
        a: { ...side(first), at: opens },
        b: null,
        count: list.length,
        codes: list.slice(0, 8).map((booking) => booking.code),
      });
  }
  return found;
}

/**
 * What a channel cannot show before the event begins: too short a notice for its delay, or an embargo that runs too
 * long.
 */
function lateShowings(ordered: readonly Booking[]): Clash[] {
  const said = new Set<string>();
  return ordered.flatMap((booking): Clash[] => {
    const late = booking.awaiting.filter(
      ({ channel, earliest, delayMs }) =>
        earliest + delayMs > booking.start && !said.has(`${booking.record} ${channel}`),
    );
    for (const { channel } of booking.awaiting) said.add(`${booking.record} ${channel}`);
    const by = Math.max(...late.map(({ earliest, delayMs }) => earliest + delayMs - booking.start));
    return late.length === 0
      ? []
      : [
          {
            code: 'shown-late',
            weight: 'warns',
            a: side(booking),
            b: null,
            channels: late.map((item) => item.channel),
            minutes: minutes(by),
          },
        ];
  });
}
