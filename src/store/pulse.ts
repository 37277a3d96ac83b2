import type { RecordId } from '@/core/base/ids';
import { eq, sql } from 'drizzle-orm';
import type { Instant } from '@/core/base/zones';
import { ask, type Tx } from './database';
import { freshId } from './ids';
import { seasonLines, tallies } from './schema';

/** The house in numbers, as they were counted last. */
export interface PulseRow {
  /** Rises with every writing transaction. */
  writes: number;
  /** Errands that could go now, without those under embargo, and locks that wait for a decision. */
  toSend: number;
  /** Listings that ask a person. */
  asks: number;
  /** Listings that stand in public beyond the record, and that only a person can take back. */
  beyond: number;
  /** Listings that are to go and cannot, until a person has put something right. */
  held: number;
  /** How many records were deleted so far. */
  removed: number;
}

/** The one row that screens ask for each second: one reading by its key. */
export function pulseRow(db: Tx): PulseRow {
  const [row] = ask<PulseRow>(
    db,
    'SELECT writes, to_send AS toSend, asks, beyond, held, removed FROM pulse WHERE id = 1',
  );
  return row ?? { writes: 0, toSend: 0, asks: 0, beyond: 0, held: 0, removed: 0 };
}

/** The number of the next change of a line: above all that were given. By the index. */
const nextChange = sql<number>`(SELECT ifnull(max(changed), 0) + 1 FROM tallies)`;

/**
 * Says that a record, its listings, errands or counts changed: it is surveyed and counted anew. A mark of what was
 * taken back never comes again.
 */
export function markStale(db: Tx, recordId: RecordId): void {
  const set = { stale: true, mark: freshId('m'), changed: nextChange };
  db.insert(tallies)
    .values({ recordId, ...set })
    .onConflictDoUpdate({ target: tallies.recordId, set })
    .run();
}

/** Says that something about a record's listings was noted that changes no number: it is surveyed anew, not counted. */
export function markTouched(db: Tx, recordId: RecordId): void {
  const mark = freshId('m');
  db.insert(tallies).values({ recordId, mark }).onConflictDoUpdate({ target: tallies.recordId, set: { mark } }).run();
}

/** Says that something changed that every survey reads of the house: channels, words, venues, people. */
export function markHouse(db: Tx): void {
  db.run(sql`UPDATE pulse SET context = ${freshId('m')} WHERE id = 1`);
  db.update(tallies).set({ stale: true, changed: nextChange }).run();
}

/** The house's mark: another with every change of what every survey reads. */
export function houseMark(db: Tx): string {
  return ask<{ context: string }>(db, 'SELECT context FROM pulse WHERE id = 1')[0]?.context ?? '';
}

/** Marks of records, each another with every change of it; one that is not there has none. By the key. */
export function recordMarks(db: Tx, ids: readonly RecordId[] | undefined): Map<RecordId, string> {
  const all = "SELECT r.id AS id, ifnull(t.mark, '') AS mark FROM records r LEFT JOIN tallies t ON t.record_id = r.id";
  const rows =
    ids === undefined
      ? ask<{ id: RecordId; mark: string }>(db, all)
      : ids.flatMap((id) => ask<{ id: RecordId; mark: string }>(db, `${all} WHERE r.id = ?`, id));
  return new Map(rows.map((row) => [row.id, row.mark]));
}

/**
 * Records to be counted anew: marked so, or because the clock has reached what may change them. By an index, `most` at
 * a time.
 */
export function staleRecords(db: Tx, now: Instant, most: number): RecordId[] {
  const stale = ask<{ id: RecordId }>(db, 'SELECT record_id AS id FROM tallies WHERE stale = 1 LIMIT ?', most);
  const due =
    stale.length < most
      ? ask<{ id: RecordId }>(
          db,
          'SELECT record_id AS id FROM tallies WHERE next_at <= ? LIMIT ?',
          now,
          most - stale.length,
        )
      : [];
  return [...new Set([...stale, ...due].map((item) => item.id))];
}

