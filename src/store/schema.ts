import type { ChannelId, DispatchId, ListingId, RecordId } from '@/core/base/ids';
import { shownSchema } from '@/core/listing/shown-schema';
import { venueMoreSchema } from '@/core/record/directory';
import { channelAudienceSchema } from '@/core/listing/channel-row';
import { savedRecordSchema } from '@/core/record/record';
import { savedTourSchema } from '@/core/record/tour';
import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { z } from 'zod';
import { jsonText } from './json-text';
import {
  changeSchema,
  cutSchema,
  errandErrorSchema,
  lodgedSchema,
  looseSchema,
  momentsSchema,
  namesSchema,
  othersSchema,
  pendingOutcomeSchema,
  remoteSchema,
  roomMoreSchema,
  wantedOfSchema,
} from './stored';

/** Instants are integers: milliseconds since 1970. What is kept as JSON is read back through its schema. */

export const venues = sqliteTable('venues', {
  id: text().primaryKey(),
  name: text().notNull(),
  address: text().notNull(),
  town: text().notNull(),
  country: text().notNull(),
  zone: text().notNull(),
  /** Coordinates, contact, how to find it, ids on channels. */
  more: jsonText(venueMoreSchema)
    .notNull()
    .default(sql`'{}'`),
  /** The venue that it turned out to be a duplicate of. */
  mergedInto: text('merged_into'),
  madeBy: text('made_by').notNull(),
  madeAt: integer('made_at').notNull(),
});

export const rooms = sqliteTable(
  'rooms',
  {
    id: text().primaryKey(),
    venueId: text('venue_id')
      .notNull()
      .references(() => venues.id),
    name: text().notNull(),
    capacity: integer(),
    /** Set-ups with their capacities and holds, and the changeover. */
    more: jsonText(roomMoreSchema)
      .notNull()
      .default(sql`'{}'`),
    mergedInto: text('merged_into'),
  },
  (t) => [index('rooms_venue').on(t.venueId)],
);

/** Artists, organisers and wordings: what they are, as JSON. */
export const people = sqliteTable(
  'people',
  {
    id: text().primaryKey(),
    sort: text({ enum: ['artist', 'organiser', 'wording'] }).notNull(),
    name: text().notNull(),
    body: jsonText(looseSchema).notNull(),
    mergedInto: text('merged_into'),
    madeBy: text('made_by').notNull(),
    madeAt: integer('made_at').notNull(),
  },
  (t) => [index('people_name').on(t.sort, t.name)],
);

/** A tour with what its dates share; every save is a revision of its own. */
export const tours = sqliteTable('tours', {
  id: text().primaryKey(),
  name: text().notNull(),
  revision: integer().notNull(),
  shared: jsonText(savedTourSchema).notNull(),
  actor: text().notNull(),
  at: integer().notNull(),
});

/** How many were sold, as counted at a moment: by performance, level and outlet. */
export const sales = sqliteTable(
  'sales',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    recordId: text('record_id')
      .$type<RecordId>()
      .notNull()
      .references(() => records.id),
    performanceId: text('performance_id').notNull(),
    levelId: text('level_id').notNull(),
    outlet: text().notNull(),
    sold: integer().notNull(),
    at: integer().notNull(),
    /** Who counted: a person, or the channel's own word. */
    by: text('counted_by').notNull(),
  },
  (t) => [index('sales_record').on(t.recordId)],
);

/** Old addresses of events, which lead to the record for good. */
export const slugs = sqliteTable(
  'slugs',
  {
    slug: text().primaryKey(),
    recordId: text('record_id')
      .$type<RecordId>()
      .notNull()
      .references(() => records.id),
    at: integer().notNull(),
  },
  (t) => [index('slugs_record').on(t.recordId)],
);

export const pictures = sqliteTable('pictures', {
  /** SHA-256 of the file. */
  id: text().primaryKey(),
  fileName: text('file_name').notNull(),
  format: text().notNull(),
  width: integer().notNull(),
  height: integer().notNull(),
  bytes: integer().notNull(),
  addedBy: text('added_by').notNull(),
  addedAt: integer('added_at').notNull(),
  /** What a person calls it; empty: by its file's name. */
  name: text().notNull().default(''),
  /** Whose it is, and what it shows, to begin with wherever it is used. */
  credit: text().notNull().default(''),
  alt: text().notNull().default(''),
  /** The last day that it may be used; `null`: for good. */
  until: text(),
});

