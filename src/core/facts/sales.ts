import type { ChannelId } from '../base/ids';
import type { Sold } from './tickets/sold';

/** One count of sold purchases, at a moment, through an outlet. */
export interface Count {
  performanceId: string;
  levelId: string;
  outlet: string;
  sold: number;
  at: number;
}

/**
 * How many came to a channel from one source: another channel by its id, or whatever the channel calls it; empty: it
 * does not know.
 */
export interface SourceCount {
  channel: ChannelId;
  source: string;
  n: number;
}

/** The newest count of each performance, level and outlet. `counts` come oldest first. */
export function newestCounts<C extends Count>(counts: readonly C[]): C[] {
  const last = new Map<string, C>();
  for (const count of counts) last.set(`${count.performanceId} ${count.levelId} ${count.outlet}`, count);
  return [...last.values()];
}

/** Purchases so far, over all outlets, by performance and level. */
export function soldSoFar(counts: readonly Count[]): Map<string, Sold> {
  const all = new Map<string, Map<string, number>>();
  for (const { performanceId, levelId, sold } of newestCounts(counts)) {
    const levels = all.get(performanceId) ?? new Map<string, number>();
    levels.set(levelId, (levels.get(levelId) ?? 0) + sold);
    all.set(performanceId, levels);
  }
  return all;
}

/**
 * Seats that one outlet sold of a performance, count by count, for its pace. `admits`: people that one purchase of a
 * level admits.
 */
export function outletHistory(
  counts: readonly Count[],
  performanceId: string,
  outlet: string,
  admits: ReadonlyMap<string, number>,
): { at: number; sold: number }[] {
  const levels = new Map<string, number>();
  return counts
    .filter((count) => count.performanceId === performanceId && count.outlet === outlet)
    .map(({ levelId, sold, at }) => {
      levels.set(levelId, sold * (admits.get(levelId) ?? 1));
      return { at, sold: [...levels.values()].reduce((a, b) => a + b, 0) };
    });
}
