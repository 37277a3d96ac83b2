import type { RecordId } from '@/core/base/ids';
import { and, desc, eq, gte, inArray, isNotNull, lt, or, sql } from 'drizzle-orm';
import type { RecordContent } from '@/core/record/record';
import { mayDo, type Doer } from '@/core/people/doer';
import type { Instant } from '@/core/base/zones';
import { prepared, readerOf, type Tx } from './database';
import { wakeErrands } from './errands';
import { freshId } from './ids';
import { markStale } from './pulse';
import { errands, listings, origins, records, revisions } from './schema';

/** A record at one of its revisions. */
export interface RecordAt {
  id: RecordId;
  code: string;
  revision: number;
  content: RecordContent;
  actor: string;
  /** Whether who saved it may send, too. */
  sends: boolean;
  at: Instant;
  /** When it was put away; `null`: it stands in the season. */
  awayAt: Instant | null;
}

const columns = {
  id: records.id,
  code: records.code,
  revision: revisions.number,
  content: revisions.content,
  actor: revisions.actor,
  sends: revisions.sends,
  at: revisions.at,
  awayAt: records.awayAt,
};
const newest = and(eq(revisions.recordId, records.id), eq(revisions.number, records.revision));

/** Every record at its newest revision, or those named: one query. */
export const allRecords = readerOf(
  'records',
  records.id,
  (db, mine) => db.select(columns).from(records).innerJoin(revisions, newest).where(mine),
  (row): RecordAt => row,
);

/** One record at its newest revision, or at `revision`. */
export function recordAt(db: Tx, id: RecordId, revision?: number): RecordAt | null {
  if (revision === undefined) {
    const newestOf = prepared(db, 'record', (at) =>
      at
        .select(columns)
        .from(records)
        .innerJoin(revisions, newest)
        .where(eq(records.id, sql.placeholder('id')))
        .prepare(),
    ).get({ id });
    return newestOf ?? null;
  }
  const which = and(eq(revisions.recordId, records.id), eq(revisions.number, revision));
  return db.select(columns).from(records).innerJoin(revisions, which).where(eq(records.id, id)).get() ?? null;
}

/** Who saved which revision when, newest first. */
export function revisionLog(db: Tx, id: RecordId) {
  const { number, actor, at, reason } = revisions;
  return db
    .select({ number, actor, at, reason })
    .from(revisions)
    .where(eq(revisions.recordId, id))
    .orderBy(desc(number))
    .limit(500)
    .all();
}

/** What a revision keeps of who saved it. */
function savedBy(by: Doer) {
  return { actor: by.name, doerId: by.id, sends: mayDo(by, 'send') };
}

/** Makes a record with its first revision. Give it inside a transaction. */
export function makeRecord(db: Tx, content: RecordContent, by: Doer, at: Instant, reason: string): RecordAt {
  const id = freshId<RecordId>('r');
  // The newest row's place is its number, or that of a newer one that was deleted: no number is given twice.
  const count =
    db
      .select({ n: sql<number>`max(ifnull(max(rowid), 0), (SELECT last_number FROM pulse WHERE id = 1))` })
      .from(records)
      .get()?.n ?? 0;
  const code = `${initials(content.title)}-${String(count + 1).padStart(4, '0')}`;
  db.insert(records)
    .values({ id, code, revision: 1, private: content.publicity.visibility === 'private', madeAt: at })
    .run();
  db.insert(revisions)
    .values({ recordId: id, number: 1, content, ...savedBy(by), at, reason })
    .run();
  markStale(db, id);
  return { id, code, revision: 1, content, actor: by.name, sends: mayDo(by, 'send'), at, awayAt: null };
}

/** Adds the next revision. Give it inside a transaction that has checked the base revision. */
export function addRevision(
  db: Tx,
  id: RecordId,
  number: number,
  content: RecordContent,
  by: Doer,
  at: Instant,
  reason: string,
): void {
  db.insert(revisions)
    .values({ recordId: id, number, content, ...savedBy(by), at, reason })
    .run();
  db.update(records)
    .set({ revision: number, private: content.publicity.visibility === 'private' })
    .where(eq(records.id, id))
    .run();
  markStale(db, id);
  // What waits for a moment or a gift of what the record said before is looked at anew, in the same transaction.
  wakeErrands(db, id);
}

/** Puts a record away, or brings it back (`at` is `null`). Give it inside a transaction. */
export function putRecordAway(db: Tx, id: RecordId, at: Instant | null): void {
  db.update(records).set({ awayAt: at }).where(eq(records.id, id)).run();
  // Nothing is read back of what was put away; brought back, all of it is.
  db.update(listings)
    .set({ readAt: at === null ? 0 : null })
    .where(and(eq(listings.recordId, id), isNotNull(listings.remote)))
    .run();
  markStale(db, id);
}

/** Notes that records went out in a file. */
export function noteExported(db: Tx, ids: readonly RecordId[], at: Instant): void {
  for (const id of ids) db.update(records).set({ exportedAt: at }).where(eq(records.id, id)).run();
}

/** When a record last went out in a file; `null`: never. */
export function exportedAt(db: Tx, id: RecordId): Instant | null {
  return db.select({ at: records.exportedAt }).from(records).where(eq(records.id, id)).get()?.at ?? null;
}

/** True where something of a record was ever on its way, stood somewhere, or may. */
export function wasOutside(db: Tx, id: RecordId): boolean {
  const errand = db.select({ id: errands.id }).from(errands).where(eq(errands.recordId, id)).limit(1).get();
  if (errand) return true;
  const { remote, pendingOutcome, lost, sentAt, cut } = listings;
  const there = or(isNotNull(remote), isNotNull(pendingOutcome), isNotNull(lost), isNotNull(sentAt), isNotNull(cut));
  const mine = and(eq(listings.recordId, id), there);
  return db.select({ id: listings.id }).from(listings).where(mine).limit(1).get() !== undefined;
}

