import type { ChannelId, ListingId, RecordId } from '@/core/base/ids';
import { groupBy } from '@/core/base/group-by';
import { instantOf, type Instant } from '@/core/base/zones';
import { narrowing, standsBeyond } from '@/core/errands/narrowing';
import { nothingToDo, stepsFor, type Steps } from '@/core/errands/steps';
import type { ErrandMark, SurveyedListing } from '@/core/errands/surveyed';
import { facts as makeFacts, type Facts } from '@/core/facts/facts';
import { finding, type Finding } from '@/core/findings/finding';
import { giftSeenBy, sells, type ChannelRules, type Gift } from '@/core/listing/channel-rules';
import { compareListing, equalOrAbsent, neverSent, type ListingState } from '@/core/listing/compare';
import { downWords, type Gated } from '@/core/listing/gates';
import type { LockContext } from '@/core/listing/operations';
import { noticePart, shareOut } from '@/core/listing/parts';
import { proof } from '@/core/listing/proof';
import { needsSheet, openLines, sheetLines } from '@/core/listing/sale-sheet';
import {
  isDown,
  listedField,
  listedState,
  splitKey,
  takenDown,
  type Shown,
  type ShownValue,
} from '@/core/listing/shown';
import { standingOf } from '@/core/listing/standing';
import { chooseLink } from '@/core/listing/ticket-link';
import type { RecordContent } from '@/core/record/record';
import { channelOf, type Channel } from './channels';
import type { Kind } from './kit/kind';
import { gateOf, givenLinks, linkOf, otherGifts, outletsOf, pagesOf, visibilityOn, type ListingContext } from './given';
import { channelLinks, linkCircle, type ChannelLink } from './links';
import { askingFindings, cutFindings, knownFindings, lapsing, takesBack } from './listing-findings';
import type { KnownListing, LeftLock, LinkHere, Subject, SurveyInput } from './survey-shapes';

export interface Survey {
  facts: Facts;
  listings: SurveyedListing[];
  /** Which link each channel and each notice carries, and why. */
  links: ChannelLink[];
}

/** A listing's id; also the reference under which the channel knows it. */
export function listingId(recordId: RecordId, channel: ChannelId, part: number): ListingId {
  return `${recordId}.${channel}.${part}` as ListingId;
}

/**
 * Walks the whole line for one record: facts, each channel's proof, the comparison with what was sent and seen,
 * and the standing. Pure: server and browser give the same.
 */
export function surveyRecord(input: SurveyInput, kinds?: readonly Kind[]): Survey {
  const channels = input.channels.map((row) => channelOf(row, kinds));
  const bare = makeFacts(input.content, input);
  const outlets = outletsOf(bare, channels);
  const known = groupBy(input.listings, (listing) => listing.channel);
  const context: ListingContext = { input, known, sheetOpen: 0 };
  const given = givenLinks({ ...bare, outlets }, channels, context);
  const own = chooseLink(outlets, '', { given });
  const gifts = otherGifts({ ...bare, outlets }, channels, context);
  const giving: Facts = {
    ...bare,
    outlets,
    link: linkOf({ ...bare, gifts }, own),
    gifts,
    secrets: [...bare.secrets, ...secretGifts(gifts)],
  };
  const facts: Facts = { ...giving, pages: pagesOf(giving, channels, context) };
  const links = channelLinks({ ...facts, link: bare.link }, channels, given, input.content);
  const circle = linkCircle(facts, links, channels);
  const circleNames = channels.filter((channel) => circle.has(channel.rules.id)).map((channel) => channel.rules.name);
  const byPlace = new Map(links.map((link) => [`${link.channel} ${link.noticeId ?? ''}`, link]));
  const linkAt = (channel: string, noticeId: string | null): LinkHere => {
    const here = byPlace.get(`${channel} ${noticeId ?? ''}`);
    return {
      link: here?.link ?? facts.link,
      linkUnmet: here?.chosen?.unmet === true ? here.chosen.words : null,
      linkCircle: circle.has(channel) ? circleNames : [],
      giverDraft: draftGiver(outlets, channel, input.content),
    };
  };
  const sheetOpen = input.ticks && needsSheet(facts) ? openLines(sheetLines(facts), input.ticks).length : 0;
  const here: ListingContext = { ...context, sheetOpen };
  const listings = channels.flatMap((channel) =>
    surveyChannel(channel, facts, here, shownFrom(channel, channels), linkAt),
  );
  holdForLocks(listings);
  tellStoppedGivers(listings);
  return { facts, listings, links };
}

