import { fingerprint } from '../base/hash';

/** A listing's share of an event's performances. */
export interface Part {
  part: number;
  performanceIds: string[];
}

/**
 * Shares out performances (ids in date order) over listings that hold at most `most` each. What stood on a
 * listing before stays there; new ones go to the first listing with room. Emptied listings stay, empty, so that
 * they can be taken down.
 */
export function shareOut(ids: readonly string[], most: number, before: readonly Part[]): Part[] {
  const wanted = new Set(ids);
  const parts: Part[] = before
    .map((part) => ({ part: part.part, performanceIds: part.performanceIds.filter((id) => wanted.has(id)) }))
    .sort((a, b) => a.part - b.part);
  const held = new Set(parts.flatMap((part) => part.performanceIds));
  // Listings fill up in order, so the first with room never lies before the last one that had it.
  let first = 0;
  for (const id of ids) {
    if (held.has(id)) continue;
    while ((parts[first]?.performanceIds.length ?? 0) >= most) first += 1;
    let room = parts[first];
    if (!room) parts.push((room = { part: (parts[parts.length - 1]?.part ?? -1) + 1, performanceIds: [] }));
    room.performanceIds.push(id);
  }
  const order = new Map(ids.map((id, i) => [id, i]));
  for (const part of parts) part.performanceIds.sort((a, b) => (order.get(a) ?? 0) - (order.get(b) ?? 0));
  return parts;
}

/**
 * Which of an event's listings on a channel a notice is: a number made from its id, so that it never becomes another's.
 */
export function noticePart(id: string): number {
  return parseInt(fingerprint(id).slice(0, 7), 16);
}
