import { randomBytes } from 'node:crypto';
import { transaction, type Db, type Tx } from '@/store/database';
import { dropLease, leads, takeLease } from '@/store/lease';

/**
 * A lease that was not renewed for so long is free, in milliseconds of the machine's clock: it is between processes of
 * one machine.
 */
export const leaseMs = 6_000;

/** This process's part in working the queue: it leads, or another does. */
export interface Leadership {
  /** Takes or renews the lease. True where this process leads from now on. */
  renew(): boolean;
  /** The number of this time of leading; 0 where it does not lead. */
  fence(): number;
  /**
   * True while this very time of leading goes on: asked before everything that leaves the house and at every settling.
   */
  stillLeads(fence: number, db?: Tx): boolean;
  letGo(): void;
}

/** Each opening of a house has a mark of its own: process ids come again. `monotonic`: the monotonic clock. */
export function makeLeadership(db: Db, monotonic: () => number): Leadership {
  const boot = randomBytes(9).toString('base64url');
  let fence = 0;
  return {
    renew() {
      const held = transaction(db, (tx) => takeLease(tx, boot, Date.now(), leaseMs, monotonic()), { quiet: true });
      fence = held?.fence ?? 0;
      return held !== null;
    },
    fence: () => fence,
    stillLeads: (asked, at = db) => asked !== 0 && leads(at, boot, asked),
    letGo() {
      fence = 0;
      transaction(db, (tx) => dropLease(tx, boot), { quiet: true });
    },
  };
}
