import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { ListingId, RecordId } from '@/core/base/ids';
import { equalOrAbsent } from '@/core/listing/compare';
import { overwrite } from '@/core/errands/plan';
import { findingWords } from '@/core/findings/finding-words';
import { fail, ok, type Result } from '@/core/base/result';
import { keepTheirsHere, notTakenWords, takeTheirs, type TakeContext } from '@/core/listing/take-theirs';
import type { Shown, ShownValue } from '@/core/listing/shown';
import type { RecordContent } from '@/core/record/record';
import { surveyRecord } from '@/channels/survey';
import type { House } from '@/house/house';
import { inputFrom, surveyById, surveyContext, type SurveyedRecord } from '@/house/survey';
import { transaction } from '@/store/database';
import { adoptSent, letGo, listingById } from '@/store/listings';
import { writeErrands } from '@/house/write-errands';
import { saveRecord } from '../records/save-record';

/** One field of a decision: its key, and what the person saw there; where that moved meanwhile, nothing is decided. */
export interface DecidedField {
  key: string;
  seen?: ShownValue | null;
}

/** Sends ours again for these fields of a listing, over what was found there. Gives the dispatch. */
export function sendOursAgain(
  house: House,
  doer: Doer,
  recordId: RecordId,
  listingId: ListingId,
  fields: readonly DecidedField[],
): Result<string, string> {
  asks(doer, 'sendOursAgain');
  return transaction(house.db, (tx) => {
    const found = findListing({ ...house, db: tx as House['db'] }, recordId, listingId, fields);
    if (!found.ok) return found;
    const [surveyed, listing] = found.value;
    const stop = listing.findings.find((finding) => finding.weight === 'stops');
    if (stop) return fail(findingWords(stop));
    if (listing.errand === 'open')
      return fail('An errand for this listing is still going out. Wait until it has ended.');
    const keys = fields.map((field) => field.key);
    const errand = overwrite(listing, keys);
    const needs = listing.rules.operations.find((row) => row.op === errand.op)?.needs ?? [];
    if (needs.length > 0)
      return fail(
        'It is cancelled there by a step of its own, which tells people. Open the record and pick the way again.',
      );
    if (errand.changes.length === 0) return fail('The channel shows it already. Look again.');
    return ok(writeErrands(house, tx, [errand], [surveyed], doer.name, { over: { [listingId]: keys } }));
  });
}

/** Takes what the channel shows into the record, as its next revision. Other channels are then to send. */
export function takeIntoRecord(
  house: House,
  doer: Doer,
  recordId: RecordId,
  listingId: ListingId,
  fields: readonly DecidedField[],
): Result<number, string> {
  asks(doer, 'takeIntoRecord');
  return decided(house, doer, recordId, listingId, fields, 'taken from', (content, key, value, context) => {
    const taken = takeTheirs(content, key, value, context);
    return taken.ok ? taken : fail(notTakenWords[taken.error]);
  });
}

/** Keeps what the channel shows on this one channel, worded by hand; the record's own words stay. */
export function keepTheirs(
  house: House,
  doer: Doer,
  recordId: RecordId,
  listingId: ListingId,
  fields: readonly DecidedField[],
): Result<number, string> {
  asks(doer, 'keepTheirs');
  return decided(house, doer, recordId, listingId, fields, 'kept as it is on', (content, key, value, context) => {
    const kept = keepTheirsHere(content, key, value, context);
    return kept === null
      ? fail('Only words of the whole event can be kept on one channel. Take them into the record, or send ours again.')
      : ok(kept);
  });
}

/** Lets go of a listing that was deleted there: the channel is left off, and nothing is placed again. */
export function letItGo(house: House, doer: Doer, recordId: RecordId, listingId: ListingId): Result<number, string> {
  asks(doer, 'letItGo');
  return transaction(house.db, (tx) => {
    const inside = { ...house, db: tx as House['db'] };
    const found = findListing(inside, recordId, listingId, []);
    if (!found.ok) return found;
    const [{ record }, listing] = found.value;
    if (!listing.state.gone) return fail('It stands there again. Look again.');
    const content = {
      ...record.content,
      leftOff: [...new Set([...record.content.leftOff, listing.channel])],
      notices: record.content.notices.filter((notice) => notice.channel !== listing.channel),
    };
    const saved = saveRecord(inside, doer, {
      id: record.id,
      base: record.revision,
      content,
      reason: `deleted on ${listing.rules.name}: let go`,
    });
    if (saved.kind !== 'saved' && saved.kind !== 'unchanged')
      return fail('The record was changed meanwhile. Look again.');
    letGo(tx, { id: listingId, recordId });
    return ok(saved.revision);
  });
}

type Change = (
  content: RecordContent,
  key: string,
  value: ShownValue | undefined,
  context: TakeContext,
) => Result<RecordContent, string>;

function decided(
  house: House,
  doer: Doer,
  recordId: RecordId,
  listingId: ListingId,
  fields: readonly DecidedField[],
  verb: string,
  change: Change,
): Result<number, string> {
  return transaction(house.db, (tx) => {
    const inside = { ...house, db: tx as House['db'] };
    const found = findListing(inside, recordId, listingId, fields);
    if (!found.ok) return found;
    const [surveyed, listing] = found.value;
    const { record } = surveyed;
    const { part } = listing;
    const show = showing(inside, surveyed, listingId);
    let content = record.content;
    const adopted: Shown = { ...listing.state.sent };
    for (const { key } of fields) {
      const value = listing.state.observed?.[key];
      const taken = change(content, key, value, { rules: listing.rules, part, show });
      if (!taken.ok) return taken;
      content = taken.value;
      if (value !== undefined) adopted[key] = value;
    }
    const reason = `${verb} ${listing.rules.name}`;
    const saved = saveRecord(inside, doer, { id: record.id, base: record.revision, content, reason });
    if (saved.kind === 'stopped')
      return fail(`The record does not take it: ${saved.findings.map(findingWords).join(' ')}`);
    if (saved.kind !== 'saved' && saved.kind !== 'unchanged')
      return fail('The record was changed meanwhile. Look again.');
    adoptSent(tx, { id: listingId, recordId }, adopted);
    return ok(saved.revision);
  });
}

/** What a listing would show of other contents of its record. */
export function showing(
  house: House,
  { record, channels }: SurveyedRecord,
  listingId: ListingId,
): (content: RecordContent) => Shown {
  const input = { ...inputFrom(record, surveyContext(house, [record.id])), errands: new Map(), channels };
  return (content) =>
    surveyRecord({ ...input, content }, house.kinds).listings.find((listing) => listing.id === listingId)?.proof ?? {};
}

/** The listing with its record; an error where what was seen of it is not so any more. */
function findListing(house: House, recordId: RecordId, listingId: ListingId, fields: readonly DecidedField[]) {
  const surveyed = surveyById(house, recordId);
  const listing = surveyed?.survey.listings.find((listing) => listing.id === listingId && listing.standing !== null);
  if (!surveyed || !listing || listingById(house.db, listingId) === null)
    return fail('This listing is not there any more. Look again.');
  for (const { key, seen } of fields)
    if (seen !== undefined && !equalOrAbsent(seen, listing.state.observed?.[key]))
      return fail('The channel shows something else by now than you saw. Look again.');
  const pair: [SurveyedRecord, typeof listing] = [surveyed, listing];
  return ok(pair);
}