export const records = sqliteTable('records', {
  id: text().$type<RecordId>().primaryKey(),
  code: text().notNull().unique(),
  /** Number of the newest revision. */
  revision: integer().notNull(),
  /** Its newest revision is private: nothing of it is to stand anywhere. */
  private: integer({ mode: 'boolean' }).notNull().default(false),
  madeAt: integer('made_at').notNull(),
  /** When it was put away: it stands in the season no more, and nothing of it is to send. */
  awayAt: integer('away_at'),
  /** When it last went out in a file. */
  exportedAt: integer('exported_at'),
});

/** Lines of the sheet before a sale opens that a person has ticked, with what they said then. */
export const sheetTicks = sqliteTable(
  'sheet_ticks',
  {
    recordId: text('record_id')
      .$type<RecordId>()
      .notNull()
      .references(() => records.id),
    line: text().notNull(),
    value: text().notNull(),
    by: text('ticked_by').notNull(),
    at: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.recordId, t.line] })],
);

/** Characters of revisions that are remembered as they were read: those of a large house, at their newest. */
const contentKept = 120_000_000;

export const revisions = sqliteTable(
  'revisions',
  {
    recordId: text('record_id')
      .$type<RecordId>()
      .notNull()
      .references(() => records.id),
    number: integer().notNull(),
    content: jsonText(savedRecordSchema, 'content', contentKept).notNull(),
    actor: text().notNull(),
    /** The id of who saved it; `null`: the machine, or an earlier program. */
    doerId: text('doer_id'),
    /** Whether who saved it may send it, too: what another saved waits for one who may. */
    sends: integer({ mode: 'boolean' }).notNull().default(true),
    at: integer().notNull(),
    reason: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.recordId, t.number] })],
);

export const origins = sqliteTable('origins', {
  /** Where a record came from: kind of file and the row's own identity. */
  origin: text().primaryKey(),
  recordId: text('record_id')
    .$type<RecordId>()
    .notNull()
    .references(() => records.id),
});

/** Channels: connected places, each of a kind. One that was taken off keeps its row, its listings and its history. */
export const channels = sqliteTable('channels', {
  id: text().$type<ChannelId>().primaryKey(),
  kind: text().notNull(),
  /** The names that the user gave it. */
  name: text().notNull(),
  shortName: text('short_name').notNull(),
  settings: jsonText(looseSchema).notNull().default({}),
  /** The channel whose connection it uses; null: its own. */
  through: text().$type<ChannelId>(),
  place: integer().notNull(),
  address: text().notNull(),
  /** Sealed: see `credentials.ts`. */
  credentials: text().notNull(),
  /** The name under which the channel knows us. */
  knownAs: text('known_as').notNull(),
  connected: integer({ mode: 'boolean' }).notNull(),
  /** Who sees what stands there. */
  audience: jsonText(channelAudienceSchema).notNull().default({ who: 'everyone' }),
  /** What the clock alone changes is sent there without asking. */
  standingLeave: integer('standing_leave', { mode: 'boolean' }).notNull().default(true),
  actor: text().notNull(),
  at: integer().notNull(),
});

/** What an account takes and how it fails. Moments are of the monotonic clock. */
export const accounts = sqliteTable('accounts', {
  id: text().primaryKey(),
  failures: integer().notNull().default(0),
  failingSince: integer('failing_since'),
  blockedUntil: integer('blocked_until').notNull().default(0),
  /** Requests that may go at once, and when that was reckoned, by the machine's clock. */
  tokens: real(),
  tokensAt: integer('tokens_at'),
});

/** What an account is known to hold: pictures, venues. Nothing is sent or asked for twice. */
export const keptThere = sqliteTable(
  'kept_there',
  {
    account: text().notNull(),
    sort: text().notNull(),
    key: text().notNull(),
    value: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.account, t.sort, t.key] })],
);

