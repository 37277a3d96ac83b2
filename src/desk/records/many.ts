import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { recordIdSchema, type ChannelId, type ListingId, type RecordId } from '@/core/base/ids';
import { fingerprint } from '@/core/base/hash';
import { sameData } from '@/core/base/same-data';
import { toLocal } from '@/core/base/zones';
import { groupBy } from '@/core/base/group-by';
import { consequences, type Consequences } from '@/core/errands/consequences';
import { goesOf, leftUntil, saidWays } from '@/core/errands/goes';
import { edited, manyEditSchema, type ManyEdit } from '@/core/errands/many-edit';
import { editWords } from '@/core/errands/many-words';
import { sumOfMany } from '@/core/errands/many-sums';
import { knownDay, nextOf } from '@/core/facts/performance-facts';
import { findingWords } from '@/core/findings/finding-words';
import type { Doer } from '@/core/people/doer';
import { checkRecord } from '@/core/record/check-record';
import type { RecordContent } from '@/core/record/record';
import { changedFacts, draftedReason } from '@/core/words/change-words';
import { nameOf } from '@/channels/channels';
import { foreseeingGround, mirrorSources } from '@/house/foreseeing';
import { channelsOf, type House } from '@/house/house';
import { surveyContext, surveyOn, surveysOf, type SurveyedRecord } from '@/house/survey';
import { transaction, type Tx } from '@/store/database';
import { errandsWhere, decideErrands, seenBefore } from '@/store/errands';
import { houseMark, recordMarks } from '@/store/pulse';
import { keepManyEdit, manyEditById, newestManyEdit, noteUndone, wentOut, type ManyEditRow } from '@/store/many';
import { noteDoing } from '@/store/persons';
import { allRecords, recordAt } from '@/store/records';
import type { ManyEvent, ManyLine, ManySaved, ManyUndoable, ManyUndone, ManyView } from '@/views/many';
import { bookingWords, clashKey, doubleBookings, makeDispatch } from '../dispatch/make-dispatch';
import type { PickedWay } from '@/house/write-errands';
import { houseZone } from '../house/pulse';
import { asks, asksFor } from '../people/rights-of-verbs';
import { clashesIf } from './bookings';
import { groundOf, roomsOf, warningsUnseen } from './change-view';
import { restoreRevision } from './restore-revision';
import { asSaved, cleaned, saveRecord } from './save-record';
import { lockedFirst, NotSent } from './save-and-send';

/** So many events at once. */
const mostAtOnce = 500;

export const manyWishSchema = z.object({
  ids: z
    .array(recordIdSchema)
    .min(1, 'Choose an event first.')
    .max(mostAtOnce, `Choose ${mostAtOnce} events at most.`)
    .transform((ids) => [...new Set(ids)]),
  edit: manyEditSchema,
});
export type ManyWish = z.infer<typeof manyWishSchema>;

/** One of them, as it is and as it would be. */
interface OneOfMany {
  before: SurveyedRecord;
  /** `null`: it changes nothing, or cannot be so. */
  after: { surveyed: SurveyedRecord; content: RecordContent; made: Consequences } | null;
  /** Why it cannot be so; empty: it can. */
  why: string[];
}

/**
 * What an edit does to each of many events, one after the other, in the order in which they stand in the house. Nothing
 * is written.
 */
function* foreseeMany(house: House, db: Tx, { ids, edit }: ManyWish): Generator<OneOfMany> {
  const here = { ...house, db };
  const context = surveyContext(here, ids);
  const today = toLocal(context.now, houseZone(house)).date;
  const ground = foreseeingGround(house, db);
  const sources = mirrorSources(context.channels, house.kinds);
  for (const before of surveysOf(here, ids)) {
    const { record } = before;
    const no = noneOf(before, edit, context.channels);
    if (no !== null) {
      yield { before, after: null, why: [no] };
      continue;
    }
    const fresh = `n${fingerprint([record.id, record.revision, edit])}`;
    const put = edited(record.content, edit, { today, venues: context.venues, fresh });
    const checked = put.ok ? checkRecord(put.value, context.venues) : null;
    if (!put.ok || !checked?.ok) {
      const why = put.ok ? (checked && !checked.ok ? checked.error.map(findingWords) : []) : [put.error];
      yield { before, after: null, why };
      continue;
    }
    const content = cleaned(checked.value);
    if (sameData(record.content, content)) {
      yield { before, after: null, why: [] };
      continue;
    }
    const { settled } = asSaved(db, record, content);
    const surveyed = surveyOn({ ...record, content: settled }, context, before.mark, house.kinds);
    const made = consequences({
      ...ground,
      before: groundOf(before),
      after: groundOf(surveyed),
      sources,
      rooms: roomsOf(surveyed, context.venues),
      // Their sum does not name files.
      handedOn: null,
    });
    yield { before, after: { surveyed, content, made }, why: [] };
  }
}

