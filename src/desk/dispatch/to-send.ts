import type { ChannelId, RecordId } from '@/core/base/ids';
import type { EventToSend, NothingWhy } from '@/views/dispatch';
import { asksPerson } from '@/core/listing/standing';
import { nameOf, partWords } from '@/channels/channels';
import { channelsOf, type House } from '@/house/house';
import { planFor, surveyAll, surveyById, type SurveyedRecord } from '@/house/survey';
import { seasonClashes } from '../records/bookings';
import { asksFor } from '../drift/read-back-view';
import { seenBefore } from '@/store/errands';
import { goesBehind } from './behind';
import { bookingWords, clashKey, doubleBookings } from './make-dispatch';
import { toAcknowledge, warningKey, warningsOf } from './warnings';
import { plainChange } from '@/core/listing/rich-words';

/** What is to be sent, by event in order of dates; of one record where `recordId` is given. */
export function toSend(house: House, recordId?: RecordId): EventToSend[] {
  const record = recordId === undefined ? null : surveyById(house, recordId);
  const surveyed = recordId === undefined ? surveyAll(house) : record === null ? [] : [record];
  return eventsToSend(house, surveyed);
}

function eventsToSend(house: House, surveyed: readonly SurveyedRecord[]): EventToSend[] {
  const { errands, held, locked, busy } = planFor(surveyed);
  const channels = channelsOf(house, house.db);
  const byRecord = new Map(surveyed.map((record) => [record.record.id, record]));
  const clashes = seasonClashes(house);
  const seen = new Set(seenBefore(house.db));
  const events = new Map<string, EventToSend>();
  const recordOf = (recordId: RecordId) => byRecord.get(recordId) ?? fault(recordId);
  const eventOf = (recordId: RecordId) => {
    const kept = events.get(recordId);
    if (kept) return kept;
    const { record, survey } = recordOf(recordId);
    const first = survey.facts.performances[0];
    const made: EventToSend = {
      recordId,
      code: record.code,
      title: record.content.title,
      date: first?.date ?? null,
      zone: first?.zone ?? 'UTC',
      errands: [],
      locked: [],
      asks: [],
      held: [],
      busy: [],
      takenOff: record.content.notices.flatMap(({ id, channel, offSince }) =>
        offSince === null ? [] : [{ notice: id, channel, turn: offSince }],
      ),
      clashes: doubleBookings(clashes, recordId)
        .filter((booking) => !seen.has(clashKey(booking)))
        .map((booking) => ({ key: clashKey(booking), words: bookingWords(booking, recordId) })),
    };
    events.set(recordId, made);
    return made;
  };
  const partOf = (recordId: RecordId, listing: string, channel: ChannelId) =>
    partWords(
      channels.find((candidate) => candidate.row.id === channel),
      recordOf(recordId).survey.listings.find((l) => l.id === listing)?.part ?? 0,
    );
  for (const errand of errands) {
    const listing = recordOf(errand.record).survey.listings.find((l) => l.id === errand.listing);
    const row = channels.find((channel) => channel.row.id === errand.channel);
    const step = row?.rules.operations.find((operation) => operation.op === errand.op);
    const unseen = listing ? toAcknowledge(listing, errand.op, seen) : [];
    const missed = listing && warningsOf(listing).find((warning) => warning.code === 'giver-draft');
    eventOf(errand.record).errands.push({
      listing: errand.listing,
      channel: errand.channel,
      part: partOf(errand.record, errand.listing, errand.channel),
      op: errand.op,
      changes: errand.changes.map(plainChange),
      waitsFor: errand.awaits === null ? [] : [nameOf(channels, errand.awaits)],
      notBefore: errand.notBefore,
      requests: errand.requests,
      undo: step?.undo ?? { how: 'wholly' },
      tells: step?.tells ?? 'nobody',
      ownMoment: row?.rules.notice !== null && errand.notBefore !== null,
      effects: step?.effects ?? [],
      deleting: listing?.steps.deleting ?? null,
      orDraft:
        missed && errand.op === 'place'
          ? { without: warningKey(listing, missed), draft: row?.rules.states.includes('draft') ?? false }
          : null,
      findings: listing ? warningsOf(listing) : [],
      unseen,
    });
  }
  for (const { record, listing, channel, locked: fields, ways } of locked)
    eventOf(record).locked.push({
      listing,
      channel,
      part: partOf(record, listing, channel),
      locked: fields.map(plainChange),
      ways,
    });
  for (const { record, listing, channel, reasons, waitsFor } of held) {
    const locks = reasons.flatMap((reason) => (reason.code === 'lock-undecided' ? reason.listings : []));
    const steps = recordOf(record).survey.listings.find((l) => l.id === listing)?.steps;
    eventOf(record).held.push({
      listing,
      channel,
      reasons,
      waitsFor: waitsFor === null ? null : nameOf(channels, waitsFor),
      freedBy: waitsFor === null && reasons.every((reason) => reason.code === 'lock-undecided') ? locks : [],
      op: steps?.op ?? 'amend',
      changes: (steps?.changes ?? []).map(plainChange),
    });
  }
  for (const listing of busy)
    eventOf(listing.record).busy.push({
      listing: listing.listing,
      channel: listing.channel,
      more: goesBehind(house.db, listing) !== null,
    });
  // What was refused or has drifted is in the list that it belongs to; it is never left out without a word.
  const asking = surveyed.filter((record) => record.survey.listings.some((listing) => asksPerson(listing.standing)));
  for (const listing of asksFor(house, asking)) eventOf(listing.recordId).asks.push(listing);
  const quiet = new Set(['pencilled', 'not-connected']);
  // An event of which nothing can go and nothing stands outside is a draft in peace, not something that waits.
  return [...events.values()].filter(
    (event) =>
      event.errands.length + event.locked.length + event.asks.length > 0 ||
      event.busy.some((candidate) => candidate.more) ||
      event.held.some((heldToSend) => !heldToSend.reasons.every((f) => quiet.has(f.code))),
  );
}

/** Why nothing is to send for a record, or for all of them, where `toSend` has nothing. */
export function whyNothing(house: House, recordId?: RecordId): NothingWhy {
  const record = recordId === undefined ? null : surveyById(house, recordId);
  if (recordId !== undefined && record === null) return 'gone';
  if (channelsOf(house, house.db).length === 0) return 'no-channels';
  const listings = (record === null ? surveyAll(house) : [record]).flatMap(({ survey }) => survey.listings);
  if (listings.some(({ standing }) => standing === 'underway' || standing === 'unread')) return 'underway';
  if (record === null || listings.some(({ state }) => state.sent !== null)) return 'in-step';
  return record.survey.facts.visibility === 'private' ? 'private' : 'nowhere';
}

function fault(recordId: RecordId): never {
  throw new Error(`the plan names record ${recordId}, which was not surveyed`);
}
