/** What an outlet still holds and how fast it sells. */
export interface OutletPace {
  id: string;
  /** Seats that it has left. */
  left: number;
  /** Seats a day, lately. */
  perDay: number;
}

/** A proposal to move allocation from one outlet to another, and how long both then last, in days. */
export interface Move {
  from: string;
  to: string;
  seats: number;
  /** Days until the first of the two is empty: now, and after the move. */
  lastsNow: number;
  lastsThen: number;
}

const lasts = (left: number, perDay: number) => (perDay <= 0 ? Infinity : left / perDay);

/**
 * The move between two outlets that puts off the longest the moment at which either of the two is empty; of equal ones
 * the smallest. `null` where no move helps. The time until the first is empty rises with the seats moved as long as the
 * receiver is the first to be empty, and falls after that: the best lies on either side of the crossing.
 */
export function bestMove(outlets: readonly OutletPace[]): Move | null {
  let best: Move | null = null;
  for (const to of outlets) {
    for (const from of outlets) {
      if (to.id === from.id || from.left <= 0) continue;
      const move = moveBetween(from, to);
      if (move !== null && (best === null || move.lastsThen - move.lastsNow > best.lastsThen - best.lastsNow))
        best = move;
    }
  }
  return best;
}

function moveBetween(from: OutletPace, to: OutletPace): Move | null {
  const after = (seats: number) => Math.min(lasts(to.left + seats, to.perDay), lasts(from.left - seats, from.perDay));
  const lastsNow = after(0);
  const rate = from.perDay + to.perDay;
  if (rate <= 0 || lastsNow === Infinity) return null;
  // A giver that sells nothing at all can give everything it has.
  const crossing = from.perDay <= 0 ? from.left : (from.left * to.perDay - to.left * from.perDay) / rate;
  const clamp = (seats: number) => Math.min(Math.max(seats, 0), from.left);
  const [seats, lastsThen] = [clamp(Math.floor(crossing)), clamp(Math.ceil(crossing))]
    .map((n) => [n, after(n)] as const)
    .reduce((a, b) => (b[1] > a[1] ? b : a));
  return seats > 0 && lastsThen > lastsNow ? { from: from.id, to: to.id, seats, lastsNow, lastsThen } : null;
}

/** Seats a day from dated counts: over the last `days` days before `now`, from the counts at both ends. */
export function paceOf(counts: readonly { at: number; sold: number }[], now: number, days = 7): number {
  const dayMs = 86_400_000;
  const ordered = [...counts].sort((a, b) => a.at - b.at).filter((count) => count.at <= now);
  const last = ordered[ordered.length - 1];
  if (!last) return 0;
  const since = now - days * dayMs;
  const base = [...ordered].reverse().find((candidate) => candidate.at <= since) ?? ordered[0] ?? last;
  const span = Math.max(now - Math.max(base.at, since), dayMs / 4) / dayMs;
  return Math.max(0, last.sold - base.sold) / span;
}