/**
 * What is locked somewhere and nobody has decided on holds up the event's other listings, but for what is taken out of
 * sight.
 */
function holdForLocks(listings: readonly SurveyedListing[]): void {
  // Where a channel is taken off, nothing can be decided there: it holds up nobody.
  const open = listings.filter(
    (listing) =>
      listing.steps.locked.length > 0 &&
      listing.errand !== 'open' &&
      !listing.findings.some((f) => f.code === 'not-connected'),
  );
  if (open.length === 0) return;
  const ids = open.map((listing) => listing.id);
  const locked = new Set(ids);
  const where = [...new Set(open.map((listing) => listing.rules.name))].join(' and ');
  for (const listing of listings) {
    if (listing.steps.changes.length === 0 || narrowing(listing) !== null) continue;
    const others = locked.has(listing.id) ? ids.filter((id) => id !== listing.id) : ids;
    if (others.length > 0)
      listing.findings.push(finding(['listed'], 'stops', { code: 'lock-undecided', listings: others, where }));
  }
}

/** What waits for the link of a channel that cannot take the event at all is told so: it would wait for ever. */
function tellStoppedGivers(listings: readonly SurveyedListing[]): void {
  const never = ({ state, down, findings }: SurveyedListing) =>
    state.sent === null &&
    down === null &&
    findings.some((f) => f.weight === 'stops' && (f.code === 'needed-empty' || f.code === 'date-imprecise'));
  const givers = groupBy(listings, (listing): string => listing.channel);
  const stopped = new Map<string, boolean>();
  const isStopped = (channel: string) => {
    const known = stopped.get(channel) ?? (givers.get(channel) ?? []).every(never);
    stopped.set(channel, known);
    return known;
  };
  for (const listing of listings) {
    if (listing.down !== null) continue;
    const awaited = Object.values(listing.wanted).find((value) => value.kind === 'awaited');
    if (awaited?.kind === 'awaited' && isStopped(awaited.from))
      listing.findings.push(finding(['link'], 'warns', { code: 'giver-stopped', from: awaited.name }));
  }
}

/** The outlet whose link a channel would carry if it did not stay a draft; `null`: none. */
function draftGiver(outlets: Facts['outlets'], here: string, { draftOn }: RecordContent): string | null {
  return outlets.find(({ channel }) => channel !== null && channel !== here && draftOn.includes(channel))?.name ?? null;
}

/** The channel whose word it shows: its own, or that of the one that it mirrors. */
export function shownFrom({ rules, row }: Channel, channels: readonly Channel[]): string {
  if (rules.mirrors === null) return rules.id;
  const source = channels.find(
    (channel) => channel.kind.id === rules.mirrors && channel.row.settings.act === row.settings.act,
  );
  return source?.rules.id ?? rules.id;
}

/** Gifts that are for those who hold a place: they may stand in nothing that is public. */
function secretGifts(gifts: Facts['gifts']): Facts['secrets'] {
  return Object.entries(gifts).flatMap(([gift, { value }]) =>
    value !== null && giftSeenBy[gift as Gift] === 'holders' ? [{ what: 'join', text: value }] : [],
  );
}

/** The performances that a channel is told of: where it holds few and a series is one line, the next stands for all. */
function told(rules: ChannelRules, facts: Facts): Facts['performances'] {
  if (!facts.asOneLine || rules.mostPerformances >= facts.performances.length) return facts.performances;
  const next =
    facts.performances.find((performance) => performance.over >= facts.now) ??
    facts.performances[facts.performances.length - 1];
  return next ? [next] : [];
}

/** The listings that an event is shared out to on a channel that lists events. */
function eventSubjects({ rules }: Channel, facts: Facts, known: readonly KnownListing[], source: string): Subject[] {
  const ids = told(rules, facts).map((performance) => performance.id);
  return shareOut(ids, rules.mostPerformances, known).map(({ part, performanceIds }) => ({
    part,
    performanceIds,
    facts,
    source,
    emptied: performanceIds.length === 0 ? 'nothing to show' : null,
    ownMoment: null,
  }));
}

