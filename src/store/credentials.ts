import { hkdfSync } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import * as schema from './schema';
import { isSealed, seal, unseal, type SealKey } from './sealed';
import { credentialsSchema } from './stored';

/** A database or a transaction on it, as far as it is needed here. */
type Tx = Pick<BetterSQLite3Database<typeof schema>, 'select' | 'update'>;
/** The connection itself holds its key: of a module the server may have several, of a connection there is one. */
const mark = Symbol.for('nuntiax.seal-key');
type Client = Partial<Record<typeof mark, SealKey>>;
const clientOf = (db: Tx) => (db as unknown as { session: { client: Client } }).session.client;

/** Says with which key a database's credentials are sealed. */
export function setKey(db: Tx, key: SealKey): void {
  Object.defineProperty(clientOf(db), mark, { value: key, configurable: true });
}

function keyOf(db: Tx): SealKey {
  const key = clientOf(db)[mark];
  if (!key) throw new Error('this database was opened without its key');
  return key;
}

/**
 * A secret for signing what is handed to browsers and for sealing second factors: it follows from the key of the house
 * (HKDF, RFC 5869), so that a stolen database alone proves nothing. In hexadecimal, 256 bits.
 */
export function doorSecret(db: Tx): string {
  return Buffer.from(hkdfSync('sha256', keyOf(db).bytes, 'nuntiax', 'sign-in', 32)).toString('hex');
}

/** Credentials of a channel as they are kept: sealed, and its alone. */
export function sealedFor(db: Tx, channel: string, credentials: Record<string, string>): string {
  return seal(keyOf(db), channel, JSON.stringify(credentials));
}

const told = new Set<string>();

/**
 * The credentials of a channel. Where they were sealed with a key that is not here there are none: its place asks to
 * sign in again, and it is told once in the log.
 */
export function credentialsFrom(db: Tx, channel: string, kept: string): Record<string, string> {
  const opened = unseal(keyOf(db), channel, kept);
  if (opened !== null) return credentialsSchema.parse(JSON.parse(opened));
  if (!told.has(channel)) {
    told.add(channel);
    console.error(`the credentials of ${channel} do not open with this key: bring their key back, or connect it anew`);
  }
  return {};
}

/** True where credentials lie there that no key seals, as earlier programs kept them. */
export function liesOpen(db: Tx): boolean {
  return db
    .select({ credentials: schema.channels.credentials })
    .from(schema.channels)
    .all()
    .some(({ credentials }) => !isSealed(credentials));
}

/** Seals what earlier programs kept as it was. Throws, and changes nothing, where one does not open again as it was. */
export function sealAll(db: Tx): void {
  for (const { id, credentials } of db
    .select({ id: schema.channels.id, credentials: schema.channels.credentials })
    .from(schema.channels)
    .all()) {
    if (isSealed(credentials)) continue;
    const plain = credentialsSchema.parse(JSON.parse(credentials));
    const sealed = sealedFor(db, id, plain);
    if (JSON.stringify(credentialsFrom(db, id, sealed)) !== JSON.stringify(plain))
      throw new Error(`the credentials of ${id} could not be sealed`);
    db.update(schema.channels).set({ credentials: sealed }).where(eq(schema.channels.id, id)).run();
  }
}
