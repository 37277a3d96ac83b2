import type { ChannelId, DispatchId, ListingId, RecordId } from '@/core/base/ids';
import { and, asc, desc, eq, inArray, lte, ne, notInArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Instant } from '@/core/base/zones';
import type { BesideErrand } from '@/core/errands/goes-first';
import { operations } from '@/core/listing/operations';
import { ask, readerOf, type Tx } from './database';
import { freshId } from './ids';
import { markStale } from './pulse';
import { dispatches, errands, receipts } from './schema';
import type { changeSchema, errandErrorSchema, lodgedSchema } from './stored';

/*
 * An errand is a wish: bring this listing to what the record says. Its life:
 *
 *   waiting --claim--> running --done----> done
 *      ^                 | |  \--nothing--> not needed
 *      |                 | |  \--handed---> lodged --its answer--> done
 *      |                 | |  \--final----> refused --a person--> waiting (again) or dropped
 *      |                 | \-- wall ------> dropped
 *      \--again, freed---/
 *
 * A claim is one conditional UPDATE that counts the try and carries the fence of the process that leads, so that a
 * crash uses one up. Only the holder of the claim may settle, and only while it leads. What waits for a moment or a
 * gift is not ready: it costs no try and writes no receipt. A claim left behind is freed by whoever leads next; whether
 * a placing was carried out is a doubt of the listing's, not of the errand's.
 */

type ErrandError = z.infer<typeof errandErrorSchema>;
type Lodged = z.infer<typeof lodgedSchema>;
const opSchema = z.enum(operations);

type Row = typeof errands.$inferSelect;
export type ErrandState = Row['state'];
export type Errand = Omit<Row, 'changes' | 'lastError' | 'op' | 'over' | 'way' | 'lodged' | 'effects'> & {
  /** What it does besides, because a person asked for it. */
  effects: string[];
  lodged: Lodged | null;
  op: z.infer<typeof opSchema>;
  changes: z.infer<typeof changeSchema>[];
  /** The keys that go over what stands there, by a person's decision. */
  over: string[] | null;
  /** The way that a person picked. */
  way: z.infer<typeof opSchema> | null;
  lastError: ErrandError | null;
};

/** States in which the runner has still something to do with it. */
export const openStates: ErrandState[] = ['waiting', 'running', 'lodged'];

function toErrand(row: Row): Errand {
  return { ...row, op: opSchema.parse(row.op), way: opSchema.nullable().parse(row.way) };
}

/** A wish as it is written into a dispatch. */
export interface Wish {
  listing: ListingId;
  record: RecordId;
  channel: ChannelId;
  revision: number;
  op: Errand['op'];
  changes: Errand['changes'];
  awaits: string | null;
  notBefore: Instant | null;
  deadline: Instant;
  gives: boolean;
  over?: readonly string[] | null;
  way?: Errand['way'];
  reason?: string;
  /** What it does besides, because a person asked for it. */
  effects?: readonly string[];
  /** The other place that it is about, where the listing stands twice. */
  twin?: string;
  /** It only takes back what stands beyond the record. */
  narrows?: boolean;
  /** It goes under the standing leave: what the clock alone changed, and nothing else. */
  byClock?: boolean;
}

/** Writes a dispatch with its errands, in order. `now` is of the monotonic clock. Give it inside a transaction. */
export function makeDispatch(
  db: Tx,
  wishes: readonly Wish[],
  actor: string,
  at: Instant,
  now: Instant,
  seen: readonly string[] = [],
): DispatchId {
  const id = freshId<DispatchId>('d');
  db.insert(dispatches)
    .values({ id, actor, at, seen: [...seen] })
    .run();
  for (const wish of wishes) addErrand(db, id, wish, now);
  return id;
}