/** The listings of an event's notices on a channel that carries notices; of those taken out of the record, too. */
function noticeSubjects(
  { rules }: Channel,
  facts: Facts,
  known: readonly KnownListing[],
  source: string,
  linkAt: LinkAt,
): Subject[] {
  const mine = facts.notices.filter((notice) => notice.channel === rules.id);
  const performanceIds = facts.performances.map((performance) => performance.id);
  const sentAs = new Set(known.flatMap((listing) => (listing.sent === null ? [] : [listing.part])));
  const gone = known.filter((listing) => !mine.some(({ id }) => noticePart(id) === listing.part));
  return [
    ...mine.map(({ id, words, pin, hashtags, notBefore, subject, segment, offSince }): Subject => {
      const at = notBefore === null ? null : (instantOf(notBefore, notBefore.zone) ?? ('unclear' as const));
      return {
        part: noticePart(id),
        performanceIds,
        facts: { ...facts, ...linkAt(rules.id, id), notice: { words, pin, hashtags, subject, segment } },
        source,
        // What stands there already goes on standing: only what was planned is off.
        emptied: offSince !== null && !sentAs.has(noticePart(id)) ? 'off since the turn' : null,
        ownMoment: at === null ? null : { at, zone: notBefore?.zone ?? 'UTC' },
      };
    }),
    ...gone.map(({ part }): Subject => {
      const notice = { words: '', pin: false, hashtags: false, subject: '', segment: '' };
      return { part, performanceIds, facts: { ...facts, notice }, source, emptied: 'taken out', ownMoment: null };
    }),
  ];
}

/** The facts with what a link leads to; the very same, where they say that already. */
function withLink(facts: Facts, here: LinkHere): Facts {
  const { link, linkUnmet, linkCircle, giverDraft } = here;
  return facts.link === link &&
    facts.linkUnmet === linkUnmet &&
    facts.giverDraft === giverDraft &&
    facts.linkCircle.length === 0 &&
    linkCircle.length === 0
    ? facts
    : { ...facts, ...here };
}

/** The facts as a person wants them told on one channel: narrower than the record is, or a series as one line. */
function onChannel({ id: channel, states }: ChannelRules, facts: Facts, content: RecordContent): Facts {
  const visibility = visibilityOn(channel, facts, content);
  const keptDraft = states.includes('draft') && content.draftOn.includes(channel);
  const asOneLine = content.oneLineOn.includes(channel) && facts.series !== '';
  return visibility === facts.visibility && !asOneLine && !keptDraft
    ? facts
    : { ...facts, visibility, asOneLine, keptDraft };
}

type LinkAt = (channel: string, noticeId: string | null) => LinkHere;

function surveyChannel(
  channel: Channel,
  facts: Facts,
  { input, known, sheetOpen }: ListingContext,
  source: string,
  linkAt: LinkAt,
): SurveyedListing[] {
  const { rules } = channel;
  const mine = known.get(rules.id) ?? [];
  const here = onChannel(rules, withLink(facts, linkAt(source, null)), input.content);
  const subjects =
    rules.notice === null
      ? eventSubjects(channel, here, mine, source)
      : noticeSubjects(channel, here, mine, source, linkAt);
  const byPart = new Map(mine.map((listing) => [listing.part, listing]));
  return subjects.map((subject) => surveyListing(channel, subject, byPart.get(subject.part), input, sheetOpen));
}