/**
 * A line of the season as it was counted last; `stale`: something was written since, or the clock has reached what may
 * change it.
 */
export interface KeptLine {
  id: RecordId;
  line: string | null;
  stale: boolean;
  /** The number of its last change. */
  changed: number;
}

const lineColumns = `SELECT r.id AS id, l.line AS line, ifnull(t.changed, 0) AS changed,
    CASE WHEN t.stale = 0 AND (t.next_at IS NULL OR t.next_at > ?) THEN 0 ELSE 1 END AS stale`;

function readLines(db: Tx, from: string, ...values: number[]): KeptLine[] {
  return ask<Omit<KeptLine, 'stale'> & { stale: number }>(db, `${lineColumns} ${from}`, ...values).map((kept) => ({
    ...kept,
    stale: kept.stale !== 0 || kept.line === null,
  }));
}

/** Every record's line of the season. One query. */
export function keptLines(db: Tx, now: Instant): KeptLine[] {
  return readLines(
    db,
    'FROM records r LEFT JOIN tallies t ON t.record_id = r.id LEFT JOIN season_lines l ON l.record_id = r.id',
    now,
  );
}

/**
 * Lines that changed after the change numbered `seen`, and those that the clock has reached. Two queries, each by its
 * own index: the plus keeps the second from taking the first's.
 */
export function linesSince(db: Tx, seen: number, now: Instant): KeptLine[] {
  const joined = (where: string) =>
    `FROM tallies t JOIN records r ON r.id = t.record_id LEFT JOIN season_lines l ON l.record_id = r.id WHERE ${where}`;
  return [
    ...readLines(db, joined('t.changed > ?'), now, seen),
    ...readLines(db, joined('t.next_at <= ? AND +t.changed <= ?'), now, now, seen),
  ];
}

/** The next moment at which the clock by itself may change what a record adds; Infinity: none. By an index. */
export function nextMoment(db: Tx, now: Instant): Instant {
  const [row] = ask<{ at: Instant | null }>(db, 'SELECT MIN(next_at) AS at FROM tallies WHERE next_at > ?', now);
  return row?.at ?? Infinity;
}

/** What one record adds to the numbers, as it was counted under its mark and the house's. */
export interface Tally {
  recordId: RecordId;
  mark: string;
  house: string;
  toSend: number;
  asks: number;
  beyond: number;
  held: number;
  nextAt: Instant | null;
  line: string;
}

/**
 * Puts down what records add to the numbers, and raises the sums by what that changes. What changed since it was
 * counted is left to be counted anew. Give it inside a quiet transaction.
 */
export function putTallies(db: Tx, counted: readonly Tally[]): void {
  const house = houseMark(db);
  for (const { recordId, nextAt, line, mark, house: of, ...numbers } of counted) {
    const before = db.select().from(tallies).where(eq(tallies.recordId, recordId)).get();
    if (of !== house || (before?.mark ?? '') !== mark) continue;
    const set = { ...numbers, stale: false, nextAt, changed: nextChange };
    db.insert(tallies)
      .values({ recordId, ...set })
      .onConflictDoUpdate({ target: tallies.recordId, set })
      .run();
    const more = (key: keyof typeof numbers) => numbers[key] - (before?.[key] ?? 0);
    const same = (Object.keys(numbers) as (keyof typeof numbers)[]).every((key) => more(key) === 0);
    const said = db.select().from(seasonLines).where(eq(seasonLines.recordId, recordId)).get()?.line;
    if (said !== line)
      db.insert(seasonLines)
        .values({ recordId, line })
        .onConflictDoUpdate({ target: seasonLines.recordId, set: { line } })
        .run();
    // A number that changes, or a line, is something that a screen shows.
    if (!same || said !== line)
      db.run(
        sql`UPDATE pulse SET to_send = to_send + ${more('toSend')}, asks = asks + ${more('asks')},
          beyond = beyond + ${more('beyond')}, held = held + ${more('held')}, writes = writes + 1 WHERE id = 1`,
      );
  }
}
