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

/** What is to be sent, by event in order of dates; of one record where `recordId` is given. */
export function toSend(house: House, recordId?: RecordId): EventToSend[] {
  const one = recordId === undefined ? null : surveyById(house, recordId);
  const surveyed = recordId === undefined ? surveyAll(house) : one === null ? [] : [one];
  return eventsToSend(house, surveyed);
}

function eventsToSend(house: House, surveyed: readonly SurveyedRecord[]): EventToSend[] {
  const { errands, held, locked, busy } = planFor(surveyed);
  const channels = channelsOf(house, house.db);
  const byRecord = new Map(surveyed.map((one) => [one.record.id, one]));
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
        .filter((one) => !seen.has(clashKey(one)))
        .map((one) => ({ key: clashKey(one), words: bookingWords(one, recordId) })),
    };
    events.set(recordId, made);
    return made;
  };
  const partOf = (recordId: RecordId, listing: string, channel: ChannelId) =>
    partWords(
      channels.find((one) => one.row.id === channel),
      recordOf(recordId).survey.listings.find((l) => l.id === listing)?.part ?? 0,
    );
  for (const one of errands) {
    const listing = recordOf(one.record).survey.listings.find((l) => l.id === one.listing);
    const row = channels.find((each) => each.row.id === one.channel);
    const step = row?.rules.operations.find((each) => each.op === one.op);
    const unseen = listing ? toAcknowledge(listing, one.op, seen) : [];
    const missed = listing && warningsOf(listing).find((each) => each.code === 'giver-draft');
    eventOf(one.record).errands.push({
      listing: one.listing,
      channel: one.channel,
      part: partOf(one.record, one.listing, one.channel),
      op: one.op,
      changes: one.changes,
      waitsFor: one.awaits === null ? [] : [nameOf(channels, one.awaits)],
      notBefore: one.notBefore,
      requests: one.requests,
      undo: step?.undo ?? { how: 'wholly' },
      tells: step?.tells ?? 'nobody',
      ownMoment: row?.rules.notice !== null && one.notBefore !== null,
      effects: step?.effects ?? [],
      orDraft:
        missed && one.op === 'place'
          ? { without: warningKey(listing, missed), draft: row?.rules.states.includes('draft') ?? false }
          : null,
      findings: listing ? warningsOf(listing) : [],
      unseen,
    });
  }
  for (const { record, listing, channel, locked: fields, ways } of locked)
    eventOf(record).locked.push({ listing, channel, part: partOf(record, listing, channel), locked: fields, ways });
  for (const { record, listing, channel, reasons, waitsFor } of held) {
    const locks = reasons.flatMap((each) => (each.code === 'lock-undecided' ? each.listings : []));
    const steps = recordOf(record).survey.listings.find((l) => l.id === listing)?.steps;
    eventOf(record).held.push({
      listing,
      channel,
      reasons,
      waitsFor: waitsFor === null ? null : nameOf(channels, waitsFor),
      freedBy: waitsFor === null && reasons.every((each) => each.code === 'lock-undecided') ? locks : [],
      op: steps?.op ?? 'amend',
      changes: steps?.changes ?? [],
    });
  }
  for (const one of busy)
    eventOf(one.record).busy.push({
      listing: one.listing,
      channel: one.channel,
      more: goesBehind(house.db, one) !== null,
    });
  // What was refused or has drifted is in the list that it belongs to; it is never left out without a word.
  const asking = surveyed.filter((one) => one.survey.listings.some((each) => asksPerson(each.standing)));
  for (const one of asksFor(house, asking)) eventOf(one.recordId).asks.push(one);
  const quiet = new Set(['pencilled', 'not-connected']);
  // An event of which nothing can go and nothing stands outside is a draft in peace, not something that waits.
  return [...events.values()].filter(
    (event) =>
      event.errands.length + event.locked.length + event.asks.length > 0 ||
      event.busy.some((one) => one.more) ||
      event.held.some((one) => !one.reasons.every((f) => quiet.has(f.code))),
  );
}

/** Why nothing is to send for a record, or for all of them, where `toSend` has nothing. */
export function whyNothing(house: House, recordId?: RecordId): NothingWhy {
  const one = recordId === undefined ? null : surveyById(house, recordId);
  if (recordId !== undefined && one === null) return 'gone';
  if (channelsOf(house, house.db).length === 0) return 'no-channels';
  const listings = (one === null ? surveyAll(house) : [one]).flatMap(({ survey }) => survey.listings);
  if (listings.some(({ standing }) => standing === 'underway' || standing === 'unread')) return 'underway';
  if (one === null || listings.some(({ state }) => state.sent !== null)) return 'in-step';
  return one.survey.facts.visibility === 'private' ? 'private' : 'nowhere';
}

function fault(recordId: RecordId): never {
  throw new Error(`the plan names record ${recordId}, which was not surveyed`);
}