function surveyListing(
  channel: Channel,
  subject: Subject,
  known: KnownListing | undefined,
  input: SurveyInput,
  sheetOpen: number,
): SurveyedListing {
  const { rules } = channel;
  const { facts, part, performanceIds } = subject;
  const id = listingId(input.recordId, channel.row.id, part);
  const state: ListingState = known ?? neverSent;
  const gate = gateOf(channel, facts, subject, input, state);
  // What is wanted nowhere and stands nowhere is worked out when somebody asks for it.
  if (
    gate.down !== null &&
    state.sent === null &&
    !state.pendingOutcome &&
    (input.errands.get(id) ?? 'none') === 'none'
  )
    return unwanted(channel, subject, { id, state, gate, known }, input);
  const { shown, findings, beneath } = proof(rules, facts, performanceIds, input.now);
  const wanted = wantedThere(rules, gate.down !== null, shown, state);
  const past = facts.performances.length > 0 && facts.performances.every((performance) => performance.over < input.now);
  const comparison = compareListing(wanted, state, {
    now: input.monotonic,
    delayMs: rules.delayMs,
    dropped: droppedBy(rules),
    settled: settledBy(rules),
    looks: looksAgain(rules),
    // What is over is not renewed.
    lapse: rules.lapse && { ...rules.lapse, renew: !past },
  });
  const lock = lockContext(state, known, input.monotonic, input.now);
  const all = stepsFor({ rules, wanted, state, comparison, lock });
  const { steps, left } = withoutLeft(all, input.left?.get(id), input.now);
  const errand = input.errands.get(id) ?? 'none';
  const absent = state.sent === null && !state.pendingOutcome && (isDown(wanted) || past) && errand === 'none';
  const noticed =
    isDown(wanted) && state.sent !== null
      ? gate.findings.filter((finding) => finding.code === 'not-connected')
      : [...gate.findings, ...lapsing(rules, comparison, state, facts), ...findings];
  const made: SurveyedListing = {
    id,
    record: input.recordId,
    channel: channel.row.id,
    rules,
    part,
    performanceIds: rules.notice === null ? performanceIds : [],
    wanted,
    proof: shown,
    beneath,
    findings: [
      ...noticed,
      ...sheetFindings(rules, state, gate.down === null && !facts.keptDraft, sheetOpen),
      ...missedFindings(subject, state, errand, input.now),
      ...knownFindings(rules, state, known, steps.locked),
      ...cutFindings(known, facts.visibility),
      ...leftFindings(all, left, input.left?.get(id), facts),
    ],
    comparison,
    standing: null,
    down: gate.down,
    state,
    publicUrl: known?.publicUrl ?? null,
    embargoUntil: gate.until,
    lock,
    steps,
    left,
    errand,
  };
  if (!absent) made.standing = standsAs(made, known);
  made.findings.push(...askingFindings(made, input.refusals?.get(id), facts.performances[0]?.zone ?? 'UTC'));
  if (standsBeyond(made)) {
    const why = gate.down === null ? 'a performance in it is told to nobody any more' : downWords[gate.down];
    made.findings.push(finding(['listed'], 'warns', { code: 'beyond-record', why }));
  }
  return made;
}

/** How a listing stands. What a person said is to stay is no difference. */
function standsAs(listing: SurveyedListing, known: KnownListing | undefined) {
  const { rules, wanted, state, comparison, left, errand, embargoUntil } = listing;
  return standingOf({
    wanted,
    state,
    comparison: left.length === 0 ? comparison : comparison.filter((field) => !left.includes(field.key)),
    errand,
    embargoed: embargoUntil !== null,
    twice: (known?.twins.length ?? 0) > 0 && takesBack(rules),
    turnedDown: known?.turnedDown ?? false,
  });
}

/**
 * Steps without what a person said is to stay; and the keys of that. What is wanted otherwise by now, or was to stay
 * until a moment that has come, asks again.
 */
function withoutLeft(steps: Steps, left: LeftLock | undefined, now: Instant): { steps: Steps; left: string[] } {
  if (left === undefined || now >= left.until) return { steps, left: [] };
  const stays = ({ key, after }: { key: string; after: ShownValue | null }) =>
    key in left.keys && equalOrAbsent(left.keys[key], after);
  const locked = steps.locked.filter((change) => !stays(change));
  const kept = steps.locked.filter(stays).map((change) => change.key);
  if (kept.length === 0) return { steps, left: [] };
  return { steps: { ...steps, locked, ways: locked.length === 0 ? [] : steps.ways }, left: kept };
}

/** What was left as it stands there is told with who said so. */
function leftFindings({ locked }: Steps, keys: readonly string[], left: LeftLock | undefined, facts: Facts): Finding[] {
  if (left === undefined || keys.length === 0) return [];
  const { by, because, until } = left;
  const zone = facts.performances[0]?.zone ?? 'UTC';
  const labels = new Set(locked.filter((change) => keys.includes(change.key)).map((change) => change.label));
  return [...labels].map((label) =>
    finding(['listed'], 'warns', { code: 'left-there', label, by, because, until, zone }),
  );
}

/** A notice whose own moment came without a yes, before it ever went out. */
function missedFindings(
  { ownMoment }: Subject,
  state: ListingState,
  errand: ErrandMark | 'none',
  now: Instant,
): Finding[] {
  if (ownMoment === null || ownMoment.at === 'unclear' || ownMoment.at > now) return [];
  if (state.sent !== null || state.pendingOutcome !== null || errand !== 'none') return [];
  return [finding(['notices'], 'warns', { code: 'moment-missed', at: ownMoment.at, zone: ownMoment.zone })];
}

