import type { ListingId, RecordId } from '@/core/base/ids';
import { groupBy } from '@/core/base/group-by';
import { plan, type Plan } from '@/core/errands/plan';
import type { ErrandMark, SurveyedListing } from '@/core/errands/surveyed';
import { soldSoFar } from '@/core/facts/sales';
import type { ChannelRow } from '@/core/listing/channel-row';
import type { SheetTick } from '@/core/listing/sale-sheet';
import type { AboutUs } from '@/core/facts/facts';
import type { Artist, Organiser, Venue } from '@/core/record/directory';
import type { ToFollow } from '@/core/record/record';
import { LRUCache } from 'lru-cache';
import { channelOf } from '@/channels/channels';
import { holdsUntil, type Holds } from '@/channels/next-change';
import { surveyRecord, type Survey } from '@/channels/survey';
import { type KnownListing } from '@/channels/survey-shapes';
import type { Tx } from '@/store/database';
import { unsettled, type Errand } from '@/store/errands';
import { giftsOf, type GiftRow } from '@/store/gifts';
import { leftLocksOf, type LeftLockRow } from '@/store/left-locks';
import { listingsOf, type Listing } from '@/store/listings';
import { allArtists, allOrganisers } from '@/store/people';
import { houseMark, recordMarks } from '@/store/pulse';
import { allRecords, type RecordAt } from '@/store/records';
import { soldCounts, type SaleCount } from '@/store/sales';
import { ticksOf } from '@/store/sheets';
import { pictureEnds, type PictureEnd } from '@/store/pictures';
import { allVenues } from '@/store/venues';
import { followWords } from './follow-words';
import { aboutUs } from './about-us';
import { houseOwn } from './house-own';
import { zoneOfHouse } from './house-zone';
import { channelsOf, type House } from './house';

/** A record with its survey. */
export interface SurveyedRecord {
  record: RecordAt;
  survey: Survey;
  channels: readonly ChannelRow[];
  /** Until when the clock changes nothing of it. */
  holds: Holds;
  /** The record's mark and the house's, under which it was surveyed. */
  mark: string;
  house: string;
}

/** What surveying needs of the store, read once for however many records. */
export interface SurveyContext {
  /** The house's mark: another with every change of what every survey reads. */
  house: string;
  venues: Map<string, Venue>;
  organisers: Map<string, Organiser>;
  artists: Map<string, Artist>;
  sales: Map<string, SaleCount[]>;
  listings: Map<string, Listing[]>;
  errands: Map<string, Errand[]>;
  gifts: Map<string, GiftRow[]>;
  /** Ticked lines of the sheets before a sale. */
  ticks: Map<string, SheetTick[]>;
  /** Locks that a person said are to stay as they are. */
  left: Map<string, LeftLockRow[]>;
  /** What the house says of what is to follow. */
  follow: ToFollow;
  /** The house's zone: the public is told of any other. */
  houseZone: string;
  /** Kinds of event that are never public. */
  closedTypes: readonly string[];
  /** What the house says of itself. */
  aboutUs: AboutUs;
  /** Pictures that may be used until a day only. */
  pictureEnds: ReadonlyMap<string, PictureEnd>;
  channels: readonly ChannelRow[];
  now: number;
  monotonic: number;
}

type Surveying = Pick<House, 'clock' | 'monotonic' | 'kinds' | 'folder'> & { db: Tx };
/** Some records; all of them, where nothing is said. */
type Records = readonly RecordId[] | undefined;

/** Reads the ground for all records, or for some: a fixed number of queries. */
export function surveyContext(house: Surveying, which?: Records): SurveyContext {
  const { db, clock } = house;
  const item = which?.length === 1 ? which[0] : which;
  return {
    house: houseMark(db),
    venues: allVenues(db),
    organisers: allOrganisers(db),
    artists: allArtists(db),
    sales: groupBy(soldCounts(db, item), (count) => count.recordId),
    listings: groupBy(listingsOf(db, item), (listing) => listing.recordId),
    errands: groupBy(unsettled(db, item), (errand) => errand.recordId),
    gifts: groupBy(giftsOf(db, item), (gift) => gift.listingId),
    ticks: groupBy(ticksOf(db, item), (tick) => tick.recordId),
    left: groupBy(leftLocksOf(db, item), (lock) => lock.recordId),
    follow: followWords.of(db),
    houseZone: zoneOfHouse(db),
    closedTypes: houseOwn.of(db).closedTypes,
    aboutUs: aboutUs(db),
    pictureEnds: pictureEnds(db),
    channels: channelsOf(house, db).map((channel) => channel.row),
    now: clock.now(),
    monotonic: house.monotonic(),
  };
}

