import type { Operation } from '../listing/operations';

/** An errand that is queued or under way, as the others of its record see it. */
export interface BesideErrand {
  listing: string;
  channel: string;
  /** The way that a person picked; `null`: none. */
  way: Operation | null;
  /** The channel whose link it awaits, as far as it was looked at; `null`: none. */
  awaits: string | null;
}

/**
 * True where an errand waits for a step that a person picked for another listing of the record: a channel may refuse
 * that, so it goes first; nobody waits for what is deleted. What the step itself awaits cannot wait for it, nor what that awaits, however far it leads.
 */
export function waitsForStep(
  mine: Pick<BesideErrand, 'listing' | 'channel'>,
  beside: readonly BesideErrand[],
): boolean {
  return beside.some(
    (step) =>
      step.way !== null &&
      step.way !== 'remove' &&
      step.listing !== mine.listing &&
      !awaitedBy(step, beside).has(mine.channel),
  );
}

/** Every channel that has to give something before an errand can go. */
function awaitedBy(step: BesideErrand, beside: readonly BesideErrand[]): ReadonlySet<string> {
  const awaited = new Set<string>();
  for (let next = [step]; next.length > 0;) {
    const fresh = new Set(next.flatMap((errand) => errand.awaits ?? []).filter((channel) => !awaited.has(channel)));
    fresh.forEach((channel) => awaited.add(channel));
    next = beside.filter((errand) => fresh.has(errand.channel));
  }
  return awaited;
}
