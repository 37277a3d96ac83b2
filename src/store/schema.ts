import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';

/** Instants are integers: milliseconds since 1970. JSON columns are read back through Zod in the repositories. */

export const venues = sqliteTable('venues', {
  id: text().primaryKey(),
  name: text().notNull(),
  address: text().notNull(),
  town: text().notNull(),
  country: text().notNull(),
  zone: text().notNull(),
  /** Coordinates, contact, how to find it, ids on channels. */
  more: text().notNull().default('{}'),
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
    more: text().notNull().default('{}'),
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
    body: text().notNull(),
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
  shared: text().notNull(),
  actor: text().notNull(),
  at: integer().notNull(),
});

/** How many were sold, as counted at a moment: by performance, level and outlet. */
export const sales = sqliteTable(
  'sales',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    recordId: text('record_id')
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
});

export const records = sqliteTable('records', {
  id: text().primaryKey(),
  code: text().notNull().unique(),
  /** Number of the newest revision. */
  revision: integer().notNull(),
  /** Its newest revision is private: nothing of it is to stand anywhere. */
  private: integer({ mode: 'boolean' }).notNull().default(false),
  madeAt: integer('made_at').notNull(),
});

export const revisions = sqliteTable(
  'revisions',
  {
    recordId: text('record_id')
      .notNull()
      .references(() => records.id),
    number: integer().notNull(),
    content: text().notNull(),
    actor: text().notNull(),
    at: integer().notNull(),
    reason: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.recordId, t.number] })],
);

export const origins = sqliteTable('origins', {
  /** Where a record came from: kind of file and the row's own identity. */
  origin: text().primaryKey(),
  recordId: text('record_id')
    .notNull()
    .references(() => records.id),
});

export const connections = sqliteTable('connections', {
  channel: text().primaryKey(),
  address: text().notNull(),
  credentials: text().notNull(),
  /** The name under which the channel knows us. */
  knownAs: text('known_as').notNull(),
  actor: text().notNull(),
  at: integer().notNull(),
});

export const listings = sqliteTable(
  'listings',
  {
    id: text().primaryKey(),
    recordId: text('record_id')
      .notNull()
      .references(() => records.id),
    channel: text().notNull(),
    part: integer().notNull(),
    performanceIds: text('performance_ids').notNull(),
    remote: text(),
    sent: text(),
    previous: text(),
    sentRevision: integer('sent_revision'),
    sentAt: integer('sent_at'),
    observed: text(),
    observedAt: integer('observed_at'),
    /** When it is to be read back next; null: not before the next sending. */
    readAt: integer('read_at'),
    /** Reads that failed in a row. */
    readTries: integer('read_tries').notNull().default(0),
  },
  (t) => [uniqueIndex('listings_place').on(t.recordId, t.channel, t.part), index('listings_read').on(t.readAt)],
);

export const dispatches = sqliteTable('dispatches', {
  id: text().primaryKey(),
  actor: text().notNull(),
  at: integer().notNull(),
});

export const errands = sqliteTable(
  'errands',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    dispatchId: text('dispatch_id')
      .notNull()
      .references(() => dispatches.id),
    listingId: text('listing_id')
      .notNull()
      .references(() => listings.id),
    recordId: text('record_id').notNull(),
    channel: text().notNull(),
    revision: integer().notNull(),
    op: text({ enum: ['place', 'amend', 'withdraw', 'renew'] }).notNull(),
    changes: text().notNull(),
    /** Ids of errands that must be done first. */
    needs: text().notNull(),
    key: text().notNull().unique(),
    state: text({ enum: ['waiting', 'running', 'done', 'refused', 'dropped'] }).notNull(),
    tries: integer().notNull().default(0),
    nextTryAt: integer('next_try_at').notNull(),
    claim: text(),
    claimedAt: integer('claimed_at'),
    /** A try may have been carried out without our knowing: ask before sending again. */
    doubtful: integer({ mode: 'boolean' }).notNull().default(false),
    lastError: text('last_error'),
    settledAt: integer('settled_at'),
  },
  (t) => [
    index('errands_due').on(t.state, t.nextTryAt),
    index('errands_listing').on(t.listingId),
    index('errands_dispatch').on(t.dispatchId),
  ],
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
    detail: text().notNull(),
  },
  (t) => [index('receipts_errand').on(t.errandId)],
);

export const readings = sqliteTable(
  'readings',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    listingId: text('listing_id')
      .notNull()
      .references(() => listings.id),
    at: integer().notNull(),
    /** What was observed; null where the reading failed. */
    observed: text(),
    error: text(),
  },
  (t) => [index('readings_listing').on(t.listingId)],
);

export const settings = sqliteTable('settings', {
  name: text().primaryKey(),
  value: text().notNull(),
});
