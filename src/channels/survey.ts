import { compareListing, type FieldComparison, type ListingState } from '@/core/listing/compare';
import type { Organiser, Venue } from '@/core/record/directory';
import { facts as makeFacts, type Facts } from '@/core/facts/facts';
import { finding, type Finding } from '@/core/findings/finding';
import { newOutlet } from '@/core/record/new-record';
import { noticePart, shareOut } from '@/core/listing/parts';
import type { PlannableListing } from '@/core/errands/plan';
import { gate, proof, takenDown } from '@/core/listing/proof';
import type { RecordContent } from '@/core/record/record';
import type { Shown } from '@/core/listing/shown';
import { standingOf, type Standing } from '@/core/listing/standing';
import { chooseLink, type LinkChoice } from '@/core/listing/ticket-link';
import type { Outlet } from '@/core/record/ticket-schema';
import type { Sold } from '@/core/facts/tickets/seats';
import { instantOf, type Instant } from '@/core/base/zones';
import type { Channel } from './kit/channel';
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
  venues: ReadonlyMap<string, Venue>;
  organisers: ReadonlyMap<string, Organiser>;
  listings: readonly KnownListing[];
  /** Listings with an errand that is open or refused. */
  errands: ReadonlyMap<string, 'open' | 'refused'>;
  connected: ReadonlySet<string>;
  /** Purchases so far, by performance and level. */
  sold: ReadonlyMap<string, Sold>;
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
  /** What the record says where a field is worded by hand. */
  beneath: Record<string, string>;
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
  /** Which ticket link each channel carries, and why. */
  links: { channel: string; choice: LinkChoice | null }[];
}

/** How a listing stands of which nothing was ever sent. */
export const neverSent: ListingState = {
  sent: null,
  previous: null,
  observed: null,
  sentAt: null,
  observedAt: null,
  lapsesAt: null,
};

/** A listing's id; also the reference under which the channel knows it. */
export function listingId(recordId: string, channel: string, part: number): string {
  return `${recordId}.${channel}.${part}`;
}

/**
 * Walks the whole line for one record: facts, each channel's proof, the comparison with what was sent and seen,
 * and the standing. Pure: server and browser give the same.
 */
export function surveyRecord(input: SurveyInput): Survey {
  const bare = makeFacts(input.content, input);
  const outlets = outletsOf(bare);
  const given = givenLinks(bare, input);
  const own = chooseLink(outlets, '', { given });
  const facts: Facts = { ...bare, outlets, link: linkOf(bare, own) };
  const common = gate(facts, input.now);
  const past = common.some((one) => one.code === 'all-past');
  const links = channels
    .filter(({ rules }) => rules.notice === null || facts.notices.some((one) => one.channel === rules.id))
    .map(({ rules }) => ({
      channel: rules.id,
      choice: bare.ticketed ? chooseLink(outlets, rules.id, { given }) : null,
    }));
  const choices = new Map(links.map((one) => [one.channel, one.choice]));
  const listings = channels.flatMap((channel) =>
    surveyChannel(
      channel,
      { ...facts, link: linkOf(bare, choices.get(channel.rules.id) ?? null) },
      common,
      past,
      input,
    ),
  );
  return { facts, listings, links };
}

/** The outlets of a ticketed event; where none is named, the marketplace that gives links. */
function outletsOf({ outlets, ticketed }: Facts): readonly Outlet[] {
  if (outlets.length > 0 || !ticketed || upstreamChannel === null) return outlets;
  const { id, name } = upstreamChannel.rules;
  return [newOutlet('upstream', name, { channel: id })];
}

/** Where outlets are named, a channel that sells is wanted only as one of them. */
function sellsHere({ rules }: Pick<Channel, 'rules'>, { tickets }: RecordContent): boolean {
  return !rules.givesLink || tickets.outlets.length === 0 || tickets.outlets.some((one) => one.channel === rules.id);
}

/** The links that channels have given, and those that are still to come from them. */
function givenLinks(facts: Facts, { content, listings, connected }: SurveyInput): Map<string, string | null> {
  const given = new Map<string, string | null>();
  for (const { rules } of channels) {
    if (!rules.givesLink || !rules.accepts(facts) || !sellsHere({ rules }, content)) continue;
    const href = listings.find((one) => one.channel === rules.id && one.link !== null)?.link;
    if (href !== undefined && href !== null) given.set(rules.id, href);
    else if (connected.has(rules.id) && !content.leftOff.includes(rules.id)) given.set(rules.id, null);
  }
  return given;
}

function linkOf(bare: Facts, choice: LinkChoice | null): Facts['link'] {
  return bare.ticketed ? (choice?.link ?? { kind: 'none' }) : bare.link;
}

/** What one listing is about: performances of the event, or a notice. */
interface Subject {
  part: number;
  performanceIds: string[];
  facts: Facts;
  /** It is not, or no longer, to stand there. */
  down: boolean;
  holdUntil: Instant | null;
  findings: Finding[];
}