/** A listing as the survey takes it. */
export function known(listing: Listing, sales: readonly SaleCount[], gifts: readonly GiftRow[]): KnownListing {
  const { id, channel, part, performanceIds, remote, twins, pendingOutcome, cut } = listing;
  const { sent, sentTimes, previous, observed, sentAt, observedAt, lapsesAt, gone } = listing;
  const ids = new Set(performanceIds);
  // What an outlet sold is of its listings; of several, each counts its own performances.
  const sold = sales
    .filter((sale) => sale.outlet === channel && ids.has(sale.performanceId))
    .reduce((sum, sale) => sum + sale.sold, 0);
  return {
    ...{ id, channel, part, performanceIds, twins, sold },
    ...{ sent, sentTimes, previous, observed, sentAt, observedAt, lapsesAt, gone },
    pendingOutcome: pendingOutcome && { since: pendingOutcome.since },
    publicUrl: remote?.publicUrl ?? null,
    link: gifts.find((gift) => gift.gift === 'ticket link')?.value ?? null,
    gifts: Object.fromEntries(gifts.map((gift) => [gift.gift, gift.value])),
    note: remote?.note ?? '',
    cut,
    turnedDown: remote?.turnedDown ?? false,
  };
}

/**
 * Of each listing's errands, whether one is still open or was refused. What is open outranks what was refused before
 * it; what was refused since, what waits for a moment.
 */
export function errandMarks(errands: readonly Errand[]): Map<string, ErrandMark> {
  return new Map(errands.map((errand) => [errand.listingId, errand.state === 'refused' ? 'refused' : 'open']));
}

/** What channels said that refused, by listing: the last of each. */
export function refusalsOf(errands: readonly Errand[]): Map<string, string> {
  return new Map(
    errands
      .filter(({ state }) => state === 'refused')
      .map((errand) => [errand.listingId, errand.lastError?.message ?? '']),
  );
}

/** What one record is surveyed from, out of the ground. */
export function inputFrom({ id: recordId, code, content, awayAt }: RecordAt, context: SurveyContext) {
  const sales = context.sales.get(recordId) ?? [];
  // What was put away is wanted nowhere, and what stands of it stands as it is.
  const away = awayAt !== null;
  const listings = (away ? [] : (context.listings.get(recordId) ?? [])).map((listing) =>
    known(listing, sales, context.gifts.get(listing.id) ?? []),
  );
  const { venues, organisers, artists, aboutUs: ours, follow, houseZone, closedTypes } = context;
  const { pictureEnds, channels, now, monotonic } = context;
  return {
    ...{
      recordId,
      code,
      content,
      venues,
      organisers,
      artists,
      aboutUs: ours,
      follow,
      houseZone,
      closedTypes,
      pictureEnds,
      now,
      monotonic,
      listings,
    },
    channels: away ? [] : channels,
    sold: soldSoFar(sales),
    errands: errandMarks(context.errands.get(recordId) ?? []),
    refusals: refusalsOf(context.errands.get(recordId) ?? []),
    ticks: context.ticks.get(recordId) ?? [],
    left: new Map((context.left.get(recordId) ?? []).map((lock) => [lock.listing as string, lock])),
  };
}

/** When a survey was made, by both clocks. */
interface Kept {
  surveyed: SurveyedRecord;
  now: number;
  monotonic: number;
}

/** Surveys by house and record: the one place where they are kept. */
const surveys = new LRUCache<string, Kept>({ max: 20_000 });

/** True where neither clock has reached what may change a survey, nor was put back before it was made. */
function stillHolds({ now, monotonic, surveyed: { holds } }: Kept, at: { now: number; monotonic: number }): boolean {
  return at.now >= now && at.now < holds.until && at.monotonic >= monotonic && at.monotonic < holds.monotonicUntil;
}

