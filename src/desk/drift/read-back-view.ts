import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { groupBy } from '@/core/base/group-by';
import type { Outcome } from '@/core/listing/compare';
import { knownDay } from '@/core/facts/performance-facts';
import { splitKey } from '@/core/listing/shown';
import type { Standing } from '@/core/listing/standing';
import { keepTheirsHere, takeTheirs } from '@/core/listing/take-theirs';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { channelOf, partWords } from '@/channels/channels';
import type { House } from '@/house/house';
import { surveyAll, type SurveyedRecord } from '@/house/survey';
import { unsettled } from '@/store/errands';
import { listingById } from '@/store/listings';
import type { ReadBackListing } from '@/views/drift';
import { showing } from './decide-drift';
import { valueWords } from '@/core/listing/rich-words';
import type { ShownValue } from '@/core/listing/shown';

/** Every listing that stands outside; those that a person must look at come with the fields concerned. */
export function readBackView(
  house: House,
  doer: Doer,
): {
  asks: ReadBackListing[];
  inStep: number;
  unread: number;
  readAt: number | null;
} {
  asks(doer, 'readBackView');
  const all = surveyAll(house).flatMap((record) =>
    record.survey.listings
      .filter((listing) => listing.standing !== null && listing.state.sent !== null)
      .map((listing) => ({ one: record, listing })),
  );
  const times = all.map(({ listing }) => listing.state.observedAt).filter((at): at is number => at !== null);
  const count = (...standings: Standing[]) =>
    all.filter(({ listing }) => listing.standing !== null && standings.includes(listing.standing)).length;
  const asked = all.filter(({ listing }) => asksOf(listing));
  return {
    asks: asked.flatMap(({ one, listing }) => asking(house, one, listing) ?? []),
    inStep: count('instep', 'withdrawn'),
    unread: count('unread', 'underway'),
    readAt: times.length === 0 ? null : Math.max(...times),
  };
}

const odd: ReadonlySet<Outcome> = new Set(['drifted', 'at-odds', 'late']);

/** True where a listing asks a person: it shows something else, or it was deleted, or it stands there twice. */
function asksOf({ comparison, state, findings }: SurveyedListing): boolean {
  return (
    state.gone ||
    comparison.some((field) => odd.has(field.outcome)) ||
    findings.some((finding) => finding.code === 'twice-there')
  );
}

/**
 * Of records, the listings that ask a person, with the decision at hand; the refused ones too. One query for however
 * many.
 */
export function askingOf(house: House, records: readonly SurveyedRecord[]): ReadBackListing[] {
  const ids = records.map((record) => record.record.id);
  const refused = groupBy(
    unsettled(house.db, ids).filter((errand) => errand.state === 'refused'),
    (errand) => errand.listingId,
  );
  return records.flatMap((record) =>
    record.survey.listings.flatMap((listing) => {
      const errand = refused.get(listing.id)?.at(-1);
      if (listing.standing === null || (!asksOf(listing) && !errand)) return [];
      const made = asking(house, record, listing);
      const said = errand
        ? { errand: errand.id, message: errand.lastError?.message ?? '', kind: errand.lastError?.kind ?? 'invalid' }
        : null;
      return made ? [{ ...made, refused: said }] : [];
    }),
  );
}

function asking(house: House, surveyed: SurveyedRecord, listing: SurveyedListing): ReadBackListing | null {
  const { record, survey, channels } = surveyed;
  const row = channels.find((channel) => channel.id === listing.channel);
  if (listing.standing === null || !row) return null;
  const channel = channelOf(row, house.kinds);
  const labels = new Map(channel.rules.rows.map((field) => [field.field, field.label]));
  const show = showing(house, surveyed, listing.id);
  const context = { rules: channel.rules, part: listing.part, show };
  const fields = listing.comparison
    .filter((field) => odd.has(field.outcome))
    .map(({ key, wanted, sent, observed, outcome, late }) => ({
      key,
      label: labels.get(splitKey(key).field) ?? splitKey(key).field,
      wanted: wanted ?? null,
      sent: sent ?? null,
      observed: observed ?? null,
      words: { wanted: brief(wanted), sent: brief(sent), observed: brief(observed) },
      outcome,
      late,
      takeable: takeTheirs(record.content, key, observed, context).ok,
      keepable: keepTheirsHere(record.content, key, observed, context) !== null,
    }));
  return {
    listing: listing.id,
    recordId: record.id,
    code: record.code,
    title: record.content.title,
    date: knownDay(survey.facts.performances[0]),
    channel: listing.channel,
    part: partWords(channel, listing.part),
    channelName: channel.rules.name,
    standing: listing.standing,
    observedAt: listing.state.observedAt,
    publicUrl: listing.publicUrl,
    gone: listing.state.gone,
    twins: placesOf(house, listing),
    refused: null,
    fields,
  };
}

/** All places where a listing stands, where that is more than one. */
function placesOf(house: House, { id, findings }: SurveyedListing): ReadBackListing['twins'] {
  const others = findings.flatMap((finding) =>
    finding.code === 'twice-there' ? [{ id: finding.id, address: finding.address }] : [],
  );
  const ours = others.length === 0 ? null : (listingById(house.db, id)?.remote ?? null);
  return ours === null ? others : [{ id: ours.id, address: ours.publicUrl ?? ours.id }, ...others];
}

/** A value in so many words as a line of a table takes. */
function brief(value: ShownValue | undefined): string {
  const words = valueWords(value);
  return words.length > 300 ? `${words.slice(0, 299)}…` : words;
}
