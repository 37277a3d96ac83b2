import type { ChannelId, ListingId, RecordId } from '@/core/base/ids';
import { asc, eq, sql } from 'drizzle-orm';
import { isDeepStrictEqual } from 'node:util';
import type { z } from 'zod';
import type { Instant } from '@/core/base/zones';
import type { ListingState } from '@/core/listing/compare';
import type { TheirItems } from '@/core/listing/listing-codec';
import { listedField, takenDown, type Shown, type ShownValue } from '@/core/listing/shown';
import { ask, prepared, readerOf, type Tx } from './database';
import { noGiftsOf } from './gifts';
import { markStale, markTouched } from './pulse';
import { listings, listingShown, readings } from './schema';
import type { CutTie, pendingOutcomeSchema, remoteSchema } from './stored';

type KeptRemote = z.infer<typeof remoteSchema>;
type Unsaid = 'note' | 'turnedDown' | 'kept';
export type RemoteMark = Omit<KeptRemote, Unsaid> & Partial<Pick<KeptRemote, Unsaid>>;
export type PendingOutcome = z.infer<typeof pendingOutcomeSchema>;

const kept = (mark: RemoteMark): KeptRemote => ({ note: '', turnedDown: false, kept: {}, ...mark });

/** One listing with all that is known of it. Moments are of the monotonic clock. */
export interface Listing extends ListingState {
  id: ListingId;
  recordId: RecordId;
  channel: ChannelId;
  part: number;
  performanceIds: string[];
  remote: RemoteMark | null;
  sentRevision: number | null;
  readAt: Instant | null;
  readTries: number;
  /** Times that something was written there. */
  writes: number;
  /** Attempts whose outcome is known. */
  attempts: number;
  /** Times that something new was seen there. */
  sights: number;
  pendingOutcome: PendingOutcome | null;
  /**
   * A doubt that was given up, since twice nothing was found: what comes of it after all is looked for some time still.
   */
  lost: PendingOutcome | null;
  twins: RemoteMark[];
  /** What we believe to stand there: the last observation with what was written since over it. */
  believed: Shown | null;
  others: TheirItems;
  /** The tie was cut: it stands there no longer as ours. */
  cut: CutTie | null;
}

type Row = typeof listings.$inferSelect & { shown: typeof listingShown.$inferSelect | null };

function toListing({ shown, ...row }: Row): Listing {
  const { goneAt, ...own } = row;
  return {
    ...own,
    lapsesAt: row.remote?.lapsesAt ?? null,
    gone: goneAt !== null,
    sent: shown?.sent ?? null,
    sentTimes: shown?.sentTimes ?? {},
    previous: shown?.previous ?? null,
    observed: shown?.observed ?? null,
    believed: shown?.believed ?? null,
    others: shown?.others ?? {},
  };
}

function selectListings(db: Tx) {
  return db
    .select({ listing: listings, shown: listingShown })
    .from(listings)
    .leftJoin(listingShown, eq(listingShown.listingId, listings.id));
}

/** Every listing, or those of some records, in the order of their parts. */
export const listingsOf = readerOf(
  'listings',
  listings.recordId,
  (db, mine) => selectListings(db).where(mine).orderBy(asc(listings.part)),
  ({ listing, shown }) => toListing({ ...listing, shown }),
);

export function listingById(db: Tx, id: ListingId): Listing | null {
  const row = prepared(db, 'listing', (at) =>
    selectListings(at)
      .where(eq(listings.id, sql.placeholder('id')))
      .prepare(),
  ).get({ id });
  return row ? toListing({ ...row.listing, shown: row.shown }) : null;
}

/** Makes sure that a listing stands for this part of a record on a channel, with these performances. */
export function putListing(
  db: Tx,
  listing: { id: ListingId; recordId: RecordId; channel: ChannelId; part: number; performanceIds: readonly string[] },
): void {
  const performanceIds = [...listing.performanceIds];
  db.insert(listings)
    .values({ ...listing, performanceIds })
    .onConflictDoUpdate({ target: listings.id, set: { performanceIds } })
    .run();
}

/** Whether two values are the same once they are kept. */
const same = (a: unknown, b: unknown) => isDeepStrictEqual(asKept(a), asKept(b));
const asKept = (value: unknown): unknown => (value == null ? null : JSON.parse(JSON.stringify(value)));

function putShown(db: Tx, id: ListingId, set: Partial<Omit<typeof listingShown.$inferInsert, 'listingId'>>): void {
  db.insert(listingShown)
    .values({ listingId: id, ...set })
    .onConflictDoUpdate({ target: listingShown.listingId, set })
    .run();
}

/**
 * What a writing changed: fields that were sent (an absent value was taken out), what stood before, and what we believe
 * stands there now.
 */
export interface Written {
  sent: Shown;
  /** When each field was sent. */
  sentTimes: Readonly<Record<string, Instant>>;
  previous: Shown;
  believed: Shown;
  remote: RemoteMark;
  revision: number;
  at: Instant;
  readAt: Instant;
  /** The moment, by the house's clock, at which the record asked for just this; not there: it is not known. */
  askedAt?: Instant;
}

