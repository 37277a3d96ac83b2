import type { ChannelId, ListingId } from '../base/ids';
import type { Instant } from '../base/zones';
import type { Facts } from '../facts/facts';
import { nextOf, type PerformanceFacts } from '../facts/performance-facts';
import { saleWindow } from '../facts/tickets/windows';
import type { Finding } from '../findings/finding';
import type { ByWhen } from '../listing/shows';
import { asksPerson, type Standing } from '../listing/standing';
import { noEarlier, type Mention } from '../words/mention';
import { earlierFrom, findMentions } from '../words/mentions';
import { markupOf, writePlain } from '../words/markup';
import { foresee, foreseeMirrors, type ForeseeingGround, type Foreseen } from './foreseen';
import type { Needing } from './needed';
import { byWay, plan, type HeldListing, type LockedListing, type PlannedErrand } from './plan';
import type { ChangeGround } from './change-ground';
import { quotesOf, type Quote } from './quotes';
import { tellsHolders } from './untold';
import type { Way } from './steps';
import type { SurveyedListing } from './surveyed';

export interface ConsequencesInput extends ForeseeingGround {
  /** As it was saved last. */
  before: ChangeGround;
  /** As it would be saved. */
  after: ChangeGround;
  /** The channel whose word another shows, by the id of that other. */
  sources: ReadonlyMap<string, string>;
  /** Names of all rooms of the record's venues: typed, they are places. */
  rooms: readonly string[];
  /** When the event was last taken out as a file; `null`: never, or it is not asked. */
  handedOn: Instant | null;
}

/** What is locked on one channel, with the ways, each with what is foretold of it; `leave` has none. */
interface LockedConsequence extends LockedListing {
  sold: number;
  foreseen: Partial<Record<Way['id'], Foreseen>>;
}

/** What was said already and quotes the old fact: a post or a letter that went out, with its mending. */
interface SaidAlready {
  listing: ListingId;
  channel: ChannelId;
  sentAt: Instant | null;
  /** `edit`: it is changed where it stands; `anew`: a reply or another letter; `none`: it is past mending. */
  mending: 'edit' | 'anew' | 'none';
}

/** A moment of the sale that moves along. */
interface MovedMoment {
  what: 'on sale' | 'off sale';
  level: string;
  before: Instant;
  after: Instant;
  zone: string;
}

/** A sentence that was right and is not any more. */
interface TurnedWrong {
  where: 'full text' | 'teaser' | 'short text' | 'line';
  mention: Mention;
}

/** Who holds a ticket by one channel, and whether that has a step that tells them. */
interface Holders {
  channel: ChannelId;
  listing: ListingId;
  sold: number;
  /** `step`: what goes there tells them; `way`: one of the ways there would; `nobody`: the channel tells nobody. */
  told: 'step' | 'way' | 'nobody';
}

/** Listings that show the old fact until the same moment. */
interface WrongSpan {
  channels: ChannelId[];
  until: ByWhen;
}

/** What a change does, in the order in which a person reads it. */
export interface Consequences {
  atOnce: Foreseen[];
  locked: LockedConsequence[];
  later: (Foreseen & { afterDoors: boolean })[];
  /** What drifted, was refused or cannot go: nothing is left out without a word. */
  asks: { listing: ListingId; channel: ChannelId; standing: Standing }[];
  held: HeldListing[];
  busy: { listing: ListingId; channel: ChannelId; more: boolean }[];
  said: SaidAlready[];
  /** What quotes the old fact beyond the channels, past mending by a sending. */
  quotes: Quote[];
  /** What tells everybody, or waits for its own moment: it goes only when it is asked for. */
  apart: Foreseen[];
  moments: MovedMoment[];
  sentences: TurnedWrong[];
  /** What is noticed now and was not before: allocations that no longer fit, what is missing. */
  arises: Finding[];
  holders: Holders[];
  /** Posts and letters that tell those who bought, where they go. */
  telling: ListingId[];
  wrong: WrongSpan[];
  /** Of what goes, whatever waits for the link of another, with that other: it goes along. */
  needs: Needing[];
}

/**
 * What a change does outside, before it is saved: the list that the screen shows, that the dispatch is made from, and
 * that is kept with it. Pure; an unchanged record in step gives an empty list.
 */
