import { fail, ok, type Result } from '@/core/base/result';
import type { PlannedErrand } from '@/core/errands/plan';
import { whole, type Tx } from '@/store/database';
import { decideErrands, errandsWhere, makeDispatch as writeDispatch } from '@/store/errands';
import { putListing } from '@/store/listings';
import type { House } from '@/house/house';
import { planFor, surveyAll, type SurveyedRecord } from '../survey/survey';

/**
 * Makes a dispatch of the listings named (all that can go, where `only` is missing). The plan is made anew inside
 * the transaction: what changed since it was looked at cannot slip out. Errands that were refused before for the same
 * listings are dropped: the new wish stands in their place.
 */
export function makeDispatch(
  house: House,
  only: ReadonlySet<string> | null,
  actor: string,
): Result<{ dispatchId: string; errands: number }, string> {
  return whole(house.db, (tx) => {
    const surveyed = surveyAll({ ...house, db: tx as House['db'] });
    const planned = planFor(surveyed).errands;
    const chosen = only === null ? planned.filter((one) => one.notBefore === null) : withUpstream(planned, only);
    if (chosen.length === 0)
      return fail('Nothing is left to send: it has gone meanwhile, or the records changed. Look again.');
    const dispatchId = writeErrands(tx, chosen, surveyed, actor, house.clock.now());
    return ok({ dispatchId, errands: chosen.length });
  });
}

/** Writes planned errands with the listings they are for. */
export function writeErrands(
  tx: Tx,
  planned: readonly PlannedErrand[],
  surveyed: readonly SurveyedRecord[],
  actor: string,
  now: number,
): string {
  const byRecord = new Map(surveyed.map((one) => [one.record.id, one]));
  const refused = new Map(errandsWhere(tx, { states: ['refused'] }).map((one) => [one.listingId, one.id]));
  const rows = planned.map((one) => {
    const record = byRecord.get(one.record);
    const listing = record?.survey.listings.find((l) => l.id === one.listing);
    if (!record || !listing) throw new Error(`the plan names listing ${one.listing}, which was not surveyed`);
    // How a run was shared out is kept, for the parts that do not go yet too.
    for (const { id, channel, part, performanceIds } of record.survey.listings)
      if (channel === one.channel) putListing(tx, { id, recordId: one.record, channel, part, performanceIds });
    const old = refused.get(one.listing);
    if (old !== undefined) decideErrands(tx, [old], 'drop', now);
    return { ...one, revision: record.record.revision };
  });
  return writeDispatch(tx, rows, actor, now);
}

/** An errand that needs another's link takes it along, chosen or not. */
function withUpstream(planned: readonly PlannedErrand[], only: ReadonlySet<string>): PlannedErrand[] {
  const wanted = new Set(only);
  for (const one of planned) if (wanted.has(one.listing)) one.needs.forEach((need) => wanted.add(need));
  return planned.filter((one) => wanted.has(one.listing));
}