/** Why nothing can be done with an event at all; `null`: it can. */
function noneOf({ record }: SurveyedRecord, edit: ManyEdit, channels: readonly { id: string }[]): string | null {
  if (record.awayAt !== null) return 'It was put away.';
  if ('channel' in edit && channels.every(({ id }) => id !== edit.channel)) return 'There is no such channel any more.';
  return null;
}

/** Names all that a person looks at: another where anything of it is another. */
function sealOf(edit: ManyEdit, all: readonly OneOfMany[]): string {
  const listingsOf = ({ atOnce, later, apart, said, busy, locked }: Consequences) => [
    ...[...atOnce, ...later, ...apart].map(({ listing, op, changes }) => [listing, op, changes]),
    ...said.map(({ listing, mending }) => [listing, mending]),
    ...busy.map(({ listing, more }) => [listing, more]),
    ...locked.map(({ listing, sold, ways }) => [listing, sold, ways.map(({ id }) => id)]),
  ];
  return fingerprint([
    edit,
    all.map(({ before, after, why }) => [
      before.record.id,
      before.record.revision,
      why,
      after && listingsOf(after.made),
    ]),
  ]);
}

/** A wish with the seal of what was looked at. */
type Sealed = ManyWish & { seal: string };

/** What was looked at, by its seal: it is not reckoned anew within the transaction that saves it. */
interface LookedAt {
  wish: ManyWish;
  /** The house's mark that all of it rests on. */
  house: string;
  now: number;
  monotonic: number;
  all: readonly OneOfMany[];
}

/** The server has several copies of a module: what one of them looked at, another saves. */
const shared = globalThis as { nuntiaxLookedAt?: LRUCache<string, LookedAt> };
const lookedAt = (shared.nuntiaxLookedAt ??= new LRUCache<string, LookedAt>({ max: 6 }));

/**
 * What was looked at under a seal, as long as neither any of it, nor what it rests on, was written to since, and no
 * clock has reached what changes it; `null`: it is to be reckoned anew.
 */
function keptOf(house: House, tx: Tx, { seal, ids, edit }: Sealed): readonly OneOfMany[] | null {
  const kept = lookedAt.get(`${house.folder} ${seal}`);
  if (!kept || kept.house !== houseMark(tx) || !sameData(kept.wish, { ids, edit })) return null;
  const marks = recordMarks(
    tx,
    kept.all.map(({ before }) => before.record.id),
  );
  const at = { now: house.clock.now(), monotonic: house.monotonic() };
  const holds = ({ holds: { until, monotonicUntil } }: SurveyedRecord) =>
    at.now >= kept.now && at.now < until && at.monotonic >= kept.monotonic && at.monotonic < monotonicUntil;
  const same = kept.all.every(
    ({ before, after }) =>
      marks.get(before.record.id) === before.mark && holds(before) && (after === null || holds(after.surveyed)),
  );
  return same ? kept.all : null;
}

const sliceMs = 25;

/**
 * What an edit of many events does, before it is saved: how far it is, now and then, and at last the list. Others are
 * served in between. Nothing is written.
 */
export function manyView(house: House, doer: Doer, wish: ManyWish): AsyncGenerator<ManyLine> {
  asks(doer, 'manyView');
  return looking(house, wish);
}

