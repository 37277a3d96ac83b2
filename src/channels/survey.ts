import { compareListing, type FieldComparison, type ListingState } from '@/core/compare';
import { facts as makeFacts, type Facts, type FactsContext } from '@/core/facts';
import { finding, type Finding } from '@/core/finding';
import { shareOut } from '@/core/parts';
import type { PlannableListing } from '@/core/plan';
import { gate, proof, takenDown } from '@/core/proof';
import type { RecordContent } from '@/core/record';
import type { Shown } from '@/core/shown';
import { standingOf, type Standing } from '@/core/standing';
import type { Instant } from '@/core/zones';
import type { Channel } from './channel';
import { channels, upstreamChannel } from './registry';

/** What is known of one listing, as the survey needs it. */
export interface KnownListing extends ListingState {
  id: string;
  channel: string;
  part: number;
  performanceIds: string[];
  publicUrl: string | null;
  link: string | null;
}

export interface SurveyInput {
  recordId: string;
  code: string;
  content: RecordContent;
  venues: FactsContext['venues'];
  listings: readonly KnownListing[];
  /** Listings with an errand that is open or refused. */
  errands: ReadonlyMap<string, 'open' | 'refused'>;
  connected: ReadonlySet<string>;
  now: Instant;
}

/** One listing: what is wanted, what was noticed, how it stands. */
export interface SurveyedListing {
  id: string;
  channel: string;
  part: number;
  performanceIds: string[];
  wanted: Shown;
  /** What the channel would show if it were wanted there now; equals `wanted` unless it is to be taken down. */
  proof: Shown;
  findings: Finding[];
  comparison: FieldComparison[];
  /** `null`: not wanted on this channel and never was there. */
  standing: Standing | null;
  state: ListingState;
  publicUrl: string | null;
  embargoUntil: Instant | null;
}

export interface Survey {
  facts: Facts;
  listings: SurveyedListing[];
}

const neverSent: ListingState = { sent: null, previous: null, observed: null, sentAt: null, observedAt: null };

/** A listing's id; also the reference under which the channel knows it. */
export function listingId(recordId: string, channel: string, part: number): string {
  return `${recordId}.${channel}.${part}`;
}

/**
 * Walks the whole line for one record: facts, each channel's proof, the comparison with what was sent and seen,
 * and the standing. Pure: server and browser give the same.
 */
export function surveyRecord(input: SurveyInput): Survey {
  const facts = factsWithLink(input);
  const common = gate(facts, input.now);
  const past = common.some((one) => one.code === 'all-past');
  return { facts, listings: channels.flatMap((channel) => surveyChannel(channel, facts, common, past, input)) };
}

/** The facts, with the ticket link that the upstream channel gave or will give. */
function factsWithLink({ content, code, venues, listings, connected }: SurveyInput): Facts {
  const facts = makeFacts(content, { code, venues, upstream: null });
  if (upstreamChannel === null || !upstreamChannel.rules.accepts(facts)) return facts;
  const { id } = upstreamChannel.rules;
  const href = listings.find((one) => one.channel === id && one.link !== null)?.link;
  if (href !== undefined && href !== null) return { ...facts, link: { kind: 'known', href } };
  return connected.has(id) && !content.leftOff.includes(id) ? { ...facts, link: { kind: 'awaited', from: id } } : facts;
}

function surveyChannel(channel: Channel, facts: Facts, common: Finding[], past: boolean, input: SurveyInput): SurveyedListing[] {
  const { rules } = channel;
  const known = input.listings.filter((one) => one.channel === rules.id);
  const placed = known.filter((one) => one.sent !== null);
  const wantedHere = rules.accepts(facts) && !input.content.leftOff.includes(rules.id);
  const parts = shareOut(facts.performances.map((one) => one.id), rules.mostPerformances, placed);
  return parts.map(({ part, performanceIds }) => {
    const one = known.find((listing) => listing.part === part);
    const { shown, findings } = proof(rules, facts, performanceIds);
    const id = listingId(input.recordId, rules.id, part);
    const down = !wantedHere || facts.visibility === 'private' || performanceIds.length === 0;
    const wanted = down ? takenDown : shown;
    const state = one ?? neverSent;
    const comparison = compareListing(wanted, state, { now: input.now, delayMs: rules.delayMs, dropped: droppedBy(channel) });
    const embargoUntil = facts.announceAt !== null && facts.announceAt > input.now ? facts.announceAt : null;
    const errand = input.errands.get(id) ?? 'none';
    const absent = state.sent === null && (down || past) && errand === 'none';
    const connection: Finding[] = input.connected.has(rules.id) ? [] : [finding('channel', 'stops', { code: 'not-connected' })];
    return {
      id,
      channel: rules.id,
      part,
      performanceIds,
      wanted,
      proof: shown,
      // What is to be taken down needs no more than a connection.
      findings: down && state.sent !== null ? connection : [...connection, ...common, ...findings],
      comparison,
      standing: absent ? null : standingOf({ wanted, state, comparison, errand, embargoed: embargoUntil !== null }),
      state,
      publicUrl: one?.publicUrl ?? null,
      embargoUntil,
    };
  });
}

const droppedFields = new Map<string, ReadonlySet<string>>();

function droppedBy({ rules }: Channel): ReadonlySet<string> {
  let found = droppedFields.get(rules.id);
  if (!found) droppedFields.set(rules.id, (found = new Set(rules.rows.filter((row) => row.dropped).map((row) => row.field))));
  return found;
}

/** A survey's listings as the plan takes them. Listings that are not wanted and never were there are left out. */
export function plannable(recordId: string, survey: Survey, errands: SurveyInput['errands']): PlannableListing[] {
  return survey.listings
    .filter((one) => one.standing !== null)
    .map((one) => ({
      listing: one.id,
      record: recordId,
      channel: one.channel,
      wanted: one.wanted,
      findings: one.findings,
      state: one.state,
      comparison: one.comparison,
      open: errands.get(one.id) === 'open',
      embargoUntil: one.embargoUntil,
    }));
}
