import { randomUUID } from 'node:crypto';
import type { ListingId, RecordId } from '@/core/base/ids';
import { newNotice } from '@/core/record/new-record';
import type { PlannedErrand } from '@/core/errands/plan';
import { holdersPost, tellsBuyers, untoldOf } from '@/core/errands/untold';
import { fail, ok, type Result } from '@/core/base/result';
import { isPost } from '@/core/listing/channel-rules';
import { mayDo, type Doer } from '@/core/people/doer';
import { channelOf, nameOf } from '@/channels/channels';
import { channelsOf, type House } from '@/house/house';
import type { SurveyedRecord } from '@/house/survey';
import { transaction, type Tx } from '@/store/database';
import type { LeftLockRow } from '@/store/left-locks';
import { noteDoing } from '@/store/persons';
import { allRecords, recordAt } from '@/store/records';
import { decideUntold, noteUntold, openUntold, type ToldHow } from '@/store/untold';
import type { UntoldHolders } from '@/views/dispatch';
import { asks } from '../people/rights-of-verbs';
import { saveRecord } from '../records/save-record';

/**
 * Notes who bought and is told by nobody of what goes out, or of what stays as it was there: it is open until somebody
 * decides. A post or a letter about the event in the same dispatch tells them; a step of the channel does, too.
 */
export function noteHolders(
  house: House,
  tx: Tx,
  surveyed: readonly SurveyedRecord[],
  going: readonly PlannedErrand[],
  stays: readonly LeftLockRow[],
  actor: string,
): void {
  const at = house.clock.now();
  const touched = new Set<string>([...going.map(({ record }) => record), ...stays.map(({ recordId }) => recordId)]);
  for (const { record, survey, channels } of surveyed) {
    if (!touched.has(record.id)) continue;
    const kinds = new Map(channels.map((row) => [row.id, channelOf(row, house.kinds).rules]));
    const posted = going.some(
      ({ record: of, channel, op }) =>
        of === record.id && (op === 'place' || op === 'correct') && (kinds.get(channel)?.notice ?? null) !== null,
    );
    for (const listing of survey.listings) {
      const errand = going.find((candidate) => candidate.listing === listing.id);
      const left = stays.find((candidate) => candidate.listing === listing.id);
      const op = errand?.op ?? null;
      const stood = Object.entries(left?.keys ?? {}).map(([key, after]) => ({ key, after }));
      const changes = [...(errand?.changes ?? []), ...stood];
      if (tellsBuyers(listing.rules, op)) decideUntold(tx, [listing.id], 'step', actor, at);
      const what = untoldOf(listing, op, changes);
      if (what.length === 0) continue;
      const { id: listingId, channel, lock } = listing;
      noteUntold(tx, { listingId, recordId: record.id, channel, sold: lock.sold, what, at, actor });
    }
    // What was open of it before is told by that, too.
    if (posted)
      decideUntold(
        tx,
        survey.listings.map(({ id }) => id),
        'post',
        actor,
        at,
      );
  }
}

/** Who bought and was told by nobody of what changed, the oldest first: a person decides. */
export function untoldHolders(house: House, doer: Doer): UntoldHolders[] {
  asks(doer, 'untoldHolders');
  const rows = openUntold(house.db);
  if (rows.length === 0) return [];
  const records = new Map(
    allRecords(
      house.db,
      rows.map(({ recordId }) => recordId),
    ).map((record) => [record.id, record]),
  );
  const channels = channelsOf(house, house.db);
  const writes = mayDo(doer, 'write');
  return rows.flatMap(({ listingId, recordId, channel, sold, what, at, actor }) => {
    const record = records.get(recordId);
    if (!record || record.awayAt !== null) return [];
    const account = writes ? channels.find(({ row, rules }) => row.connected && isPost(rules)) : undefined;
    return [
      {
        ...{ listingId, recordId, title: record.content.title, sold, what, at, by: actor },
        channel: nameOf(channels, channel),
        post: account?.row.name ?? null,
      },
    ];
  });
}

/**
 * Drafts a post for those who bought, in words that follow the record, on the first account that posts. It waits for a
 * yes like any other. Gives a word where that cannot be.
 */
export function postToHolders(house: House, doer: Doer, listingId: ListingId): Result<RecordId, string> {
  asks(doer, 'postToHolders');
  return transaction(house.db, (tx): Result<RecordId, string> => {
    const inside = { ...house, db: tx as House['db'] };
    const open = openUntold(tx).find((row) => row.listingId === listingId);
    const record = open && recordAt(tx, open.recordId);
    const account = channelsOf(house, tx).find(({ row, rules }) => row.connected && isPost(rules));
    if (!open || !record) return fail('Somebody decided that meanwhile.');
    if (!account) return fail('No account that posts is connected.');
    const post = newNotice(`n${randomUUID().slice(0, 8)}`, account.rules.id, { words: holdersPost(open.what) });
    const content = { ...record.content, notices: [...record.content.notices, post] };
    const reason = 'a post for those who bought';
    const saved = saveRecord(inside, doer, { id: record.id, base: record.revision, content, reason });
    return saved.kind === 'saved'
      ? ok(record.id)
      : fail('The record could not be saved. Open it, and write the post there.');
  });
}

/** Says that they were told by us, or that nobody needs to be. */
export function sayHolders(house: House, doer: Doer, listingId: ListingId, how: ToldHow): Result<null, string> {
  asks(doer, 'sayHolders');
  return transaction(house.db, (tx) => {
    const at = house.clock.now();
    const open = openUntold(tx).find((row) => row.listingId === listingId);
    if (!open || decideUntold(tx, [listingId], how, doer.name, at) === 0)
      return fail('Somebody decided that meanwhile.');
    const where = nameOf(channelsOf(house, tx), open.channel);
    const words = `${how === 'told' ? 'said that they were told' : 'said that nobody needs to be told'}: ${open.sold} by ${where}, of ${open.what.join(' and ')}`;
    noteDoing(tx, doer, { at, sort: 'decision', words, recordId: open.recordId });
    return ok(null);
  });
}
