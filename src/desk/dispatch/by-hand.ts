import { z } from 'zod';
import type { Doer } from '@/core/people/doer';
import { fail, ok, type Result } from '@/core/base/result';
import { webAddress } from '@/core/base/scalars';
import { handRulesSchema } from '@/core/listing/hand-rules';
import { operationWords } from '@/core/listing/operations';
import { valueWords } from '@/core/listing/rich-words';
import { isOff, listedField, splitKey, type ShownValue } from '@/core/listing/shown';
import type { Channel } from '@/channels/channels';
import { handMark, handStands, handTask, readStands, readTask, type HandMark } from '@/channels/kit/hand';
import { blockOf } from '@/channels/site-snippet/block';
import { settingsSchema as snippetSettings } from '@/channels/site-snippet/rules';
import { allowedHost } from '@/house/clients';
import { channelsOf, type House } from '@/house/house';
import { surveysOf, type SurveyedRecord } from '@/house/survey';
import { accountOf, allKeptAt, keepAt, keptAt, putSettings } from '@/store/channels';
import { transaction, type Tx } from '@/store/database';
import { askLater, dispatchById, errandById, errandsWhere, wakeErrands, type Errand } from '@/store/errands';
import { noteDoing } from '@/store/persons';
import type { HandSheet, HandTask } from '@/views/by-hand';
import { asks } from '../people/rights-of-verbs';
import { houseZone } from '../house/pulse';

const dayMs = 86_400_000;

/** Channels that a person fills in, by id. */
function byHandOf(house: House): Map<string, Channel> {
  return new Map(
    channelsOf(house, house.db).flatMap((channel) =>
      channel.kind.byPerson !== undefined ? [[channel.row.id, channel] as const] : [],
    ),
  );
}

/** Errands that wait for a person's hand, the oldest first, each with its channel. */
function openOf(house: House, db: Tx): { errand: Errand; channel: Channel }[] {
  const channels = byHandOf(house);
  if (channels.size === 0) return [];
  const marked = new Set(
    [...channels.values()].flatMap(({ row }) => [...allKeptAt(db, accountOf(row), handMark).keys()]),
  );
  return errandsWhere(db, { states: ['lodged'] }).flatMap((errand) => {
    const channel = channels.get(errand.channel);
    return channel && errand.lodged && !marked.has(errand.lodged.ticket) ? [{ errand, channel }] : [];
  });
}

function listingOf({ survey }: SurveyedRecord, { listingId }: Errand) {
  return survey.listings.find(({ id }) => id === listingId);
}

/** Why a task is not to be done any more: it may not be seen there by now. */
function whyNot(record: SurveyedRecord, errand: Errand): string | null {
  const op = errand.lodged?.op ?? errand.op;
  if (op === 'unpublish' || op === 'cancel') return null;
  const listing = listingOf(record, errand);
  if (!listing) return 'It is not in the record any more: leave it.';
  if (listing.down !== null || isOff(listing.wanted[listedField]))
    return 'It may not be seen there any more: leave it, and say that it was not done.';
  return listing.embargoUntil === null ? null : 'It may not be told of yet: leave it until then.';
}

/** Until when it is to be there: so many days before it begins; a block is pasted at once. */
function dueOf({ survey }: SurveyedRecord, { row, kind }: Channel): number | null {
  if (kind.byPerson !== 'sheet') return null;
  const { leadDays } = handRulesSchema.parse(row.settings);
  const first = survey.facts.performances.filter(({ turn }) => turn !== 'cancelled')[0];
  return first ? first.at - leadDays * dayMs : null;
}

function taskOf(
  house: House,
  { errand, channel }: ReturnType<typeof openOf>[number],
  record: SurveyedRecord,
): HandTask {
  const op = errand.lodged?.op ?? errand.op;
  return {
    errand: errand.id,
    recordId: errand.recordId,
    code: record.record.code,
    title: record.record.content.title,
    channel: channel.row.id,
    channelName: channel.rules.name,
    does: channel.rules.operations.find((row) => row.op === op)?.called ?? operationWords[op],
    since: dispatchById(house.db, errand.dispatchId)?.at ?? house.clock.now(),
    due: dueOf(record, channel),
    stop: whyNot(record, errand),
  };
}

/** What is to be done by hand, the most pressing first. */
export function handTasks(house: House, doer: Doer): HandTask[] {
  asks(doer, 'handTasks');
  const open = openOf(house, house.db);
  if (open.length === 0) return [];
  const records = new Map(
    [...surveysOf(house, [...new Set(open.map(({ errand }) => errand.recordId))])].map((item) => [
      item.record.id,
      item,
    ]),
  );
  return open
    .flatMap((item) => {
      const record = records.get(item.errand.recordId);
      return record ? [taskOf(house, item, record)] : [];
    })
    .sort((a, b) => (a.due ?? Infinity) - (b.due ?? Infinity) || a.since - b.since);
}