async function* looking(house: House, wish: ManyWish): AsyncGenerator<ManyLine> {
  const all: OneOfMany[] = [];
  // Read before what they stand for, so that what is kept is never older than them.
  const ground = { house: houseMark(house.db), now: house.clock.now(), monotonic: house.monotonic() };
  let begun = performance.now();
  for (const item of foreseeMany(house, house.db, wish)) {
    all.push(item);
    if (performance.now() - begun < sliceMs) continue;
    yield { kind: 'at', done: all.length, of: wish.ids.length };
    await new Promise((resolve) => setImmediate(resolve));
    begun = performance.now();
  }
  if (all.length === 0) return yield { kind: 'stopped', messages: ['None of these events is there any more.'] };
  const view = viewOf(house, wish, all);
  lookedAt.set(`${house.folder} ${view.seal}`, { ...ground, wish, all });
  yield { kind: 'view', view };
}

function viewOf(house: House, { ids, edit }: ManyWish, all: readonly OneOfMany[]): ManyView {
  const now = house.clock.now();
  const place = new Map(ids.map((id, i) => [id, i]));
  const inOrder = [...all].sort((a, b) => (place.get(a.before.record.id) ?? 0) - (place.get(b.before.record.id) ?? 0));
  const channels = channelsOf(house, house.db);
  const events = inOrder.map((item) => eventOf(item, now));
  const changed = inOrder.flatMap(({ before, after }) => (after ? [{ before, ...after }] : []));
  const sum = sumOfMany(changed.map(({ surveyed, made }) => ({ record: surveyed.record.id, made })));
  const [first] = changed;
  return {
    ...{ seal: sealOf(edit, all), now, zone: houseZone(house), events },
    words: editWords(edit, (channel) => nameOf(channels, channel)),
    reason: first ? draftedReason(first.before.survey.facts, first.surveyed.survey.facts) : '',
    until: untilOf(house, all),
    sum,
    unseen: unseenOf(house, changed),
    names: Object.fromEntries(channels.map(({ row }): [ChannelId, string] => [row.id, nameOf(channels, row.id)])),
  };
}

function eventOf({ before, after, why }: OneOfMany, now: number): ManyEvent {
  const { record, survey } = before;
  return {
    ...{ id: record.id, code: record.code, title: record.content.title, why: why.join(' ') },
    date: knownDay(nextOf(survey.facts.performances, now)),
    state: after ? 'changes' : why.length > 0 ? 'stopped' : 'same',
    facts: after ? changedFacts(survey.facts, after.surveyed.survey.facts) : [],
    locked: after?.made.locked.length ?? 0,
  };
}

/** The last day of them all: what stays as it is there may stay until then. */
function untilOf(house: House, all: readonly OneOfMany[]): string {
  const now = house.clock.now();
  const days = all.map(({ before }) =>
    leftUntil({ date: knownDay(nextOf(before.survey.facts.performances, now)), now }),
  );
  return days.reduce((latest, day) => (day > latest ? day : latest), '');
}

/** Warnings and double bookings that nobody has said to have seen, in words, how often each. */
function unseenOf(
  house: House,
  changed: readonly { surveyed: SurveyedRecord; made: Consequences }[],
): ManyView['unseen'] {
  const seen = new Set(seenBefore(house.db));
  const warnings = changed.flatMap(({ surveyed, made }) => warningsUnseen(seen, surveyed, made));
  const clashes = clashesIf(
    house,
    changed.map(({ surveyed }) => surveyed),
  );
  const twice = changed.flatMap(({ surveyed: { record } }) =>
    doubleBookings(clashes, record.id)
      .filter((clash) => !seen.has(clashKey(clash)))
      .map((clash) => ({ words: `${record.code}: ${bookingWords(clash, record.id)}` })),
  );
  return [...groupBy([...warnings, ...twice], ({ words }) => words)].map(([words, items]) => ({
    words,
    count: items.length,
  }));
}

/** What a person says to the list: by channel, and by what is locked together. */
export interface ManyPicks {
  /** Channels that stay out. */
  out: readonly string[];
  /** Channels whose posts and letters go though they tell people. */
  asked: readonly string[];
  /** Channels where what was said already is corrected by something new. */
  corrected: readonly string[];
  ways: Readonly<Record<string, PickedWay>>;
  /** The warnings were seen. */
  seen: boolean;
}

