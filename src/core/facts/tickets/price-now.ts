import { moneyWords, type Currency } from '../../base/money';
import { inZone, shortDate } from '../../dates/date-words';
import type { Fee, PriceLevel, Tickets } from '../../record/ticket-schema';
import { toLocal, type Instant } from '../../base/zones';
import { splitFee } from './fees';
import type { LevelSeats } from './seats';
import { coverWords, isPass } from './passes';
import { saleWindow, windowState } from './windows';

/** What a member of the public pays. Amounts in minor units. */
export type PriceFacts =
  | { kind: 'unknown' }
  /** `free`, or how one registers: `free, with registration by Fri 5 Mar, 3 of 24 places left`. */
  | { kind: 'free'; words: string }
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

const free: PriceFacts = { kind: 'free', words: 'free' };

/** The performance that a price is asked for. */
export interface PriceAt {
  start: Instant | null;
  zone: string;
  /** `Adelaide time`, where the zone is not the house's. */
  zoneNote: string;
  now: Instant;
  levels: readonly LevelSeats[];
  fee: Fee | null;
  /** What the house adds to each ticket that costs something. */
  serviceFee: number | null;
  /** How many performances the event has. */
  dates: number;
  /** Seats left of this one, where it is known. */
  left: number | null;
}

/** What of the tickets a price is made from. */
export type PriceContext = Pick<Tickets, 'mode' | 'levels' | 'currency' | 'membersProof' | 'tax' | 'showLeft'>;

/** Levels at which one person may come in who is one of `who`: no bundles, no orders of two and more. */
function singles(levels: readonly PriceLevel[], ...who: PriceLevel['buyers'][]): PriceLevel[] {
  return levels.filter((level) => level.admits === 1 && level.least <= 1 && who.includes(level.buyers));
}

/** A level with its window and what can be bought of it. */
interface Offer {
  level: PriceLevel;
  state: ReturnType<typeof windowState>;
  opens: Instant | null;
  /** It is in its window, and not sold out. */
  now: boolean;
}

/**
 * The lowest price at which one member of the public can be admitted now. Reduced prices make a range up to the dearest
 * full price; several full prices make a `from`; what members pay is said behind it. Where nothing can be bought yet,
 * the price that opens first, with its moment.
 */
export function priceNow(
  { mode, levels: all, currency, membersProof, tax, showLeft }: PriceContext,
  at: PriceAt,
): PriceFacts {
  if (mode === 'free entry' || mode === 'registration') return free;
  const levels = all.filter((level) => !isPass(level, at.dates));
  const sellable = new Map(at.levels.map((level) => [level.id, level.sellable]));
  const offer = (level: PriceLevel): Offer => {
    const window = saleWindow(level, at.start, at.zone);
    const state = windowState(window, at.now);
    return { level, state, opens: window.opens, now: state === 'open' && sellable.get(level.id) !== 0 };
  };
  const open = singles(levels, 'anyone', 'concession', 'non-members').map(offer);
  const members = singles(levels, 'members').map(offer);
  const passes = all
    .filter((level) => isPass(level, at.dates) && level.admits === 1 && publicBuyers.has(level.buyers))
    .map(offer);
  const bundles = all
    .filter((level) => level.admits > 1 && !isPass(level, at.dates) && publicBuyers.has(level.buyers))
    .map(offer);
  const [offered, opens] = onOffer(open);
  const proof = membersProof.trim() === '' ? '' : ` (${membersProof.trim()})`;
  const taxed = `${serviceWords(at.serviceFee, currency)}${tax === 'included' ? ', incl. tax' : ''}`;
  const tailOf = (from: Instant | null) =>
    from === null ? leftWords(showLeft, at.left) : `, on sale ${openingWords(from, at)}`;
  if (offered.length === 0) {
    const [whole, from] = onOffer(passes);
    if (whole.length > 0 && members.length === 0)
      return passesOnly(whole, currency, at, from, `${taxed}${tailOf(from)}`);
    return membersOnly(members, currency, at, proof);
  }
  // Beside what can be had, a pass that cannot is not offered.
  const dead = offered.every((offer) => !offer.now) && opens === null;
  const both = dead ? passes : passes.filter((pass) => pass.now || pass.state === 'before');
  return priced({
    levels: offered.map((offer) => offer.level),
    currency,
    fee: at.fee,
    serviceFee: at.serviceFee,
    opens,
    beside: `${bundleWords(bundles, opens, currency)}${passWords(both, currency, at.dates)}${membersWords(members, opens, currency, proof)}`,
    each: both.length > 0,
    tail: `${taxed}${tailOf(opens)}`,
  });
}

