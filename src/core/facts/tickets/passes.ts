import { listWords } from '../../base/list-words';
import type { Covers, PriceLevel, Tickets } from '../../record/ticket-schema';
import type { Sold } from './sold';

const spelt = [
  'none',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];

/** A small number in words, `six`; a large one in figures. */
export function spell(n: number): string {
  return spelt[n] ?? String(n);
}

/** True where one purchase of a level lets in to several performances of `dates`. */
export function isPass({ covers }: Pick<PriceLevel, 'covers'>, dates: number): boolean {
  return dates > 1 && covers.kind !== 'one';
}

/** True where a purchase of it takes a seat from this performance, whatever the buyer chooses. */
export function takesFrom(covers: Covers, performanceId: string): boolean {
  return covers.kind === 'all' || (covers.kind === 'chosen' && covers.ids.includes(performanceId));
}

/** How many performances one purchase lets in to. */
export function coverCount(covers: Covers, dates: number): number {
  switch (covers.kind) {
    case 'one':
      return 1;
    case 'all':
      return dates;
    case 'any':
      return Math.min(covers.n, dates);
    case 'chosen':
      return covers.ids.length;
  }
}

/**
 * What a pass is good for, in public words: `both`, `all six`, `any three`; those that are named go by the level's
 * name.
 */
export function coverWords({ covers, name }: Pick<PriceLevel, 'covers' | 'name'>, dates: number): string {
  const count = coverCount(covers, dates);
  if (count >= dates) return dates === 2 ? 'both' : `all ${spell(dates)}`;
  return covers.kind === 'any' ? `any ${spell(count)}` : name;
}

/** The dates that a pass names, in words: `Fri 5 Mar and Sat 6 Mar`; of many, how many there are. */
export function namedDates(days: readonly string[]): string {
  return days.length > 4 ? `${days.length} dates` : listWords(days);
}

/**
 * Purchases of one performance, by level. A pass is sold once and takes a seat from every performance it covers, under
 * whichever of them it was counted; one for any so many is counted under those that its buyer chose.
 */
export function soldAt(
  levels: Tickets['levels'],
  dates: number,
  performanceId: string,
  sold: ReadonlyMap<string, Sold> | undefined,
): Sold | undefined {
  const own = sold?.get(performanceId);
  const passes = levels.filter((level) => isPass(level, dates) && level.covers.kind !== 'any');
  if (sold === undefined || passes.length === 0) return own;
  const out = new Map(own ?? []);
  for (const { id, covers } of passes) {
    out.delete(id);
    const count = takesFrom(covers, performanceId) ? passesSold(id, sold) : 0;
    if (count > 0) out.set(id, count);
  }
  return out;
}

const counted = new WeakMap<ReadonlyMap<string, Sold>, Map<string, number>>();

/** How many of a pass were sold, over everything they are counted under. */
export function passesSold(levelId: string, sold: ReadonlyMap<string, Sold>): number {
  let sums = counted.get(sold);
  if (!sums) {
    sums = new Map();
    for (const levels of sold.values()) for (const [id, n] of levels) sums.set(id, (sums.get(id) ?? 0) + n);
    counted.set(sold, sums);
  }
  return sums.get(levelId) ?? 0;
}
