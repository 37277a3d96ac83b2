import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { DispatchId, RecordId } from '@/core/base/ids';
import { byWay, deletion, plan, type LockedListing, type PlannedErrand } from '@/core/errands/plan';
import { addDays, instantOf } from '@/core/base/zones';
import { equalOrAbsent } from '@/core/listing/compare';
import { listWords } from '@/core/base/list-words';
import { fail, ok, type Result } from '@/core/base/result';
import { clashWords } from '@/core/clashes/clash-words';
import type { Clash } from '@/core/clashes/clashes';
import { operationWords, operations, tellsNothingNew, type Operation } from '@/core/listing/operations';
import { nameOf, type Channel } from '@/channels/channels';
import { channelsOf, type House } from '@/house/house';
import { noteHolders } from '@/house/holders';
import { inOrder, planFor, surveyAll, type SurveyedRecord } from '@/house/survey';
import { transaction } from '@/store/database';
import { newestErrandOf, seenBefore, wakeErrands } from '@/store/errands';
import { putLeftLock, type LeftLockRow } from '@/store/left-locks';
import { seasonClashes } from '../records/bookings';
import { goesBehind } from './behind';
import { toAcknowledge } from '@/core/errands/warnings';
import { writeErrands, type PickedWay } from '@/house/write-errands';

/** What became of a dispatch. */
export interface Made {
  /**
   * Where it is watched: the one made, or the one that what was asked for goes out with already; `null`: nothing goes
   * out.
   */
  dispatchId: DispatchId | null;
  errands: number;
  /** Listings asked for of which an errand is under way: what they are to say goes with it, or behind it. */
  underway: number;
}

/** What a person says along with a dispatch. */
export interface Along {
  /** Ways that were picked, by listing. */
  ways?: Readonly<Record<string, PickedWay>>;
  /** Side effects that were asked for, by listing. */
  effects?: Readonly<Record<string, readonly string[]>>;
  /** Clashes that the person says to have seen, by `clashKey`; `all`: whoever asks is no person at a screen. */
  seen?: readonly string[] | 'all';
  /** What gives a link that is awaited goes along, chosen or not: whoever asks is no person at a screen. */
  givers?: 'along';
}

/** What tells one clash from another, as long as it is the same. */
export function clashKey({ code, a, b }: Clash): string {
  return `${code} ${a.performance} ${b?.performance ?? ''}`;
}

/** Clashes that are to be seen before an event is sent: one room, one venue or one artist twice. */
export function doubleBookings(clashes: readonly Clash[], recordId: RecordId): Clash[] {
  const twice = new Set(['room-overlap', 'venue-overlap', 'artist-twice']);
  return clashes.filter(
    (clash) =>
      clash.weight !== 'notes' &&
      twice.has(clash.code) &&
      (clash.a.record === recordId || clash.b?.record === recordId),
  );
}

/** A double booking in words, as one of its two events sees it. */
export function bookingWords(clash: Clash, recordId: RecordId): string {
  const other = clash.a.record === recordId ? clash.b : clash.a;
  return `${other === null ? '' : `With “${other.title}”: `}${clashWords(clash)}`;
}

/**
 * Makes a dispatch of the listings named (all that can go, where `only` is missing). The plan is made anew inside
 * the transaction: what changed since it was looked at cannot slip out. Errands that were refused before for the same
 * listings are dropped: the new wish stands in their place.
 */
