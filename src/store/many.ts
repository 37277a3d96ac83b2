import { and, desc, eq, gte, inArray, isNull, ne, or, gt } from 'drizzle-orm';
import type { RecordId } from '@/core/base/ids';
import type { Instant } from '@/core/base/zones';
import type { Tx } from './database';
import { freshId } from './ids';
import { errands, manyEdits } from './schema';

/** An edit of many records, as it was made. */
export type ManyEditRow = typeof manyEdits.$inferSelect;

/** Keeps an edit of many records. Gives its id. */
export function keepManyEdit(tx: Tx, row: Omit<ManyEditRow, 'id' | 'undoneAt'>): string {
  const id = freshId('m');
  tx.insert(manyEdits)
    .values({ ...row, id })
    .run();
  return id;
}

/** The newest edit of many that was not undone, made at `since` or later, by this person; `null`: there is none. */
export function newestManyEdit(db: Tx, actorId: string | null, since: Instant): ManyEditRow | null {
  const by = actorId === null ? isNull(manyEdits.actorId) : eq(manyEdits.actorId, actorId);
  const [newest] = db
    .select()
    .from(manyEdits)
    .where(and(by, gte(manyEdits.at, since), isNull(manyEdits.undoneAt)))
    .orderBy(desc(manyEdits.at), desc(manyEdits.id))
    .limit(1)
    .all();
  return newest ?? null;
}

export function manyEditById(db: Tx, id: string): ManyEditRow | null {
  return db.select().from(manyEdits).where(eq(manyEdits.id, id)).get() ?? null;
}

export function noteUndone(tx: Tx, id: string, at: Instant): void {
  tx.update(manyEdits).set({ undoneAt: at }).where(eq(manyEdits.id, id)).run();
}

/**
 * Records of which something went out, or is going out, that an edit made: an errand of its revision or a later one
 * that was taken up.
 */
export function wentOut(db: Tx, { records }: Pick<ManyEditRow, 'records'>): Set<RecordId> {
  const to = new Map(records.map(({ id, to }) => [id, to]));
  const rows = db
    .select({ recordId: errands.recordId, revision: errands.revision })
    .from(errands)
    .where(
      and(
        inArray(errands.recordId, [...to.keys()]),
        or(inArray(errands.state, ['running', 'lodged', 'done']), gt(errands.tries, 0)),
        ne(errands.state, 'not needed'),
      ),
    )
    .all();
  return new Set(rows.flatMap((row) => (row.revision >= (to.get(row.recordId) ?? Infinity) ? [row.recordId] : [])));
}