const publicBuyers: ReadonlySet<PriceLevel['buyers']> = new Set(['anyone', 'concession', 'non-members']);

/** `, plus €1.50 service fee`: what the house adds is told with the price. */
function serviceWords(fee: number | null, currency: Currency): string {
  return fee === null ? '' : `, plus ${moneyWords(fee, currency)} service fee`;
}

/** `, 12 left`: from so few on, where the house wants that told. */
function leftWords(showLeft: number | null, left: number | null): string {
  return showLeft === null || left === null || left > showLeft || left === 0 ? '' : `, ${left} left`;
}

/** `, €60 for 4 people`: the lowest price for so many, of those that can be had when the price stands. */
function bundleWords(bundles: readonly Offer[], opens: Instant | null, currency: Currency): string {
  const lowest = new Map<number, number>();
  for (const { level, now, state, opens: own } of bundles)
    if (now || (opens !== null && state === 'before' && own === opens))
      lowest.set(level.admits, Math.min(lowest.get(level.admits) ?? Infinity, level.price));
  return [...lowest]
    .sort(([a], [b]) => a - b)
    .map(([people, price]) => `, ${moneyOrFree(price, currency)} for ${people} people`)
    .join('');
}

/** `, €40 for both`: the lowest price of each way in which a pass covers several. */
function passWords(passes: readonly Offer[], currency: Currency, dates: number): string {
  const lowest = new Map<string, number>();
  for (const { level } of passes) {
    const words = coverWords(level, dates);
    lowest.set(words, Math.min(lowest.get(words) ?? Infinity, level.price));
  }
  return [...lowest].map(([words, price]) => `, ${moneyOrFree(price, currency)} for ${words}`).join('');
}

/** Where nothing but passes is sold: a course with one sign-up. */
function passesOnly(
  passes: readonly Offer[],
  currency: Currency,
  at: PriceAt,
  opens: Instant | null,
  tail: string,
): PriceFacts {
  const prices = passes.map((pass) => pass.level.price);
  const from = Math.min(...prices);
  return {
    kind: 'priced',
    currency,
    from,
    to: Math.max(...prices),
    words: `${passWords(passes, currency, at.dates).slice(2)}${tail}`,
    withFees: splitFee(from, at.fee, at.serviceFee).buyerPays,
    opens,
  };
}

/**
 * What can be bought now; else what opens first, with its moment; else, over or sold out, all of it: a past event still
 * says what it cost.
 */
function onOffer(offers: readonly Offer[]): [Offer[], Instant | null] {
  const now = offers.filter((offer) => offer.now);
  if (now.length > 0) return [now, null];
  const later = offers.filter((offer) => offer.state === 'before' && offer.opens !== null);
  const first = Math.min(...later.map((offer) => offer.opens ?? Infinity));
  return later.length > 0 ? [later.filter((offer) => offer.opens === first), first] : [[...offers], null];
}

/** `, members €5`: where members pay something of their own, from the moment the public can buy too. */
function membersWords(members: readonly Offer[], opens: Instant | null, currency: Currency, proof: string): string {
  const there = members.filter(
    (member) => member.now || (opens !== null && member.state === 'before' && member.opens === opens),
  );
  return there.length === 0
    ? ''
    : `, members ${moneyOrFree(Math.min(...there.map((offer) => offer.level.price)), currency)}${proof}`;
}

const moneyOrFree = (minor: number, currency: Currency) => (minor === 0 ? 'free' : moneyWords(minor, currency));