/**
 * Saves an edit of many events as one, and sends what was chosen of it; `picks` `null`: it is only saved. Where it does
 * something else by now than what was looked at (`seal`), or cannot be sent, nothing is saved.
 */
export function saveMany(house: House, doer: Doer, wish: Sealed, picks: ManyPicks | null): ManySaved {
  asks(doer, 'saveMany');
  if (picks !== null) asksFor(doer, 'send');
  try {
    return transaction(house.db, (tx) => savedAndSent(house, doer, tx, wish, picks));
  } catch (error) {
    if (error instanceof NotSent) return { kind: 'stopped', messages: [error.message, 'Nothing was saved or sent.'] };
    throw error;
  }
}

function savedAndSent(house: House, doer: Doer, tx: Tx, wish: Sealed, picks: ManyPicks | null): ManySaved {
  const kept = keptOf(house, tx, wish);
  const all = kept ?? [...foreseeMany(house, tx, wish)];
  if (all.length < wish.ids.length || (kept === null && sealOf(wish.edit, all) !== wish.seal)) return { kind: 'other' };
  const stopped = all.filter(({ why }) => why.length > 0);
  if (stopped.length > 0)
    return {
      kind: 'stopped',
      messages: stopped.slice(0, 5).map(({ before, why }) => `${before.record.code}: ${why.join(' ')}`),
    };
  const changed = all.flatMap(({ before, after }) => (after ? [{ record: before.record, ...after }] : []));
  if (changed.length === 0) return { kind: 'stopped', messages: ['They all say so already.'] };
  const channels = channelsOf(house, tx);
  const words = editWords(wish.edit, (channel) => nameOf(channels, channel));
  for (const { record, content } of changed) {
    const reason = `${words}, with ${changed.length} events`;
    const saved = saveRecord(house, doer, { id: record.id, base: record.revision, content, reason });
    if (saved.kind !== 'saved') throw new NotSent(`${record.code} could not be saved.`);
  }
  const dispatchId = picks === null ? null : sentOf(house, doer, changed, untilOf(house, all), picks);
  const id = keepManyEdit(tx, {
    ...{ actor: doer.name, actorId: doer.id, at: house.clock.now(), words, dispatchId },
    records: changed.map(({ record }) => ({ id: record.id, from: record.revision, to: record.revision + 1 })),
  });
  noteDoing(tx, doer, {
    ...{ at: house.clock.now(), sort: 'decision' },
    words: `${words} on ${changed.length} ${changed.length === 1 ? 'event' : 'events'} at once`,
  });
  return { kind: 'done', id, events: changed.length, dispatchId };
}

/** Sends what was chosen of them in one dispatch; `null`: there is nothing to send. Throws `NotSent`. */
function sentOf(
  house: House,
  doer: Doer,
  changed: readonly { record: { code: string }; made: Consequences }[],
  until: string,
  picks: ManyPicks,
): ManyEditRow['dispatchId'] {
  const [out, asked, corrected] = [new Set(picks.out), new Set(picks.asked), new Set(picks.corrected)];
  const listings = new Set<string>();
  const ways: Record<string, PickedWay> = {};
  for (const { made } of changed) {
    const channelOf = channelsByListing(made);
    const on = (set: ReadonlySet<string>) => (item: { listing: ListingId }) =>
      set.has(channelOf.get(item.listing) ?? '');
    for (const listing of goesOf(made, { out: on(out), asked: on(asked) })) listings.add(listing);
    for (const [listing, way] of saidWays(made.said, on(corrected), until)) ways[listing] = way;
  }
  const together = sumOfMany(changed.map(({ made }, i) => ({ record: String(i) as RecordId, made }))).locked;
  const codes = new Map(changed.flatMap(({ record, made }) => made.locked.map((item) => [item.listing, record.code])));
  for (const { key, listings: mine, ways: offered } of together) {
    const way = picks.ways[key];
    if (way === undefined) throw new NotSent('Pick a way for what is locked first.');
    if (offered.find(({ id }) => id === way.way)?.needs.includes('code') && way.code.trim() !== String(mine.length))
      throw new NotSent(`It cannot be taken back: type ${mine.length}, for so many are locked.`);
    for (const listing of mine) ways[listing] = { ...way, until: way.until || until, code: codes.get(listing) ?? '' };
  }
  if (listings.size + Object.keys(ways).length === 0) return null;
  const sent = makeDispatch(house, doer, listings, { ways, seen: picks.seen ? 'all' : [] });
  if (!sent.ok) throw new NotSent(sent.error);
  if (sent.value.dispatchId === null && listings.size > 0) throw new NotSent(lockedFirst);
  return sent.value.dispatchId;
}

