import type { ChannelId } from '@/core/base/ids';
import { and, asc, eq, notInArray, or } from 'drizzle-orm';
import { z } from 'zod';
import type { Instant } from '@/core/base/zones';
import { channelRowSchema, type ChannelRow } from '@/core/listing/channel-row';
import { LRUCache } from 'lru-cache';
import { credentialsFrom, sealedFor } from './credentials';
import type { Tx } from './database';
import { houseMark, markHouse } from './pulse';
import { accounts, channels, keptThere } from './schema';

/** How to reach a channel, and under which name it knows us. Secrets leave the store for the doors alone. */
export interface ChannelConnection {
  address: string;
  credentials: Record<string, string>;
  knownAs: string;
  at: Instant;
}

type Row = typeof channels.$inferSelect;

function toRow({ id, kind, name, shortName, settings, through, connected, audience, standingLeave }: Row): ChannelRow {
  return channelRowSchema.parse({
    id,
    kind,
    name,
    shortName,
    settings,
    through,
    connected,
    audience,
    standingLeave,
  });
}

/**
 * Rows by the house's mark under which they were read: as long as nothing of that was written, the same objects come
 * back.
 */
const kept = new LRUCache<string, ChannelRow[]>({ max: 16 });

/** Every channel in its order, without secrets. The same objects as long as none of them changed. */
export function allChannels(db: Tx): ChannelRow[] {
  const mark = houseMark(db);
  const known = kept.get(mark);
  if (known) return known;
  const made = db.select().from(channels).orderBy(asc(channels.place), asc(channels.id)).all().map(toRow);
  kept.set(mark, made);
  return made;
}

/**
 * How a channel is reached: by its own connection or by that of the channel that it goes through. `null`: not
 * connected.
 */
export function connectionOf(db: Tx, id: ChannelId): (ChannelConnection & { account: string }) | null {
  const own = db.select().from(channels).where(eq(channels.id, id)).get();
  if (!own?.connected) return null;
  const row = own.through === null ? own : db.select().from(channels).where(eq(channels.id, own.through)).get();
  if (!row?.connected) return null;
  const { address, knownAs, at } = row;
  return { address, credentials: credentialsFrom(db, row.id, row.credentials), knownAs, at, account: row.id };
}

/** The account that a channel's requests are counted on: its own, or that of the channel that it goes through. */
export function accountOf({ id, through }: Pick<ChannelRow, 'id' | 'through'>): string {
  return through ?? id;
}

/** Puts a channel in its place, with its connection. */
export function putChannel(db: Tx, row: ChannelRow, connection: ChannelConnection, actor: string): void {
  const { id, kind, name, shortName, settings, through, connected, audience, standingLeave } = row;
  const { address, credentials, knownAs, at } = connection;
  const place =
    db
      .select({ place: channels.place })
      .from(channels)
      .all()
      .reduce((most, item) => Math.max(most, item.place), 0) + 1;
  const set = {
    kind,
    name,
    shortName,
    settings,
    through,
    address,
    credentials: sealedFor(db, id, credentials),
    knownAs,
    connected,
    audience,
    standingLeave,
    actor,
    at,
  };
  db.insert(channels)
    .values({ id, place, ...set })
    .onConflictDoUpdate({ target: channels.id, set })
    .run();
  markHouse(db);
}

/** Says who sees what stands on a channel, and on those that go through it. */
export function putAudience(db: Tx, id: ChannelId, audience: ChannelRow['audience']): void {
  db.update(channels)
    .set({ audience })
    .where(or(eq(channels.id, id), eq(channels.through, id)))
    .run();
  markHouse(db);
}

/** Says whether what the clock alone changes is sent to a channel without asking. */
export function putStandingLeave(db: Tx, id: ChannelId, given: boolean): void {
  db.update(channels).set({ standingLeave: given }).where(eq(channels.id, id)).run();
  markHouse(db);
}

/** Takes a channel off, with those that go through it. Its listings and its history stay. */
export function takeChannelOff(db: Tx, id: ChannelId): void {
  db.update(channels).set({ connected: false }).where(eq(channels.id, id)).run();
  db.update(channels).set({ connected: false }).where(eq(channels.through, id)).run();
  markHouse(db);
}

const accountSchema = z.object({
  failures: z.number(),
  failingSince: z.number().nullable(),
  blockedUntil: z.number(),
  tokens: z.number().nullable(),
  tokensAt: z.number().nullable(),
});
export type AccountRow = z.infer<typeof accountSchema>;

/** What is known of every account that has failed or been counted. */
export function allAccounts(db: Tx): Map<string, AccountRow> {
  return new Map(
    db
      .select()
      .from(accounts)
      .all()
      .map((row) => [row.id, accountSchema.parse(row)]),
  );
}

export function putAccount(db: Tx, id: string, set: AccountRow): void {
  db.insert(accounts)
    .values({ id, ...set })
    .onConflictDoUpdate({ target: accounts.id, set })
    .run();
}

/** What an account is known to hold; `null`: not known. */
export function keptAt(db: Tx, account: string, sort: string, key: string): string | null {
  const which = and(eq(keptThere.account, account), eq(keptThere.sort, sort), eq(keptThere.key, key));
  return db.select({ value: keptThere.value }).from(keptThere).where(which).get()?.value ?? null;
}

/** Everything of a sort that an account is known to hold, by key. */
export function allKeptAt(db: Tx, account: string, sort: string): ReadonlyMap<string, string> {
  const which = and(eq(keptThere.account, account), eq(keptThere.sort, sort));
  const rows = db.select({ key: keptThere.key, value: keptThere.value }).from(keptThere).where(which).all();
  return new Map(rows.map((row) => [row.key, row.value]));
}

export function keepAt(db: Tx, account: string, sort: string, key: string, value: string): void {
  db.insert(keptThere)
    .values({ account, sort, key, value })
    .onConflictDoUpdate({ target: [keptThere.account, keptThere.sort, keptThere.key], set: { value } })
    .run();
}

/** Forgets what an account is known to hold, but for what is `ours`: another service may stand behind it now. */
export function forgetKept(db: Tx, account: string, ours: readonly string[]): void {
  db.delete(keptThere)
    .where(and(eq(keptThere.account, account), notInArray(keptThere.sort, [...ours])))
    .run();
}

/** Forgets one thing that an account was known to hold. */
export function forgetAt(db: Tx, account: string, sort: string, key: string): void {
  const which = and(eq(keptThere.account, account), eq(keptThere.sort, sort), eq(keptThere.key, key));
  db.delete(keptThere).where(which).run();
}

/** Says how a channel is set. */
export function putSettings(db: Tx, id: ChannelId, settings: Record<string, unknown>, actor: string): void {
  db.update(channels).set({ settings, actor }).where(eq(channels.id, id)).run();
  markHouse(db);
}

/** The connection that a channel had when it was taken off. `null`: it is connected, or never was. */
export function formerConnection(db: Tx, id: ChannelId): ChannelConnection | null {
  const row = db.select().from(channels).where(eq(channels.id, id)).get();
  if (!row || row.connected || row.through !== null) return null;
  const { address, knownAs, at } = row;
  return { address, credentials: credentialsFrom(db, row.id, row.credentials), knownAs, at };
}

/** Gives a channel other names. */
export function renameRow(
  db: Tx,
  id: ChannelId,
  { name, shortName }: Pick<ChannelRow, 'name' | 'shortName'>,
  actor: string,
): void {
  db.update(channels).set({ name, shortName, actor }).where(eq(channels.id, id)).run();
  markHouse(db);
}
