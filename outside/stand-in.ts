import type { Hono } from 'hono';
import type { Outside } from './outside';
import type { OutsideStore } from './store';

/** Makes something once, under a name: the same again when asked again. */
export type Once = (name: string, make: () => string) => string;

/** A stand-in: each folder of `services/` has one, and enters itself by lying there. */
export interface Service {
  make(outside: Outside): Hono;
  /**
   * Opens accounts: credentials by the account's name, the same when asked again. `secret` makes one; `as` is what the
   * asker says to be.
   */
  accounts(once: Once, secret: () => string, as: string | undefined): Record<string, Record<string, string>>;
  /** Sells so many tickets to the public, of whatever is open there: which, by chance. Gives how many were sold. */
  sell?(outside: Outside, count: number, chance: () => number): number;
  /** Takes mail in (SMTP): who may hand it in, to whom it may go, and what becomes of it. */
  mail?: {
    login(store: OutsideStore, user: string, word: string): boolean;
    knows(to: string): boolean;
    take(outside: Pick<Outside, 'store' | 'clock'>, raw: Buffer, to: readonly string[]): Promise<void>;
  };
}
