import { z } from 'zod';
import type { Answer } from './kind';

/** More sources than so many nobody would read; what is longer than a name is none. */
const sourcesSchema = z.record(z.string().max(80), z.number().int().min(0).max(10_000_000));
const most = 60;

/** Counts by source as an answer names them under `key`; what is no such table counts nothing. */
export function sourcesAt(key: string): (answer: Pick<Answer, 'wire'>) => { source: string; n: number }[] {
  return ({ wire }) => {
    const read = sourcesSchema.safeParse(wire[key]);
    return Object.entries(read.success ? read.data : {})
      .map(([source, n]) => ({ source: source.trim(), n }))
      .filter((candidate) => candidate.n > 0)
      .sort((a, b) => b.n - a.n)
      .slice(0, most);
  };
}
