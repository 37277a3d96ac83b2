import type Database from 'better-sqlite3';
import { lt } from 'drizzle-orm';
import { guesses } from './schema';
import { RateLimiterRes, RateLimiterSQLite } from 'rate-limiter-flexible';
import type { Db } from './database';

/** A code of an authenticator is right for its half minute, and for a little before and after. */
const codeSeconds = 120;

/** Who may guess how often: `points` tries in `seconds`, and nothing for as long once they are used up. */
const limits = {
  /** Passwords and codes for one address of a person, wherever they come from. */
  person: { points: 10, seconds: 900 },
  /** Whatever comes from one address of the network. */
  address: { points: 60, seconds: 900 },
  /** A code of one person that was right: it is taken once. */
  code: { points: 1, seconds: codeSeconds },
} as const;
export type Guessed = keyof typeof limits;

const made = new WeakMap<Db, Record<Guessed, RateLimiterSQLite>>();

function limiters(db: Db): Record<Guessed, RateLimiterSQLite> {
  const { client } = (db as unknown as { session: { client: InstanceType<typeof Database> } }).session;
  const limiter = (name: Guessed) =>
    new RateLimiterSQLite({
      ...{ storeClient: client, storeType: 'better-sqlite3', tableName: 'guesses', tableCreated: true },
      ...{ keyPrefix: name, points: limits[name].points, duration: limits[name].seconds },
      blockDuration: limits[name].seconds,
    });
  const known = made.get(db) ?? { person: limiter('person'), address: limiter('address'), code: limiter('code') };
  made.set(db, known);
  return known;
}

/**
 * Counts one guess before it is tried, so that many at once are many; gives for how many seconds nothing is tried, or
 * `null` where it may be.
 */
export async function countGuess(db: Db, guessed: Guessed, who: string): Promise<number | null> {
  // Those whose time is over would only pile up.
  db.delete(guesses).where(lt(guesses.expire, Date.now())).run();
  try {
    await limiters(db)[guessed].consume(who);
    return null;
  } catch (refused) {
    if (refused instanceof RateLimiterRes) return Math.max(1, Math.ceil(refused.msBeforeNext / 1000));
    throw refused;
  }
}

/** Forgets the guesses of whoever knew it in the end. */
export async function forgetGuesses(db: Db, guessed: Guessed, who: string): Promise<void> {
  await limiters(db)[guessed].delete(who);
}
