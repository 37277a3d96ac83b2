import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import { channelOf } from '@/channels/channels';
import type { SurveyedListing } from '@/core/errands/surveyed';
import type { Booking } from '@/core/clashes/clashes';
import { findClashes, type Clash } from '@/core/clashes/clashes';
import { assumedLengthMs, type PerformanceFacts } from '@/core/facts/performance-facts';
import { groupBy } from '@/core/base/group-by';
import { saleWindow } from '@/core/facts/tickets/windows';
import type { Venue } from '@/core/record/directory';
import type { House } from '@/house/house';
import { surveyAll, surveyContext, type SurveyedRecord } from '@/house/survey';

/** One name, however it is written: in the directory or not, with its article or without. */
function artistKey(name: string): string {
  return name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/^the\s+/, '')
    .replace(/&/g, 'and')
    .replace(/[^\p{L}\p{N}]/gu, '');
}

/** A listing that is wanted and does not stand there yet. */
function waits({ standing, state }: SurveyedListing): boolean {
  return state.sent === null && (standing === 'unplaced' || standing === 'embargoed');
}

function awaitingOf(
  { channels }: SurveyedRecord,
  { channel, embargoUntil }: SurveyedListing,
  now: number,
  kinds: House['kinds'],
): Booking['awaiting'][number] {
  const row = channels.find((candidate) => candidate.id === channel);
  const { name, delayMs } = row ? channelOf(row, kinds).rules : { name: channel, delayMs: 0 };
  return { channel: name, earliest: Math.max(now, embargoUntil ?? now), delayMs };
}

/** Every performance that takes place, as the search for clashes sees it. Those of unknown day are left out. */
function bookingsOf(
  surveyed: SurveyedRecord,
  venues: ReadonlyMap<string, Venue>,
  now: number,
  kinds: House['kinds'],
): Booking[] {
  const { record, survey } = surveyed;
  const { content } = record;
  const artists = content.lineUp.map((act) => ({
    key: artistKey(act.name),
    name: act.name,
    headliner: act.role === 'headliner',
  }));
  const awaiting = groupBy(
    survey.listings
      .filter(waits)
      .flatMap((listing) => listing.performanceIds.map((id) => ({ id, ...awaitingOf(surveyed, listing, now, kinds) }))),
    (item) => item.id,
  );
  const { performances, held, pencilled } = survey.facts;
  return [...performances, ...held].filter(takesPlace).map((performance): Booking => {
    const start = performance.start ?? performance.at;
    const room =
      performance.place && venues.get(performance.place.venueId)?.rooms.find((r) => r.id === performance.place?.roomId);
    return {
      record: record.id,
      code: record.code,
      title: content.title,
      performance: performance.id,
      zone: performance.zone,
      start,
      pencilled: pencilled || performance.pencilled,
      from: Math.min(performance.doors ?? start, start),
      until: Math.max(performance.over, start),
      venue: performance.place?.venueId ?? null,
      venueName: performance.place?.venue ?? '',
      point: performance.place?.point ?? null,
      room: room
        ? {
            id: room.id,
            name: `${room.name}, ${performance.place?.venue ?? ''}`,
            changeoverMs: room.changeover * 60_000,
          }
        : null,
      awaiting: awaiting.get(performance.id) ?? [],
      artists,
      tour: content.tourId,
      radius: content.radius,
      sales:
        content.tickets.mode === 'ticketed'
          ? content.tickets.levels.map((level) => ({
              level: level.name,
              ...saleWindow(level, start, performance.zone),
            }))
          : [],
    };
  });
}

function takesPlace(performance: PerformanceFacts): boolean {
  return performance.start !== null && performance.turn !== 'cancelled' && performance.turn !== 'postponed';
}

const made = new WeakMap<readonly SurveyedRecord[], Clash[]>();

/** Every clash of the season that is not over. Made once for each state of the house. */
export function seasonClashes(house: House, doer: Doer): Clash[] {
  asks(doer, 'seasonClashes');
  return allClashes(house);
}

/** Clashes in the season, for whoever counts them for all. */
export function allClashes(house: House): Clash[] {
  const surveyed = surveyAll(house);
  const known = made.get(surveyed);
  if (known) return known;
  const clashes = findClashes(seasonBookings(house));
  made.set(surveyed, clashes);
  return clashes;
}

const booked = new WeakMap<readonly SurveyedRecord[], Booking[]>();

/** Every performance of the season that is not over. Made once for each state of the house. */
function seasonBookings(house: House): Booking[] {
  const surveyed = surveyAll(house);
  const known = booked.get(surveyed);
  if (known) return known;
  const now = house.clock.now();
  const { venues } = surveyContext(house, []);
  const all = surveyed
    // What was put away takes no room and no artist.
    .filter(({ record }) => record.awayAt === null)
    .flatMap((record) => bookingsOf(record, venues, now, house.kinds))
    .filter((booking) => booking.until >= now - assumedLengthMs);
  booked.set(surveyed, all);
  return all;
}

/** Clashes that records would have a part in as they are surveyed here, in place of how they stand. */
export function clashesIf(house: House, changed: readonly SurveyedRecord[]): Clash[] {
  const now = house.clock.now();
  const { venues } = surveyContext(house, []);
  const ids = new Set<string>(changed.map(({ record }) => record.id));
  const mine = changed.flatMap((record) => bookingsOf(record, venues, now, house.kinds));
  const near = new Set(mine.flatMap((booking) => meetsBy(booking)));
  const others = seasonBookings(house).filter(
    (booking) => !ids.has(booking.record) && meetsBy(booking).some((key) => near.has(key)),
  );
  return findClashes([...mine, ...others]).filter(
    (clash) => ids.has(clash.a.record) || (clash.b !== null && ids.has(clash.b.record)),
  );
}

/** What two performances must share to be in each other's way: a venue, an artist, a tour. */
function meetsBy({ venue, artists, tour }: Booking): string[] {
  return [
    ...(venue === null ? [] : [`venue ${venue}`]),
    ...artists.map(({ key }) => `artist ${key}`),
    ...(tour === null ? [] : [`tour ${tour}`]),
  ];
}

/** The clashes that one record has a part in. */
export function clashesOf(house: House, recordId: RecordId): Clash[] {
  return allClashes(house).filter((clash) => clash.a.record === recordId || clash.b?.record === recordId);
}
