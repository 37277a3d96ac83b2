import { randomBytes } from 'node:crypto';
import type { House } from '@/house/house';
import { whole, type Tx } from '@/store/database';
import { dropLease, leads, takeLease } from '@/store/lease';

/** A lease that was not renewed for so long is free, in milliseconds of the machine's clock: it is between processes of one machine. */
export const leaseMs = 6_000;

/** This process's part in working the queue: it leads, or another does. */
export interface Leadership {
  /** Takes or renews the lease. True where this process leads from now on. */
  renew(): boolean;
  /** The number of this time of leading; 0 where it does not lead. */
  fence(): number;
  /** True while this very time of leading goes on: asked before every writing outside and at every settling. */
  stillLeads(fence: number, db?: Tx): boolean;
  letGo(): void;
}

/** Each start of a runner has a mark of its own: process ids come again. */
export function makeLeadership(house: House): Leadership {
  const boot = randomBytes(9).toString('base64url');
  let fence = 0;
  return {
    renew() {
      const held = whole(house.db, (tx) => takeLease(tx, boot, Date.now(), leaseMs, house.steady()), { quiet: true });
      fence = held?.fence ?? 0;
      return held !== null;
    },
    fence: () => fence,
    stillLeads: (asked, db = house.db) => asked !== 0 && leads(db, boot, asked),
    letGo() {
      fence = 0;
      whole(house.db, (tx) => dropLease(tx, boot), { quiet: true });
    },
  };
}
