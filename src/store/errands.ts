import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { errandKey, type PlannedErrand } from '@/core/errands/plan';
import { outsideErrorKinds } from '@/core/errands/retry';
import { shownValueSchema } from '@/core/listing/shown';
import type { Instant } from '@/core/base/zones';
import { parseJson, type Tx } from './database';
import { freshId } from './ids';
import { dispatches, errands, receipts } from './schema';

/*
 * An errand's life:
 *
 *   waiting --claim--> running --done----> done
 *      ^                 | |  \--final---> refused --a person--> waiting (again) or dropped
 *      |                 | \-- wall -----> dropped
 *      \--again, freed---/
 *
 * A claim is one conditional UPDATE that counts the try, so that a crash uses one up. Only the holder of the
 * claim may settle. A claim left behind by a process that ended is freed at the next start, and the errand is
 * then doubtful: the channel is asked what stands there before anything is sent again.
 */

const changeSchema = z.object({
  key: z.string(),
  before: shownValueSchema.nullable(),
  after: shownValueSchema.nullable(),
});
export const errandErrorSchema = z.object({
  kind: z.enum(outsideErrorKinds),
  message: z.string(),
  field: z.string().nullable(),
});
export type ErrandError = z.infer<typeof errandErrorSchema>;

type Row = typeof errands.$inferSelect;
export type Errand = Omit<Row, 'changes' | 'needs' | 'lastError'> & {
  changes: z.infer<typeof changeSchema>[];
  needs: number[];
  lastError: ErrandError | null;
};

function toErrand(row: Row): Errand {
  return {
    ...row,
    changes: z.array(changeSchema).parse(parseJson(row.changes)),
    needs: z.array(z.number()).parse(parseJson(row.needs)),
    lastError: errandErrorSchema.nullable().parse(parseJson(row.lastError)),
  };
}

/** Writes a dispatch with its errands, in order. Give it inside a transaction. */
export function makeDispatch(
  db: Tx,
  planned: readonly (PlannedErrand & { revision: number })[],
  actor: string,
  at: Instant,
): string {
  const id = freshId('d');
  db.insert(dispatches).values({ id, actor, at }).run();
  const byListing = new Map<string, number>();
  for (const one of planned) {
    const needs = one.needs
      .map((listing) => byListing.get(listing) ?? openErrandOf(db, listing))
      .filter((n): n is number => n !== null);
    const row = db
      .insert(errands)
      .values({
        dispatchId: id,
        listingId: one.listing,
        recordId: one.record,
        channel: one.channel,
        revision: one.revision,
        op: one.op,
        changes: JSON.stringify(one.changes),
        needs: JSON.stringify(needs),
        // The same wish may be made again later on the same ground: the dispatch tells the two apart.
        key: `${errandKey(one)}-${id}`,
        state: 'waiting',
        nextTryAt: Math.max(at, one.notBefore ?? at),
      })
      .returning({ id: errands.id })
      .get();
    byListing.set(one.listing, row.id);
  }
  return id;
}

function openErrandOf(db: Tx, listingId: string): number | null {
  const row = db
    .select({ id: errands.id })
    .from(errands)
    .where(and(eq(errands.listingId, listingId), inArray(errands.state, ['waiting', 'running'])))
    .get();
  return row?.id ?? null;
}

/** Claims the next errand that may run on a channel that is not busy; counts the try. `null`: nothing to do. */
export function claimErrand(db: Tx, now: Instant, busy: readonly string[]): Errand | null {
  const free =
    busy.length === 0
      ? sql`1`
      : sql`e.channel NOT IN (${sql.join(
          busy.map((one) => sql`${one}`),
          sql`, `,
        )})`;
  const next = sql`(SELECT e.id FROM errands e WHERE e.state = 'waiting' AND e.next_try_at <= ${now} AND ${free}
    AND NOT EXISTS (SELECT 1 FROM json_each(e.needs) n JOIN errands u ON u.id = n.value WHERE u.state NOT IN ('done', 'dropped'))
    AND NOT EXISTS (SELECT 1 FROM errands b WHERE b.listing_id = e.listing_id AND b.id < e.id AND b.state IN ('waiting', 'running'))
    ORDER BY e.next_try_at, e.id LIMIT 1)`;
  const row = db
    .update(errands)
    .set({ state: 'running', tries: sql`${errands.tries} + 1`, claim: freshId('c'), claimedAt: now })
    .where(and(eq(errands.id, next), eq(errands.state, 'waiting')))
    .returning()
    .get();
  return row ? toErrand(row) : null;
}

/** What becomes of an errand whose claim is still held. */
export type Settlement =
  | { state: 'done' | 'dropped' }
  | { state: 'refused'; error: ErrandError }
  | { state: 'waiting'; nextTryAt: Instant; doubtful: boolean; error: ErrandError | null };

