import type { Finding } from '@/core/findings/finding';
import type { Change, Operation } from '@/core/errands/plan';
import type { Standing } from '@/core/listing/standing';
import { partWords } from '@/channels/part-words';
import { channelById } from '@/channels/registry';
import type { House } from '@/house/house';
import { planFor, surveyAll, surveyById, type SurveyedRecord } from '../survey/survey';

/** One errand that could go, for the eye. */
export interface ErrandToSend {
  listing: string;
  channel: string;
  /** Which of a long run's listings it is: `part 2`; empty for the only one. */
  part: string;
  op: Operation;
  changes: Change[];
  waitsFor: string[];
  notBefore: number | null;
  requests: number;
  /** Findings that do not stop it. */
  findings: Finding[];
}

export interface EventToSend {
  recordId: string;
  code: string;
  title: string;
  date: string | null;
  zone: string;
  errands: ErrandToSend[];
  held: { listing: string; channel: string; reasons: Finding[]; waitsFor: string | null }[];
}

/** What is to be sent, by event in order of dates; of one record where `recordId` is given. */
export function toSend(house: House, recordId?: string): EventToSend[] {
  const one = recordId === undefined ? null : surveyById(house, recordId);
  const surveyed = recordId === undefined ? surveyAll(house) : one === null ? [] : [one];
  return eventsToSend(surveyed);
}

/** How many errands could go now, without those under embargo. */
export function countToSend(house: House): number {
  return planFor(surveyAll(house)).errands.filter((one) => one.notBefore === null).length;
}

function eventsToSend(surveyed: readonly SurveyedRecord[]): EventToSend[] {
  const { errands, held } = planFor(surveyed);
  const byRecord = new Map(surveyed.map((one) => [one.record.id, one]));
  const events = new Map<string, EventToSend>();
  const eventOf = (recordId: string) => {
    const known = events.get(recordId);
    if (known) return known;
    const { record, survey } = byRecord.get(recordId) ?? fault(recordId);
    const first = survey.facts.performances[0];
    const made: EventToSend = {
      recordId,
      code: record.code,
      title: record.content.title,
      date: first?.date ?? null,
      zone: first?.zone ?? 'UTC',
      errands: [],
      held: [],
    };
    events.set(recordId, made);
    return made;
  };
  for (const one of errands) {
    const listing = byRecord.get(one.record)?.survey.listings.find((l) => l.id === one.listing);
    eventOf(one.record).errands.push({
      listing: one.listing,
      channel: one.channel,
      part: partWords(one.channel, listing?.part ?? 0),
      op: one.op,
      changes: one.changes,
      waitsFor: one.needs.map((id) => channelById(id.split('.')[1] ?? '').rules.name),
      notBefore: one.notBefore,
      requests: one.requests,
      findings: (listing?.findings ?? []).filter((f) => f.weight === 'warns'),
    });
  }
  for (const { record, listing, channel, reasons, waitsFor } of held)
    eventOf(record).held.push({ listing, channel, reasons, waitsFor });
  // An event of which nothing can go and nothing stands outside is a draft in peace, not something that waits.
  return [...events.values()].filter(
    (event) =>
      event.errands.length > 0 ||
      event.held.some((one) => !one.reasons.every((f) => f.code === 'pencilled' || f.code === 'not-connected')),
  );
}

/** Why nothing is to send: the record is gone, private or wanted nowhere; it is on its way, asks somebody, or is in step. */
export type NothingWhy = 'gone' | 'private' | 'nowhere' | 'underway' | 'asks' | 'in-step';

const asking = new Set<Standing | null>(['refused', 'atodds', 'drifted', 'late']);

/** Why nothing is to send for a record, or for all of them, where `toSend` has nothing. */
export function whyNothing(house: House, recordId?: string): NothingWhy {
  const one = recordId === undefined ? null : surveyById(house, recordId);
  if (recordId !== undefined && one === null) return 'gone';
  const listings = (one === null ? surveyAll(house) : [one]).flatMap(({ survey }) => survey.listings);
  if (listings.some(({ standing }) => asking.has(standing))) return 'asks';
  if (listings.some(({ standing }) => standing === 'underway' || standing === 'unread')) return 'underway';
  if (one === null || listings.some(({ state }) => state.sent !== null)) return 'in-step';
  return one.survey.facts.visibility === 'private' ? 'private' : 'nowhere';
}

function fault(recordId: string): never {
  throw new Error(`the plan names record ${recordId}, which was not surveyed`);
}