export function makeDispatch(
  house: House,
  doer: Doer,
  only: ReadonlySet<string> | null,
  along: Along = {},
): Result<Made, string> {
  asks(doer, 'makeDispatch');
  const clashes = along.seen === 'all' ? [] : seasonClashes(house, doer);
  return transaction(house.db, (tx) => {
    const surveyed = surveyAll({ ...house, db: tx });
    const ways = byWays(surveyed, along.ways ?? {}, house, doer.name);
    if (!ways.ok) return ways;
    const { goes, stays } = ways.value;
    const decided = new Set(Object.keys(along.ways ?? {}));
    const { errands, busy, locked } = decided.size === 0 ? planFor(surveyed) : plan(inOrder(surveyed), decided);
    const planned = errands.filter((errand) => !decided.has(errand.listing));
    const unasked = only === null || along.givers === 'along' ? [] : notAsked(planned, only);
    if (unasked.length > 0) return fail(givesWords(unasked, channelsOf(house, tx)));
    const asked = busy.filter((listing) => only === null || only.has(listing.listing));
    const chosen = [
      ...(only === null ? planned.filter((errand) => errand.notBefore === null) : withGivers(planned, only)),
      ...asked.flatMap((listing) => goesBehind(tx, listing) ?? []),
      ...goes,
    ];
    if (chosen.length + stays.length === 0) {
      const [first] = asked;
      const under = first && newestErrandOf(tx, first.listing)?.dispatchId;
      if (under) return ok({ dispatchId: under, errands: 0, underway: asked.length });
      const waits = locked.filter((listing) => !decided.has(listing.listing));
      return fail(waits.length > 0 ? lockedWords(waits) : nothingLeft);
    }
    const seen = new Set([...(along.seen === 'all' ? [] : (along.seen ?? [])), ...seenBefore(tx)]);
    // What is renewed or taken down tells nobody anything new.
    const telling = chosen.filter((errand) => !tellsNothingNew(errand.op));
    for (const record of new Set(telling.map((errand) => errand.record))) {
      const unseen = doubleBookings(clashes, record).find((booking) => !seen.has(clashKey(booking)));
      if (unseen) return fail(`${bookingWords(unseen, record)} Tick that you have seen it, or take the event out.`);
    }
    // What goes by a way was looked at when the way was picked.
    const byPlan = chosen.filter((errand) => !decided.has(errand.listing));
    const open = along.seen === 'all' ? 0 : unacknowledged(surveyed, byPlan, seen);
    if (open > 0)
      return fail(
        open === 1
          ? 'One warning is not acknowledged. Tick that you have seen it, or take what it is about out.'
          : `${open} warnings are not acknowledged. Tick that you have seen them, or take what they are about out.`,
      );
    for (const lock of stays) {
      putLeftLock(tx, lock);
      // What waited for this decision goes on.
      wakeErrands(tx, lock.recordId);
    }
    const dispatch = chosen.length === 0 ? null : writeErrands(house, tx, chosen, surveyed, doer.name, along);
    for (const { listing: id, recordId, keys } of stays) {
      const record = surveyed.find((candidate) => candidate.record.id === recordId);
      const listing = record?.survey.listings.find((candidate) => candidate.id === id);
      const changes = Object.entries(keys).map(([key, after]) => ({ key, after }));
      if (record && listing) noteHolders(house, tx, { record, listing, op: null, changes, dispatch, actor: doer.name });
    }
    return ok({ dispatchId: dispatch, errands: chosen.length, underway: asked.length });
  });
}

/** How many warnings of what was chosen nobody has said to have seen. */
function unacknowledged(
  surveyed: readonly SurveyedRecord[],
  chosen: readonly PlannedErrand[],
  seen: ReadonlySet<string>,
): number {
  const listings = new Map(
    surveyed.flatMap(({ survey }) => survey.listings.map((listing): [string, typeof listing] => [listing.id, listing])),
  );
  return chosen.reduce((sum, errand) => {
    const listing = listings.get(errand.listing);
    return sum + (listing ? toAcknowledge(listing, errand.op, seen).length : 0);
  }, 0);
}

const nothingLeft = 'Nothing is left to send: it has gone meanwhile, or the records changed. Look again.';

function lockedWords(waits: readonly LockedListing[]): string {
  const [first] = waits;
  const fields = [...new Set(first?.locked.map((change) => change.label))].join(', ');
  return `Nothing can go before it is decided what becomes of what is locked: ${fields} on ${first?.channel}${waits.length > 1 ? `, and ${waits.length - 1} more` : ''}. Pick a way in Dispatch, or say there that it stays.`;
}

/** What the decisions on locks come to: errands that go by a way, and what stays as it is there. */
interface Decisions {
  goes: (PlannedErrand & { way: Operation })[];
  stays: LeftLockRow[];
}

/** What a chosen step leaves as it is asks again so long after the event, in milliseconds. */
const leftForMs = 30 * 86_400_000;

