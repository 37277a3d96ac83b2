import type { ChannelId, DispatchId, ListingId, RecordId } from '@/core/base/ids';
import { sql } from 'drizzle-orm';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { jsonText } from './json-text';
import { namesSchema } from './stored';

/** What was foretold of a listing when a dispatch was made, and what became of it. Moments by the house's clock. */
export const foretold = sqliteTable(
  'foretold',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    dispatchId: text('dispatch_id').$type<DispatchId>().notNull(),
    recordId: text('record_id').$type<RecordId>().notNull(),
    listingId: text('listing_id').$type<ListingId>().notNull(),
    channel: text().$type<ChannelId>().notNull(),
    /** `null`: it shows what another channel was told. */
    op: text(),
    at: integer().notNull(),
    /** The same moment by the monotonic clock: what was sent before it is not what was foretold. */
    monotonic: integer().notNull(),
    earliest: integer().notNull(),
    asRule: integer('as_rule').notNull(),
    atLatest: integer('at_latest').notNull(),
    tells: text().notNull(),
    told: integer(),
    /** Keys that stay as they are there. */
    leaves: jsonText(namesSchema)
      .notNull()
      .default(sql`'[]'`),
    /** When it was first seen there; when it was last looked for and not seen; null: not yet. */
    seenAt: integer('seen_at'),
    unseenAt: integer('unseen_at'),
    /** Something newer was sent before it was seen: nothing more is to be learned of it. */
    passedOver: integer('passed_over', { mode: 'boolean' }).notNull().default(false),
  },
  (t) => [
    index('foretold_dispatch').on(t.dispatchId),
    index('foretold_open').on(t.listingId, t.seenAt, t.passedOver),
    index('foretold_record').on(t.recordId),
  ],
);
