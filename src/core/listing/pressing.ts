import { standings, type Standing } from './standing';

/**
 * The most pressing of a channel's standings, in the order in which `standings` names them. `null`: not wanted there.
 */
export function pressing(mine: readonly (Standing | null)[]): Standing | null {
  return standings.find((standing) => mine.includes(standing)) ?? null;
}
