import { eq } from 'drizzle-orm';
import type { Instant } from '@/core/base/zones';
import type { Tx } from './database';
import { lease } from './schema';

/** Who works the queue: a process by its own mark, and the number of its time of leading. */
export interface Lease {
  boot: string;
  fence: number;
  /** When it last said so, by the machine's clock. */
  at: number;
  /** The monotonic clock, as it stood then. */
  monotonic: Instant;
}

/** The lease as it stands; `null`: nobody ever led here. */
export function leaseNow(db: Tx): Lease | null {
  return db.select().from(lease).where(eq(lease.id, 1)).get() ?? null;
}

/**
 * Takes or renews the lease for the process `boot`: given where nobody holds it, where it is this process's own, or
 * where its holder has said nothing for `lengthMs`. Whoever takes it from another gets the next fence. `null`: another
 * holds it.
 */
export function takeLease(db: Tx, boot: string, now: number, lengthMs: number, monotonic: Instant): Lease | null {
  const held = leaseNow(db);
  const mine = held?.boot === boot;
  if (held && !mine && held.boot !== '' && Math.abs(now - held.at) < lengthMs) return null;
  const next = {
    boot,
    fence: (held?.fence ?? 0) + (mine ? 0 : 1),
    at: now,
    monotonic: Math.max(monotonic, held?.monotonic ?? 0),
  };
  db.insert(lease)
    .values({ id: 1, ...next })
    .onConflictDoUpdate({ target: lease.id, set: next })
    .run();
  return next;
}

/** True while the time of leading `fence` is still that of `boot`. */
export function leads(db: Tx, boot: string, fence: number): boolean {
  const held = leaseNow(db);
  return held?.boot === boot && held.fence === fence;
}

/** Lets the lease go, so that the next process need not wait. */
export function dropLease(db: Tx, boot: string): void {
  db.update(lease).set({ boot: '', at: 0 }).where(eq(lease.boot, boot)).run();
}