/** A listing's state. What it shows stands apart, so that the state is read quickly. */
export const listings = sqliteTable(
  'listings',
  {
    id: text().$type<ListingId>().primaryKey(),
    recordId: text('record_id')
      .$type<RecordId>()
      .notNull()
      .references(() => records.id),
    channel: text().$type<ChannelId>().notNull(),
    part: integer().notNull(),
    performanceIds: jsonText(namesSchema, 'performance_ids').notNull(),
    remote: jsonText(remoteSchema),
    sentRevision: integer('sent_revision'),
    sentAt: integer('sent_at'),
    /** The moment, by the house's clock, at which the record asked for just what was sent last. */
    askedAt: integer('asked_at'),
    /** When the request began whose answer was observed last. */
    observedAt: integer('observed_at'),
    /** When it is to be read back next; null: not before the next sending. */
    readAt: integer('read_at'),
    /** Reads that failed in a row. */
    readTries: integer('read_tries').notNull().default(0),
    /** Times that something was written there. */
    writes: integer().notNull().default(0),
    /**
     * Attempts whose outcome is known: an idempotency key stands on it, so that what was refused can be tried anew and
     * what was lost cannot.
     */
    attempts: integer().notNull().default(0),
    /** Times that something was seen there. */
    sights: integer().notNull().default(0),
    /** When it was looked for twice and not found. */
    goneAt: integer('gone_at'),
    /**
     * A first writing whose outcome is not known: since when, by which errand, how often it was looked for, and what
     * was sent.
     */
    pendingOutcome: jsonText(pendingOutcomeSchema, 'pending_outcome'),
    /** A first writing that was looked for twice and not found: what comes of it later is looked for still. */
    lost: jsonText(pendingOutcomeSchema),
    /** Other places where it stands, since an answer was lost. */
    twins: jsonText(z.array(remoteSchema)).notNull().default([]),
    /** The tie was cut: what stood there then stands on, and is no longer ours. */
    cut: jsonText(cutSchema),
  },
  (t) => [
    uniqueIndex('listings_place').on(t.recordId, t.channel, t.part),
    index('listings_due').on(t.channel, t.readAt),
  ],
);

/** What a listing was sent, and what was seen of it. */
export const listingShown = sqliteTable('listing_shown', {
  listingId: text('listing_id')
    .$type<ListingId>()
    .primaryKey()
    .references(() => listings.id),
  sent: jsonText(shownSchema),
  /** When each field was last sent. */
  sentTimes: jsonText(momentsSchema, 'sent_times').notNull().default({}),
  previous: jsonText(shownSchema),
  observed: jsonText(shownSchema),
  /** What we believe to stand there: the last observation, with what was written since over it. */
  believed: jsonText(shownSchema),
  /** Items of others in its groups, as they came. */
  others: jsonText(othersSchema).notNull().default({}),
});

/** How long it took until what was sent was seen there: one row for each sending that was. */
export const seenAfter = sqliteTable(
  'seen_after',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    channel: text().$type<ChannelId>().notNull(),
    at: integer().notNull(),
    ms: integer().notNull(),
  },
  (table) => [index('seen_after_channel').on(table.channel, table.id)],
);

/** Values that one listing gives to others. */
export const gifts = sqliteTable(
  'gifts',
  {
    listingId: text('listing_id')
      .$type<ListingId>()
      .notNull()
      .references(() => listings.id),
    recordId: text('record_id').$type<RecordId>().notNull(),
    /** The performance that it is for; empty: the whole. */
    performanceId: text('performance_id').notNull().default(''),
    gift: text().notNull(),
    channel: text().$type<ChannelId>().notNull(),
    value: text().notNull(),
    since: integer().notNull(),
    /** Who may see it: anyone, holders of a place, nobody outside. */
    audience: text({ enum: ['anyone', 'holders', 'nobody'] })
      .notNull()
      .default('anyone'),
  },
  (t) => [primaryKey({ columns: [t.listingId, t.gift, t.performanceId] }), index('gifts_record').on(t.recordId)],
);

