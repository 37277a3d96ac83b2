import { momentWords, zonePlace } from '../dates/date-words';
import type { Facts } from '../facts/facts';
import { nextOf } from '../facts/performance-facts';
import { splitFee } from '../facts/tickets/fees';
import { moneyWords } from '../base/money';
import type { Instant } from '../base/zones';

/**
 * What is tried: one ticket of the first level that the public may buy, for the next performance; and what it must come
 * to.
 */
export interface TrialWish {
  performance: string;
  level: string;
  pays: number;
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
    starts: performance.start,
    zone: performance.zone,
    words,
  };
}
