import { channelById, rulesById } from '@/channels/registry';
import { plannable } from '@/channels/survey';
import { findingWords } from '@/core/findings/finding-words';
import { overwrite } from '@/core/errands/plan';
import { fail, ok, type Result } from '@/core/base/result';
import { notTakenWords, takeTheirs } from '@/core/listing/take-theirs';
import type { Shown } from '@/core/listing/shown';
import { whole } from '@/store/database';
import { adoptSent, listingById } from '@/store/listings';
import type { House } from '@/house/house';
import { writeErrands } from '../dispatch/make-dispatch';
import { saveRecord } from '../records/save-record';
import { surveyById, type SurveyedRecord } from '../survey/survey';

/** Sends ours again for these fields of a listing, over what was found there. Gives the dispatch. */
export function sendOursAgain(
  house: House,
  recordId: string,
  listingId: string,
  keys: readonly string[],
  actor: string,
): Result<string, string> {
  return whole(house.db, (tx) => {
    const found = findListing({ ...house, db: tx as House['db'] }, recordId, listingId);
    if (!found.ok) return found;
    const [surveyed, listing] = found.value;
    const stop = listing.findings.find((one) => one.weight === 'stops');
    if (stop) return fail(findingWords(stop));
    if (surveyed.errands.get(listingId) === 'open')
      return fail('An errand for this listing is still going out. Wait until it has ended.');
    return ok(writeErrands(tx, [overwrite(listing, keys, rulesById)], [surveyed], actor, house.clock.now()));
  });
}

/** Takes what the channel shows into the record, as its next revision. Other channels are then to send. */
export function takeIntoRecord(
  house: House,
  recordId: string,
  listingId: string,
  keys: readonly string[],
  actor: string,
): Result<number, string> {
  return whole(house.db, (tx) => {
    const inside = { ...house, db: tx as House['db'] };
    const found = findListing(inside, recordId, listingId);
    if (!found.ok) return found;
    const [{ record, survey }, listing] = found.value;
    const part = survey.listings.find((one) => one.id === listingId)?.part ?? 0;
    let content = record.content;
    const adopted: Shown = { ...listing.state.sent };
    for (const key of keys) {
      const value = listing.state.observed?.[key];
      const taken = takeTheirs(content, key, value, { channel: listing.channel, part });
      if (!taken.ok) return fail(notTakenWords[taken.error]);
      content = taken.value;
      if (value !== undefined) adopted[key] = value;
    }
    const reason = `taken from ${channelById(listing.channel).rules.name}`;
    const saved = saveRecord(inside, { id: record.id, base: record.revision, content, actor, reason });
    if (saved.kind === 'stopped')
      return fail(`The record does not take it: ${saved.findings.map(findingWords).join(' ')}`);
    if (saved.kind !== 'saved' && saved.kind !== 'unchanged')
      return fail('The record was changed meanwhile. Look again.');
    adoptSent(tx, listingId, adopted);
    return ok(saved.revision);
  });
}

function findListing(house: House, recordId: string, listingId: string) {
  const surveyed = surveyById(house, recordId);
  const listing =
    surveyed && plannable(recordId, surveyed.survey, surveyed.errands).find((one) => one.listing === listingId);
  if (!surveyed || !listing || listingById(house.db, listingId) === null)
    return fail('This listing is not there any more. Look again.');
  const pair: [SurveyedRecord, typeof listing] = [surveyed, listing];
  return ok(pair);
}
