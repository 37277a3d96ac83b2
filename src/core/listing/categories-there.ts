import type { Facts } from '../facts/facts';
import type { KindRules } from './channel-rules';

/**
 * In which of a channel's own categories an event stands: those of its kinds, each once, as many as the channel takes,
 * in the order of the kinds; and which are left out.
 */
export function categoriesThere(
  { categories }: Pick<Facts, 'categories'>,
  { map, most }: Pick<NonNullable<KindRules['categories']>, 'map' | 'most'>,
): { shown: string[]; out: string[] } {
  const all = [...new Set(categories.map((type) => map[type] ?? '').filter((name) => name !== ''))];
  return { shown: all.slice(0, most), out: all.slice(most) };
}