export function consequences(input: ConsequencesInput): Consequences {
  const { after, before, now } = input;
  const { errands, held, locked, busy } = plan(after.listings);
  const byId = new Map(after.listings.map((listing) => [listing.id, listing]));
  const seen = (errand: PlannedErrand, behind: boolean) => foresee(of(byId, errand.listing), errand, input, behind);
  // What waits for nothing but a decision on a lock goes behind it.
  const freed = held.filter(waitsForLock).map(({ listing }) => of(byId, listing));
  const steps = locked.some(({ listing }) => of(byId, listing).rules.notice === null);
  const goes: Foreseen[] = [
    ...errands.map((errand) => seen(errand, false)),
    ...freed.map((listing) =>
      foresee(
        listing,
        { op: listing.steps.op, changes: listing.steps.changes, notBefore: listing.embargoUntil },
        input,
        steps,
      ),
    ),
  ];
  const isApart = ({ listing, op, tells, notBefore }: Foreseen) =>
    notBefore !== null || (of(byId, listing).rules.notice !== null && op === 'place' && tells !== 'nobody');
  const told = goes.filter((item) => !isApart(item));
  const mirrored = foreseeMirrors(after.listings, input.sources, told);
  const isNotice = (item: Foreseen) => of(byId, item.listing).rules.notice !== null;
  const listed = told.filter((item) => !isNotice(item));
  const opens = doorsOf(nextOf(after.facts.performances, now));
  const soon = (item: Foreseen) => of(byId, item.listing).rules.shows.when === 'at once';
  return {
    atOnce: listed.filter(soon),
    locked: locked
      .filter(({ listing }) => of(byId, listing).rules.notice === null)
      .map((item) => lockedOf(of(byId, item.listing), item, input)),
    later: [...listed.filter((item) => !soon(item)), ...mirrored].map((item) => ({
      ...item,
      afterDoors: opens !== null && item.by.atLatest > opens,
    })),
    asks: after.listings.flatMap(({ id, channel, standing }) =>
      asksPerson(standing) && standing !== null ? [{ listing: id, channel, standing }] : [],
    ),
    held: held.filter((item) => !waitsForLock(item)),
    busy: busy.map(({ listing, channel, next }) => ({ listing, channel, more: next !== null })),
    said: saidAlready(after.listings),
    quotes: quotesOf(before, after, input.handedOn),
    apart: goes.filter(isApart),
    moments: movedMoments(before, after),
    sentences: turnedWrong(input),
    arises: arising(before.listings, after.listings),
    holders: touchesHolders(before.facts, after.facts) ? holdersOf(after.listings) : [],
    telling: after.listings
      .filter(({ rules, part }) => rules.notice !== null && tellsHolders(after.content.notices, part))
      .map(({ id }) => id),
    wrong: wrongUntil([...listed, ...mirrored], byId),
    needs: errands.flatMap(({ listing, needs }) => (needs.length === 0 ? [] : [{ listing, needs }])),
  };
}

/** True where nobody is told of anything and nothing is to be decided: a save is all there is to it. */
export function doesNothing({ atOnce, locked, later, asks, held, busy, said, apart, sentences, arises }: Consequences) {
  return (
    atOnce.length + locked.length + later.length + asks.length + held.length + busy.length + said.length === 0 &&
    apart.length + sentences.length + arises.length === 0
  );
}

function of(byId: ReadonlyMap<ListingId, SurveyedListing>, id: ListingId): SurveyedListing {
  const found = byId.get(id);
  if (!found) throw new Error(`the plan names listing ${id}, which was not surveyed`);
  return found;
}

/** What waits for nothing but a person's word on what is locked elsewhere. */
function waitsForLock({ reasons, waitsFor }: HeldListing): boolean {
  return waitsFor === null && reasons.length > 0 && reasons.every(({ code }) => code === 'lock-undecided');
}

function lockedOf(listing: SurveyedListing, item: LockedListing, ground: ForeseeingGround): LockedConsequence {
  const foreseen: LockedConsequence['foreseen'] = {};
  for (const { id } of item.ways)
    if (id !== 'leave') foreseen[id] = foresee(listing, byWay(listing, id), ground, false);
  return { ...item, sold: listing.lock.sold, foreseen };
}

/** When one is let in, or it begins; `null`: not known. */
function doorsOf(performance: PerformanceFacts | undefined): Instant | null {
  return performance?.doors ?? performance?.start ?? null;
}

/** Posts and letters that went out and say something else than they would now. */
function saidAlready(listings: readonly SurveyedListing[]): SaidAlready[] {
  return listings.flatMap(({ id, channel, rules, state, steps, lock, down }) => {
    if (rules.notice === null || state.sent === null || down !== null) return [];
    if (steps.changes.length === 0 && steps.locked.length === 0) return [];
    const anew = steps.ways.some((way) => way.id === 'correct');
    const mending = steps.locked.length === 0 ? 'edit' : anew ? 'anew' : 'none';
    return [{ listing: id, channel, sentAt: lock.sentAt, mending }];
  });
}