/** Adds a wish to a dispatch. */
export function addErrand(db: Tx, dispatchId: DispatchId, wish: Wish, now: Instant): void {
  const {
    listing,
    record,
    channel,
    revision,
    op,
    awaits,
    notBefore,
    gives,
    over = null,
    way = null,
    reason = '',
    effects = [],
    twin = null,
    narrows = false,
    byClock = false,
  } = wish;
  db.insert(errands)
    .values({
      dispatchId,
      listingId: listing,
      recordId: record,
      channel,
      revision,
      op,
      awaits,
      notBefore,
      gives,
      way,
      reason,
      effects: [...effects],
      twin,
      narrows,
      byClock,
      changes: wish.changes,
      over: over === null ? null : [...over],
      // A deadline that is not known comes last.
      deadline: Number.isFinite(wish.deadline) ? wish.deadline : Number.MAX_SAFE_INTEGER,
      ready: awaits === null && notBefore === null,
      state: 'waiting',
      nextTryAt: now,
    })
    .run();
  if (awaits !== null) wakeDecided(db, record);
  markStale(db, record);
}

/**
 * The next errand of a channel that may run: what takes something back first, then the nearest deadline, then what
 * gives to others, then the oldest. Of a listing one runs at a time, whichever is older; of those that wait and could
 * go, the oldest goes first.
 */
const nextErrand = `SELECT e.id FROM errands e WHERE e.state = 'waiting' AND e.channel = ? AND e.ready = 1 AND e.next_try_at <= ?
  AND NOT EXISTS (SELECT 1 FROM errands b WHERE b.listing_id = e.listing_id AND b.state IN ('running', 'lodged'))
  AND (e.narrows = 1 OR NOT EXISTS (SELECT 1 FROM errands b WHERE b.listing_id = e.listing_id AND b.state = 'waiting' AND b.ready = 1 AND b.id < e.id))
  ORDER BY e.narrows DESC, e.deadline, e.gives DESC, e.id LIMIT 1`;

/** Claims the next errand of a channel that may run, in that order. Counts the try. `null`: nothing to do. */
export function claimErrand(db: Tx, channel: ChannelId, now: Instant, fence: number): Errand | null {
  const [next] = ask<{ id: number }>(db, nextErrand, channel, now);
  if (!next) return null;
  const row = db
    .update(errands)
    .set({ state: 'running', tries: sql`${errands.tries} + 1`, claim: freshId('c'), fence, claimedAt: now })
    .where(and(eq(errands.id, next.id), eq(errands.state, 'waiting')))
    .returning()
    .get();
  return row ? toErrand(row) : null;
}

/** Makes errands ready whose moment has come, by the house's clock. Gives their number. */
export function wakeMoments(db: Tx, now: Instant): number {
  return db
    .update(errands)
    .set({ ready: true, notBefore: null })
    .where(and(eq(errands.state, 'waiting'), eq(errands.ready, false), lte(errands.notBefore, now)))
    .run().changes;
}

/** True where a moment has come that an errand waits for. Read only. */
export function momentsDue(db: Tx, now: Instant): boolean {
  return (
    ask(db, "SELECT id FROM errands WHERE state = 'waiting' AND ready = 0 AND not_before <= ? LIMIT 1", now).length > 0
  );
}

/**
 * Makes everything of a record ready that waits: what the record says now is looked at anew. Of all records, where none
 * is named.
 */
export function wakeErrands(db: Tx, recordId?: RecordId): void {
  const mine = recordId === undefined ? undefined : eq(errands.recordId, recordId);
  db.update(errands)
    .set({ ready: true, awaits: null, notBefore: null })
    .where(and(eq(errands.state, 'waiting'), eq(errands.ready, false), mine))
    .run();
}

/** What an errand awaits that waits for a step on another channel, or for a person's decision there. */
export const decidedElsewhere = 'a decision elsewhere';

/**
 * Makes what waits for a decision elsewhere ready: what was locked may not be any more, or awaits the very thing that
 * waits for it.
 */
