import type { OutsideClock } from './clock';
import type { OutsideStore } from './store';

/** What every stand-in is given. */
export interface Outside {
  store: OutsideStore;
  clock: OutsideClock;
  /** Address under which the public reaches this process. */
  base: string;
  /** Where mail is taken in; 0: nowhere. */
  smtpPort(): number;
  /** Calls an account's owner, signed, about a listing of theirs. */
  callBack(shelf: string, account: string, reference: string): void;
  /** Reads an address as it is read from outside. */
  pull(url: string): Promise<string>;
}