/** One task with its sheet to type from. `null`: it is done, or there is none. */
export function handSheet(house: House, doer: Doer, errandId: number): HandSheet | null {
  asks(doer, 'handSheet');
  const item = openOf(house, house.db).find(({ errand }) => errand.id === errandId);
  const [record] = item ? [...surveysOf(house, [item.errand.recordId])] : [];
  if (!item || !record) return null;
  const { errand, channel } = item;
  const block = channel.kind.byPerson === 'block' ? blockToPaste(house, item) : null;
  const { where, fields } =
    channel.kind.byPerson === 'block'
      ? { ...snippetSettings.parse(channel.row.settings), fields: [] }
      : handRulesSchema.parse(channel.row.settings);
  const limits = new Map<string, number | null>(fields.map(({ field, limit }) => [field, limit]));
  const said = (errand.lodged?.changes ?? []).filter(({ key }) => splitKey(key).field !== listedField);
  const listing = listingOf(record, errand);
  return {
    ...taskOf(house, item, record),
    where,
    zone: houseZone(house),
    now: house.clock.now(),
    fields: channel.rules.rows.flatMap(({ field, label }) => {
      const mine = said.filter(({ key }) => splitKey(key).field === field);
      const words = (value: ShownValue | null) => (value === null ? '' : valueWords(value));
      const lines = mine.map(({ before, after }) => ({ text: words(after), before: words(before) }));
      // A block is pasted whole: what it changes is shown, and nothing is typed.
      const shows = block === null || lines.some(({ before }) => before !== '');
      return lines.length === 0 || !shows ? [] : [{ field, label, limit: limits.get(field) ?? null, lines }];
    }),
    block,
    address: listing?.publicUrl ?? '',
    changed: (listing?.steps.changes.length ?? 0) > 0 && errand.revision !== record.record.revision,
  };
}

/** The whole block as it is to stand there after a task; `null`: it is to be taken off. */
function blockToPaste(house: House, { errand, channel }: ReturnType<typeof openOf>[number]): string | null {
  const account = accountOf(channel.row);
  const task = readTask(keptAt(house.db, account, handTask, errand.lodged?.ticket ?? ''));
  if (task === null || task.op === 'unpublish') return null;
  const stands = readStands(keptAt(house.db, account, handStands, task.reference));
  return blockOf({ ...stands?.wire, ...task.wire });
}

const doneSchema = z.object({ address: z.string().trim().max(2_000) });

/** Says that a task was done, and where it stands, where it has a page. The error names the field. */
export function sayHandDone(
  house: House,
  doer: Doer,
  errandId: number,
  input: unknown,
): Result<null, Record<string, string>> {
  asks(doer, 'sayHandDone');
  const read = doneSchema.safeParse(input);
  const given = read.success ? read.data.address : null;
  const address = given === '' ? null : webAddress.safeParse(given);
  if (given === null || address?.success === false)
    return fail({ address: 'Write the address of its page as https://, or leave it empty.' });
  return mark(house, doer, errandId, { address: address?.data ?? null, word: null });
}

/** Says that a task could not be done, and why: a person decides what becomes of it. */
export function sayHandFailed(
  house: House,
  doer: Doer,
  errandId: number,
  input: unknown,
): Result<null, Record<string, string>> {
  asks(doer, 'sayHandFailed');
  const word = z.string().trim().min(1).max(200).safeParse(input);
  if (!word.success) return fail({ word: 'Say in a few words why it could not be done.' });
  return mark(house, doer, errandId, { address: null, word: word.data });
}

function mark(
  house: House,
  doer: Doer,
  errandId: number,
  how: Pick<HandMark, 'address' | 'word'>,
): Result<null, Record<string, string>> {
  return transaction(house.db, (tx) => {
    const item = openOf({ ...house, db: tx as House['db'] }, tx).find(({ errand }) => errand.id === errandId);
    const ticket = item?.errand.lodged?.ticket;
    if (!item || ticket === undefined || errandById(tx, errandId)?.state !== 'lodged')
      return fail({ task: 'Somebody said meanwhile what became of it.' });
    const at = house.clock.now();
    const account = accountOf(item.channel.row);
    const said: HandMark = { by: doer.name, at, ...how };
    keepAt(tx, account, handMark, ticket, JSON.stringify(said));
    if (how.address !== null) keepAt(tx, account, allowedHost, new URL(how.address).host, 'allowed');
    // Its answer is there: it need not wait until it is asked for again.
    askLater(tx, errandId, house.monotonic());
    noteDoing(tx, doer, {
      ...{ at, sort: 'decision', recordId: item.errand.recordId },
      words:
        how.word === null
          ? `did by hand on ${item.channel.rules.name}`
          : `could not do by hand on ${item.channel.rules.name}: ${how.word}`,
    });
    return ok(null);
  });
}

/** Says what a place that is filled in by hand asks for. The error names the field. */
export function setHandRules(
  house: House,
  doer: Doer,
  id: string,
  input: unknown,
): Result<null, Record<string, string>> {
  asks(doer, 'setHandRules');
  const rules = handRulesSchema.safeParse(input);
  if (!rules.success)
    return fail(Object.fromEntries(rules.error.issues.map((issue) => [issue.path.join('.'), issue.message])));
  return transaction(house.db, (tx) => {
    const channel = byHandOf({ ...house, db: tx as House['db'] }).get(id);
    if (channel?.kind.byPerson !== 'sheet') return fail({ fields: 'There is no such place any more.' });
    putSettings(tx, channel.row.id, rules.data, doer.name);
    noteDoing(tx, doer, {
      at: house.clock.now(),
      sort: 'channel',
      words: `said what ${channel.rules.name} asks for`,
    });
    wakeErrands(tx);
    return ok(null);
  });
}
