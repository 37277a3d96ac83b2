import type { Instant } from '../base/zones';

/** How much a finding matters: *stops* forbids saving or sending, *warns* asks for a look, *notes* informs. */
export type Weight = 'stops' | 'warns' | 'notes';

/**
 * Every finding by its name, with its evidence. `Fact<'start-empty'>` is one of them; `findingWords` puts words to
 * each.
 * Units stand beside those that could be read in more than one.
 */
interface FindingFacts {
  'title-empty': None;
  /** `length` and `limit` in graphemes. */
  'text-too-long': { length: number; limit: number };
  'date-malformed': { text: string };
  'time-malformed': { text: string };
  'start-empty': None;
  /** Both as wall-clock times of one day. */
  'end-before-start': { start: string; end: string };
  'doors-after-start': { doors: string; start: string };
  /** `before` and `after`: the nearest times that exist on either side of the gap. */
  'time-skipped': { time: string; date: string; zone: string; before: string; after: string };
  /** The clocks go back; nobody said which of the two is meant. */
  'time-twice': { time: string; date: string; zone: string };
  'zone-unknown': { zone: string };
  'venue-unknown': None;
  'room-unknown': None;
  'name-empty': None;
  'price-malformed': { text: string; currency: string };
  'quantity-malformed': { text: string };
  'link-malformed': { text: string };
  'too-many': { count: number; limit: number };
  /** `detail`: a clause that completes “This value cannot be kept: …”. */
  'value-refused': { detail: string };
  /** `length` and `limit` in the channel’s own unit. */
  'shown-shorter': { length: number; limit: number };
  /** `label`: what the channel calls the field. */
  'needed-empty': { label: string };
  'price-none': None;
  'venue-none': None;
  /** `ratio` as `3:2`. */
  'picture-none': { ratio: string };
  /** `have` and `need` in pixels of the crop’s width. */
  'picture-small': { have: number; need: number };
  /** `kept`: per cent of the picture that the crop keeps. */
  'picture-shape': { kept: number; ratio: string };
  'alt-empty': None;
  /** A picture may be used until a day before the event's last. */
  'picture-ends': { name: string; until: string };
  /** `kind`: the record’s kind, which the channel’s map has no category for. */
  'category-unmapped': { eventType: string };
  /** `from`: the channel whose gift it is. */
  'link-awaited': { from: string };
  /** `from`: who is to give the link, and cannot take the event as it stands. */
  'giver-stopped': { from: string };
  'not-public': None;
  /** The house says that such an event is never public. */
  'never-public': { eventType: string };
  /** `most`: so many categories it takes; `out`: those of its own that are left out. */
  'refused-there': { message: string };
  'late-there': { since: number; zone: string; usualMs: number; causes: string };
  'not-on-list': { text: string; words: string };
  'hashtags-out': { out: string; limit: number };
  'categories-cut': { most: number; out: string };
  pencilled: None;
  'unlisted-here': None;
  /** `what`: which moment, as the subject of a sentence. */
  'moment-unclear': { what: string };
  /**
   * A second listing carries our reference. `id`: the channel’s id for it; `address`: where it is seen, else the id.
   */
  'twice-there': { id: string; address: string };
  /** It went out more than once, where nothing can be taken back. */
  'twice-sent': { times: number };
  /** The record was put away. */
  'put-away': None;
  'gone-there': None;
  /** The tie was cut at `since`, by the calendar; `address`: where it was seen, or its id. */
  'cut-loose': { since: Instant; address: string };
  /** `note`: the channel’s own words. */
  'channel-says': { note: string };
  'turned-down': { note: string };
  /** A write’s answer was lost at `since`. */
  'unread-there': { since: Instant };
  /** `label`: the field; `why`: the lock’s own words. */
  'locked-there': { label: string; why: string };
  /** `name`: the outlet whose listing was taken down. */
  'link-closed': { name: string };
  /** `zone`: the zone in which the moment was given. */
  embargoed: { until: Instant; zone: string };
  'all-past': None;
  'not-connected': None;
  /**
   * `listings`: those that are locked and that nobody has decided on, by their ids; `where`: their channels, in words.
   */
  'lock-undecided': { listings: string[]; where: string };
  /**
   * Who said that what is locked stays as it stands there, why, and until when. `zone`: the zone in which that is told.
   */
  'left-there': { label: string; by: string; because: string; until: Instant; zone: string };
  /** It stands in public beyond what the record allows, and cannot be taken back without a person. */
  'beyond-record': { why: string };
  /** Its own moment came and nobody had said yes to it. */
  'moment-missed': { at: Instant; zone: string };
  /** It was planned before the turn. */
  'off-since': { turn: string };
  'performances-none': None;
  /** `facts`: labels of those that a copy brought with it. */
  'carried-over': { facts: string[] };
  'other-town': { facts: string[] };
  /** `over` = `allocated` − `pool`, in seats. */
  'over-allocated': { over: number; allocated: number; pool: number };
  /** `over` and `pool` in seats. */
  oversold: { over: number; pool: number };
  /** The worst night `date`; `more`: how many others are strained too. */
  'house-strained': { date: string; over: number; oversold: number; pool: number; more: number };
  'sale-never-open': { level: string };
  'level-unbuyable': { level: string };
  'code-empty': { level: string };
  /** `buyers`: to whom the level is offered. */
  'hidden-codeless': { level: string; buyers: string };
  /** `currency` is what the record's prices are in, `pays` what one pays with in `town`. */
  'currency-elsewhere': { currency: string; pays: string; town: string };
  'sale-after-start': { level: string };
  /** `least` and `most` tickets in one order. */
  'order-impossible': { level: string; least: number; most: number };
  /** `detail`: what the parser met. */
  'token-broken': { detail: string };
  'token-unknown': { token: string };
  'token-empty': { token: string };
  override: None;
  /** `from`: what the record said when the wording was made. */
  'override-behind': { from: string; now: string };
  /** `how`: what was left out, in words. */
  'shown-fitted': { length: number; limit: number; how: string };
  /** `known`: the date as far as it is known, in words. */
  'date-imprecise': { known: string };
  /** `needs` and `limit` in the channel’s own unit. */
  'notice-unfit': { needs: number; limit: number };
  'goes-later': { until: Instant; zone: string };
  /** `at`: when the listing ends by itself. */
  lapsing: { label: string; at: Instant; zone: string };
  /** `px`: pixels of the keep-area that the crop cuts. */
  'picture-cuts': { px: number; ratio: string };
  /** `kept`: per cent. */
  'picture-portrait': { kept: number; ratio: string };
  'credit-empty': None;
  drafted: { lengths: string[] };
  'last-before-first': None;
  'set-up-unknown': None;
  'buyers-unsaid': None;
  'registration-nowhere': None;
  'registration-over': { closes: string };
  /** `field`: the label of the public field that shows the address. */
  'join-public': { field: string };
  /** `split`: a division of the pool that would fit, in words. */
  /** `sum` and `pool` in seats. */
  'parts-over': { sum: number; pool: number };
  'fee-malformed': { text: string };
  'percent-malformed': { text: string };
  /** A price level lets in to dates that are not there. */
  'covers-gone': { level: string };
  /** `n` of `dates` performances. */
  'covers-many': { level: string; n: number; dates: number };
  'coupon-never': { name: string };
  'coupon-twice': { name: string };
  'choices-none': { ask: string };
  'consent-empty': { ask: string };
  /** `what`: the thing that names a part of the record which is not there, as the subject of a sentence. */
  'part-gone': { what: string };
  /** `who`: for whom the event is, in words. */
  'not-for-them': { who: string };
  /** `what`: facts of the record that the channel has no place for. */
  'left-out-here': { what: string[] };
  /** The channel asks for a limit to an order, and the record names none. */
  'order-limit-usual': { n: number };
  /** `total` and `room` in seats. */
  'total-over': { total: number; room: number };
  /** `seats` of the part, `sum` of the levels that draw on it, both in seats. */
  'level-over-part': { part: string; sum: number; seats: number };
  /** In seats: what all price levels may sell, and what the outlets were given. */
  'levels-below-allocated': { sum: number; allocated: number };
  /** `wanted`: what the link was to lead to; `instead`: what it leads to. */
  'link-unmet': { wanted: string; instead: string };
  /** `name`: the outlet that would give the link, and stays a draft; `asks`: a person has to choose how this goes. */
  'giver-draft': { name: string; asks: boolean };
  'kept-draft': None;
  /** Channels whose links wait for each other. */
  'link-circle': { names: string[] };
  'recording-public': { field: string };
  /** Figures in the text whose picture is not the record's. */
  'figure-gone': None;
  /**
   * Paid tickets are about to be sold for the first time, and nobody has ticked the sheet. `open`: lines that are not
   * ticked.
   */
  'sheet-open': { open: number };
  /** `what`: what it counts, as `number of seats`. */
  'number-malformed': { text: string; what: string };
}