/** Tables that hang on a record's listings, and those that name a record, in an order in which they can go. */
const ofListings = ['readings', 'listing_shown', 'gifts', 'left_locks', 'source_counts'] as const;
const ofRecords = [
  'listings',
  'revisions',
  'origins',
  'sales',
  'sold_now',
  'slugs',
  'sheet_ticks',
  'foretold',
  'season_lines',
  'tallies',
] as const;

/**
 * Deletes a record of which nothing was ever outside, with all that hangs on it. Give it inside a transaction that has
 * made sure of that.
 */
export function removeRecord(db: Tx, id: RecordId): void {
  const added = (column: string) =>
    sql`ifnull((SELECT ${sql.identifier(column)} FROM tallies WHERE record_id = ${id}), 0)`;
  db.run(sql`UPDATE pulse SET removed = removed + 1,
    last_number = max(last_number, (SELECT rowid FROM records WHERE id = ${id})),
    to_send = to_send - ${added('to_send')}, asks = asks - ${added('asks')}, beyond = beyond - ${added('beyond')},
    held = held - ${added('held')}
    WHERE id = 1`);
  for (const table of ofListings)
    db.run(
      sql`DELETE FROM ${sql.identifier(table)} WHERE listing_id IN (SELECT id FROM listings WHERE record_id = ${id})`,
    );
  for (const table of ofRecords) db.run(sql`DELETE FROM ${sql.identifier(table)} WHERE record_id = ${id}`);
  db.delete(records).where(eq(records.id, id)).run();
}

/** The record that a row of a file became, if it did. */
export function recordOfOrigin(db: Tx, origin: string): { id: RecordId; code: string } | null {
  const row = db
    .select({ id: records.id, code: records.code })
    .from(origins)
    .innerJoin(records, eq(records.id, origins.recordId))
    .where(eq(origins.origin, origin))
    .get();
  return row ?? null;
}

/**
 * The records that came from rows of this origin: the first under the origin itself, others of the same reference
 * behind a mark.
 */
export function originsLike(db: Tx, origin: string): { id: RecordId; code: string }[] {
  return db
    .select({ id: records.id, code: records.code })
    .from(origins)
    .innerJoin(records, eq(records.id, origins.recordId))
    .where(or(eq(origins.origin, origin), and(gte(origins.origin, `${origin}#`), lt(origins.origin, `${origin}$`))))
    .limit(50)
    .all();
}

/** Every record's title now. One query. */
export function titlesOf(db: Tx): { id: RecordId; code: string; title: string }[] {
  return db
    .select({ id: records.id, code: records.code, title: sql<string>`json_extract(${revisions.content}, '$.title')` })
    .from(records)
    .innerJoin(revisions, newest)
    .all();
}

/** The record with this code, with its title now. */
export function recordOfCode(db: Tx, code: string): { id: RecordId; code: string; title: string } | null {
  const row = db.select(columns).from(records).innerJoin(revisions, newest).where(eq(records.code, code)).get();
  return row ? { id: row.id, code: row.code, title: row.content.title } : null;
}

/** The events of these tours, by their newest revisions. */
export function recordsOfTours(db: Tx, tours: readonly string[]): RecordId[] {
  if (tours.length === 0) return [];
  const tour = sql<string>`json_extract(${revisions.content}, '$.tourId')`;
  return db
    .select({ id: records.id })
    .from(records)
    .innerJoin(revisions, newest)
    .where(inArray(tour, [...tours]))
    .all()
    .map(({ id }) => id);
}

/** Remembers which row of a file a record came from. */
export function rememberOrigin(db: Tx, origin: string, recordId: RecordId): void {
  db.insert(origins).values({ origin, recordId }).run();
}

/** What the first revisions of records that were read from one file have in common. */
interface FromFile {
  reason: string;
  at: Instant;
}

/** Files that records here were read from, newest first: the first `most`. */
export function filesRead(db: Tx, most: number): (FromFile & { records: number; changed: number })[] {
  const { reason, at } = revisions;
  return db
    .select({
      reason,
      at,
      records: sql<number>`count(*)`,
      changed: sql<number>`sum(${records.revision} > 1)`,
    })
    .from(records)
    .innerJoin(revisions, and(eq(revisions.recordId, records.id), eq(revisions.number, 1)))
    .where(sql`${reason} LIKE 'read from %'`)
    .groupBy(reason, at)
    .orderBy(desc(at))
    .limit(most)
    .all();
}

/** The records that were made from one reading of a file. */
export function recordsOfFile(db: Tx, { reason, at }: FromFile): { id: RecordId; code: string }[] {
  const first = and(eq(revisions.recordId, records.id), eq(revisions.number, 1));
  return db
    .select({ id: records.id, code: records.code })
    .from(records)
    .innerJoin(revisions, first)
    .where(and(eq(revisions.reason, reason), eq(revisions.at, at)))
    .all();
}

export function countRecords(db: Tx): number {
  return (
    db
      .select({ n: sql<number>`count(*)` })
      .from(records)
      .get()?.n ?? 0
  );
}

/** Two capital letters out of a title, for its code. */
function initials(title: string): string {
  const letters = title
    .normalize('NFKD')
    .replace(/[^A-Za-z ]/g, '')
    .split(/\s+/)
    .filter((word) => word !== '' && !/^(the|a|an|of|and|by|for)$/i.test(word));
  return (
    letters
      .map((word) => word[0])
      .join('')
      .slice(0, 2) || 'EV'
  )
    .toUpperCase()
    .padEnd(2, 'X');
}