export function wakeDecided(db: Tx, recordId: RecordId): void {
  db.update(errands)
    .set({ ready: true, awaits: null })
    .where(and(eq(errands.recordId, recordId), eq(errands.state, 'waiting'), eq(errands.awaits, decidedElsewhere)))
    .run();
}

/**
 * What becomes of an errand whose claim is still held. `costs`: the try counts; waiting for a gift, a moment or an
 * account costs none.
 */
export type Settlement =
  | { state: 'done' | 'dropped' | 'not needed' }
  | { state: 'lodged'; lodged: Lodged; nextTryAt: Instant }
  | { state: 'refused'; error: ErrandError }
  | {
      state: 'waiting';
      nextTryAt: Instant;
      costs: boolean;
      error: ErrandError | null;
      awaits?: string;
      notBefore?: Instant;
    };

/** The one setter of an errand's state: works only while `claim` is held. Says whether it was. */
export function settleErrand(
  db: Tx,
  errand: Pick<Errand, 'id' | 'recordId'>,
  claim: string | null,
  to: Settlement,
  at: Instant,
): boolean {
  const error = 'error' in to ? to.error : null;
  const waits =
    to.state === 'waiting'
      ? {
          nextTryAt: to.nextTryAt,
          awaits: to.awaits ?? null,
          notBefore: to.notBefore ?? null,
          ready: to.awaits === undefined && to.notBefore === undefined,
        }
      : {};
  const lodges = to.state === 'lodged' ? { lodged: to.lodged, nextTryAt: to.nextTryAt } : { lodged: null };
  const changed = db
    .update(errands)
    .set({
      state: to.state,
      ...lodges,
      claim: null,
      claimedAt: null,
      lastError: error,
      settledAt: to.state === 'waiting' || to.state === 'lodged' ? null : at,
      ...waits,
      ...(to.state === 'waiting' && !to.costs ? { tries: sql`max(0, ${errands.tries} - 1)` } : {}),
    })
    .where(
      and(
        eq(errands.id, errand.id),
        inArray(errands.state, ['running', 'lodged']),
        claim === null ? undefined : eq(errands.claim, claim),
      ),
    )
    .run();
  if (changed.changes !== 1) return false;
  if (to.state === 'waiting' && to.awaits !== undefined && to.awaits !== decidedElsewhere)
    wakeDecided(db, errand.recordId);
  markStale(db, errand.recordId);
  return true;
}

/** Says what an errand came to do in the end: what the record said when it went, not what was seen when saying yes. */
export function noteOperation(db: Tx, id: number, op: Errand['op']): void {
  db.update(errands).set({ op }).where(eq(errands.id, id)).run();
}

/**
 * Frees claims that were left behind: those of an earlier time of leading, and of this one those that `held` does not
 * name. Gives their number.
 */
export function freeStaleClaims(db: Tx, fence: number, now: Instant, held: readonly number[] = []): number {
  const left = and(eq(errands.state, 'running'), held.length === 0 ? undefined : notInArray(errands.id, [...held]));
  const mine = sql`(${errands.fence} IS NULL OR ${errands.fence} <= ${fence})`;
  return db
    .update(errands)
    .set({ state: 'waiting', claim: null, claimedAt: null, nextTryAt: now })
    .where(and(left, mine))
    .run().changes;
}

/** True where a claim stands that `held` does not name: by an index, read only. */
export function claimsLeft(db: Tx, held: readonly number[]): boolean {
  const running = ask<{ id: number }>(db, "SELECT id FROM errands WHERE state = 'running'");
  return running.some((candidate) => !held.includes(candidate.id));
}

/**
 * A person's decision on errands that are refused or waiting: try again now, go without the gift, or drop. What was
 * handed over can be dropped where `lodged` says so. Gives the number changed.
 */
