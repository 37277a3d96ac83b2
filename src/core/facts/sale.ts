import { shortDate } from '../dates/date-words';
import { roomFor, type Venue } from '../record/directory';
import { moneyWords, type Currency } from '../base/money';
import type { PerformanceFacts } from './performance-facts';
import type { Performance, RecordContent } from '../record/record';
import type { Coupon, Extra, Fee, Outlet, PriceLevel, Question, Tickets } from '../record/ticket-schema';
import { buyByCode, type Buyers } from '../record/choices';
import { availability, priceNow, type Availability, type PriceFacts } from './tickets/price-now';
import { houseOf, levelOffer, type House, type PassRoom } from './tickets/seats';
import { type Sold } from './tickets/sold';
import { coverWords, isPass, namedDates, passesSold, soldAt, takesFrom } from './tickets/passes';
import { placesOf, registrationCount, registrationWords, type Places } from './tickets/registering';
import { saleWindow, windowMoment } from './tickets/windows';
import { addDays, instantOf, type Instant } from '../base/zones';

export interface LevelFacts {
  id: string;
  name: string;
  minor: number;
  currency: Currency;
  /** Purchases that are offered at most: see `levelOffer`. */
  quantity: number | null;
  /** People that one purchase lets in. */
  admits: number;
  /** Not offered to the public at large: it opens by its code. */
  hidden: boolean;
  buyers: Buyers;
  /** The code that opens a hidden level; empty where it is none, or has none. */
  code: string;
  /** One pays what one likes, from the price on. */
  choose: boolean;
  /** Zone of the sale's moments. */
  zone: string;
  opens: Instant | null;
  closes: Instant | null;
  most: number | null;
  least: number;
  /** What it is, in public words. */
  words: string;
  /** The tax in its price, in hundredths of a per cent; `null`: not said. */
  taxBasisPoints: number | null;
  /** Where one purchase lets in to several performances: to which, or to how many of them. */
  covers: LevelCovers | null;
}

/** What one purchase lets in to: the performances named, or any so many of them; and in words. */
export interface LevelCovers {
  refs: readonly string[];
  any: number | null;
  words: string;
}

/** Something sold with a ticket. */
export interface ExtraFacts extends Extra {
  currency: Currency;
}

/** A coupon, with its days as moments. */
export interface CouponFacts extends Omit<Coupon, 'from' | 'until'> {
  currency: Currency;
  zone: string;
  /** What it takes off, in words: `20 %`, `€5.00 off each`. */
  words: string;
  from: Instant | null;
  until: Instant | null;
}

/**
 * Seats as people said them: the total, all price levels together, and each part with the levels that draw on it.
 * `null`: as many as there are.
 */
interface SeatsSaid {
  total: number | null;
  levels: number | null;
  parts: readonly { name: string; seats: number; sum: number | null }[];
}

/** Adds up what was said of seats. */
function seatsSaid({ total, levels, pools }: Tickets): SeatsSaid {
  const sum = (own: Tickets['levels']) =>
    own.some((level) => level.quantity === null)
      ? null
      : own.reduce((all, level) => all + (level.quantity ?? 0) * level.admits, 0);
  return {
    total,
    levels: sum(levels),
    parts: pools.map(({ id, name, seats }) => ({
      name,
      seats,
      sum: sum(levels.filter((level) => level.poolId === id)),
    })),
  };
}

/** What tickets, seats and prices say, made canonical. */
export interface SaleFacts {
  /** What the public pays now, for the first performance that still has something to sell. */
  price: PriceFacts;
  availability: Availability;
  /** The sums of the next performance. */
  house: House;
  /** Other performances to come of which more is given out or sold than there is. */
  strained: { id: string; date: string; house: House }[];
  levels: LevelFacts[];
  /** Places that one registers for, of the next performance. */
  places: Places | null;
  /** Seats that may be sold of each performance in all, over all levels, by performance id; where the room tells. */
  caps: Readonly<Record<string, number>>;
  /** What was said of seats beside the room: see `seatsSaid`. */
  seats: SeatsSaid;
  extras: readonly ExtraFacts[];
  coupons: readonly CouponFacts[];
  questions: readonly Question[];
  /** Most tickets in one order over all levels. */
  mostPerOrder: number | null;
  /** What the house adds to each ticket that costs something; `null`: nothing. */
  serviceFee: { minor: number; currency: Currency } | null;
  /** Whether prices hold a tax, as far as that is said. */
  tax: Tickets['tax'];
  /** From so few seats on, the public reads how many are left; `null`: never. */
  showLeft: number | null;
  /** What the seller's letter says in our words to who bought one, and several. */
  letter: Tickets['letter'];
  /** The last of its price levels' windows shuts at this moment of the next performance; `null`: at its start. */
  bookingCloses: Instant | null;
}

