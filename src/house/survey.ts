import type { RecordId } from '@/core/base/ids';
import { groupBy } from '@/core/base/group-by';
import { plan, type Plan } from '@/core/errands/plan';
import { soldSoFar } from '@/core/facts/sales';
import type { ChannelRow } from '@/core/listing/channel-row';
import type { Organiser, Venue } from '@/core/record/directory';
import { channelOf } from '@/channels/channels';
import { holdsUntil, type Holds } from '@/channels/next-change';
import { plannable, surveyRecord, type ErrandMark, type KnownListing, type Survey } from '@/channels/survey';
import type { Tx, Which } from '@/store/database';
import { directoryMark } from '@/store/directory-mark';
import { unsettled, type Errand } from '@/store/errands';
import { giftsOf, type GiftRow } from '@/store/gifts';
import { listingsOf, stateOf, type Listing } from '@/store/listings';
import { allOrganisers } from '@/store/people';
import { pulseRow } from '@/store/pulse';
import { allRecords, recordAt, type RecordAt } from '@/store/records';
import { soldCounts, type SaleCount } from '@/store/sales';
import { ticksOf } from '@/store/sheets';
import type { SheetTick } from '@/core/listing/sale-sheet';
import type { ToFollow } from '@/core/record/record';
import { followWords } from './follow-words';
import { allVenues } from '@/store/venues';
import { channelsOf, type House } from './house';

/** A record with its survey. */
export interface SurveyedRecord {
  record: RecordAt;
  survey: Survey;
  errands: Map<string, ErrandMark>;
  channels: readonly ChannelRow[];
  /** Until when the clock changes nothing of it. */
  holds: Holds;
}

/** What surveying needs of the store, read once for however many records. */
export interface SurveyGround {
  venues: Map<string, Venue>;
  organisers: Map<string, Organiser>;
  /** Changes with every change of the directory. */
  directory: string;
  sales: Map<string, SaleCount[]>;
  listings: Map<string, Listing[]>;
  errands: Map<string, Errand[]>;
  gifts: Map<string, GiftRow[]>;
  /** Ticked lines of the sheets before a sale. */
  ticks: Map<string, SheetTick[]>;
  /** What the house says of what is to follow. */
  follow: ToFollow;
  channels: readonly ChannelRow[];
  now: number;
  steady: number;
}

type Surveying = Pick<House, 'clock' | 'steady' | 'kinds'> & { db: Tx };

const directories = new Map<string, { venues: Map<string, Venue>; organisers: Map<string, Organiser> }>();

/** The directory as it stands; read anew only where its mark is another. */
function directoryOf(db: Tx): { directory: string; venues: Map<string, Venue>; organisers: Map<string, Organiser> } {
  const directory = directoryMark(db);
  let known = directories.get(directory);
  if (!known) {
    if (directories.size > 8) directories.clear();
    directories.set(directory, (known = { venues: allVenues(db), organisers: allOrganisers(db) }));
  }
  return { directory, ...known };
}

/** Reads the ground for all records, or for some: a fixed number of queries. */
export function surveyGround(house: Surveying, which?: Which): SurveyGround {
  const { db, clock } = house;
  const open = unsettled(db, which);
  return {
    ...directoryOf(db),
    sales: groupBy(soldCounts(db, which), (each) => each.recordId),
    listings: groupBy(listingsOf(db, which), (each) => each.recordId),
    errands: groupBy(open, (each) => each.recordId),
    gifts: groupBy(giftsOf(db, which), (each) => each.listingId),
    ticks: groupBy(ticksOf(db, which), (each) => each.recordId),
    follow: followWords(db),
    channels: channelsOf(house, db).map((each) => each.row),
    now: clock.now(),
    steady: house.steady(),
  };
}

/** A listing as the survey takes it. */
export function known(listing: Listing, sales: readonly SaleCount[], gifts: readonly GiftRow[]): KnownListing {
  const { id, channel, part, performanceIds, remote, twins } = listing;
  const ids = new Set(performanceIds);
  // What an outlet sold is of its listings; of several, each counts its own performances.
  const sold = sales
    .filter((one) => one.outlet === channel && ids.has(one.performanceId))
    .reduce((sum, one) => sum + one.sold, 0);
  return {
    ...stateOf(listing),
    id,
    channel,
    part,
    performanceIds,
    publicUrl: remote?.publicUrl ?? null,
    link: gifts.find((one) => one.gift === 'ticket link')?.value ?? null,
    gifts: Object.fromEntries(gifts.map((one) => [one.gift, one.value])),
    sold,
    twins,
    note: remote?.note ?? '',
    turnedDown: remote?.turnedDown ?? false,
  };
}

/** Of each listing's errands, whether one is still open or was refused. A newer one outranks an older. */
export function errandMarks(errands: readonly Errand[]): Map<string, ErrandMark> {
  return new Map(errands.map((one) => [one.listingId, one.state === 'refused' ? 'refused' : 'open']));
}

interface Kept {
  ground: string;
  channels: readonly ChannelRow[];
  surveyed: SurveyedRecord;
  /** When it was made, by both clocks. */
  now: number;
  steady: number;
}

const surveys = new Map<string, Kept>();
const mostKept = 20_000;

