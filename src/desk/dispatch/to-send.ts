import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { ChannelId, RecordId } from '@/core/base/ids';
import { knownDay } from '@/core/facts/performance-facts';
import type { ErrandToSend, EventToSend, HeldToSend, NothingWhy } from '@/views/dispatch';
import type { Clash } from '@/core/clashes/clashes';
import { waitsInPeace, type HeldListing, type PlannedErrand } from '@/core/errands/plan';
import { asksPerson } from '@/core/listing/standing';
import { isPost } from '@/core/listing/channel-rules';
import { nameOf, partWords, type Channel } from '@/channels/channels';
import { channelsOf, type House } from '@/house/house';
import { planFor, surveyAll, surveysOf, type SurveyedRecord } from '@/house/survey';
import { allClashes } from '../records/bookings';
import { askingOf } from '../drift/read-back-view';
import { seenBefore } from '@/store/errands';
import { pulseRow } from '@/store/pulse';
import { allTours } from '@/store/tours';
import { goesBehind } from './behind';
import { bookingWords, clashKey, doubleBookings } from './make-dispatch';
import { toAcknowledge, warningKey, warningsOf } from '@/core/errands/warnings';
import { plainChange } from '@/core/listing/rich-words';

/** What is to be sent, by event in order of dates; of some records where they are given. */
export function toSend(house: House, doer: Doer, records?: readonly RecordId[]): EventToSend[] {
  asks(doer, 'toSend');
  return eventsToSend(house, records === undefined ? surveyAll(house) : [...surveysOf(house, records)]);
}

/** How many errands there are to send beside those of these events, as they were counted last. */
export function othersToSend(house: House, doer: Doer, shown: readonly EventToSend[]): number {
  asks(doer, 'othersToSend');
  const here = shown.reduce(
    (sum, { errands, locked }) => sum + errands.filter(({ notBefore }) => notBefore === null).length + locked.length,
    0,
  );
  return Math.max(0, pulseRow(house.db).toSend - here);
}

/** What the list is told from. */
interface Ground {
  house: House;
  channels: readonly Channel[];
  records: ReadonlyMap<RecordId, SurveyedRecord>;
  clashes: readonly Clash[];
  /** Warnings that somebody said to have seen. */
  seen: ReadonlySet<string>;
  /** Names of tours, by id. */
  tours: ReadonlyMap<string, string>;
}

function eventsToSend(house: House, surveyed: readonly SurveyedRecord[]): EventToSend[] {
  const ground: Ground = {
    house,
    channels: channelsOf(house, house.db),
    records: new Map(surveyed.map((record) => [record.record.id, record])),
    clashes: allClashes(house),
    seen: new Set(seenBefore(house.db)),
    tours: new Map(allTours(house.db).map(({ id, name }) => [id, name])),
  };
  const events = new Map<RecordId, EventToSend>();
  const eventOf = (recordId: RecordId) => {
    const made = events.get(recordId) ?? eventAlone(ground, recordId);
    events.set(recordId, made);
    return made;
  };
  const { errands, held, locked, busy } = planFor(surveyed);
  for (const errand of errands) eventOf(errand.record).errands.push(errandToSend(ground, errand));
  for (const { record, listing, channel, locked: fields, ways } of locked)
    eventOf(record).locked.push({
      listing,
      channel,
      part: partOf(ground, record, listing, channel),
      locked: fields.map(plainChange),
      ways,
    });
  for (const item of held) eventOf(item.record).held.push(heldToSend(ground, item));
  for (const item of busy)
    eventOf(item.record).busy.push({
      listing: item.listing,
      channel: item.channel,
      more: goesBehind(house.db, item) !== null,
    });
  // What was refused or has drifted is in the list that it belongs to; it is never left out without a word.
  const asking = surveyed.filter((record) => record.survey.listings.some((listing) => asksPerson(listing.standing)));
  for (const listing of askingOf(house, asking)) eventOf(listing.recordId).asks.push(listing);
  return [...events.values()].filter(isWorthTelling);
}

/** An event of which nothing can go and nothing stands outside is a draft in peace, not something that waits. */
function isWorthTelling({ errands, locked, asks, busy, held }: EventToSend): boolean {
  return (
    errands.length + locked.length + asks.length > 0 ||
    busy.some((item) => item.more) ||
    held.some((item) => !waitsInPeace(item))
  );
}