/** The listings that an event is shared out to on a channel that lists events. */
function eventSubjects({ rules }: Channel, facts: Facts, known: readonly KnownListing[]): Subject[] {
  return shareOut(
    facts.performances.map((one) => one.id),
    rules.mostPerformances,
    known,
  ).map(({ part, performanceIds }) => ({
    part,
    performanceIds,
    facts,
    down: performanceIds.length === 0,
    holdUntil: null,
    findings: [],
  }));
}

/** The listings of an event's notices on a channel that carries notices; of those taken out of the record, too. */
function noticeSubjects({ rules }: Channel, facts: Facts, known: readonly KnownListing[], now: Instant): Subject[] {
  const mine = facts.notices.filter((one) => one.channel === rules.id);
  const performanceIds = facts.performances.map((one) => one.id);
  const gone = known.filter((one) => !mine.some(({ id }) => noticePart(id) === one.part));
  return [
    ...mine.map(({ id, words, pin, notBefore }): Subject => {
      const at = notBefore === null ? null : instantOf(notBefore, notBefore.zone);
      const later = at !== null && at > now && notBefore !== null;
      return {
        part: noticePart(id),
        performanceIds,
        facts: { ...facts, notice: { words, pin } },
        down: false,
        holdUntil: later ? at : null,
        findings: later ? [finding('notices', 'notes', { code: 'goes-later', until: at, zone: notBefore.zone })] : [],
      };
    }),
    ...gone.map(({ part }): Subject => ({
      part,
      performanceIds,
      facts: { ...facts, notice: { words: '', pin: false } },
      down: true,
      holdUntil: null,
      findings: [],
    })),
  ];
}

function surveyChannel(
  channel: Channel,
  facts: Facts,
  common: Finding[],
  past: boolean,
  input: SurveyInput,
): SurveyedListing[] {
  const { rules } = channel;
  const known = input.listings.filter((one) => one.channel === rules.id);
  const open = facts.visibility === 'public' || (facts.visibility === 'unlisted' && rules.takesUnlisted);
  const wantedHere =
    rules.accepts(facts) && !input.content.leftOff.includes(rules.id) && sellsHere(channel, input.content);
  const subjects =
    rules.notice === null ? eventSubjects(channel, facts, known) : noticeSubjects(channel, facts, known, input.now);
  const byPart = new Map(known.map((one) => [one.part, one]));
  const embargoUntil = facts.announceAt !== null && facts.announceAt > input.now ? facts.announceAt : null;
  const connection: Finding[] = input.connected.has(rules.id)
    ? []
    : [finding('channel', 'stops', { code: 'not-connected' })];
  // What is over is not renewed.
  const lapse = rules.lapse && { ...rules.lapse, renew: !past };
  const compareOptions = { now: input.now, delayMs: rules.delayMs, dropped: droppedBy(channel), lapse };
  return subjects.map((subject) => {
    const { part, performanceIds } = subject;
    const one = byPart.get(part);
    const { shown, findings, beneath } = proof(rules, subject.facts, performanceIds, input.now);
    const id = listingId(input.recordId, rules.id, part);
    const down = !wantedHere || !open || subject.down;
    const wanted = down ? takenDown : shown;
    const state = one ?? neverSent;
    const comparison = compareListing(wanted, state, compareOptions);
    const errand = input.errands.get(id) ?? 'none';
    const absent = state.sent === null && (down || past) && errand === 'none';
    const held = subject.holdUntil === null ? embargoUntil : Math.max(subject.holdUntil, embargoUntil ?? 0);
    return {
      id,
      channel: rules.id,
      part,
      performanceIds: rules.notice === null ? performanceIds : [],
      wanted,
      proof: shown,
      beneath,
      // What is to be taken down needs no more than a connection.
      findings:
        down && state.sent !== null
          ? connection
          : [...connection, ...common, ...subject.findings, ...lapsing(channel, comparison, state, facts), ...findings],
      comparison,
      standing: absent ? null : standingOf({ wanted, state, comparison, errand, embargoed: held !== null }),
      state,
      publicUrl: one?.publicUrl ?? null,
      embargoUntil: held,
    };
  });
}

/** What the channel is about to let lapse, or has let lapse. */
function lapsing(
  { rules }: Channel,
  comparison: readonly FieldComparison[],
  { lapsesAt }: ListingState,
  facts: Facts,
): Finding[] {
  const row = comparison.some((one) => one.outcome === 'lapsing')
    ? rules.rows.find((one) => one.field === rules.lapse?.field)
    : undefined;
  return row && lapsesAt !== null
    ? [
        finding(row.field, 'warns', {
          code: 'lapsing',
          label: row.label,
          at: lapsesAt,
          zone: facts.performances[0]?.zone ?? 'UTC',
        }),
      ]
    : [];
}

const droppedFields = new Map<string, ReadonlySet<string>>();

function droppedBy({ rules }: Channel): ReadonlySet<string> {
  let found = droppedFields.get(rules.id);
  if (!found)
    droppedFields.set(rules.id, (found = new Set(rules.rows.filter((row) => row.dropped).map((row) => row.field))));
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
