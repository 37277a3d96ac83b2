import type { Hold } from '../../record/directory';
import type { Fee, PriceLevel, Tickets } from '../../record/ticket-schema';
import { splitFee } from './fees';
import { coverCount } from './passes';
import type { Sold } from './sold';

export interface LevelSeats {
  id: string;
  sold: number;
  /** Purchases still possible; `null`: no limit is known. */
  sellable: number | null;
}

/** The sums of one performance's house, in seats and minor units. `null` where the capacity is not known. */
export interface House {
  capacity: number | null;
  held: number;
  /** What may be sold at all: capacity less holds. */
  pool: number | null;
  sold: number;
  left: number | null;
  levels: LevelSeats[];
  /**
   * More seats are promised over all levels than the room holds: the total of the event against its room; 0 where it
   * fits.
   */
  totalOver: number;
  /** Seats given to outlets, and by how many that is more than the pool. */
  allocated: number;
  over: number;
  /** Sold beyond what the house holds. */
  oversold: number;
  /** Taken when every seat is sold, at most. */
  grossWhenFull: number | null;
  netWhenFull: number | null;
}

/** The sums of several performances that a pass draws on, as one of them needs them. */
export interface PassRoom {
  /** So many performances there are. */
  dates: number;
  /** Seats that are left for a pass on the fullest of the performances it covers, by level id. */
  left: ReadonlyMap<string, number>;
}

/** Under this name an outlet's sales are counted that does not say of which level they were. */
export const unsaidLevel = '';

/**
 * How many purchases of a level are offered at most for one performance, in whole purchases: the least of its own limit
 * and of what its part and the room hold, where each takes as many seats as it admits. `pool`: seats that may be sold
 * at all;
 * `null`: not known.
 * `null`: there is no limit. The one place where this is reckoned: what is left of it follows from it, and what goes
 * out is it.
 */
export function levelOffer(
  { quantity, poolId, admits }: Tickets['levels'][number],
  { pools }: Pick<Tickets, 'pools'>,
  pool: number | null,
): number | null {
  const part = pools.find((pool) => pool.id === poolId)?.seats ?? Infinity;
  const seats = Math.min(part, pool ?? Infinity);
  const offer = Math.min(quantity ?? Infinity, Math.floor(seats / admits));
  return offer === Infinity ? null : offer;
}

const single: PassRoom = { dates: 1, left: new Map() };

/**
 * The sums of a house. Sellable purchases of a level are the least of its own limit less what was sold of it and what
 * is left of its pools, in whole purchases (a bundle takes as many seats as it admits).
 */
export function houseOf(
  tickets: Tickets,
  capacity: number | null,
  setUpHolds: readonly Hold[],
  sold: Sold,
  fee: Fee | null,
  passes: PassRoom = single,
): House {
  const held = (tickets.holds ?? setUpHolds).reduce((sum, hold) => sum + hold.seats, 0);
  const room = capacity === null ? null : Math.max(0, capacity - held);
  const pool = tickets.total === null ? room : Math.min(room ?? Infinity, tickets.total);
  const seatsSold = (levels: Tickets['levels']) =>
    levels.reduce((sum, level) => sum + (sold.get(level.id) ?? 0) * level.admits, 0);
  // An outlet may not say at which price it sold: each takes a seat all the same.
  const unsaid = sold.get(unsaidLevel) ?? 0;
  const total = seatsSold(tickets.levels) + unsaid;
  const leftOf = (seats: number | null, levels: Tickets['levels']) =>
    seats === null ? null : Math.max(0, seats - seatsSold(levels));
  const left = pool === null ? null : Math.max(0, pool - total);
  const poolLeft = new Map(
    tickets.pools.map((pool) => [
      pool.id,
      leftOf(
        pool.seats,
        tickets.levels.filter((level) => level.poolId === pool.id),
      ) ?? 0,
    ]),
  );
  const levels = tickets.levels.map((level): LevelSeats => {
    const gone = sold.get(level.id) ?? 0;
    const offer = levelOffer(level, tickets, pool);
    const own = offer === null ? Infinity : Math.max(0, offer - gone);
    const seats = Math.min(
      passes.left.get(level.id) ?? left ?? Infinity,
      level.poolId === null ? Infinity : (poolLeft.get(level.poolId) ?? Infinity),
    );
    const sellable = Math.min(own, Math.floor(seats / level.admits));
    return { id: level.id, sold: gone, sellable: sellable === Infinity ? null : sellable };
  });
  const allocated = tickets.outlets.reduce((sum, outlet) => sum + (outlet.allocation ?? 0), 0);
  return {
    capacity,
    held,
    pool,
    sold: total,
    left,
    levels,
    totalOver: room === null || tickets.total === null ? 0 : Math.max(0, tickets.total - room),
    allocated,
    over: pool === null ? 0 : Math.max(0, allocated - pool),
    oversold: pool === null ? 0 : Math.max(0, total - pool),
    ...whenFull({ ...shared(tickets, passes.dates), dates: passes.dates }, left, levels, poolLeft, sold, fee),
  };
}

/** Tickets with each pass at the share of its price that falls to one performance, to the minor unit. */
function shared(tickets: Tickets, dates: number): Tickets {
  if (dates < 2 || tickets.levels.every((level) => level.covers.kind === 'one')) return tickets;
  return {
    ...tickets,
    levels: tickets.levels.map((level) => ({
      ...level,
      price: Math.round(level.price / coverCount(level.covers, dates)),
    })),
  };
}

/** What is taken with what is sold already and the rest filled from the dearest seat down, within every limit. */
function whenFull(
  tickets: Tickets & { dates: number },
  left: number | null,
  levels: LevelSeats[],
  poolLeft: ReadonlyMap<string, number>,
  sold: Sold,
  fee: Fee | null,
): Pick<House, 'grossWhenFull' | 'netWhenFull'> {
  if (left === null || tickets.levels.length === 0) return { grossWhenFull: null, netWhenFull: null };
  const pools = new Map(poolLeft);
  let room = left;
  let gross = 0;
  let net = 0;
  const { serviceFee } = tickets;
  const take = ({ price, covers }: PriceLevel, count: number) => {
    // Of what is added to a pass, too, each performance has its share.
    const service = serviceFee === null ? null : Math.round(serviceFee / coverCount(covers, tickets.dates));
    gross += price * count;
    net += splitFee(price, fee, service).net * count;
  };
  for (const level of tickets.levels) take(level, sold.get(level.id) ?? 0);
  const dearest = [...tickets.levels].sort((a, b) => b.price / b.admits - a.price / a.admits || (a.id < b.id ? -1 : 1));
  for (const level of dearest) {
    const own = levels.find((levelSeats) => levelSeats.id === level.id)?.sellable ?? Infinity;
    const inPool = level.poolId === null ? Infinity : (pools.get(level.poolId) ?? Infinity);
    const count = Math.min(own, Math.floor(Math.min(room, inPool) / level.admits));
    take(level, count);
    room -= count * level.admits;
    if (level.poolId !== null) pools.set(level.poolId, inPool - count * level.admits);
  }
  return { grossWhenFull: gross, netWhenFull: net };
}