/** Surveys a record on its ground, without asking what is kept. */
export function surveyOn(
  record: RecordAt,
  context: SurveyContext,
  mark: string,
  kinds: House['kinds'],
): SurveyedRecord {
  const { channels, now, monotonic, house } = context;
  const survey = surveyRecord(inputFrom(record, context), kinds);
  const holds = holdsUntil(
    survey,
    record.content,
    channels.map((row) => channelOf(row, kinds)),
    now,
    monotonic,
    (context.left.get(record.id) ?? []).map((lock) => lock.until),
  );
  return { record, survey, channels, holds, mark, house };
}

/**
 * Surveys records one after the other: all, or some. What neither was written to, nor rests on something of the house
 * that was, nor was reached by a clock, is the very same as before. Marks are read before what they stand for, so that
 * a survey is never older than its mark.
 */
export function* surveysOf(house: Surveying, which?: Records): Generator<SurveyedRecord> {
  const of = houseMark(house.db);
  const at = { now: house.clock.now(), monotonic: house.monotonic() };
  const marks = recordMarks(house.db, which);
  const nameOf = (id: RecordId) => `${house.folder} ${id}`;
  const kept = new Map<RecordId, SurveyedRecord>();
  for (const [id, mark] of marks) {
    const item = surveys.get(nameOf(id));
    if (item?.surveyed.mark === mark && item.surveyed.house === of && stillHolds(item, at)) kept.set(id, item.surveyed);
  }
  const missing = [...marks.keys()].filter((id) => !kept.has(id));
  let context: SurveyContext | null = null;
  const records = new Map<RecordId, RecordAt>();
  if (missing.length > 0) {
    // Where most of it is to be read, all is read at once.
    const some = which === undefined && missing.length > 400 ? undefined : missing;
    context = surveyContext(house, some);
    for (const record of allRecords(house.db, some)) records.set(record.id, record);
  }
  for (const [id, mark] of marks) {
    const same = kept.get(id);
    if (same) {
      yield same;
      continue;
    }
    const record = records.get(id);
    if (!record || !context) continue;
    const surveyed = surveyOn(record, { ...context, house: of }, mark, house.kinds);
    surveys.set(nameOf(id), { surveyed, ...at });
    yield surveyed;
  }
}

/**
 * The list that was made last of each house: where nothing changed, it is the very same, and so is what was made from
 * it.
 */
const lists = new LRUCache<string, SurveyedRecord[]>({ max: 8 });

/** Surveys every record: a fixed number of queries, and only what changed is computed. */
export function surveyAll(house: Surveying): SurveyedRecord[] {
  const before = lists.get(house.folder);
  const made = [...surveysOf(house)];
  if (before && before.length === made.length && before.every((record, i) => record === made[i])) return before;
  lists.set(house.folder, made);
  return made;
}

/** Surveys one record by id. `null` where there is none. */
export function surveyById(house: Surveying, id: RecordId): SurveyedRecord | null {
  const [survey] = surveysOf(house, [id]);
  return survey ?? null;
}

/** One listing as it is now, with its record; `null`: the record, or this part of it, is not there any more. */
export function listingNow(
  house: Surveying,
  recordId: RecordId,
  id: ListingId,
): { record: SurveyedRecord; surveyed: SurveyedListing } | null {
  const record = surveyById(house, recordId);
  const surveyed = record?.survey.listings.find((listing) => listing.id === id);
  return record && surveyed ? { record, surveyed } : null;
}

const plans = new WeakMap<readonly SurveyedRecord[], Plan>();

/** What is to be sent for these records, in the order of their first performances. Made once for each list. */
export function planFor(surveyed: readonly SurveyedRecord[]): Plan {
  const kept = plans.get(surveyed);
  if (kept) return kept;
  const made = plan(inOrder(surveyed));
  plans.set(surveyed, made);
  return made;
}

/** The listings of these records, in the order of their first performances. */
export function inOrder(surveyed: readonly SurveyedRecord[]): SurveyedListing[] {
  const first = (record: SurveyedRecord) => record.survey.facts.performances[0]?.at ?? Infinity;
  return [...surveyed].sort((a, b) => first(a) - first(b)).flatMap((record) => record.survey.listings);
}
