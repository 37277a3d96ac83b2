import type { ErrandToSend, EventToSend } from '@/views/dispatch';

/** Which listings a person ticked or unticked by hand. */
export type Marks = Readonly<Record<string, boolean>>;

/**
 * Whether an errand is chosen before anybody chose: what waits for a moment and what tells everybody goes only when
 * asked for.
 */
export function tickedFirst(errand: Pick<ErrandToSend, 'notBefore' | 'tells' | 'op'>): boolean {
  return errand.notBefore === null && !tellsEverybody(errand);
}

/** True where it goes to everybody who follows or subscribed: that is ticked one by one, never with others. */
export function tellsEverybody({ tells, op }: Pick<ErrandToSend, 'tells' | 'op'>): boolean {
  return (op === 'place' || op === 'correct') && (tells === 'followers' || tells === 'subscribers');
}

/** How each listing that is to send is ticked before anybody chose. */
function firstTicks(events: readonly EventToSend[]): Map<string, boolean> {
  return new Map(
    events.flatMap(({ errands, locked, held, busy }): [string, boolean][] => [
      ...[...locked, ...held, ...busy].map((item): [string, boolean] => [item.listing, true]),
      ...errands.map((errand): [string, boolean] => [errand.listing, tickedFirst(errand)]),
    ]),
  );
}

/** Most marks that are kept. */
const mostMarks = 2_000;

/** Marks to keep: those of what is on the page, by which listings are flipped; others as they were, but for what went. */
export function marksFrom(
  before: Marks,
  events: readonly EventToSend[],
  flipped: ReadonlySet<string>,
  gone: readonly string[] = [],
): Marks {
  const first = firstTicks(events);
  const others = Object.entries(before).filter(([listing]) => !first.has(listing));
  const here = [...first].flatMap(([listing, ticked]): [string, boolean][] =>
    flipped.has(listing) ? [[listing, !ticked]] : [],
  );
  const left = new Set(gone);
  return Object.fromEntries([...others, ...here].filter(([listing]) => !left.has(listing)).slice(-mostMarks));
}

/** Which listings of the page are the other way round than they are at first, by the marks that were kept. */
export function flippedBy(marks: Marks, events: readonly EventToSend[]): Set<string> {
  return new Set([...firstTicks(events)].flatMap(([id, ticked]) => ((marks[id] ?? ticked) === ticked ? [] : [id])));
}

const keptUnder = 'nuntiax-dispatch';

/** The marks that this browser keeps; none where it keeps nothing that can be read. */
export function keptMarks(): Marks {
  try {
    const given: unknown = JSON.parse(localStorage.getItem(keptUnder) ?? '{}');
    return given === null || typeof given !== 'object'
      ? {}
      : Object.fromEntries(
          Object.entries(given).filter((mark): mark is [string, boolean] => typeof mark[1] === 'boolean'),
        );
  } catch {
    return {};
  }
}

/** Keeps marks in this browser; where it has no room, the page stands as it is and nothing is kept. */
export function keepMarks(marks: Marks): void {
  try {
    localStorage.setItem(keptUnder, JSON.stringify(marks));
  } catch {
    localStorage.removeItem(keptUnder);
  }
}
