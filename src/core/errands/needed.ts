/** A listing of which something goes, with those that give what it waits for. */
export interface Needing {
  listing: string;
  needs: readonly string[];
}

/**
 * What is ticked or unticked with these: what gives them the link that they wait for is ticked with them, and what waits
 * for theirs is unticked with them.
 */
export function withNeeded(errands: readonly Needing[], listings: readonly string[], on: boolean): Set<string> {
  const all = new Set<string>(listings);
  for (let before = -1; before !== all.size;) {
    before = all.size;
    for (const { listing, needs } of errands)
      if (on && all.has(listing)) needs.forEach((need) => all.add(need));
      else if (!on && needs.some((need) => all.has(need))) all.add(listing);
  }
  return all;
}
