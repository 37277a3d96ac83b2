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
import { surveyAll, surveyGround, type SurveyedRecord } from '@/house/survey';

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
  const row = channels.find((one) => one.id === channel);
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
  const artists = content.lineUp.map((one) => ({
    key: artistKey(one.name),
    name: one.name,
    headliner: one.role === 'headliner',
  }));
  const awaiting = groupBy(
    survey.listings
      .filter(waits)
      .flatMap((listing) => listing.performanceIds.map((id) => ({ id, ...awaitingOf(surveyed, listing, now, kinds) }))),
    (each) => each.id,
  );
  const { performances, held, pencilled } = survey.facts;
  return [...performances, ...held].filter(takesPlace).map((one): Booking => {
    const start = one.start ?? one.at;
    const room = one.place && venues.get(one.place.venueId)?.rooms.find((r) => r.id === one.place?.roomId);
    return {
      record: record.id,
      code: record.code,
      title: content.title,
      performance: one.id,
      zone: one.zone,
      start,
      pencilled: pencilled || one.pencilled,
      from: Math.min(one.doors ?? start, start),
      until: Math.max(one.over, start),
      venue: one.place?.venueId ?? null,
      venueName: one.place?.venue ?? '',
      point: one.place?.point ?? null,
      room: room
        ? { id: room.id, name: `${room.name}, ${one.place?.venue ?? ''}`, changeoverMs: room.changeover * 60_000 }
        : null,
      awaiting: awaiting.get(one.id) ?? [],
      artists,
      tour: content.tourId,
      radius: content.radius,
      sales:
        content.tickets.mode === 'ticketed'
          ? content.tickets.levels.map((level) => ({ level: level.name, ...saleWindow(level, start, one.zone) }))
          : [],
    };
  });
}

function takesPlace(one: PerformanceFacts): boolean {
  return one.start !== null && one.turn !== 'cancelled' && one.turn !== 'postponed';
}

const made = new WeakMap<readonly SurveyedRecord[], Clash[]>();

/** Every clash of the season that is not over. Made once for each state of the house. */
export function seasonClashes(house: House): Clash[] {
  const surveyed = surveyAll(house);
  const known = made.get(surveyed);
  if (known) return known;
  const now = house.clock.now();
  const { venues } = surveyGround(house, []);
  const all = surveyed
    .flatMap((one) => bookingsOf(one, venues, now, house.kinds))
    .filter((one) => one.until >= now - assumedLengthMs);
  const clashes = findClashes(all);
  made.set(surveyed, clashes);
  return clashes;
}

/** The clashes that one record has a part in. */
export function clashesOf(house: House, recordId: RecordId): Clash[] {
  return seasonClashes(house).filter((one) => one.a.record === recordId || one.b?.record === recordId);
}
