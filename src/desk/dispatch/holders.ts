import { randomUUID } from 'node:crypto';
import type { ListingId, RecordId } from '@/core/base/ids';
import { newNotice } from '@/core/record/new-record';
import { holdersPost } from '@/core/errands/untold';
import { fail, ok, type Result } from '@/core/base/result';
import { isPost } from '@/core/listing/channel-rules';
import { mayDo, type Doer } from '@/core/people/doer';
import { nameOf } from '@/channels/channels';
import { channelsOf, type House } from '@/house/house';
import { transaction } from '@/store/database';
import { noteDoing } from '@/store/persons';
import { allRecords, recordAt } from '@/store/records';
import { decideUntold, openUntold, type ToldHow } from '@/store/untold';
import type { UntoldHolders } from '@/views/dispatch';
import { asks } from '../people/rights-of-verbs';
import { saveRecord } from '../records/save-record';

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
    if (!open || decideUntold(tx, { listing: listingId }, how, doer.name, at) === 0)
      return fail('Somebody decided that meanwhile.');
    const where = nameOf(channelsOf(house, tx), open.channel);
    const words = `${how === 'told' ? 'said that they were told' : 'said that nobody needs to be told'}: ${open.sold} by ${where}, of ${open.what.join(' and ')}`;
    noteDoing(tx, doer, { at, sort: 'decision', words, recordId: open.recordId });
    return ok(null);
  });
}