/** Notes that a listing was written to. It is to be read back at `readAt`. */
export function noteSent(db: Tx, listing: Pick<Listing, 'id' | 'recordId'>, item: Written): void {
  const { sent, sentTimes, previous, believed } = item;
  db.update(listings)
    .set({
      remote: kept(item.remote),
      sentRevision: item.revision,
      sentAt: item.at,
      askedAt: item.askedAt ?? null,
      readAt: item.readAt,
      readTries: 0,
      goneAt: null,
      pendingOutcome: null,
      writes: sql`${listings.writes} + 1`,
      attempts: sql`${listings.attempts} + 1`,
    })
    .where(eq(listings.id, listing.id))
    .run();
  putShown(db, listing.id, {
    sent,
    sentTimes: { ...sentTimes },
    previous,
    believed,
  });
  markStale(db, listing.recordId);
}

/** When the record asked for just what was sent last, of some listings. One query. */
export function askedAtOf(db: Tx, ids: readonly ListingId[]): Map<ListingId, Instant> {
  const rows = ask<{ id: ListingId; at: Instant }>(
    db,
    'SELECT id, asked_at AS at FROM listings WHERE asked_at IS NOT NULL AND id IN (SELECT value FROM json_each(?))',
    JSON.stringify(ids),
  );
  return new Map(rows.map(({ id, at }) => [id, at]));
}

/** What a reading found. */
export interface Seen {
  shown: Shown;
  sent: Shown | null;
  previous: Shown | null;
  believed: Shown;
  others: TheirItems;
  remote: RemoteMark | null;
  /** When the request began. */
  at: Instant;
  readAt: Instant | null;
  gone: boolean;
  twins?: readonly RemoteMark[];
}

/**
 * Notes what a channel shows, keeps the reading for good, and says when to look again. True where it says something
 * new.
 */
export function noteObserved(db: Tx, listing: Pick<Listing, 'id' | 'recordId'>, seen: Seen): boolean {
  const { shown: observed, sent, previous, believed } = seen;
  const before = db
    .select({
      observed: listingShown.observed,
      sent: listingShown.sent,
      goneAt: listings.goneAt,
      observedAt: listings.observedAt,
      sentAt: listings.sentAt,
      twins: listings.twins,
      remote: listings.remote,
    })
    .from(listings)
    .leftJoin(listingShown, eq(listingShown.listingId, listings.id))
    .where(eq(listings.id, listing.id))
    .get();
  const remote = seen.remote === null ? null : kept(seen.remote);
  const twins = seen.twins?.map(kept);
  db.update(listings)
    .set({
      observedAt: seen.at,
      sights: sql`${listings.sights} + 1`,
      ...(remote === null ? {} : { remote }),
      readAt: seen.readAt,
      readTries: 0,
      goneAt: seen.gone ? seen.at : null,
      ...(twins === undefined ? {} : { twins }),
    })
    .where(eq(listings.id, listing.id))
    .run();
  putShown(db, listing.id, {
    observed,
    sent,
    previous,
    believed,
    others: Object.fromEntries(Object.entries(seen.others).map(([group, items]) => [group, [...items]])),
  });
  const said = !same(before?.observed, observed);
  // A reading that says what the last one said is no news; its moment stands on the listing.
  if (said) db.insert(readings).values({ listingId: listing.id, at: seen.at, observed }).run();
  const news =
    said ||
    !same(before?.sent, sent) ||
    ((before?.goneAt ?? null) !== null) !== seen.gone ||
    (before?.observedAt ?? 0) < (before?.sentAt ?? 0) ||
    (twins !== undefined && !same(before?.twins, twins)) ||
    saidOf(before?.remote) !== saidOf(remote ?? before?.remote);
  if (news) markStale(db, listing.recordId);
  else markTouched(db, listing.recordId);
  return news;
}

/** What a channel says of a listing beside what it shows. */
function saidOf(remote: KeptRemote | null | undefined): string {
  return remote == null ? '' : `${remote.turnedDown} ${remote.note}`;
}

/** Keeps in mind that a first writing is begun whose outcome will not be known before its answer. */
export function putPendingOutcome(
  db: Tx,
  { id, recordId }: Pick<Listing, 'id' | 'recordId'>,
  pendingOutcome: PendingOutcome | null,
  readAt: Instant | null,
): void {
  db.update(listings)
    .set({ pendingOutcome, ...(readAt === null ? {} : { readAt }) })
    .where(eq(listings.id, id))
    .run();
  markTouched(db, recordId);
}

/** Counts an attempt whose outcome is known: the next one has another key. */
export function noteAttempt(db: Tx, id: ListingId): void {
  db.update(listings)
    .set({ attempts: sql`${listings.attempts} + 1` })
    .where(eq(listings.id, id))
    .run();
}

/** Nothing is expected any more of a doubt that was given up. */
export function forgetLost(db: Tx, id: ListingId): void {
  db.update(listings).set({ lost: null }).where(eq(listings.id, id)).run();
}

/**
 * Gives a doubt up: nothing was found. It is kept, for what comes of it after all; or forgotten, where nothing can come
 * any more.
 */
