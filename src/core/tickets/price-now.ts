import { moneyWords, type Currency } from '../money';
import { shortDate } from '../date-words';
import type { Fee, PriceLevel, Tickets } from '../ticket-schema';
import { toLocal, type Instant } from '../zones';
import { splitFee } from './fees';
import type { LevelSeats } from './seats';
import { saleWindow, windowState } from './windows';

/** What a member of the public pays. Amounts in minor units. */
export type PriceFacts =
  | { kind: 'unknown' }
  | { kind: 'free' }
  | {
      kind: 'priced';
      currency: Currency;
      from: number;
      to: number;
      /** `from €18`, `€16–€22`, `€22, on sale Fri 10:00`. */
      words: string;
      /** The same lowest price with the fee of the first outlet. */
      withFees: number;
      /** When it can first be bought, where it cannot yet. */
      opens: Instant | null;
    };

/** The performance that a price is asked for. */
export interface PriceAt {
  start: Instant | null;
  zone: string;
  now: Instant;
  levels: readonly LevelSeats[];
  fee: Fee | null;
}

/** Levels at which any one member of the public may come in: no bundles, no orders of two and more, no members' or code prices. */
function open(levels: readonly PriceLevel[]): PriceLevel[] {
  return levels.filter((level) => level.admits === 1 && level.least <= 1 && (level.buyers === 'anyone' || level.buyers === 'concession'));
}

/**
 * The lowest price at which one member of the public can be admitted now. Concessions make a range; several full prices
 * make a `from`. Where nothing can be bought yet, the price that opens first, with its moment.
 */
export function priceNow({ mode, levels, currency }: Pick<Tickets, 'mode' | 'levels' | 'currency'>, at: PriceAt): PriceFacts {
  if (mode === 'free entry' || mode === 'registration') return { kind: 'free' };
  if (levels.length === 0) return { kind: 'unknown' };
  const sellable = new Map(at.levels.map((one) => [one.id, one.sellable]));
  const candidates = open(levels).map((level) => ({ level, window: saleWindow(level, at.start, at.zone) }));
  const state = (one: (typeof candidates)[number]) => windowState(one.window, at.now);
  const now = candidates.filter((one) => state(one) === 'open' && sellable.get(one.level.id) !== 0);
  if (now.length > 0) return priced(now.map((one) => one.level), currency, at.fee, null, '');
  const later = candidates.filter((one) => state(one) === 'before' && one.window.opens !== null);
  const first = Math.min(...later.map((one) => one.window.opens ?? Infinity));
  if (later.length > 0) {
    const soonest = later.filter((one) => one.window.opens === first).map((one) => one.level);
    return priced(soonest, currency, at.fee, first, `, on sale ${openingWords(first, at.zone, at.now)}`);
  }
  // Over or sold out: the last word on the price stays, so that a past event still says what it cost.
  const last = candidates.map((one) => one.level);
  return priced(last.length > 0 ? last : [...levels], currency, at.fee, null, '');
}

function priced(levels: readonly PriceLevel[], currency: Currency, fee: Fee | null, opens: Instant | null, tail: string): PriceFacts {
  const prices = levels.map((level) => level.price);
  const full = levels.filter((level) => level.buyers !== 'concession').map((level) => level.price);
  const [from, to] = [Math.min(...prices), Math.max(...prices)];
  const choose = levels.find((level) => level.choose);
  if (to === 0 && !choose) return { kind: 'free' };
  const lowestFull = full.length > 0 ? Math.min(...full) : from;
  const words = choose && choose.price === from
    ? from === 0 ? 'pay what you like' : `pay what you like, from ${moneyWords(from, currency)}`
    : priceWords(from, lowestFull, to, currency);
  return { kind: 'priced', currency, from, to, words: `${words}${tail}`, withFees: splitFee(from, fee).buyerPays, opens };
}

/** Concessions make a range (`€16–€22`); several full prices make a `from`; one price stands alone. */
function priceWords(from: number, lowestFull: number, to: number, currency: Currency): string {
  if (from > 0 && from < lowestFull) return `${moneyWords(from, currency)}–${moneyWords(lowestFull, currency)}`;
  if (from === 0 && to > 0) return `free to ${moneyWords(to, currency)}`;
  return from < to ? `from ${moneyWords(from, currency)}` : moneyWords(from, currency);
}

/** `Fri 10:00` within six days, else with the date. */
function openingWords(at: Instant, zone: string, now: Instant): string {
  const { date, time } = toLocal(at, zone);
  const words = shortDate(date);
  return `${at - now < 6 * 86_400_000 ? words.slice(0, 3) : words} ${time}`;
}

/** Whether tickets can be had, for one performance. */
export type Availability = 'not yet on sale' | 'on sale' | 'low' | 'sold out' | 'off sale' | 'cancelled';

/** Availability follows from the windows, the seats and the marks; at most a tenth of the pool left is low. */
export function availability(levels: readonly PriceLevel[], at: PriceAt, marks: { cancelled: boolean; soldOut: boolean; left: number | null; pool: number | null }): Availability {
  if (marks.cancelled) return 'cancelled';
  if (marks.soldOut || marks.left === 0) return 'sold out';
  const states = levels.map((level) => windowState(saleWindow(level, at.start, at.zone), at.now));
  if (states.length > 0 && states.every((one) => one === 'after')) return 'off sale';
  if (states.length > 0 && !states.includes('open')) return 'not yet on sale';
  return marks.left !== null && marks.pool !== null && marks.left <= marks.pool / 10 ? 'low' : 'on sale';
}
