import { recordIdSchema, type DispatchId } from '@/core/base/ids';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { z } from 'zod';
import { jsonText } from './json-text';

/** The revisions of a record before and after. */
const movedRecordsSchema = z.array(
  z.object({ id: recordIdSchema, from: z.number().int().min(1), to: z.number().int().min(2) }),
);

/** One edit of many records, so that it can be undone as one. Moments by the house's clock. */
export const manyEdits = sqliteTable(
  'many_edits',
  {
    id: text().primaryKey(),
    actor: text().notNull(),
    /** The person's id; null: the machine. */
    actorId: text('actor_id'),
    at: integer().notNull(),
    /** What it did, in a few words. */
    words: text().notNull(),
    records: jsonText(movedRecordsSchema).notNull(),
    /** The dispatch that it went out with; null: it was only saved. */
    dispatchId: text('dispatch_id').$type<DispatchId>(),
    undoneAt: integer('undone_at'),
  },
  (t) => [index('many_edits_at').on(t.at)],
);