export function giveUpPendingOutcome(
  db: Tx,
  { id, recordId }: Pick<Listing, 'id' | 'recordId'>,
  lost: PendingOutcome | null,
  readAt: Instant | null,
): void {
  db.update(listings)
    .set({ pendingOutcome: null, lost, readAt, attempts: sql`${listings.attempts} + 1` })
    .where(eq(listings.id, id))
    .run();
  markStale(db, recordId);
}

/**
 * Takes a listing for ours that was found there in doubt: what was to be placed counts as sent, for it was ours, but
 * for how far it came to be seen.
 */
export function adoptFound(
  db: Tx,
  listing: Pick<Listing, 'id' | 'recordId'>,
  pendingOutcome: PendingOutcome,
  found: readonly RemoteMark[],
  state: ShownValue | undefined,
  at: Instant,
): void {
  const [first, ...twins] = found;
  if (!first) return;
  const sent: Shown = { ...pendingOutcome.shown, ...(state === undefined ? {} : { [listedField]: state }) };
  db.update(listings)
    .set({
      remote: kept(first),
      twins: twins.map(kept),
      sentAt: pendingOutcome.since,
      pendingOutcome: null,
      lost: null,
      goneAt: null,
      readAt: at,
      writes: sql`${listings.writes} + 1`,
      attempts: sql`${listings.attempts} + 1`,
    })
    .where(eq(listings.id, listing.id))
    .run();
  putShown(db, listing.id, { sent, sentTimes: {}, previous: takenDown, believed: sent });
  markStale(db, listing.recordId);
}

/** Sets what we hold to have been sent, when the channel's own value was taken into the record. */
export function adoptSent(db: Tx, listing: Pick<Listing, 'id' | 'recordId'>, shown: Shown): void {
  putShown(db, listing.id, { sent: shown });
  markStale(db, listing.recordId);
}

/** Lets go of a listing that was deleted there: nothing was sent, as far as the house is concerned. */
export function letGo(db: Tx, listing: Pick<Listing, 'id' | 'recordId'>): void {
  db.update(listings)
    .set({ remote: null, goneAt: null, readAt: null, sentAt: null, observedAt: null, pendingOutcome: null, twins: [] })
    .where(eq(listings.id, listing.id))
    .run();
  putShown(db, listing.id, {
    sent: null,
    sentTimes: {},
    previous: null,
    observed: null,
    believed: null,
    others: {},
  });
  markStale(db, listing.recordId);
}

/** Cuts the tie to a listing: what stands there stays as it is, and is not ours any more. */
export function cutListing(db: Tx, listing: Listing, tie: CutTie): void {
  letGo(db, listing);
  db.update(listings).set({ cut: tie, lost: null }).where(eq(listings.id, listing.id)).run();
  noGiftsOf(db, listing);
}

/** Notes that another place where a listing stood is taken down there. */
export function dropTwin(db: Tx, listing: Pick<Listing, 'id' | 'recordId'>, twin: string, readAt: Instant): void {
  const twins = (listingById(db, listing.id)?.twins ?? []).filter((mark) => mark.id !== twin);
  db.update(listings)
    .set({ twins: twins.map(kept), readAt })
    .where(eq(listings.id, listing.id))
    .run();
  markStale(db, listing.recordId);
}

/**
 * Takes another of the places where a listing stands for the one that is ours from now on; what it shows is to be read.
 */
export function takeTwinForOurs(db: Tx, listing: Listing, twin: string, readAt: Instant): void {
  const ours = listing.twins.find((mark) => mark.id === twin);
  if (!ours) return;
  const rest = listing.twins.filter((mark) => mark.id !== twin);
  db.update(listings)
    .set({
      remote: kept(ours),
      twins: (listing.remote ? [listing.remote, ...rest] : rest).map(kept),
      readAt,
      writes: sql`${listings.writes} + 1`,
    })
    .where(eq(listings.id, listing.id))
    .run();
  markStale(db, listing.recordId);
}

/** Notes a reading that failed, and when to try again. */
export function noteUnreadable(db: Tx, id: ListingId, tries: number, readAt: Instant): void {
  db.update(listings).set({ readTries: tries, readAt }).where(eq(listings.id, id)).run();
}

/** The moment of a reading that a person asked for: at once, and looking whether it stands there twice. */
export const thoroughly: Instant = 0;

/** Asks for a listing to be read back at `at`. */
export function askReading(db: Tx, id: ListingId, at: Instant): void {
  db.update(listings).set({ readAt: at }).where(eq(listings.id, id)).run();
}

/** Ids of the listings of a channel that are due to be read back, the longest waiting first: by an index. */
export function dueToRead(
  db: Tx,
  channel: ChannelId,
  now: Instant,
  most: number,
  but: readonly ListingId[] = [],
): ListingId[] {
  const due = 'SELECT id FROM listings WHERE channel = ? AND read_at <= ? ORDER BY read_at LIMIT ?';
  return ask<{ id: ListingId }>(db, due, channel, now, most + but.length)
    .map((item) => item.id)
    .filter((id) => !but.includes(id))
    .slice(0, most);
}
