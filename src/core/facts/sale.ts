import { roomFor, type Venue } from '../record/directory';
import type { Currency } from '../base/money';
import type { PerformanceFacts } from './performance-facts';
import type { Performance, RecordContent } from '../record/record';
import type { Buyers, Fee, Outlet } from '../record/ticket-schema';
import { availability, priceNow, type Availability, type PriceFacts } from './tickets/price-now';
import { houseOf, type House, type Sold } from './tickets/seats';
import { placesOf, registrationCount, registrationWords, type Places } from './tickets/registering';
import { saleWindow } from './tickets/windows';
import type { Instant } from '../base/zones';

export interface LevelFacts {
  id: string;
  name: string;
  minor: number;
  currency: Currency;
  quantity: number | null;
  hidden: boolean;
  buyers: Buyers;
  /** The code that opens a hidden level. */
  code: string;
  /** Zone of the sale's moments. */
  zone: string;
  opens: Instant | null;
  closes: Instant | null;
  most: number | null;
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
  { tickets }: Pick<RecordContent, 'tickets'>,
  one: Pick<Performance, 'id' | 'venueId' | 'roomId' | 'setUpId'> | undefined,
  { venues, sold }: Pick<SaleContext, 'venues' | 'sold'>,
): House {
  const room = one && one.venueId !== null ? roomFor(venues.get(one.venueId), one.roomId, one.setUpId) : null;
  return houseOf(
    tickets,
    room?.capacity ?? null,
    room?.holds ?? [],
    (one && sold?.get(one.id)) ?? noSales,
    firstFee(tickets.outlets),
  );
}

/** Price, availability, sums and levels. Sums are those of the next performance; the price is that of the first that can still be had. */
export function sale(
  content: RecordContent,
  performances: readonly PerformanceFacts[],
  next: PerformanceFacts | undefined,
  context: SaleContext,
): SaleFacts {
  const { tickets } = content;
  const { now } = context;
  const raw = new Map(content.performances.map((one) => [one.id, one]));
  const houseAt = (one: PerformanceFacts | undefined) => houseFor(content, one && raw.get(one.id), context);
  const house = houseAt(next);
  const open =
    performances.find(
      (one) =>
        one.over >= now &&
        !one.soldOut &&
        one.turn !== 'cancelled' &&
        one.turn !== 'postponed' &&
        (one.id === next?.id ? house : houseAt(one)).left !== 0,
    ) ?? next;
  const openHouse = open?.id === next?.id ? house : houseAt(open);
  const fee = firstFee(tickets.outlets);
  const moment = (one: PerformanceFacts | undefined, levels: House['levels']) => ({
    start: one?.start ?? null,
    zone: one?.zone ?? 'UTC',
    now,
    levels,
    fee,
  });
  const at = moment(next, house.levels);
  const atOpen = moment(open, openHouse.levels);
  const registered = (one: PerformanceFacts | undefined) =>
    (one && context.sold?.get(one.id)?.get(registrationCount)) ?? 0;
  const places = tickets.mode === 'registration' ? placesOf(tickets.registration, registered(open)) : null;
  const price = priceNow(tickets, atOpen);
  return {
    house,
    places,
    caps: tickets.mode === 'ticketed' ? capsOf(content, performances, context) : {},
    strained:
      tickets.mode === 'ticketed'
        ? strained(
            performances.filter((one) => one.over >= now && one.id !== next?.id),
            raw,
            content,
            context,
          )
        : [],
    price:
      tickets.mode === 'registration'
        ? { kind: 'free', words: registrationWords(tickets.registration, places, { zone: atOpen.zone, now }) }
        : price,
    availability: availability(tickets.levels, atOpen, {
      cancelled: open?.turn === 'cancelled',
      soldOut: open?.soldOut ?? false,
      left: tickets.mode === 'registration' ? (places?.left ?? null) : openHouse.left,
      pool: tickets.mode === 'registration' ? (places?.limit ?? null) : openHouse.pool,
    }),
    levels:
      tickets.mode !== 'ticketed'
        ? []
        : tickets.levels.map((level): LevelFacts => {
            const { opens, closes } = saleWindow(level, at.start, at.zone);
            return {
              id: level.id,
              name: level.name,
              minor: level.price,
              currency: tickets.currency,
              most: level.most,
              buyers: level.buyers,
              quantity: level.quantity ?? house.pool,
              code: level.buyers === 'code' ? level.code : '',
              zone: at.zone,
              hidden: level.buyers === 'code' || level.buyers === 'members' || level.buyers === 'invited',
              opens,
              closes: level.closes === null ? null : closes,
            };
          }),
  };
}

/** What may be sold of each performance in all: its room and set-up less what is held back. Reckoned once for each room and set-up. */
function capsOf(
  content: RecordContent,
  performances: readonly PerformanceFacts[],
  context: SaleContext,
): Record<string, number> {
  const raw = new Map(content.performances.map((one) => [one.id, one]));
  const rooms = new Map<string, number | null>();
  const caps: Record<string, number> = {};
  for (const { id } of performances) {
    const one = raw.get(id);
    const room = `${one?.venueId} ${one?.roomId} ${one?.setUpId}`;
    let pool = rooms.get(room);
    if (pool === undefined) rooms.set(room, (pool = houseFor(content, one, { venues: context.venues }).pool));
    if (pool !== null) caps[id] = pool;
  }
  return caps;
}

/** Performances beyond the next whose seats do not suffice. One of which nothing is sold is reckoned once for each room and set-up. */
function strained(
  performances: readonly PerformanceFacts[],
  raw: ReadonlyMap<string, Performance>,
  content: RecordContent,
  context: SaleContext,
): SaleFacts['strained'] {
  const rooms = new Map<string, House>();
  return performances.flatMap(({ id, date }) => {
    const one = raw.get(id);
    const untouched = (context.sold?.get(id) ?? noSales).size === 0;
    const room = `${one?.venueId} ${one?.roomId} ${one?.setUpId}`;
    const house = (untouched && rooms.get(room)) || houseFor(content, one, context);
    if (untouched) rooms.set(room, house);
    return house.over > 0 || house.oversold > 0 ? [{ id, date, house }] : [];
  });
}

/** The fee that the public meets first: that of the outlet of the highest priority. */
export function firstFee(outlets: readonly Outlet[]): Fee | null {
  return outlets.find((one) => one.fee !== null)?.fee ?? null;
}