/** The newest count of what was sold: by performance, level and outlet. */
export const soldNow = sqliteTable(
  'sold_now',
  {
    recordId: text('record_id').$type<RecordId>().notNull(),
    performanceId: text('performance_id').notNull(),
    levelId: text('level_id').notNull(),
    outlet: text().notNull(),
    sold: integer().notNull(),
    at: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.recordId, t.performanceId, t.levelId, t.outlet] })],
);

/** From where those came who bought or registered, by the channel's own count: the newest. */
export const sourceCounts = sqliteTable(
  'source_counts',
  {
    recordId: text('record_id').$type<RecordId>().notNull(),
    listingId: text('listing_id').$type<ListingId>().notNull(),
    channel: text().$type<ChannelId>().notNull(),
    source: text().notNull(),
    n: integer().notNull(),
    at: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.listingId, t.source] }), index('source_counts_record').on(t.recordId)],
);

/** The house in numbers: one row, bumped by every writing transaction. */
export const pulse = sqliteTable('pulse', {
  id: integer().primaryKey(),
  writes: integer().notNull(),
  toSend: integer('to_send').notNull(),
  asks: integer().notNull(),
  /** Listings that stand in public beyond what their records allow, and that only a person can take back. */
  beyond: integer().notNull().default(0),
  /** Listings that are to go and cannot, until a person has put something right. */
  held: integer().notNull().default(0),
  /** Another with every change of what a survey reads of the house: channels, words, venues, people. */
  context: text().notNull().default(''),
  /** How many records were deleted so far: whoever holds a list of all sees by it that one is gone. */
  removed: integer().notNull().default(0),
  /** The greatest number that a deleted record had: none is given again. */
  lastNumber: integer('last_number').notNull().default(0),
});

/** What each record adds to the numbers of the house, and when the clock by itself may change that. */
export const tallies = sqliteTable(
  'tallies',
  {
    recordId: text('record_id')
      .$type<RecordId>()
      .primaryKey()
      .references(() => records.id),
    toSend: integer('to_send').notNull().default(0),
    asks: integer().notNull().default(0),
    beyond: integer().notNull().default(0),
    held: integer().notNull().default(0),
    /** Another with every change of the record, its listings, its errands and its counts. */
    mark: text().notNull().default(''),
    stale: integer({ mode: 'boolean' }).notNull().default(true),
    nextAt: integer('next_at'),
    /**
     * Rises with every change of its line, or of whether that is stale, over all records: what changed since is found
     * by it.
     */
    changed: integer().notNull().default(0),
  },
  (t) => [
    index('tallies_stale').on(t.stale),
    index('tallies_next').on(t.nextAt),
    index('tallies_changed').on(t.changed),
  ],
);

/**
 * What the season says of a record, as it was counted last: kept apart, for it is read all at once and nowhere else.
 */
export const seasonLines = sqliteTable('season_lines', {
  recordId: text('record_id')
    .$type<RecordId>()
    .primaryKey()
    .references(() => records.id),
  /** JSON of the season's own schema, as a text: it is held against the one before. */
  line: text().notNull(),
});

/** Which process works the queue: its own mark, how many have led before it, and when it last said so. */
export const lease = sqliteTable('lease', {
  id: integer().primaryKey(),
  boot: text().notNull(),
  fence: integer().notNull(),
  /** By the machine's clock. */
  at: integer().notNull(),
  /** The monotonic clock, as it stood then. */
  monotonic: integer().notNull(),
});

export const dispatches = sqliteTable('dispatches', {
  id: text().$type<DispatchId>().primaryKey(),
  actor: text().notNull(),
  at: integer().notNull(),
  /** Warnings that the person who sent it said to have seen. */
  seen: jsonText(namesSchema).notNull().default([]),
});

/**
 * Wishes: bring this listing to what the record says. What the person saw when saying yes is kept; nothing is sent from
 * it.
 */