interface SaleContext {
  venues: ReadonlyMap<string, Venue>;
  now: Instant;
  /** Purchases so far, by performance id and level id. */
  sold?: ReadonlyMap<string, Sold>;
}

const noSales: Sold = new Map();

/** The sums of one performance's house: of its own room and set-up, with what was sold of it. */
export function houseFor(
  content: Pick<RecordContent, 'tickets' | 'performances'>,
  place: HousePlace | undefined,
  { venues, sold }: Pick<SaleContext, 'venues' | 'sold'>,
): House {
  const { tickets, performances } = content;
  const passes = passRoom(content, { venues, sold });
  return plainHouse(
    tickets,
    place,
    venues,
    (place && soldAt(tickets.levels, performances.length, place.id, sold)) ?? noSales,
    passes,
  );
}

type HousePlace = Pick<Performance, 'id' | 'venueId' | 'roomId' | 'setUpId'>;

function plainHouse(
  tickets: Tickets,
  place: HousePlace | undefined,
  venues: ReadonlyMap<string, Venue>,
  gone: Sold,
  passes?: PassRoom,
): House {
  const room = place && place.venueId !== null ? roomFor(venues.get(place.venueId), place.roomId, place.setUpId) : null;
  return houseOf(tickets, room?.capacity ?? null, room?.holds ?? [], gone, firstFee(tickets.outlets), passes);
}

const passRooms = new WeakMap<object, { sold: unknown; venues: unknown; room: PassRoom }>();

/** What is left for passes on the fullest performance that each covers; reckoned once for a content and its sales. */
function passRoom(
  { tickets, performances }: Pick<RecordContent, 'tickets' | 'performances'>,
  { venues, sold }: Pick<SaleContext, 'venues' | 'sold'>,
): PassRoom | undefined {
  const dates = performances.length;
  const passes = tickets.levels.filter((level) => isPass(level, dates));
  if (passes.length === 0) return undefined;
  const kept = passRooms.get(performances);
  if (kept && kept.sold === sold && kept.venues === venues && passRoomFor.get(kept.room) === tickets) return kept.room;
  const left = new Map<string, number>();
  for (const pass of passes) {
    const lefts = performances
      .filter((performance) => pass.covers.kind === 'any' || takesFrom(pass.covers, performance.id))
      .map((performance) => {
        if (isShut(performance)) return 0;
        const gone = soldAt(tickets.levels, dates, performance.id, sold) ?? noSales;
        return plainHouse(tickets, performance, venues, gone).left ?? Infinity;
      })
      .sort((a, b) => b - a);
    // Of any so many, there must be so many with a seat: the n-th emptiest is what counts.
    const at = pass.covers.kind === 'any' ? Math.min(pass.covers.n, lefts.length) - 1 : lefts.length - 1;
    const room = lefts[at] ?? 0;
    if (room !== Infinity) left.set(pass.id, room);
  }
  const room: PassRoom = { dates, left };
  passRooms.set(performances, { sold, venues, room });
  passRoomFor.set(room, tickets);
  return room;
}

const passRoomFor = new WeakMap<PassRoom, Tickets>();

/** Nobody gets in to it any more: it is marked as sold out, or was cancelled. */
function isShut({ soldOut, turn }: Pick<Performance, 'soldOut' | 'turn'>): boolean {
  return soldOut || turn === 'cancelled';
}

/**
 * Price, availability, sums and levels. Sums are those of the next performance; the price is that of the first that can
 * still be had.
 */