/** The one setter of an errand's state: works only while `claim` is held. Says whether it was. */
export function settleErrand(db: Tx, id: number, claim: string | null, to: Settlement, at: Instant): boolean {
  const error = 'error' in to ? to.error : null;
  const changed = db
    .update(errands)
    .set({
      state: to.state,
      claim: null,
      claimedAt: null,
      lastError: error === null ? null : JSON.stringify(error),
      settledAt: to.state === 'waiting' ? null : at,
      ...(to.state === 'waiting' ? { nextTryAt: to.nextTryAt, doubtful: to.doubtful } : {}),
      // A refusal may have come halfway: when a person sends it again, the channel is asked first.
      ...(to.state === 'refused' ? { doubtful: true } : {}),
    })
    .where(and(eq(errands.id, id), eq(errands.state, 'running'), claim === null ? undefined : eq(errands.claim, claim)))
    .run();
  return changed.changes === 1;
}

/** Frees the claims that a process left behind when it ended. They become doubtful. Gives their number. */
export function freeStaleClaims(db: Tx, now: Instant): number {
  return db
    .update(errands)
    .set({ state: 'waiting', claim: null, claimedAt: null, doubtful: true, nextTryAt: now })
    .where(eq(errands.state, 'running'))
    .run().changes;
}

/** A person's decision on errands that are refused or waiting: try again now, or drop. Gives the number changed. */
export function decideErrands(db: Tx, ids: readonly number[], verdict: 'again' | 'drop', now: Instant): number {
  const from: ('waiting' | 'refused')[] = ['waiting', 'refused'];
  const set =
    verdict === 'again'
      ? ({ state: 'waiting', nextTryAt: now, settledAt: null } as const)
      : ({ state: 'dropped', settledAt: now } as const);
  return db
    .update(errands)
    .set(set)
    .where(and(inArray(errands.id, [...ids]), inArray(errands.state, from)))
    .run().changes;
}

/** Errands that wait for one of `ids`, directly. */
export function dependentsOf(db: Tx, ids: readonly number[]): number[] {
  if (ids.length === 0) return [];
  const rows = db.all<{ id: number }>(
    sql`SELECT DISTINCT e.id AS id FROM errands e, json_each(e.needs) n WHERE e.state = 'waiting' AND n.value IN (${sql.join(
      ids.map((id) => sql`${id}`),
      sql`, `,
    )})`,
  );
  return rows.map((row) => row.id);
}

/** Errands by state, oldest first; or of one dispatch. */
export function errandsWhere(
  db: Tx,
  where: { states?: Row['state'][]; dispatchId?: string; recordId?: string },
): Errand[] {
  const parts = [
    where.states && inArray(errands.state, where.states),
    where.dispatchId === undefined ? undefined : eq(errands.dispatchId, where.dispatchId),
    where.recordId === undefined ? undefined : eq(errands.recordId, where.recordId),
  ];
  return db
    .select()
    .from(errands)
    .where(and(...parts))
    .orderBy(asc(errands.id))
    .all()
    .map(toErrand);
}

/** Puts a receipt into the book. Receipts are never changed. */
export function addReceipt(db: Tx, errandId: number, at: Instant, outcome: string, detail: object): void {
  db.insert(receipts)
    .values({ errandId, at, outcome, detail: JSON.stringify(detail) })
    .run();
}

/** Receipts of a dispatch's errands, in order. */
export function receiptsOf(db: Tx, dispatchId: string) {
  return db
    .select({
      id: receipts.id,
      errandId: receipts.errandId,
      at: receipts.at,
      outcome: receipts.outcome,
      detail: receipts.detail,
    })
    .from(receipts)
    .innerJoin(errands, eq(errands.id, receipts.errandId))
    .where(eq(errands.dispatchId, dispatchId))
    .orderBy(asc(receipts.id))
    .all();
}

/** One dispatch, or the newest ones with the count of their errands by state: one query. */
export function dispatchById(db: Tx, id: string) {
  return db.select().from(dispatches).where(eq(dispatches.id, id)).get() ?? null;
}

export function newestDispatches(db: Tx, most: number) {
  const count = (state: Row['state']) => sql<number>`sum(${errands.state} = ${state})`;
  return db
    .select({
      id: dispatches.id,
      actor: dispatches.actor,
      at: dispatches.at,
      done: count('done'),
      refused: count('refused'),
      waiting: count('waiting'),
      running: count('running'),
      dropped: count('dropped'),
    })
    .from(dispatches)
    .innerJoin(errands, eq(errands.dispatchId, dispatches.id))
    .groupBy(dispatches.id)
    .orderBy(desc(dispatches.at))
    .limit(most)
    .all();
}
