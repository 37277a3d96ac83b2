import { z } from 'zod';
import type { Instant } from '@/core/base/zones';
import { parseJson, type Tx } from './database';
import { connections, settings } from './schema';
import { eq } from 'drizzle-orm';

/** How to reach a channel, and under which name it knows us. */
export interface Connection {
  channel: string;
  address: string;
  credentials: Record<string, string>;
  knownAs: string;
  at: Instant;
}

const credentialsSchema = z.record(z.string(), z.string());

/** All connections by channel. */
export function allConnections(db: Tx): Map<string, Connection> {
  const rows = db.select().from(connections).all();
  return new Map(
    rows.map((row) => [row.channel, { ...row, credentials: credentialsSchema.parse(parseJson(row.credentials)) }]),
  );
}

export function putConnection(db: Tx, one: Connection, actor: string): void {
  const row = { ...one, credentials: JSON.stringify(one.credentials), actor };
  db.insert(connections).values(row).onConflictDoUpdate({ target: connections.channel, set: row }).run();
}

/** A setting by name. */
export function setting(db: Tx, name: string): string | null {
  return db.select().from(settings).where(eq(settings.name, name)).get()?.value ?? null;
}

export function putSetting(db: Tx, name: string, value: string): void {
  db.insert(settings).values({ name, value }).onConflictDoUpdate({ target: settings.name, set: { value } }).run();
}