export function sale(
  content: RecordContent,
  performances: readonly PerformanceFacts[],
  next: PerformanceFacts | undefined,
  context: SaleContext,
): SaleFacts {
  const tickets = withClosing(content.tickets);
  const { now } = context;
  const dates = content.performances.length;
  const raw = new Map(content.performances.map((performance) => [performance.id, performance]));
  const houseAt = (performance: PerformanceFacts | undefined) =>
    houseFor(content, performance && raw.get(performance.id), context);
  const house = houseAt(next);
  const open =
    performances.find(
      (performance) =>
        performance.over >= now &&
        !performance.soldOut &&
        performance.turn !== 'cancelled' &&
        performance.turn !== 'postponed' &&
        (performance.id === next?.id ? house : houseAt(performance)).left !== 0,
    ) ?? next;
  const openHouse = open?.id === next?.id ? house : houseAt(open);
  const fee = firstFee(tickets.outlets);
  const moment = (performance: PerformanceFacts | undefined, { levels, left }: House) => ({
    start: performance?.start ?? null,
    zone: performance?.zone ?? 'UTC',
    zoneNote: performance?.zoneNote ?? '',
    now,
    levels,
    fee,
    serviceFee: tickets.serviceFee,
    dates,
    left,
  });
  const at = moment(next, house);
  const atOpen = moment(open, openHouse);
  const registered = (performance: PerformanceFacts | undefined) =>
    tickets.registration.onceForAll && context.sold
      ? passesSold(registrationCount, context.sold)
      : ((performance && context.sold?.get(performance.id)?.get(registrationCount)) ?? 0);
  const places = tickets.mode === 'registration' ? placesOf(tickets.registration, registered(open)) : null;
  const price = priceNow(tickets, atOpen);
  return {
    house,
    places,
    caps: tickets.mode === 'ticketed' ? capsOf(content, performances, context) : {},
    strained:
      tickets.mode === 'ticketed'
        ? strained(
            performances.filter((performance) => performance.over >= now && performance.id !== next?.id),
            raw,
            content,
            context,
          )
        : [],
    price:
      tickets.mode === 'registration'
        ? { kind: 'free', words: registrationWords(tickets.registration, places, { zone: atOpen.zone, now, dates }) }
        : price,
    availability: availability(tickets.levels, atOpen, {
      cancelled: open?.turn === 'cancelled',
      soldOut: open?.soldOut ?? false,
      left: tickets.mode === 'registration' ? (places?.left ?? null) : openHouse.left,
      pool: tickets.mode === 'registration' ? (places?.limit ?? null) : openHouse.pool,
    }),
    ...sold(tickets, performances, at, house.pool),
    seats: seatsSaid(tickets),
    questions: tickets.mode === 'ticketed' || tickets.mode === 'registration' ? tickets.questions : [],
    bookingCloses: tickets.closes === null ? null : windowMoment(tickets.closes, at.start, at.zone),
  };
}

const nothingSold: ReturnType<typeof sold> = {
  levels: [],
  extras: [],
  coupons: [],
  mostPerOrder: null,
  serviceFee: null,
  tax: 'unsaid',
  showLeft: null,
  letter: { words: '', several: '' },
};

/** What is sold where tickets are: levels, extras and coupons as they stand at the next performance. */
function sold(
  tickets: Tickets,
  performances: readonly PerformanceFacts[],
  at: { start: Instant | null; zone: string; dates: number },
  pool: number | null,
): Pick<SaleFacts, 'levels' | 'extras' | 'coupons' | 'mostPerOrder' | 'serviceFee' | 'tax' | 'showLeft' | 'letter'> {
  if (tickets.mode !== 'ticketed') return nothingSold;
  const { currency, serviceFee } = tickets;
  return {
    levels: tickets.levels.map((level): LevelFacts => {
      const { opens, closes } = saleWindow(level, at.start, at.zone);
      return {
        id: level.id,
        name: level.name,
        minor: level.price,
        currency,
        most: level.most,
        buyers: level.buyers,
        quantity: levelOffer(level, tickets, pool),
        admits: level.admits,
        code: buyByCode.has(level.buyers) ? level.code : '',
        choose: level.choose,
        zone: at.zone,
        hidden: buyByCode.has(level.buyers),
        opens,
        closes: level.closes === null ? null : closes,
        least: level.least,
        words: level.words.trim(),
        taxBasisPoints: level.taxBasisPoints,
        covers: isPass(level, at.dates) ? coversOf(level, performances, at.dates) : null,
      };
    }),
    extras: tickets.extras.map((extra) => ({ ...extra, currency })),
    coupons: tickets.coupons.map((coupon) => couponFacts(coupon, tickets, at.zone)),
    mostPerOrder: tickets.mostPerOrder,
    serviceFee: serviceFee === null ? null : { minor: serviceFee, currency },
    tax: tickets.tax,
    showLeft: tickets.showLeft,
    letter: { words: tickets.letter.words.trim(), several: tickets.letter.several.trim() },
  };
}

