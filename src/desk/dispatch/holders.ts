import { randomUUID } from 'node:crypto';
import { z } from 'zod';
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
import { allWordings } from '@/store/people';
import { allRecords, recordAt } from '@/store/records';
import { decideUntold, openUntold, type ToldHow } from '@/store/untold';
import type { ToldNobody } from '@/views/dispatch';
import { asks } from '../people/rights-of-verbs';
import { saveRecord } from '../records/save-record';

/** Who bought and was told by nobody of what changed, the oldest first: a person decides. */
export function untoldHolders(house: House, doer: Doer): ToldNobody {
  asks(doer, 'untoldHolders');
  const rows = openUntold(house.db);
  if (rows.length === 0) return { holders: [], accounts: [], wordings: [] };
  const records = new Map(
    allRecords(
      house.db,
      rows.map(({ recordId }) => recordId),
    ).map((record) => [record.id, record]),
  );
  const channels = channelsOf(house, house.db);
  const writes = mayDo(doer, 'write');
  const holders = rows.flatMap(({ listingId, recordId, channel, sold, what, at, actor }) => {
    const record = records.get(recordId);
    if (!record || record.awayAt !== null) return [];
    const { title } = record.content;
    return [{ listingId, recordId, title, sold, what, at, by: actor, channel: nameOf(channels, channel) }];
  });
  const carriers = channels.filter(({ row, rules }) => row.connected && rules.notice !== null);
  return {
    holders,
    accounts: writes ? carriers.map(({ row, rules }) => ({ id: row.id, name: row.name, letter: !isPost(rules) })) : [],
    wordings: writes ? [...allWordings(house.db).values()].map(({ id, name }) => ({ id, name })) : [],
  };
}

/** What a post or letter for those who bought is drafted with. */
export const holdersDraftSchema = z.object({
  account: z.string().min(1).max(40),
  /** A wording of the house; `null`: from what is so now. */
  wording: z.string().max(64).nullable(),
});

/**
 * Drafts a post or letter for those who bought, in words that follow the record or in a wording of the house. It waits
 * for a yes like any other. Gives a word where that cannot be.
 */
export function postToHolders(
  house: House,
  doer: Doer,
  listingId: ListingId,
  draft: z.output<typeof holdersDraftSchema>,
): Result<RecordId, string> {
  asks(doer, 'postToHolders');
  const { account: to, wording } = draft;
  return transaction(house.db, (tx): Result<RecordId, string> => {
    const inside = { ...house, db: tx as House['db'] };
    const open = openUntold(tx).find((row) => row.listingId === listingId);
    const record = open && recordAt(tx, open.recordId);
    const account = channelsOf(house, tx).find(({ row, rules }) => row.id === to && rules.notice !== null);
    if (!open || !record) return fail('Somebody decided that meanwhile.');
    if (account?.row.connected !== true) return fail('That account is not connected any more: choose another.');
    const own = wording === null ? null : allWordings(tx).get(wording);
    if (own === undefined) return fail('That wording is not there any more: choose another.');
    const words = own?.text ?? holdersPost(open.what);
    const post = newNotice(`n${randomUUID().slice(0, 8)}`, account.rules.id, { words, holders: true });
    const content = { ...record.content, notices: [...record.content.notices, post] };
    const reason = `a ${isPost(account.rules) ? 'post' : 'letter'} for those who bought`;
    const saved = saveRecord(inside, doer, { id: record.id, base: record.revision, content, reason });
    return saved.kind === 'saved' ? ok(record.id) : fail('The record could not be saved. Open it, and write it there.');
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