export function decideErrands(
  db: Tx,
  ids: readonly number[],
  verdict: 'again' | 'drop' | 'without',
  now: Instant,
  lodged = false,
): number {
  const again = {
    state: 'waiting',
    ready: true,
    awaits: null,
    notBefore: null,
    tries: 0,
    nextTryAt: now,
    settledAt: null,
  } as const;
  const set =
    verdict === 'drop'
      ? ({ state: 'dropped', settledAt: now } as const)
      : verdict === 'again'
        ? again
        : { ...again, without: true };
  const states: ErrandState[] =
    lodged && verdict === 'drop' ? ['waiting', 'refused', 'lodged'] : ['waiting', 'refused'];
  const which = and(inArray(errands.id, [...ids]), inArray(errands.state, states));
  const rows = db.update(errands).set(set).where(which).returning({ recordId: errands.recordId }).all();
  for (const recordId of new Set(rows.map((row) => row.recordId))) markStale(db, recordId);
  return rows.length;
}

/** Errands by state, oldest first; or of one dispatch, record or listing. */
export function errandsWhere(
  db: Tx,
  where: { states?: ErrandState[]; dispatchId?: DispatchId; recordId?: RecordId; listingId?: ListingId },
): Errand[] {
  const parts = [
    where.states && inArray(errands.state, where.states),
    where.dispatchId === undefined ? undefined : eq(errands.dispatchId, where.dispatchId),
    where.recordId === undefined ? undefined : eq(errands.recordId, where.recordId),
    where.listingId === undefined ? undefined : eq(errands.listingId, where.listingId),
  ];
  return db
    .select()
    .from(errands)
    .where(and(...parts))
    .orderBy(asc(errands.id))
    .all()
    .map(toErrand);
}

/** Errands of all records, or of some, that are open or were refused, oldest first. */
export const unsettled = readerOf(
  'unsettled',
  errands.recordId,
  (db, mine) =>
    db
      .select()
      .from(errands)
      .where(and(inArray(errands.state, [...openStates, 'refused']), mine))
      .orderBy(asc(errands.id)),
  toErrand,
);

/** One errand. `null` where there is none. */
export function errandById(db: Tx, id: number): Errand | null {
  const row = db.select().from(errands).where(eq(errands.id, id)).get();
  return row ? toErrand(row) : null;
}

/** The newest errand of a listing; `null`: there never was one. By the index. */
export function newestErrandOf(
  db: Tx,
  listingId: ListingId,
): Pick<Errand, 'id' | 'dispatchId' | 'state' | 'narrows' | 'revision'> | null {
  const { id, dispatchId, state, narrows, revision } = errands;
  return (
    db
      .select({ id, dispatchId, state, narrows, revision })
      .from(errands)
      .where(eq(errands.listingId, listingId))
      .orderBy(desc(errands.id))
      .limit(1)
      .get() ?? null
  );
}

/** The state of the newest errand of each of some listings. One query, by the index. */
export function newestStates(db: Tx, listings: readonly ListingId[]): Map<ListingId, ErrandState> {
  const rows = ask<{ listing: ListingId; state: ErrandState }>(
    db,
    `SELECT listing_id AS listing, state, max(id) FROM errands
       WHERE listing_id IN (SELECT value FROM json_each(?)) GROUP BY listing_id`,
    JSON.stringify(listings),
  );
  return new Map(rows.map(({ listing, state }) => [listing, state]));
}

/** Errands of a record that are queued or under way, as those beside them see them. By the index. */
export function errandsBeside(db: Tx, recordId: RecordId): BesideErrand[] {
  const open =
    "SELECT listing_id AS listing, channel, way, awaits FROM errands WHERE record_id = ? AND state IN ('waiting', 'running')";
  return ask<BesideErrand>(db, open, recordId);
}

/** How many errands of each channel wait, run or were handed over. */
export function openByChannel(db: Tx): Map<string, number> {
  const rows = ask<{ channel: string; n: number }>(
    db,
    "SELECT channel, count(*) AS n FROM errands WHERE state IN ('waiting', 'running', 'lodged') GROUP BY channel",
  );
  return new Map(rows.map(({ channel, n }) => [channel, n]));
}

