/*
 * What may be chosen for a fact, and how much of each there may be: lists and limits alone, so that a screen has them
 * without the schemas.
 */

/** What sorts of events there usually are; a house adds its own. Channels map them to categories of theirs. */
export const eventTypes = [
  'concert',
  'theatre',
  'film',
  'talk',
  'workshop',
  'club night',
  'reading',
  'family',
  'exhibition',
  'dance',
  'comedy',
  'market',
  'class',
  'recording',
  'online session',
  'meeting',
  'private hire',
  'rehearsal',
] as const;
/** A sort of event: one of the usual ones, or of the house's own. */
export type EventType = string;

/** Sorts that are never public, where the house does not say otherwise. */
export const usuallyClosed: readonly EventType[] = ['meeting', 'private hire', 'rehearsal'];
/** A record stands under so many sorts beside its own. */
export const mostCategories = 6;

/** What is typed of a record's stage; the rest of the stage is derived (see `stageOf`). */
export const typedStages = ['pencilled', 'confirmed'] as const;

/** What stands in place of the stage of an event that was put away. */
export const putAway = 'put away';

/** How much of a date is known. */
export const precisions = ['open', 'month', 'day', 'exact'] as const;
export type Precision = (typeof precisions)[number];

/** What befell a performance. */
export const turns = ['none', 'postponed', 'rescheduled', 'moved', 'cancelled'] as const;
export type Turn = (typeof turns)[number];

/** The written lengths, from short to long, with the graphemes that each should have at most. */
export const wordLengths = { line: 80, teaser: 160, short: 400 } as const;
export type WordLength = keyof typeof wordLengths;

/**
 * A group of facts that a copy carries over, by its key (`carriedGroups`): kept or replaced before it may leave the
 * house.
 */
export type CarriedFact = string;

/** Largest sizes of a record, so that no input can make the application slow. */
export const recordLimits = {
  title: 300,
  performances: 3000,
  lineUp: 60,
  levels: 24,
  full: 60_000,
  pictures: 12,
  notices: 20,
  links: 12,
  documents: 20,
  programme: 100,
  hashtags: 8,
} as const;

/** What a labelled link is for. */
export const linkUses = ['buy', 'register', 'reply', 'watch', 'more'] as const;

/** Who may see a document or a gift. */
export const seers = ['anyone', 'holders', 'press'] as const;

/** Facts that may be missing, and what the public reads in their place. */
export const followable = ['date', 'time', 'place', 'lineUp', 'price'] as const;

/** How one gets in. */
export const ticketModes = ['ticketed', 'registration', 'pay at the door', 'free entry', 'elsewhere'] as const;
export type TicketMode = (typeof ticketModes)[number];

/**
 * What a price level is: full price for anyone, reduced for those who can show why, for groups, for members, for those
 * who are none, for holders of a code, for those who are invited.
 */
export const buyers = ['anyone', 'concession', 'group', 'members', 'non-members', 'code', 'invited'] as const;
export type Buyers = (typeof buyers)[number];
/** Levels for these are offered to those alone who know the level's code. */
export const buyByCode: ReadonlySet<string> = new Set<Buyers>(['code', 'members', 'invited']);

/** The kinds of answer that a question takes. */
export const answers = [
  'text',
  'long',
  'yes or no',
  'one of',
  'several of',
  'email',
  'telephone',
  'postal address',
  'date',
  'consent',
] as const;

/** Whom a question is asked of: who orders, each of those who come along, or both. */
export const asked = ['buyer', 'companion', 'both'] as const;

/** What of an organiser may be shown to the public. */
export const organiserParts = ['phone', 'mail', 'address', 'site', 'links', 'bookings'] as const;