/** Surveys one record on its ground. What did not change since the last time is not computed again. */
export function surveyOne(record: RecordAt, ground: SurveyGround, kinds: House['kinds']): SurveyedRecord {
  const listings = ground.listings.get(record.id) ?? [];
  const errands = ground.errands.get(record.id) ?? [];
  const sales = ground.sales.get(record.id) ?? [];
  const { channels } = ground;
  const mark = groundMark(record, listings, errands, sales, ground);
  const kept = surveys.get(record.id);
  const same = kept?.channels.length === channels.length && kept.channels.every((row, i) => row === channels[i]);
  // The content itself is held against, too: what was read in a transaction that was taken back never was.
  if (same && kept.ground === mark && kept.surveyed.record.content === record.content && stillHolds(kept, ground))
    return kept.surveyed;
  const marks = errandMarks(errands);
  const { venues, organisers, now, steady } = ground;
  const survey = surveyRecord(
    {
      recordId: record.id,
      code: record.code,
      content: record.content,
      venues,
      organisers,
      sold: soldSoFar(sales),
      listings: listings.map((one) => known(one, sales, ground.gifts.get(one.id) ?? [])),
      errands: marks,
      ticks: ground.ticks.get(record.id) ?? [],
      follow: ground.follow,
      channels,
      now,
      steady,
    },
    kinds,
  );
  const holds = holdsUntil(
    survey,
    record.content,
    channels.map((row) => channelOf(row, kinds)),
    now,
    steady,
  );
  const surveyed = { record, survey, errands: marks, channels, holds };
  if (surveys.size >= mostKept) surveys.clear();
  surveys.set(record.id, { ground: mark, channels, surveyed, now, steady });
  return surveyed;
}

/** True where neither clock has reached what may change a survey, nor was put back before it was made. */
function stillHolds({ now, steady, surveyed: { holds } }: Kept, at: Pick<SurveyGround, 'now' | 'steady'>): boolean {
  return at.now >= now && at.now < holds.until && at.steady >= steady && at.steady < holds.steadyUntil;
}

/** Changes whenever a survey could come out differently by something that was written. */
function groundMark(
  record: RecordAt,
  listings: readonly Listing[],
  errands: readonly Errand[],
  sales: readonly SaleCount[],
  { directory, gifts, ticks, follow }: SurveyGround,
): string {
  return [
    record.revision,
    directory,
    sales.map((one) => `${one.performanceId} ${one.levelId} ${one.outlet} ${one.sold}`).join(),
    listings
      .map(
        (one) =>
          `${one.id} ${one.sentAt} ${one.observedAt} ${one.writes} ${one.sights} ${one.gone} ${one.doubt?.looks} ${one.twins.length} ${one.performanceIds.length} ${gifts
            .get(one.id)
            ?.map((gift) => gift.value)
            .join()}`,
      )
      .join(),
    errands.map((one) => `${one.listingId} ${one.state}`).join(),
    ticks
      .get(record.id)
      ?.map((one) => `${one.line} ${one.value}`)
      .join(),
    Object.values(follow).join(),
  ].join('|');
}

const everything = new Map<
  string,
  { writes: number; surveyed: SurveyedRecord[]; now: number; steady: number; holds: Holds }
>();

/**
 * Surveys every record: a fixed number of queries, and only what changed is computed. Where nothing at all was
 * written since the last time, the same list comes back.
 */
export function surveyAll(house: House): SurveyedRecord[] {
  const { writes } = pulseRow(house.db);
  const [now, steady] = [house.clock.now(), house.steady()];
  const kept = everything.get(house.folder);
  if (
    kept?.writes === writes &&
    now >= kept.now &&
    now < kept.holds.until &&
    steady >= kept.steady &&
    steady < kept.holds.steadyUntil
  )
    return kept.surveyed;
  const ground = surveyGround(house);
  const surveyed = allRecords(house.db).map((record) => surveyOne(record, ground, house.kinds));
  // The very same surveys make the very same list: a plan made from it is not made again.
  const list =
    kept && kept.surveyed.length === surveyed.length && kept.surveyed.every((one, i) => one === surveyed[i])
      ? kept.surveyed
      : surveyed;
  const holds = list.reduce(
    (least, one): Holds => ({
      until: Math.min(least.until, one.holds.until),
      steadyUntil: Math.min(least.steadyUntil, one.holds.steadyUntil),
    }),
    { until: Infinity, steadyUntil: Infinity },
  );
  everything.set(house.folder, { writes, surveyed: list, now, steady, holds });
  return list;
}

/** Surveys one record by id. `null` where there is none. */
export function surveyById(house: Surveying, id: RecordId): SurveyedRecord | null {
  const record = recordAt(house.db, id);
  return record && surveyOne(record, surveyGround(house, id), house.kinds);
}

const plans = new WeakMap<readonly SurveyedRecord[], Plan>();

/** What is to be sent for these records, in the order of their first performances. Made once for each list. */
export function planFor(surveyed: readonly SurveyedRecord[], kinds?: House['kinds']): Plan {
  const kept = plans.get(surveyed);
  if (kept) return kept;
  const first = (one: SurveyedRecord) => one.survey.facts.performances[0]?.at ?? Infinity;
  const ordered = [...surveyed].sort((a, b) => first(a) - first(b));
  const made = plan(ordered.flatMap((one) => plannableOf(one, kinds)));
  plans.set(surveyed, made);
  return made;
}

/** A record's listings as the plan takes them. */
export function plannableOf({ record, survey, errands, channels }: SurveyedRecord, kinds?: House['kinds']) {
  return plannable(
    record.id,
    survey,
    errands,
    channels.map((row) => channelOf(row, kinds)),
  );
}