/** Tickets whose levels close when the event's booking does, where they do not say otherwise. */
function withClosing(tickets: Tickets): Tickets {
  const { closes } = tickets;
  if (closes === null) return tickets;
  return { ...tickets, levels: tickets.levels.map((level) => (level.closes === null ? { ...level, closes } : level)) };
}

function coversOf(level: PriceLevel, performances: readonly PerformanceFacts[], dates: number): LevelCovers {
  const { covers } = level;
  const named = performances.filter((performance) => covers.kind === 'any' || takesFrom(covers, performance.id));
  const words = coverWords(level, dates);
  return {
    refs: named.map((performance) => performance.id),
    any: covers.kind === 'any' ? covers.n : null,
    words: covers.kind === 'chosen' ? namedDates(named.map((performance) => shortDate(performance.date))) : words,
  };
}

function couponFacts(coupon: Coupon, { currency }: Tickets, zone: string): CouponFacts {
  const from = coupon.from === null ? null : dayStart(coupon.from, zone);
  const until = coupon.until === null ? null : dayStart(addDays(coupon.until, 1), zone);
  const words =
    coupon.off.kind === 'percent' ? `${coupon.off.percent} % off` : `${moneyWords(coupon.off.minor, currency)} off`;
  return { ...coupon, currency, zone, words, from, until };
}

function dayStart(date: string, zone: string): Instant | null {
  return instantOf({ date, time: '00:00' }, zone) ?? instantOf({ date, time: '01:00' }, zone);
}

/**
 * What may be sold of each performance in all: its room and set-up less what is held back. Reckoned once for each room
 * and set-up.
 */
function capsOf(
  content: RecordContent,
  performances: readonly PerformanceFacts[],
  context: SaleContext,
): Record<string, number> {
  const raw = new Map(content.performances.map((performance) => [performance.id, performance]));
  const rooms = new Map<string, number | null>();
  const caps: Record<string, number> = {};
  for (const { id } of performances) {
    const performance = raw.get(id);
    const room = `${performance?.venueId} ${performance?.roomId} ${performance?.setUpId}`;
    let pool = rooms.get(room);
    if (pool === undefined) rooms.set(room, (pool = houseFor(content, performance, { venues: context.venues }).pool));
    if (pool !== null) caps[id] = pool;
  }
  return caps;
}

/**
 * Performances beyond the next whose seats do not suffice. One of which nothing is sold is reckoned once for each room
 * and set-up.
 */
function strained(
  performances: readonly PerformanceFacts[],
  raw: ReadonlyMap<string, Performance>,
  content: RecordContent,
  context: SaleContext,
): SaleFacts['strained'] {
  const rooms = new Map<string, House>();
  return performances.flatMap(({ id, date }) => {
    const performance = raw.get(id);
    const untouched = (context.sold?.get(id) ?? noSales).size === 0;
    const room = `${performance?.venueId} ${performance?.roomId} ${performance?.setUpId}`;
    const house = (untouched && rooms.get(room)) || houseFor(content, performance, context);
    if (untouched) rooms.set(room, house);
    return house.over > 0 || house.oversold > 0 ? [{ id, date, house }] : [];
  });
}

/** The fee that the public meets first: that of the outlet of the highest priority. */
export function firstFee(outlets: readonly Outlet[]): Fee | null {
  return outlets.find((outlet) => outlet.fee !== null)?.fee ?? null;
}
