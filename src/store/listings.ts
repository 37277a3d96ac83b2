import { and, asc, eq, isNotNull, lte, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { ListingState } from '@/core/listing/compare';
import { shownSchema, type Shown } from '@/core/listing/shown';
import type { Instant } from '@/core/base/zones';
import { parseJson, type Tx } from './database';
import { listings, readings } from './schema';

const remoteSchema = z.object({
  id: z.string(),
  publicUrl: z.string().nullable(),
  etag: z.string().nullable(),
  link: z.string().nullable(),
  lapsesAt: z.number().nullable().default(null),
});
type RemoteMark = z.infer<typeof remoteSchema>;

/** One listing with all that is known of it. */
export interface Listing extends ListingState {
  id: string;
  recordId: string;
  channel: string;
  part: number;
  performanceIds: string[];
  remote: RemoteMark | null;
  sentRevision: number | null;
  readAt: Instant | null;
  readTries: number;
}

type Row = typeof listings.$inferSelect;

function toListing(row: Row): Listing {
  const shown = (text: string | null) => shownSchema.nullable().parse(parseJson(text));
  const remote = remoteSchema.nullable().parse(parseJson(row.remote));
  return {
    ...row,
    performanceIds: z.array(z.string()).parse(parseJson(row.performanceIds)),
    remote,
    lapsesAt: remote?.lapsesAt ?? null,
    sent: shown(row.sent),
    previous: shown(row.previous),
    observed: shown(row.observed),
  };
}

/** Every listing, or one record's: one query. */
export function listingsOf(db: Tx, recordId?: string): Listing[] {
  const where = recordId === undefined ? undefined : eq(listings.recordId, recordId);
  return db.select().from(listings).where(where).orderBy(asc(listings.part)).all().map(toListing);
}

export function listingById(db: Tx, id: string): Listing | null {
  const row = db.select().from(listings).where(eq(listings.id, id)).get();
  return row ? toListing(row) : null;
}

/** Makes sure that a listing stands for this part of a record on a channel, with these performances. */
export function putListing(
  db: Tx,
  listing: { id: string; recordId: string; channel: string; part: number; performanceIds: readonly string[] },
): void {
  const performanceIds = JSON.stringify(listing.performanceIds);
  db.insert(listings)
    .values({ ...listing, performanceIds })
    .onConflictDoUpdate({ target: listings.id, set: { performanceIds } })
    .run();
}

/** Notes that a listing was sent. `previous` is what was shown before; it is to be read back at `readAt`. */
export function noteSent(
  db: Tx,
  id: string,
  sent: { shown: Shown; previous: Shown; remote: RemoteMark; revision: number; at: Instant; readAt: Instant },
): void {
  db.update(listings)
    .set({
      sent: JSON.stringify(sent.shown),
      previous: JSON.stringify(sent.previous),
      remote: JSON.stringify(sent.remote),
      sentRevision: sent.revision,
      sentAt: sent.at,
      readAt: sent.readAt,
      readTries: 0,
    })
    .where(eq(listings.id, id))
    .run();
}

/** Notes what a channel shows, keeps the reading for good, and says when to look again. */
export function noteObserved(
  db: Tx,
  id: string,
  seen: { shown: Shown; previous: Shown | null; remote: RemoteMark | null; at: Instant; readAt: Instant | null },
): void {
  const observed = JSON.stringify(seen.shown);
  const before = db.select({ observed: listings.observed }).from(listings).where(eq(listings.id, id)).get();
  db.update(listings)
    .set({
      observed,
      previous: seen.previous === null ? null : JSON.stringify(seen.previous),
      observedAt: seen.at,
      remote: seen.remote === null ? null : JSON.stringify(seen.remote),
      readAt: seen.readAt,
      readTries: 0,
    })
    .where(eq(listings.id, id))
    .run();
  // A reading that says what the last one said is no news; its moment stands on the listing.
  if (before?.observed !== observed) db.insert(readings).values({ listingId: id, at: seen.at, observed }).run();
}

/** Sets what we hold to have been sent, when the channel's own value was taken into the record. */
export function adoptSent(db: Tx, id: string, shown: Shown): void {
  db.update(listings)
    .set({ sent: JSON.stringify(shown) })
    .where(eq(listings.id, id))
    .run();
}

/** Notes a reading that failed, and when to try again. */
export function noteUnreadable(db: Tx, id: string, tries: number, readAt: Instant): void {
  db.update(listings).set({ readTries: tries, readAt }).where(eq(listings.id, id)).run();
}

/** Asks for a listing to be read back at `at`. */
export function askReading(db: Tx, id: string, at: Instant): void {
  db.update(listings).set({ readAt: at }).where(eq(listings.id, id)).run();
}

/** Listings that are due to be read back, the longest waiting first. */
export function listingsToRead(db: Tx, now: Instant, most: number): Listing[] {
  return db
    .select()
    .from(listings)
    .where(and(isNotNull(listings.readAt), isNotNull(listings.remote), lte(listings.readAt, now)))
    .orderBy(asc(listings.readAt))
    .limit(most)
    .all()
    .map(toListing);
}

/** True where something was sent and has not been read back since. */
export function hasUnread(db: Tx): boolean {
  const unread = sql`ifnull(${listings.observedAt}, 0) < ${listings.sentAt}`;
  return db.select({ id: listings.id }).from(listings).where(unread).limit(1).get() !== undefined;
}