export const errands = sqliteTable(
  'errands',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    dispatchId: text('dispatch_id')
      .$type<DispatchId>()
      .notNull()
      .references(() => dispatches.id),
    listingId: text('listing_id')
      .$type<ListingId>()
      .notNull()
      .references(() => listings.id),
    recordId: text('record_id').$type<RecordId>().notNull(),
    channel: text().$type<ChannelId>().notNull(),
    revision: integer().notNull(),
    op: text().notNull(),
    /** What the person saw: before and after, for the book. */
    changes: jsonText(z.array(changeSchema)).notNull(),
    /** The keys that go over what stands there, by a person's decision; null: what follows from the record alone. */
    over: jsonText(namesSchema),
    /** The way that was picked, and why, in public words. */
    way: text(),
    reason: text().notNull().default(''),
    /** What it does besides, because a person asked for it. */
    effects: jsonText(namesSchema).notNull().default([]),
    /** The other place that it is about, by the channel's id, where a listing stands twice; null: the listing's own. */
    twin: text(),
    /** It only takes back what stands beyond the record; nobody need say yes to that. */
    narrows: integer({ mode: 'boolean' }).notNull().default(false),
    /** It goes under the standing leave: what the clock alone changed, and nothing else. */
    byClock: integer('by_clock', { mode: 'boolean' }).notNull().default(false),
    /** Gifts that it goes without, by a person's decision. */
    without: integer({ mode: 'boolean' }).notNull().default(false),
    state: text({ enum: ['waiting', 'running', 'lodged', 'done', 'refused', 'dropped', 'not needed'] }).notNull(),
    /** It waits for nothing but its turn. */
    ready: integer({ mode: 'boolean' }).notNull().default(true),
    /** The channel whose gift it awaits; null: none. */
    awaits: text(),
    /** It may not go before this moment, by the house's clock. */
    notBefore: integer('not_before'),
    /** When what it is about begins: the nearest goes first. */
    deadline: integer().notNull().default(0),
    /** It gives what others await. */
    gives: integer({ mode: 'boolean' }).notNull().default(false),
    tries: integer().notNull().default(0),
    nextTryAt: integer('next_try_at').notNull(),
    claim: text(),
    fence: integer(),
    claimedAt: integer('claimed_at'),
    /** Where its answer comes later: what to ask for it by, with what was handed over. */
    lodged: jsonText(lodgedSchema),
    lastError: jsonText(errandErrorSchema, 'last_error'),
    settledAt: integer('settled_at'),
  },
  (t) => [
    index('errands_turn').on(t.state, t.channel, t.ready, t.deadline, t.id),
    index('errands_moment').on(t.state, t.ready, t.notBefore),
    index('errands_listing').on(t.listingId, t.state),
    index('errands_record').on(t.recordId, t.state),
    index('errands_dispatch').on(t.dispatchId),
  ],
);

/** What is locked on a channel and stays as it is there, by a person's word. */
export const leftLocks = sqliteTable(
  'left_locks',
  {
    listingId: text('listing_id')
      .$type<ListingId>()
      .primaryKey()
      .references(() => listings.id),
    recordId: text('record_id').$type<RecordId>().notNull(),
    /** What was wanted of each locked field when it was left. */
    keys: jsonText(wantedOfSchema).notNull(),
    because: text().notNull(),
    until: integer().notNull(),
    by: text().notNull(),
    at: integer().notNull(),
  },
  (t) => [index('left_locks_record').on(t.recordId)],
);

export const receipts = sqliteTable(
  'receipts',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    errandId: integer('errand_id')
      .notNull()
      .references(() => errands.id),
    at: integer().notNull(),
    outcome: text().notNull(),
    detail: jsonText(looseSchema).notNull(),
  },
  (t) => [index('receipts_errand').on(t.errandId)],
);

export const readings = sqliteTable(
  'readings',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    listingId: text('listing_id')
      .$type<ListingId>()
      .notNull()
      .references(() => listings.id),
    at: integer().notNull(),
    /** What was observed; null where the reading failed. */
    observed: jsonText(shownSchema),
    error: text(),
  },
  (t) => [index('readings_listing').on(t.listingId)],
);

export const settings = sqliteTable('settings', {
  name: text().primaryKey(),
  value: text().notNull(),
});
export * from './door-schema';
export * from './foretold-schema';
export * from './many-schema';
export * from './untold-schema';