/** What the ways that were picked come to. One that is not offered any more, or lacks what it needs, is told. */
function byWays(
  surveyed: readonly SurveyedRecord[],
  ways: Readonly<Record<string, PickedWay>>,
  house: House,
  actor: string,
): Result<Decisions, string> {
  const out: Decisions = { goes: [], stays: [] };
  for (const [id, picked] of Object.entries(ways)) {
    const record = surveyed.find(({ survey }) => survey.listings.some((listing) => listing.id === id));
    const listing = record?.survey.listings.find((listing) => listing.id === id);
    const way =
      picked.way === 'remove' ? listing?.steps.deleting : listing?.steps.ways.find((way) => way.id === picked.way);
    if (!record || !listing || !way) return fail('A way that was picked is not open any more. Look again.');
    if (listing.errand === 'open')
      return fail('An errand for this listing is still going out. Wait until it has ended.');
    const left = (because: string, until: number, stays = listing.steps.locked): LeftLockRow => ({
      ...{ listing: listing.id, recordId: record.record.id, because, until, by: actor, at: house.clock.now() },
      keys: Object.fromEntries(stays.map(({ key, after }) => [key, after])),
    });
    const op = operations.find((operation) => operation === picked.way);
    if (op === undefined) {
      const until = lastOf(picked.until ?? '', record);
      if (picked.reason.trim() === '')
        return fail(`${listing.rules.name} stays as it is there: say why, so that whoever asks later finds it.`);
      if (until === null || until <= house.clock.now())
        return fail(`${listing.rules.name} stays as it is there: say until which day, and it asks again.`);
      out.stays.push(left(picked.reason.trim(), until));
      continue;
    }
    if (way.needs.includes('reason') && picked.reason.trim() === '')
      return fail(`${operationWords[op]}: say why, in public words.`);
    if (way.needs.includes('code') && picked.code.trim().toUpperCase() !== record.record.code.toUpperCase())
      return fail(`${operationWords[op]} cannot be taken back: type the event’s code ${record.record.code}.`);
    const errand = op === 'remove' ? deletion(listing) : byWay(listing, op);
    out.goes.push({ ...errand, way: op });
    // What that step does not bring about stays as it is, by the same word.
    const over = Math.max(
      ...record.survey.facts.performances.map((performance) => performance.over),
      house.clock.now(),
    );
    const stays = listing.steps.locked.filter(
      ({ key, after }) => !errand.changes.some((change) => change.key === key && equalOrAbsent(change.after, after)),
    );
    if (stays.length > 0)
      out.stays.push(left(picked.reason.trim() || `${way.title} was chosen`, over + leftForMs, stays));
  }
  return ok(out);
}

/** The end of a day in a record's zone; `null`: it is no day. */
function lastOf(day: string, { survey }: SurveyedRecord): number | null {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(day) || Number.isNaN(Date.parse(day))) return null;
  const zone = survey.facts.performances[0]?.zone ?? survey.facts.announceZone;
  return instantOf({ date: addDays(day, 1), time: '00:00' }, zone) ?? Date.parse(day) + 86_400_000;
}

/** Errands that give what a chosen one awaits, and were not chosen: a person is to see what goes. */
function notAsked(planned: readonly PlannedErrand[], only: ReadonlySet<string>): PlannedErrand[] {
  return withGivers(planned, only).filter((errand) => !only.has(errand.listing));
}

function givesWords(givers: readonly PlannedErrand[], channels: readonly Channel[]): string {
  const names = listWords([...new Set(givers.map(({ channel }) => nameOf(channels, channel)))]);
  return `What is chosen waits for the ticket link of ${names}, which is not chosen. Tick that too, in Dispatch, or take out what waits for it.`;
}

/** An errand that awaits another's link takes it along. */
function withGivers(planned: readonly PlannedErrand[], only: ReadonlySet<string>): PlannedErrand[] {
  const wanted = new Set(only);
  for (const errand of planned) if (wanted.has(errand.listing)) errand.needs.forEach((need) => wanted.add(need));
  return planned.filter((errand) => wanted.has(errand.listing));
}
