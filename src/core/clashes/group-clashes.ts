import type { Clash } from './clashes';

/** Clashes of one sort between the same two records: told once, with the others' moments. */
export interface ClashGroup {
  first: Clash;
  weight: Clash['weight'];
  /** The others of the same sort between the same records, in order of time. */
  more: Clash[];
}

const weights = ['notes', 'warns', 'stops'] as const;

/**
 * Clashes as a person reads them: those of a run that clash with the same other event in the same way are one, as grave
 * as the gravest of them. In the order in which the first of each comes.
 */
export function groupClashes(clashes: readonly Clash[]): ClashGroup[] {
  const groups = new Map<string, ClashGroup>();
  for (const clash of clashes) {
    const what = 'artist' in clash ? clash.artist : 'level' in clash ? clash.level : 'room' in clash ? clash.room : '';
    const key = JSON.stringify([clash.code, what, ...[clash.a.record, clash.b?.record ?? ''].sort()]);
    const group = groups.get(key);
    if (!group) {
      groups.set(key, { first: clash, weight: clash.weight, more: [] });
      continue;
    }
    group.more.push(clash);
    if (weights.indexOf(clash.weight) > weights.indexOf(group.weight)) group.weight = clash.weight;
  }
  return [...groups.values()];
}