/** Where nothing is sold to the public at large: what members pay, or nothing at all. */
function membersOnly(members: readonly Offer[], currency: Currency, at: PriceAt, proof: string): PriceFacts {
  const [offered, opens] = onOffer(members);
  if (offered.length === 0) return { kind: 'unknown' };
  const prices = offered.map((offer) => offer.level.price);
  const [from, to] = [Math.min(...prices), Math.max(...prices)];
  const tail = opens === null ? '' : `, on sale ${openingWords(opens, at)}`;
  return {
    kind: 'priced',
    currency,
    from,
    to,
    words: `members only, ${from < to ? 'from ' : ''}${moneyOrFree(from, currency)}${proof}${to > 0 ? serviceWords(at.serviceFee, currency) : ''}${tail}`,
    withFees: splitFee(from, at.fee, at.serviceFee).buyerPays,
    opens,
  };
}

interface Priced {
  levels: readonly PriceLevel[];
  currency: Currency;
  fee: Fee | null;
  serviceFee: number | null;
  opens: Instant | null;
  /** What passes and members pay, said behind it. */
  beside: string;
  /** The price is that of each of several performances. */
  each: boolean;
  tail: string;
}

function priced({ levels, currency, fee, serviceFee, opens, beside, each, tail }: Priced): PriceFacts {
  const prices = levels.map((level) => level.price);
  const full = levels.filter((level) => level.buyers !== 'concession').map((level) => level.price);
  const from = Math.min(...prices);
  const to = Math.max(...(full.length > 0 ? full : prices));
  const choose = levels.find((level) => level.choose);
  if (Math.max(...prices) === 0 && !choose && beside === '') return free;
  const words =
    choose && choose.price === from
      ? from === 0
        ? 'pay what you like'
        : `pay what you like, from ${moneyWords(from, currency)}`
      : priceWords(from, full.length > 0 ? Math.min(...full) : from, Math.max(to, from), currency);
  return {
    kind: 'priced',
    currency,
    from,
    to: Math.max(to, from),
    words: `${words}${each ? ' each' : ''}${beside}${tail}`,
    withFees: splitFee(from, fee, serviceFee).buyerPays,
    opens,
  };
}

/**
 * Reduced prices make a range up to the dearest full price (`€16–€22`); several full prices make a `from`; one price
 * stands alone.
 */
function priceWords(from: number, lowestFull: number, to: number, currency: Currency): string {
  if (from === 0) return to > 0 ? `free to ${moneyWords(to, currency)}` : 'free';
  if (from < lowestFull) return `${moneyWords(from, currency)}–${moneyWords(to, currency)}`;
  return from < to ? `from ${moneyWords(from, currency)}` : moneyWords(from, currency);
}

/** `Fri 10:00` within six days, else with the date. */
function openingWords(opens: Instant, { zone, zoneNote, now }: PriceAt): string {
  const { date, time } = toLocal(opens, zone);
  const words = shortDate(date);
  return inZone(`${opens - now < 6 * 86_400_000 ? words.slice(0, 3) : words} ${time}`, { zoneNote });
}

/** Whether tickets can be had, for one performance. */
export type Availability = 'not yet on sale' | 'on sale' | 'low' | 'sold out' | 'off sale' | 'cancelled';

/** Availability follows from the windows, the seats and the marks; at most a tenth of the pool left is low. */
export function availability(
  levels: readonly PriceLevel[],
  at: PriceAt,
  marks: { cancelled: boolean; soldOut: boolean; left: number | null; pool: number | null },
): Availability {
  if (marks.cancelled) return 'cancelled';
  if (marks.soldOut || marks.left === 0) return 'sold out';
  const states = levels.map((level) => windowState(saleWindow(level, at.start, at.zone), at.now));
  if (states.length > 0 && states.every((state) => state === 'after')) return 'off sale';
  if (states.length > 0 && !states.includes('open')) return 'not yet on sale';
  return marks.left !== null && marks.pool !== null && marks.left <= marks.pool / 10 ? 'low' : 'on sale';
}
