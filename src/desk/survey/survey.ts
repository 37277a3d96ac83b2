import { groupBy } from '@/core/base/group-by';
import { plannable, surveyRecord, type KnownListing, type Survey } from '@/channels/survey';
import { channels, connectionIdOf, rulesById } from '@/channels/registry';
import { plan, type Plan } from '@/core/errands/plan';
import type { Organiser, Venue } from '@/core/record/directory';
import { soldSoFar } from '@/core/facts/sales';
import { directoryMark } from '@/store/directory-mark';
import { allOrganisers } from '@/store/people';
import { saleCounts, type SaleCount } from '@/store/sales';
import { allConnections } from '@/store/connections';
import { errandsWhere, type Errand } from '@/store/errands';
import { hasUnread, listingsOf, type Listing } from '@/store/listings';
import { pulseMark } from '@/store/pulse';
import { allRecords, recordAt, type RecordAt } from '@/store/records';
import { allVenues } from '@/store/venues';
import type { Tx } from '@/store/database';
import type { House } from '@/house/house';

/** A record with its survey. */
export interface SurveyedRecord {
  record: RecordAt;
  survey: Survey;
  errands: Map<string, 'open' | 'refused'>;
}

/** What surveying needs of the store, read once for however many records. */
export interface SurveyGround {
  venues: Map<string, Venue>;
  organisers: Map<string, Organiser>;
  /** Changes with every change of the directory. */
  directory: number;
  sales: Map<string, SaleCount[]>;
  listings: Map<string, Listing[]>;
  errands: Map<string, Errand[]>;
  connected: Set<string>;
  now: number;
}

/** Reads the ground for all records, or for one: a fixed number of queries. */
export function surveyGround(house: House, recordId?: string): SurveyGround {
  const { db, clock } = house;
  const open = errandsWhere(db, {
    states: ['waiting', 'running', 'refused'],
    ...(recordId === undefined ? {} : { recordId }),
  });
  return {
    venues: allVenues(db),
    organisers: allOrganisers(db),
    directory: directoryMark(db),
    sales: groupBy(saleCounts(db, recordId), (one) => one.recordId),
    listings: groupBy(listingsOf(db, recordId), (one) => one.recordId),
    errands: groupBy(open, (one) => one.recordId),
    connected: connectedChannels(db),
    now: clock.now(),
  };
}

/** Channels that can be reached: connected themselves, or through the channel whose connection they use. */
function connectedChannels(db: Tx): Set<string> {
  const connections = allConnections(db);
  return new Set(channels.filter((one) => connections.has(connectionIdOf(one))).map((one) => one.rules.id));
}

/** A listing as the survey takes it. */
export function known({
  id,
  channel,
  part,
  performanceIds,
  remote,
  sent,
  previous,
  observed,
  sentAt,
  observedAt,
  lapsesAt,
}: Listing): KnownListing {
  return {
    id,
    channel,
    part,
    performanceIds,
    publicUrl: remote?.publicUrl ?? null,
    link: remote?.link ?? null,
    sent,
    previous,
    observed,
    sentAt,
    observedAt,
    lapsesAt,
  };
}

/** Of each listing's errands, whether one is still open or was refused. A newer one outranks an older. */
export function errandMarks(errands: readonly Errand[]): Map<string, 'open' | 'refused'> {
  return new Map(errands.map((one) => [one.listingId, one.state === 'refused' ? 'refused' : 'open']));
}

const surveys = new Map<string, { ground: string; surveyed: SurveyedRecord }>();
const mostKept = 20_000;

/** Surveys one record on its ground. What did not change since the last time is not computed again. */
export function surveyOne(record: RecordAt, ground: SurveyGround): SurveyedRecord {
  const listings = ground.listings.get(record.id) ?? [];
  const errands = ground.errands.get(record.id) ?? [];
  const mark = groundMark(record, listings, errands, ground);
  const kept = surveys.get(record.id);
  if (kept?.ground === mark) return kept.surveyed;
  const marks = errandMarks(errands);
  const { venues, organisers, connected, now } = ground;
  const sold = soldSoFar(ground.sales.get(record.id) ?? []);
  const survey = surveyRecord({
    recordId: record.id,
    code: record.code,
    content: record.content,
    venues,
    organisers,
    sold,
    listings: listings.map(known),
    errands: marks,
    connected,
    now,
  });
  const surveyed = { record, survey, errands: marks };
  if (surveys.size >= mostKept) surveys.clear();
  surveys.set(record.id, { ground: mark, surveyed });
  return surveyed;
}

/**
 * Changes whenever a survey could come out differently. The clock counts in minutes (everything it decides is
 * that coarse), but to the second where something was sent and not read yet.
 */
function groundMark(
  record: RecordAt,
  listings: readonly Listing[],
  errands: readonly Errand[],
  { directory, sales, connected, now }: SurveyGround,
): string {
  const fresh = listings.some((one) => (one.observedAt ?? 0) < (one.sentAt ?? 0));
  return [
    record.revision,
    Math.floor(now / (fresh ? 1_000 : 60_000)),
    [...connected].join(),
    directory,
    sales.get(record.id)?.length ?? 0,
    listings
      .map((one) => `${one.id} ${one.sentAt} ${one.observedAt} ${one.performanceIds.length} ${one.remote?.link}`)
      .join(),
    errands.map((one) => `${one.listingId} ${one.state}`).join(),
  ].join('|');
}

const whole = new Map<string, { mark: string; surveyed: SurveyedRecord[] }>();

/**
 * Surveys every record: a fixed number of queries, and only what changed is computed. Where nothing at all was
 * written since the last time, the same list comes back.
 */
export function surveyAll(house: House): SurveyedRecord[] {
  const unread = hasUnread(house.db);
  const mark = `${pulseMark(house.db)}.${Math.floor(house.clock.now() / (unread ? 1_000 : 60_000))}`;
  const kept = whole.get(house.folder);
  if (kept?.mark === mark) return kept.surveyed;
  const ground = surveyGround(house);
  const surveyed = allRecords(house.db).map((record) => surveyOne(record, ground));
  whole.set(house.folder, { mark, surveyed });
  return surveyed;
}

/** Surveys one record by id. `null` where there is none. */
export function surveyById(house: House, id: string): SurveyedRecord | null {
  const record = recordAt(house.db, id);
  return record && surveyOne(record, surveyGround(house, id));
}

const plans = new WeakMap<readonly SurveyedRecord[], Plan>();

/** What is to be sent for these records, in the order of their first performances. Made once for each list. */
export function planFor(surveyed: readonly SurveyedRecord[]): Plan {
  const kept = plans.get(surveyed);
  if (kept) return kept;
  const first = (one: SurveyedRecord) => one.survey.facts.performances[0]?.at ?? Infinity;
  const ordered = [...surveyed].sort((a, b) => first(a) - first(b));
  const made = plan(
    ordered.flatMap((one) => plannable(one.record.id, one.survey, one.errands)),
    rulesById,
  );
  plans.set(surveyed, made);
  return made;
}