/** A finding without evidence beside its name. */
type None = Record<never, never>;

/** The evidence of one named finding. */
type Fact<C extends keyof FindingFacts> = { code: C } & FindingFacts[C];

/** What was noticed, with the evidence. Words are put to it by `findingWords`. */
export type FindingFact = { [C in keyof FindingFacts]: Fact<C> }[keyof FindingFacts];

/**
 * Where it was noticed: the way into a record (`['performances', 0, 'start']`), or the one name of a shown field
 * (`['title']`). It is never taken apart from a text; `fieldOf` makes a text of it for a form’s key.
 */
export type FindingPath = readonly (string | number)[];

/** One thing noticed: where, how much it matters, and the evidence. */
export type Finding = { path: FindingPath; weight: Weight } & FindingFact;

/** Makes a finding. `finding(['performances', 0, 'start'], 'stops', { code: 'start-empty' })` */
export function finding(path: FindingPath, weight: Weight, fact: FindingFact): Finding {
  return { path, weight, ...fact };
}

/** The finding as it is seen from further out: `beneath(['performances', 0], f)`. */
export function beneath(at: FindingPath, found: Finding): Finding {
  return { ...found, path: [...at, ...found.path] };
}

/** The path as one text, `performances.0.start`: the key of a form’s field, and what a list says. */
export function fieldOf({ path }: { path: FindingPath }): string {
  return path.join('.');
}

/** True where any finding forbids going on. */
export function stops(findings: readonly Finding[]): boolean {
  return findings.some((finding) => finding.weight === 'stops');
}
