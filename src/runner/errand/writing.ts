import type { Change } from '@/core/errands/steps';
import { equalOrAbsent } from '@/core/listing/compare';
import { listedField, splitKey, type Shown } from '@/core/listing/shown';
import type { Listing } from '@/store/listings';

/** What is left to do, and what somebody else has changed of it. */
export interface Rest {
  send: Change[];
  edited: Change[];
}

/**
 * Holds wished changes against what the channel shows right now. Those already there are left out. One whose field
 * shows neither what we knew to stand there, nor what stood there before, nor what the person saw who decided, was
 * changed by somebody else.
 */
export function restOf(
  changes: readonly Change[],
  there: Shown,
  { sent, previous, believed }: Pick<Listing, 'sent' | 'previous' | 'believed'>,
): Rest {
  const rest: Rest = { send: [], edited: [] };
  for (const change of changes) {
    const { key, before, after } = change;
    const shown = there[key];
    if (equalOrAbsent(after, shown)) continue;
    const known = [before, sent?.[key], believed?.[key], previous?.[key]];
    (known.some((candidate) => equalOrAbsent(candidate, shown)) ? rest.send : rest.edited).push(change);
  }
  return rest;
}

/** As `restOf`, where a person decided to go over what stands there: only what that person saw may be gone over. */
export function restOver(changes: readonly Change[], there: Shown, seen: readonly Change[]): Rest {
  const saw = new Map(seen.map((change) => [change.key, change.before]));
  const rest: Rest = { send: [], edited: [] };
  for (const change of changes) {
    const shown = there[change.key];
    if (equalOrAbsent(change.after, shown)) continue;
    const before = saw.has(change.key) ? saw.get(change.key) : change.before;
    (equalOrAbsent(before, shown) ? rest.send : rest.edited).push(change);
  }
  return rest;
}

/** True where the channel shows something that we did not believe to stand there. Fields that it drops say nothing. */
export function surprising(
  there: Shown,
  { believed, sent, previous }: Pick<Listing, 'believed' | 'sent' | 'previous'>,
  dropped: ReadonlySet<string>,
): boolean {
  const keys = new Set([...Object.keys(there), ...Object.keys(believed ?? {})]);
  return [...keys].some((key) => {
    const shown = there[key];
    if (key === listedField && shown === undefined) return false;
    if (shown === undefined && dropped.has(splitKey(key).field)) return false;
    return ![believed?.[key], sent?.[key], previous?.[key]].some((candidate) => equalOrAbsent(candidate, shown));
  });
}

/** What stands there by what was read, with the fields that the channel drops as they were sent. */
export function standing(there: Shown, sent: Shown | null, dropped: ReadonlySet<string>): Shown {
  const out: Shown = { ...there };
  for (const [key, value] of Object.entries(sent ?? {}))
    if (out[key] === undefined && dropped.has(splitKey(key).field)) out[key] = value;
  return out;
}

/** References of performances and price levels that a listing holds by our doing. */
export function itemsOf(
  { sent, believed, performanceIds }: Pick<Listing, 'sent' | 'believed' | 'performanceIds'>,
  wanted: Shown,
): Set<string> {
  const items = new Set(performanceIds);
  for (const shown of [sent, believed, wanted]) {
    for (const key of Object.keys(shown ?? {})) {
      const { item } = splitKey(key);
      if (item !== null && !item.startsWith('theirs-')) items.add(item);
    }
  }
  return items;
}