/** Moments of the sale that are said by the start, and move with it. */
function movedMoments(before: ChangeGround, after: ChangeGround): MovedMoment[] {
  const [was, is] = [before.facts.performances[0], after.facts.performances[0]];
  if (!was || !is) return [];
  return after.content.tickets.levels.flatMap((level) => {
    const old = before.content.tickets.levels.find(({ id }) => id === level.id);
    if (!old) return [];
    const [then, now] = [saleWindow(old, was.start, was.zone), saleWindow(level, is.start, is.zone)];
    const moved = (what: MovedMoment['what'], a: Instant | null, b: Instant | null): MovedMoment[] =>
      a !== null && b !== null && a !== b ? [{ what, level: level.name, before: a, after: b, zone: is.zone }] : [];
    return [...moved('on sale', then.opens, now.opens), ...moved('off sale', then.closes, now.closes)];
  });
}

/** Sentences of the record's own words that quoted what changed, and do not follow it. */
function turnedWrong({ before, after, now, rooms }: ConsequencesInput): TurnedWrong[] {
  const earlier = earlierFrom([before.facts]);
  const { words } = after.content;
  const texts: [TurnedWrong['where'], string][] = [
    ['line', words.line],
    ['teaser', words.teaser],
    ['short text', words.short],
    ['full text', writePlain(markupOf(words.full), 'named')],
  ];
  return texts.flatMap(([where, text]) => {
    if (text === '') return [];
    const isWrong = findMentions(text, { facts: after.facts, now, earlier, rooms }).filter(
      ({ verdict }) => verdict !== 'typed',
    );
    if (isWrong.length === 0) return [];
    const wrongWas = new Set(
      findMentions(text, { facts: before.facts, now, earlier: noEarlier, rooms })
        .filter(({ verdict }) => verdict !== 'typed')
        .map(({ from }) => from),
    );
    return isWrong.filter(({ from }) => !wrongWas.has(from)).map((mention) => ({ where, mention }));
  });
}

const aboutSeats: ReadonlySet<string> = new Set([
  'over-allocated',
  'oversold',
  'house-strained',
  'sale-never-open',
  'sale-after-start',
  'currency-elsewhere',
  'picture-small',
  'needed-empty',
]);

/** What is noticed of seats, sale and what is needed now, and was not before; once each. */
function arising(before: readonly SurveyedListing[], after: readonly SurveyedListing[]): Finding[] {
  const was = new Set(before.flatMap((listing) => listing.findings.map((f) => f.code)));
  const out = new Map<string, Finding>();
  for (const found of after.flatMap((listing) => listing.findings))
    if (aboutSeats.has(found.code) && !was.has(found.code) && !out.has(found.code)) out.set(found.code, found);
  return [...out.values()];
}

/** True where whoever holds a ticket has to know: the hour, the day, the place, or whether it takes place at all. */
function touchesHolders(before: Facts, after: Facts): boolean {
  const now = new Map(after.performances.map((performance) => [performance.id, performance]));
  return before.performances.some((was) => {
    const is = now.get(was.id);
    return (
      !is ||
      is.start !== was.start ||
      is.doors !== was.doors ||
      is.turn !== was.turn ||
      is.place?.venueId !== was.place?.venueId ||
      is.place?.roomId !== was.place?.roomId
    );
  });
}

function holdersOf(listings: readonly SurveyedListing[]): Holders[] {
  return listings.flatMap(({ id, channel, lock, steps, rules }) => {
    if (lock.sold === 0) return [];
    const tells = (op: string) => rules.operations.find((row) => row.op === op)?.tells === 'buyers';
    const plain = steps.changes.length > 0 && tells(steps.op);
    const way = steps.ways.some((candidate) => candidate.tells === 'buyers');
    return [{ channel, listing: id, sold: lock.sold, told: plain ? 'step' : way ? 'way' : 'nobody' }];
  });
}

/** Who shows the old fact for how long, the shortest first. */
function wrongUntil(goes: readonly Foreseen[], byId: ReadonlyMap<ListingId, SurveyedListing>): WrongSpan[] {
  const spans = new Map<string, WrongSpan>();
  for (const { listing, channel, by } of goes) {
    // What was never there shows nothing that is wrong.
    if (of(byId, listing).state.sent === null) continue;
    // What is right at once is one span, until the last of it.
    const key = of(byId, listing).rules.shows.when === 'at once' ? 'at once' : `${by.asRule} ${by.atLatest}`;
    const span = spans.get(key) ?? { channels: [], until: by };
    if (by.atLatest > span.until.atLatest) span.until = by;
    if (!span.channels.includes(channel)) span.channels.push(channel);
    spans.set(key, span);
  }
  return [...spans.values()].sort((a, b) => a.until.atLatest - b.until.atLatest);
}
