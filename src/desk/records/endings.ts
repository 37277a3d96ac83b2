import { noteDoing } from '@/store/persons';
import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { ChannelId, RecordId } from '@/core/base/ids';
import { fail, ok, type Result } from '@/core/base/result';
import { toLocal } from '@/core/base/zones';
import { shortDate } from '@/core/dates/date-words';
import { channelsOf, type House } from '@/house/house';
import { surveyById, type SurveyedRecord } from '@/house/survey';
import { transaction, type Tx } from '@/store/database';
import { errandsWhere } from '@/store/errands';
import { cutListing, listingsOf, type Listing } from '@/store/listings';
import { exportedAt, putRecordAway, recordAt, removeRecord, wasOutside } from '@/store/records';
import type { Endings } from '@/views/record';
import { saveRecord } from './save-record';

/*
 * How a record ends: it is deleted where nothing of it was ever outside, put away where something was, and a listing
 * that is to stand as it is and be ours no more is let go of.
 */

const gone = 'This record is not there any more.';

/** Why a record cannot be deleted; `null`: it can. */
export function keptBecause(tx: Tx, id: RecordId): string | null {
  if (wasOutside(tx, id))
    return 'Something of it was sent, or was on its way: it can be put away, and its history is kept.';
  const out = exportedAt(tx, id);
  if (out !== null)
    return `It went out in a file on ${shortDate(toLocal(out, 'UTC').date)}, and may be read in elsewhere: put it away in place of deleting it.`;
  return null;
}

/** Why a record cannot be put away yet; `null`: it can. */
function openBecause({ record, survey }: SurveyedRecord, listings: readonly Listing[], now: number): string | null {
  const open = survey.listings.find((listing) => listing.errand === 'open' || listing.state.pendingOutcome !== null);
  if (open) return `Something is under way on ${open.rules.name}. Wait until it has ended.`;
  const { performances } = survey.facts;
  const over = performances.length > 0 && performances.every((performance) => performance.over < now);
  const there = survey.listings.find(
    ({ id, state, standing, rules }) =>
      state.sent !== null &&
      standing !== 'withdrawn' &&
      rules.answers !== 'pulled' &&
      listings.some((listing) => listing.id === id && listing.remote !== null),
  );
  if (over || there === undefined) return null;
  return `${record.content.title} is not over, and stands on ${there.rules.name}. Make it private and send that, or cut the tie, and put it away then.`;
}

/** Where a tie can be cut: channels on which something of the record stands that we hold. */
function tiesOf(house: House, listings: readonly Listing[]): Endings['ties'] {
  return channelsOf(house, house.db).flatMap(({ row, rules }) => {
    const mine = listings.filter((listing) => listing.channel === row.id && listing.remote !== null);
    if (mine.length === 0 || rules.answers === 'pulled' || rules.notice !== null) return [];
    return [{ channel: row.id, name: rules.name, address: mine[0]?.remote?.publicUrl ?? '' }];
  });
}

/** What can end of a record, and why something cannot. `null`: there is no such record. */
export function endingsOf(house: House, id: RecordId): Endings | null {
  const surveyed = surveyById(house, id);
  if (!surveyed) return null;
  const listings = listingsOf(house.db, id);
  const { awayAt } = surveyed.record;
  return {
    awayAt,
    keptBecause: keptBecause(house.db, id),
    openBecause: awayAt === null ? openBecause(surveyed, listings, house.clock.now()) : null,
    ties: awayAt === null ? tiesOf(house, listings) : [],
  };
}

/** Deletes a record of which nothing was ever outside, for good. `code`: as a person typed it. */
export function deleteRecord(house: House, doer: Doer, id: RecordId, code: string): Result<null, string> {
  asks(doer, 'deleteRecord');
  return transaction(house.db, (tx) => {
    const record = recordAt(tx, id);
    if (!record) return fail(gone);
    if (code.trim().toUpperCase() !== record.code) return fail(`Type its code, ${record.code}, to delete it.`);
    const kept = keptBecause(tx, id);
    if (kept !== null) return fail(kept);
    removeRecord(tx, id);
    noteDoing(tx, doer, {
      at: house.clock.now(),
      sort: 'decision',
      words: `deleted ${record.code} ${record.content.title}`,
    });
    return ok(null);
  });
}

/** Puts a record away: it leaves the season, and nothing of it is to send. It can be brought back. */
export function putAway(house: House, doer: Doer, id: RecordId): Result<null, string> {
  asks(doer, 'putAway');
  return transaction(house.db, (tx) => {
    const surveyed = surveyById({ ...house, db: tx as House['db'] }, id);
    if (!surveyed) return fail(gone);
    if (surveyed.record.awayAt !== null) return ok(null);
    const open = openBecause(surveyed, listingsOf(tx, id), house.clock.now());
    if (open !== null) return fail(open);
    putRecordAway(tx, id, house.clock.now());
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'decision', words: 'put it away', recordId: id });
    return ok(null);
  });
}

/** Brings a record back that was put away. */
export function bringBack(house: House, doer: Doer, id: RecordId): Result<null, string> {
  asks(doer, 'bringBack');
  return transaction(house.db, (tx) => {
    if (!recordAt(tx, id)) return fail(gone);
    putRecordAway(tx, id, null);
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'decision', words: 'brought it back', recordId: id });
    return ok(null);
  });
}

/**
 * Cuts the tie to a channel: what stands there stays as it is, the channel is left off, and nothing is sent or read
 * there for this record any more. Gives the record's revision.
 */
export function cutTie(house: House, doer: Doer, id: RecordId, channel: ChannelId): Result<number, string> {
  asks(doer, 'cutTie');
  return transaction(house.db, (tx) => {
    const inside = { ...house, db: tx as House['db'] };
    const record = recordAt(tx, id);
    if (!record) return fail(gone);
    const listings = listingsOf(tx, id);
    const tie = tiesOf(inside, listings).find((candidate) => candidate.channel === channel);
    if (!tie) return fail('Nothing of this record stands there that is ours.');
    const mine = listings.filter((listing) => listing.channel === channel);
    const under = mine.some(
      (listing) =>
        listing.pendingOutcome !== null ||
        errandsWhere(tx, { states: ['waiting', 'running', 'lodged'], listingId: listing.id }).length > 0,
    );
    if (under) return fail(`Something is under way on ${tie.name}. Wait until it has ended.`);
    const saved = saveRecord(inside, doer, {
      id,
      base: record.revision,
      content: { ...record.content, leftOff: [...new Set([...record.content.leftOff, channel])] },
      reason: `tie cut: what stands on ${tie.name} stays as it is`,
    });
    if (saved.kind !== 'saved' && saved.kind !== 'unchanged')
      return fail('The record cannot be saved as it stands. Put right what is marked, and cut the tie then.');
    const at = house.clock.now();
    for (const listing of mine)
      if (listing.remote !== null)
        cutListing(tx, listing, { at, by: doer.name, address: listing.remote.publicUrl ?? listing.remote.id });
    return ok(saved.revision);
  });
}
