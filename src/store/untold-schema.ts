import type { ChannelId, ListingId, RecordId } from '@/core/base/ids';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { jsonText } from './json-text';
import { namesSchema } from './stored';

/** Who bought by a listing and was told by nobody of what changed; until somebody decided, it is open. */
export const untold = sqliteTable(
  'untold',
  {
    listingId: text('listing_id').$type<ListingId>().primaryKey(),
    recordId: text('record_id').$type<RecordId>().notNull(),
    channel: text().$type<ChannelId>().notNull(),
    /** How many the channel said to have sold. */
    sold: integer().notNull(),
    /** What they have to know, in words. */
    what: jsonText(namesSchema).notNull(),
    at: integer().notNull(),
    actor: text().notNull(),
    /** The errand under way that is to tell them: as long as it is, nobody has to decide; null: none. */
    tellsBy: integer('tells_by'),
    /** How it ended: they were told by us, by a post or letter, by the channel's step, or nobody needs to; null: open. */
    decision: text({ enum: ['told', 'post', 'step', 'nobody'] }),
    decidedBy: text('decided_by'),
    decidedAt: integer('decided_at'),
  },
  (t) => [index('untold_open').on(t.decision, t.at)],
);
