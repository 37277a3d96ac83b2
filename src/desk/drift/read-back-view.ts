import { partWords } from '@/channels/part-words';
import { channelById } from '@/channels/registry';
import { splitKey, type ShownValue } from '@/core/listing/shown';
import type { Outcome } from '@/core/listing/compare';
import type { Standing } from '@/core/listing/standing';
import { takeTheirs } from '@/core/listing/take-theirs';
import type { House } from '@/house/house';
import { surveyAll, type SurveyedRecord } from '../survey/survey';

export interface ReadBackField {
  key: string;
  label: string;
  wanted: ShownValue | null;
  sent: ShownValue | null;
  observed: ShownValue | null;
  outcome: Outcome;
  /** The channel's value can become the record's. */
  takeable: boolean;
}

export interface ReadBackListing {
  listing: string;
  recordId: string;
  code: string;
  title: string;
  date: string | null;
  channel: string;
  channelName: string;
  /** Which of a long run's listings it is: `part 2`; empty for the only one. */
  part: string;
  standing: Standing;
  observedAt: number | null;
  publicUrl: string | null;
  fields: ReadBackField[];
}

/** Every listing that stands outside; those that a person must look at come with the fields concerned. */
export function readBackView(house: House): {
  asks: ReadBackListing[];
  inStep: number;
  unread: number;
  readAt: number | null;
} {
  const all = surveyAll(house).flatMap((one) => listingsOfRecord(one));
  const times = all.map((one) => one.observedAt).filter((at): at is number => at !== null);
  return {
    asks: all.filter((one) => one.fields.length > 0),
    inStep: all.filter((one) => one.standing === 'instep' || one.standing === 'withdrawn').length,
    unread: all.filter((one) => one.standing === 'unread' || one.standing === 'underway').length,
    readAt: times.length === 0 ? null : Math.max(...times),
  };
}

const asking: ReadonlySet<Outcome> = new Set(['drifted', 'at-odds', 'late']);

function listingsOfRecord({ record, survey }: SurveyedRecord): ReadBackListing[] {
  return survey.listings.flatMap((one) => {
    if (one.standing === null || one.state.sent === null) return [];
    const rows = new Map(channelById(one.channel).rules.rows.map((row) => [row.field, row.label]));
    const fields = one.comparison
      .filter((field) => asking.has(field.outcome))
      .map(({ key, wanted, sent, observed, outcome }) => ({
        key,
        label: rows.get(splitKey(key).field) ?? splitKey(key).field,
        wanted: wanted ?? null,
        sent: sent ?? null,
        observed: observed ?? null,
        outcome,
        takeable: takeTheirs(record.content, key, observed, one).ok,
      }));
    return [
      {
        listing: one.id,
        recordId: record.id,
        code: record.code,
        title: record.content.title,
        date: survey.facts.performances[0]?.date ?? null,
        channel: one.channel,
        part: partWords(one.channel, one.part),
        channelName: channelById(one.channel).rules.name,
        standing: one.standing,
        observedAt: one.state.observedAt,
        publicUrl: one.publicUrl,
        fields,
      },
    ];
  });
}