function channelsByListing({ atOnce, later, apart, said, busy }: Consequences): Map<ListingId, ChannelId> {
  return new Map([...atOnce, ...later, ...apart, ...said, ...busy].map(({ listing, channel }) => [listing, channel]));
}

/** So long an edit of many is offered to be undone, in ms. */
const undoableForMs = 24 * 3_600_000;

/** The doer's newest edit of many of the last day, with what stands in the way of undoing it; `null`: there is none. */
export function manyUndoable(house: House, doer: Doer): ManyUndoable | null {
  asks(doer, 'manyUndoable');
  const row = newestManyEdit(house.db, doer.id, house.clock.now() - undoableForMs);
  if (row === null) return null;
  const { id, words, at, records } = row;
  return { id, words, at, events: records.length, why: whyNotUndone(house.db, row) };
}

/** Why an edit of many cannot be undone as one; `null`: it can. */
function whyNotUndone(db: Tx, row: ManyEditRow): string | null {
  if (row.undoneAt !== null) return 'It was undone already.';
  const now = new Map(
    allRecords(
      db,
      row.records.map(({ id }) => id),
    ).map((record) => [record.id, record]),
  );
  const named = (ids: RecordId[]) =>
    ids.length > 3 ? `${ids.length} of them` : ids.map((id) => now.get(id)?.code ?? 'one that is gone').join(', ');
  const changed = row.records.filter(({ id, to }) => now.get(id)?.revision !== to).map(({ id }) => id);
  if (changed.length > 0) return `${named(changed)} changed since.`;
  const went = [...wentOut(db, row)];
  return went.length > 0 ? `Something of ${named(went)} went out already.` : null;
}

/** Undoes an edit of many as one, while nothing of it went out and nobody changed any of them since. Says what came of it. */
export function undoMany(house: House, doer: Doer, id: string): ManyUndone {
  asks(doer, 'undoMany');
  try {
    return transaction(house.db, (tx) => undone(house, doer, tx, id));
  } catch (error) {
    if (error instanceof NotSent) return { kind: 'stopped', messages: [error.message, 'Nothing was undone.'] };
    throw error;
  }
}

function undone(house: House, doer: Doer, tx: Tx, id: string): ManyUndone {
  const row = manyEditById(tx, id);
  if (row === null) return { kind: 'stopped', messages: ['There is no such edit any more.'] };
  const why = whyNotUndone(tx, row);
  if (why !== null) return { kind: 'stopped', messages: [why, 'Nothing was undone.'] };
  if (row.dispatchId !== null) {
    const waiting = errandsWhere(tx, { dispatchId: row.dispatchId, states: ['waiting'] });
    decideErrands(
      tx,
      waiting.map((errand) => errand.id),
      'drop',
      house.monotonic(),
    );
  }
  for (const { id: record, from, to } of row.records) {
    const saved = restoreRevision(house, doer, record, from, to, `undone: ${row.words}`);
    if (saved.kind !== 'saved') throw new NotSent(`${recordAt(tx, record)?.code ?? record} cannot be as it was.`);
  }
  noteUndone(tx, id, house.clock.now());
  noteDoing(tx, doer, {
    ...{ at: house.clock.now(), sort: 'decision' },
    words: `undid “${row.words}” on ${row.records.length} events`,
  });
  return { kind: 'done', events: row.records.length };
}
