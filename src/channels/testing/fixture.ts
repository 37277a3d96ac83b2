import { channelIdSchema, recordIdSchema } from '@/core/base/ids';
import { sample, venues } from '@/core/testing/samples';
import { valueWords } from '@/core/listing/rich-words';
import type { RecordContent } from '@/core/record/record';
import { neverSent } from '@/core/listing/compare';
import type { ChannelRow } from '@/core/listing/channel-row';
import { channelOf, plainRow, type Channel } from '../channels';
import { listingId, surveyRecord, type Survey } from '../survey';
import { type SurveyInput } from '../survey-shapes';
import { type KnownListing } from '../survey-shapes';
import { plan, type Plan } from '@/core/errands/plan';

/**
 * The channels that tests name: one of each of these kinds, under its kind's own name. A kind more changes nothing
 * here.
 */
const fixtureKinds = ['lectern', 'gatefold', 'hearthside', 'hearthside-posts'] as const;
export const rows: readonly ChannelRow[] = fixtureKinds.map((kind) => plainRow(kind));
export const channels: readonly Channel[] = rows.map((row) => channelOf(row));

/** One of them by its id. */
export function channelById(id: string): Channel {
  const found = channels.find((channel) => channel.row.id === id);
  if (!found) throw new Error(`no channel ${id}`);
  return found;
}

/** The rows with only these connected; the others are there, and off. */
export function onlyConnected(ids: readonly string[]): readonly ChannelRow[] {
  return rows.map((row) => (ids.includes(row.id) ? row : plainRow(row.kind, { connected: false })));
}

/** Rows of these channels alone. */
export function onlyThere(ids: readonly string[]): readonly ChannelRow[] {
  return rows.filter((row) => ids.includes(row.id));
}

/** The scenario's morning. */
export const morning = Date.parse('2027-02-02T10:20Z');

/** A survey of the sample record on the fixture's channels, but for what is said otherwise. */
export function surveyOf(part: Partial<SurveyInput> = {}): Survey {
  return surveyRecord(inputOf(part));
}

const recordId = recordIdSchema.parse('r');

/** What such a survey is asked with. */
export function inputOf(part: Partial<SurveyInput> = {}): SurveyInput {
  const now = part.now ?? morning;
  return {
    recordId,
    code: 'X',
    content: sample(),
    venues,
    organisers: new Map(),
    sold: new Map(),
    listings: [],
    errands: new Map(),
    channels: rows,
    now,
    monotonic: now,
    ...part,
  };
}

/** A listing of which nothing is known but its place. */
export function bareListing(name: string, part = 0, more: Partial<KnownListing> = {}): KnownListing {
  const channel = channelIdSchema.parse(name);
  return {
    ...neverSent,
    id: listingId(recordId, channel, part),
    channel,
    part,
    performanceIds: [],
    publicUrl: null,
    link: null,
    gifts: {},
    sold: 0,
    twins: [],
    note: '',
    turnedDown: false,
    ...more,
  };
}

/** What is to be sent by such a survey. */
export function planOf(survey: Survey): Plan {
  return plan(survey.listings);
}

/** The sample record's listing on a channel, with these parts of the record otherwise. */
export function listingOf(part: Partial<RecordContent>, channel: string, more: Partial<SurveyInput> = {}) {
  const found = surveyOf({ content: sample(part), ...more }).listings.find((listing) => listing.channel === channel);
  if (!found) throw new Error(`no listing on ${channel}`);
  return found;
}

/** What that listing shows, in words, by shown key. */
export function shownOn(part: Partial<RecordContent>, channel: string, more: Partial<SurveyInput> = {}) {
  return Object.fromEntries(
    Object.entries(listingOf(part, channel, more).proof).map(([key, value]) => [key, valueWords(value)]),
  );
}

/** Its findings, as "weight code". */
export function codes(part: Partial<RecordContent>, channel: string, more: Partial<SurveyInput> = {}): string[] {
  return listingOf(part, channel, more).findings.map(({ weight, code }) => `${weight} ${code}`);
}