/** An event of which nothing was listed yet. */
function eventAlone(ground: Ground, recordId: RecordId): EventToSend {
  const { tours } = ground;
  const { record, survey } = recordOf(ground, recordId);
  const first = survey.facts.performances[0];
  return {
    recordId,
    code: record.code,
    title: record.content.title,
    tour: record.content.tourId === null ? null : (tours.get(record.content.tourId) ?? null),
    date: knownDay(first),
    zone: first?.zone ?? 'UTC',
    errands: [],
    locked: [],
    asks: [],
    held: [],
    busy: [],
    takenOff: record.content.notices.flatMap(({ id, channel, offSince }) =>
      offSince === null ? [] : [{ notice: id, channel, turn: offSince }],
    ),
    noPost: noPost(ground, recordId),
    clashes: doubleBookings(ground.clashes, recordId)
      .filter((booking) => !ground.seen.has(clashKey(booking)))
      .map((booking) => ({ key: clashKey(booking), words: bookingWords(booking, recordId) })),
  };
}

/** Nobody is to be nagged; but that an event is told of for the first time with no post about it is said. */
function noPost({ channels, records }: Ground, recordId: RecordId): boolean {
  const { record, survey } = recordOf({ records }, recordId);
  return (
    record.content.notices.length === 0 &&
    survey.listings.some(({ steps }) => steps.op === 'place') &&
    survey.listings.every(({ state }) => state.sent === null) &&
    channels.some(({ row, rules }) => row.connected && isPost(rules))
  );
}

function errandToSend(ground: Ground, errand: PlannedErrand): ErrandToSend {
  const { op, channel, record, notBefore } = errand;
  const listing = listingOf(ground, record, errand.listing);
  const rules = ground.channels.find((candidate) => candidate.row.id === channel)?.rules;
  const step = rules?.operations.find((operation) => operation.op === op);
  const missed = listing && warningsOf(listing).find((warning) => warning.code === 'giver-draft');
  return {
    listing: errand.listing,
    channel,
    part: partOf(ground, record, errand.listing, channel),
    op,
    changes: errand.changes.map(plainChange),
    waitsFor: errand.awaits === null ? [] : [nameOf(ground.channels, errand.awaits)],
    needs: errand.needs,
    notBefore,
    requests: errand.requests,
    undo: step?.undo ?? { how: 'wholly' },
    tells: step?.tells ?? 'nobody',
    ownMoment: rules?.notice !== null && notBefore !== null,
    effects: step?.effects ?? [],
    deleting: listing?.steps.deleting ?? null,
    orDraft:
      missed && op === 'place'
        ? { without: warningKey(listing, missed), draft: rules?.states.includes('draft') ?? false }
        : null,
    findings: listing ? warningsOf(listing) : [],
    unseen: listing ? toAcknowledge(listing, op, ground.seen) : [],
  };
}

function heldToSend(ground: Ground, { record, listing, channel, reasons, waitsFor }: HeldListing): HeldToSend {
  const locks = reasons.flatMap((reason) => (reason.code === 'lock-undecided' ? reason.listings : []));
  const steps = listingOf(ground, record, listing)?.steps;
  return {
    listing,
    channel,
    reasons,
    waitsFor: waitsFor === null ? null : nameOf(ground.channels, waitsFor),
    freedBy: waitsFor === null && reasons.every((reason) => reason.code === 'lock-undecided') ? locks : [],
    op: steps?.op ?? 'amend',
    changes: (steps?.changes ?? []).map(plainChange),
  };
}

function recordOf({ records }: Pick<Ground, 'records'>, recordId: RecordId): SurveyedRecord {
  return records.get(recordId) ?? fault(recordId);
}

function listingOf(ground: Ground, recordId: RecordId, id: string) {
  return recordOf(ground, recordId).survey.listings.find((listing) => listing.id === id);
}

/** Which of a long run's listings it is; empty for the only one. */
function partOf(ground: Ground, recordId: RecordId, id: string, channel: ChannelId): string {
  const where = ground.channels.find((candidate) => candidate.row.id === channel);
  return partWords(where, listingOf(ground, recordId, id)?.part ?? 0);
}

/** Why nothing is to send for these records, or for all of them, where `toSend` has nothing. */
export function whyNothing(house: House, doer: Doer, records?: readonly RecordId[]): NothingWhy {
  asks(doer, 'whyNothing');
  const surveyed = records === undefined ? surveyAll(house) : [...surveysOf(house, records)];
  if (records !== undefined && surveyed.length === 0) return 'gone';
  if (channelsOf(house, house.db).length === 0) return 'no-channels';
  const listings = surveyed.flatMap(({ survey }) => survey.listings);
  if (listings.some(({ standing }) => standing === 'underway' || standing === 'unread')) return 'underway';
  if (records === undefined || listings.some(({ state }) => state.sent !== null)) return 'in-step';
  return surveyed.every(({ survey }) => survey.facts.visibility === 'private') ? 'private' : 'nowhere';
}

function fault(recordId: RecordId): never {
  throw new Error(`the plan names record ${recordId}, which was not surveyed`);
}
