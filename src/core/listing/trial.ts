import { momentWords, zonePlace } from '../dates/date-words';
import type { Facts } from '../facts/facts';
import { nextOf } from '../facts/performance-facts';
import { splitFee } from '../facts/tickets/fees';
import { moneyWords, type Currency } from '../base/money';
import { sameZone, type Instant } from '../base/zones';

/**
 * What is tried: one ticket of the first level that the public may buy, for the next performance; and what it must come
 * to.
 */
export interface TrialWish {
  performance: string;
  level: string;
  pays: number;
  currency: Currency;
  starts: Instant;
  zone: string;
  /** What it must come to, in words; as long as it reads the same, what was tried still holds. */
  words: string;
}

/** The line of the sheet under which a trial is kept. */
export function trialLine(channel: string): string {
  return `try ${channel}`.slice(0, 20);
}

/** What a trial purchase on a channel must come to by the facts. `null`: there is nothing to be bought. */
export function trialWish(facts: Facts, channel: string): TrialWish | null {
  const performance = nextOf(facts.performances, facts.now);
  const level = facts.levels.find((level) => !level.hidden && level.covers === null) ?? facts.levels[0];
  if (!performance || performance.start === null || !level) return null;
  const fee = facts.outlets.find((outlet) => outlet.channel === channel)?.fee ?? null;
  const { buyerPays } = splitFee(level.minor, fee, facts.serviceFee?.minor ?? null);
  const words = `${level.name} ${moneyWords(buyerPays, level.currency)}, ${momentWords(performance.start, performance.zone)} ${zonePlace(performance.zone)}`;
  return {
    performance: performance.id,
    level: level.id,
    pays: buyerPays,
    currency: level.currency,
    starts: performance.start,
    zone: performance.zone,
    words,
  };
}

/** What a purchase came to that was made to try it: what the buyer paid, when it begins, and what they were written. */
interface Tried {
  pays: { minor: number; currency: Currency };
  starts: Instant;
  zone: string;
  letter: string;
}

/** One thing that a trial was held against. */
export interface TrialCheck {
  what: string;
  should: string;
  is: string;
  right: boolean;
}

/** So much of a title a letter is to name, in characters: a place may cut the rest. */
const namedTitle = 50;

/** What a trial came to, held against what it must come to: the price with its currency, the moment in its zone, the name. */
export function trialChecks(wish: TrialWish, title: string, { pays, starts, zone, letter }: Tried): TrialCheck[] {
  return [
    {
      what: 'the buyer pays',
      should: moneyWords(wish.pays, wish.currency),
      is: moneyWords(pays.minor, pays.currency),
      right: pays.minor === wish.pays && pays.currency === wish.currency,
    },
    {
      what: 'it starts',
      should: `${momentWords(wish.starts, wish.zone)} ${zonePlace(wish.zone)}`,
      is: `${momentWords(starts, zone)} ${zonePlace(zone)}`,
      right: starts === wish.starts && sameZone(zone, wish.zone),
    },
    { what: 'the letter names it', should: title, is: letter, right: letter.includes(title.slice(0, namedTitle)) },
  ];
}