/**
 * A listing that is not to stand there and never did: nothing is to be sent of it, and what it would show is reckoned
 * when it is looked at.
 */
function unwanted(
  { rules, row }: Channel,
  { facts, part, performanceIds }: Subject,
  { id, state, gate, known }: { id: ListingId; state: ListingState; gate: Gated; known: KnownListing | undefined },
  { recordId, monotonic, now }: SurveyInput,
): SurveyedListing {
  let made: ReturnType<typeof proof> | null = null;
  const reckoned = () => (made ??= proof(rules, facts, performanceIds, now));
  return {
    id,
    record: recordId,
    channel: row.id,
    rules,
    part,
    performanceIds: rules.notice === null ? performanceIds : [],
    wanted: takenDown,
    get proof() {
      return reckoned().shown;
    },
    get beneath() {
      return reckoned().beneath;
    },
    get findings() {
      return [...gate.findings, ...cutFindings(known, facts.visibility), ...reckoned().findings];
    },
    comparison: [],
    standing: null,
    down: gate.down,
    state,
    publicUrl: known?.publicUrl ?? null,
    embargoUntil: gate.until,
    lock: lockContext(state, known, monotonic, now),
    steps: nothingToDo,
    left: [],
    errand: 'none',
  };
}

/** A sale is about to open for the first time, and lines of its sheet are not ticked. */
function sheetFindings(rules: ChannelRules, state: ListingState, wanted: boolean, open: number): Finding[] {
  // What was a draft till now opens for the first time, too.
  const first = state.sent === null || listedState(state.sent) === 'draft';
  return open > 0 && wanted && first && sells(rules) ? [finding(['sheet'], 'warns', { code: 'sheet-open', open })] : [];
}

/**
 * What is wanted there: what the proof shows, or that it is taken down. What was cancelled there stays so; and where
 * nothing is ever taken down, that it is called off is the most that can be said.
 */
function wantedThere(rules: Pick<ChannelRules, 'operations'>, down: boolean, shown: Shown, state: ListingState): Shown {
  if (!down) return isDown(shown) ? { [listedField]: shown[listedField] ?? { kind: 'state', is: 'closed' } } : shown;
  const before = state.observed ?? state.sent;
  const only = !takesBack(rules) && rules.operations.some(({ leadsTo }) => leadsTo?.includes('cancelled'));
  return (before !== null && listedState(before) === 'cancelled') || only
    ? { [listedField]: { kind: 'state', is: 'cancelled' } }
    : takenDown;
}

/** What locks are judged on: what was seen there last, or sent. */
function lockContext(
  state: ListingState,
  known: KnownListing | undefined,
  monotonic: Instant,
  now: Instant,
): LockContext {
  const there = state.observed ?? state.sent ?? {};
  const starts = new Map<string, Instant>();
  for (const [key, value] of Object.entries(there)) {
    const { field, item } = splitKey(key);
    if (field === 'start' && item !== null && value.kind === 'instant') starts.set(item, value.at);
  }
  // Moments of sendings are of the monotonic clock; those of shows are of the calendar.
  const sentAt = state.sentAt === null ? null : now - (monotonic - state.sentAt);
  return { sold: known?.sold ?? 0, starts, state: listedState(there), sentAt, now };
}

/** Fields of which a row says so; found once for each kind's rules. */
function fieldsWhere(says: (row: ChannelRules['rows'][number]) => boolean | undefined) {
  const found = new WeakMap<ChannelRules, ReadonlySet<string>>();
  return (rules: ChannelRules): ReadonlySet<string> => {
    let mine = found.get(rules);
    if (!mine) found.set(rules, (mine = new Set(rules.rows.filter(says).map((row) => row.field))));
    return mine;
  };
}

/** True where a person there looks at what was changed before it is seen again. */
export function looksAgain({ shows }: Pick<ChannelRules, 'shows'>): boolean {
  return shows.when === 'next visit';
}

/** Fields that a channel is known to drop. */
export const droppedBy = fieldsWhere((row) => row.dropped);
/** Fields that go out once and for all. */
export const settledBy = fieldsWhere((row) => row.settled);
