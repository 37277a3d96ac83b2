import type { RecordId } from '@/core/base/ids';
import { byClockAlone, maybeByClock } from '@/core/errands/by-clock';
import { plan, type PlannedErrand } from '@/core/errands/plan';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { toAcknowledge } from '@/core/errands/warnings';
import { newestCounts } from '@/core/facts/sales';
import { standingLeaveName, noteFirstOfLeave } from '@/house/standing-leave';
import type { House } from '@/house/house';
import { surveyContext, surveyOn, surveysOf, type SurveyedRecord } from '@/house/survey';
import { writeErrands } from '@/house/write-errands';
import { transaction, type Tx } from '@/store/database';
import { newestStates, seenBefore } from '@/store/errands';
import { askedAtOf } from '@/store/listings';
import { salesUntilNow, type SaleCount } from '@/store/sales';

/*
 * What the clock alone changes (an on-sale line, the price from which one gets in, how many are left) is sent under the
 * standing leave that the house gave each channel. Everything else asks: what a person changed, what was refused or
 * dropped, what drifted, what is locked, what warns of something that nobody has seen.
 */

/** An errand that may be of the clock's making, with the listing and the record that it is of. */
interface Candidate {
  record: SurveyedRecord;
  listing: SurveyedListing;
  errand: PlannedErrand;
}

function candidatesOf(record: SurveyedRecord): Candidate[] {
  const given = new Set<string>(record.channels.flatMap((row) => (row.standingLeave && row.connected ? [row.id] : [])));
  if (record.survey.listings.every(({ standing }) => standing !== 'due')) return [];
  return plan(record.survey.listings).errands.flatMap((errand) => {
    const listing = record.survey.listings.find(({ id }) => id === errand.listing);
    return listing && given.has(errand.channel) && maybeByClock(listing, errand) ? [{ record, listing, errand }] : [];
  });
}

/** Sends what the clock alone changed of these records, in one dispatch. Only who leads does. */
export function followClock(house: House, counted: readonly SurveyedRecord[]): void {
  if (house.lead.fence() === 0) return;
  const ids = counted.filter((record) => candidatesOf(record).length > 0).map(({ record }) => record.id);
  if (ids.length === 0) return;
  // What was changed since it was counted is seen here: nothing slips out.
  const open = [...surveysOf(house, ids)].flatMap(candidatesOf);
  if (open.length === 0 || clockMade(house, house.db, open).length === 0) return;
  transaction(house.db, (tx) => {
    const surveyed = [...surveysOf({ ...house, db: tx }, ids)];
    const errands = clockMade(house, tx, surveyed.flatMap(candidatesOf)).map(({ errand }) => errand);
    if (errands.length === 0) return;
    noteFirstOfLeave(tx, writeErrands(house, tx, errands, surveyed, standingLeaveName, { byClock: true }));
  });
}

/** Those of the candidates that the clock alone made. A fixed number of queries, however many there are. */
function clockMade(house: House, tx: Tx, candidates: readonly Candidate[]): Candidate[] {
  if (candidates.length === 0) return [];
  const listings = candidates.map(({ listing }) => listing.id);
  const records = [...new Set(candidates.map(({ record }) => record.record.id))];
  const askedAt = askedAtOf(tx, listings);
  const newest = newestStates(tx, listings);
  const seen = new Set(seenBefore(tx));
  const sales = salesUntilNow(tx, records);
  const context = surveyContext({ ...house, db: tx }, records);
  const made = new Map<string, ReadonlyMap<string, SurveyedListing>>();
  const asOf = ({ record, mark, house: of }: SurveyedRecord, at: number) => {
    const name = `${record.id} ${at}`;
    const known = made.get(name);
    if (known) return known;
    const counts = soldBy(sales.get(record.id) ?? [], at);
    const ground = { ...context, house: of, now: at, sales: new Map<RecordId, SaleCount[]>([[record.id, counts]]) };
    const { survey } = surveyOn(record, ground, mark, house.kinds);
    const then = new Map(survey.listings.map((listing): [string, SurveyedListing] => [listing.id, listing]));
    made.set(name, then);
    return then;
  };
  return candidates.filter(({ record, listing, errand }) => {
    const at = askedAt.get(listing.id) ?? null;
    // What was refused, or dropped by a person, is not sent by itself.
    if (at === null || !ended.has(newest.get(listing.id) ?? 'refused')) return false;
    if (toAcknowledge(listing, errand.op, seen).length > 0) return false;
    const then = asOf(record, at).get(listing.id);
    return then !== undefined && byClockAlone(listing, errand, then.wanted);
  });
}

/** How the last errand ended, where nobody has to look: it was done, or nothing was left to do. */
const ended: ReadonlySet<string> = new Set(['done', 'not needed']);

/** The newest count of each outlet, performance and level by a moment. */
function soldBy(counts: readonly SaleCount[], at: number): SaleCount[] {
  return newestCounts(counts.filter((count) => count.at <= at));
}