/** How many errands wait or run. */
export function countOpen(db: Tx): number {
  return (
    db
      .select({ n: sql<number>`count(*)` })
      .from(errands)
      .where(inArray(errands.state, ['waiting', 'running']))
      .get()?.n ?? 0
  );
}

/** True where an errand could be taken up now or within `within` milliseconds: read only. */
export function errandDue(db: Tx, now: Instant, within: number): boolean {
  const due = "SELECT id FROM errands WHERE state = 'waiting' AND ready = 1 AND next_try_at <= ? LIMIT 1";
  return ask(db, due, now + within).length > 0;
}

/** Puts a receipt into the book. Receipts are never changed. */
export function addReceipt(
  db: Tx,
  errandId: number,
  at: Instant,
  outcome: string,
  detail: Record<string, unknown>,
): void {
  db.insert(receipts).values({ errandId, at, outcome, detail }).run();
}

/** Receipts of a dispatch's errands, in order. */
export function receiptsOf(db: Tx, dispatchId: DispatchId) {
  const { id, errandId, at, outcome, detail } = receipts;
  return db
    .select({ id, errandId, at, outcome, detail })
    .from(receipts)
    .innerJoin(errands, eq(errands.id, receipts.errandId))
    .where(eq(errands.dispatchId, dispatchId))
    .orderBy(asc(receipts.id))
    .all();
}

/** One dispatch, or the newest ones with the count of their errands by state: one query. */
export function dispatchById(db: Tx, id: DispatchId) {
  return db.select().from(dispatches).where(eq(dispatches.id, id)).get() ?? null;
}

export function newestDispatches(db: Tx, most: number) {
  const count = (...states: ErrandState[]) => sql<number>`sum(${inArray(errands.state, states)})`;
  return db
    .select({
      id: dispatches.id,
      actor: dispatches.actor,
      at: dispatches.at,
      done: count('done', 'not needed'),
      refused: count('refused'),
      waiting: count('waiting'),
      running: count('running', 'lodged'),
      dropped: count('dropped'),
    })
    .from(dispatches)
    .innerJoin(errands, eq(errands.dispatchId, dispatches.id))
    .groupBy(dispatches.id)
    .orderBy(desc(dispatches.at))
    .limit(most)
    .all();
}

/** An errand of a channel whose answer is to be asked for; `null`: none is due. */
export function lodgedDue(db: Tx, channel: ChannelId, now: Instant, but: readonly number[] = []): Errand | null {
  const due =
    "SELECT id FROM errands WHERE state = 'lodged' AND channel = ? AND next_try_at <= ? ORDER BY next_try_at LIMIT ?";
  const item = ask<{ id: number }>(db, due, channel, now, but.length + 1).find(({ id }) => !but.includes(id));
  return item ? errandById(db, item.id) : null;
}

/** Asks for an answer again later. */
export function askLater(db: Tx, id: number, at: Instant): void {
  db.update(errands)
    .set({ nextTryAt: at })
    .where(and(eq(errands.id, id), eq(errands.state, 'lodged')))
    .run();
}

/** Warnings that somebody said to have seen along with a dispatch: they are not asked about again. */
export function seenBefore(db: Tx): string[] {
  const rows = db
    .select({ seen: dispatches.seen })
    .from(dispatches)
    .where(ne(dispatches.seen, []))
    .orderBy(desc(dispatches.at))
    .limit(500)
    .all();
  return rows.flatMap((row) => row.seen);
}

/** Dispatches that had errands of one record, newest first, with how many. */
export function dispatchesOf(db: Tx, recordId: RecordId, most: number) {
  return db
    .select({ at: dispatches.at, actor: dispatches.actor, errands: sql<number>`count(*)` })
    .from(dispatches)
    .innerJoin(errands, eq(errands.dispatchId, dispatches.id))
    .where(eq(errands.recordId, recordId))
    .groupBy(dispatches.id)
    .orderBy(desc(dispatches.at))
    .limit(most)
    .all();
}
