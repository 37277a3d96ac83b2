import { useEffect, useState } from 'react';
import { withNeeded } from '@/core/errands/needed';
import type { Way } from '@/core/errands/steps';
import type { EventToSend, HeldToSend } from '@/views/dispatch';
import { flippedBy, keepMarks, keptMarks, marksFrom, tellsEverybody, tickedFirst } from './kept-ticks';
import { isWhole, type Picked } from './picked';

/** What a person ticked, picked and acknowledged, by listing or by the key of a warning. */
interface Chosen {
  /** Listings that are the other way round than they are at first. */
  out: ReadonlySet<string>;
  ways: Readonly<Record<string, Picked>>;
  seen: ReadonlySet<string>;
  /** Side effects that are asked for, by listing and name. */
  besides: ReadonlySet<string>;
}

const none: ReadonlySet<string> = new Set();

/** What is chosen of what is to send, what that comes to, and how it is changed. */
export function useChoices(events: readonly EventToSend[]) {
  const [chosen, setChosen] = useState<Chosen>({ out: none, ways: {}, seen: none, besides: none });
  // What was left so is so again; the page is drawn first as the house sent it.
  useEffect(() => {
    const out = flippedBy(keptMarks(), events);
    if (out.size > 0) void Promise.resolve().then(() => setChosen((at) => ({ ...at, out })));
    // Only once, when the page opens.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const put = (part: Partial<Chosen>) => {
    if (part.out) keepMarks(marksFrom(keptMarks(), events, part.out));
    setChosen((before) => ({ ...before, ...part }));
  };
  const sum = sumOf(events, chosen);
  const errands = events.flatMap((event) => event.errands);
  const outWith = (listings: Iterable<string>, on: boolean, asked: string | null) => {
    const out = new Set(chosen.out);
    for (const listing of listings) {
      if (on && sum.alone.has(listing) && listing !== asked) continue;
      if (sum.first.has(listing) === on) out.delete(listing);
      else out.add(listing);
    }
    return out;
  };
  return {
    ...chosen,
    ...sum,
    isTicked: (listing: string) => sum.tickedIds.has(listing),
    /** Ticks or unticks one, with what it goes with. What is no errand yet, or one under way, goes with nothing. */
    flip(listing: string) {
      const on = !sum.tickedIds.has(listing);
      const isErrand = errands.some((errand) => errand.listing === listing);
      put({
        out: isErrand ? outWith(withNeeded(errands, [listing], on), on, listing) : flipped(chosen.out, listing),
      });
    },
    /** Those that are ticked with others; what tells everybody is ticked one by one. */
    together: (listings: readonly string[]) => listings.filter((listing) => !sum.alone.has(listing)),
    /** Ticks all of these, or none of them. What tells everybody can be unticked with others, and not ticked. */
    choose(listings: readonly string[], on: boolean) {
      put({ out: outWith(withNeeded(errands, listings, on), on, null) });
    },
    see: (key: string) => put({ seen: flipped(chosen.seen, key) }),
    beside: (key: string) => put({ besides: flipped(chosen.besides, key) }),
    /** Acknowledges all of these warnings, or none of them any more. */
    acknowledge(keys: readonly string[], on: boolean) {
      const seen = new Set(chosen.seen);
      for (const key of keys)
        if (on) seen.add(key);
        else seen.delete(key);
      put({ seen });
    },
    /** Picks a way for a listing; `null`: none. */
    pick(listing: string, picked: Picked | null) {
      const { [listing]: _before, ...rest } = chosen.ways;
      put({ ways: picked === null ? rest : { ...rest, [listing]: picked } });
    },
    forgetWays: () => put({ ways: {} }),
    /** These went: what was ticked of them is of no later errand. */
    went: (listings: readonly string[]) => keepMarks(marksFrom(keptMarks(), events, chosen.out, listings)),
  };
}

export type Choices = ReturnType<typeof useChoices>;

/** What a choice comes to: what would be sent, and what still keeps something from it. */
function sumOf(events: readonly EventToSend[], { out, ways, seen, besides }: Chosen) {
  const errands = events.flatMap((event) => event.errands);
  const locked = events.flatMap((event) => event.locked);
  const held = events.flatMap((event) => event.held).filter((item) => item.freedBy.length > 0);
  const behind = events.flatMap((event) => event.busy).filter((item) => item.more);
  const byHand = errands.filter((errand) => tickedFirst(errand) !== out.has(errand.listing));
  // What gives a link that one of them waits for goes along, and is seen to.
  const along = withNeeded(
    errands,
    byHand.map(({ listing }) => listing),
    true,
  );
  const ticked = errands.filter(({ listing }) => along.has(listing));
  const offered = new Map<string, readonly Way[]>([
    ...locked.map((item): [string, readonly Way[]] => [item.listing, item.ways]),
    ...ticked.flatMap((errand): [string, readonly Way[]][] =>
      errand.deleting === null ? [] : [[errand.listing, [errand.deleting]]],
    ),
  ]);
  const picked = Object.entries(ways).filter(([id, item]) => isWhole(item, offered.get(id) ?? []));
  const decided = new Set(picked.map(([listing]) => listing));
  // What is to be deleted and lacks its code is not taken down in its place.
  const uncoded = ticked.filter(({ listing, deleting }) => deleting !== null && ways[listing] && !decided.has(listing));
  const chosen = ticked.filter((errand) => !uncoded.includes(errand));
  // What waited for nothing but these decisions goes along, and what goes behind an errand that is under way.
  const freed = held.filter((item) => item.freedBy.every((id) => decided.has(id)) && !out.has(item.listing));
  const listings = [...chosen, ...freed, ...behind.filter((item) => !out.has(item.listing))].map(
    (item): string => item.listing,
  );
  const undecided = locked.filter((item) => !decided.has(item.listing));
  const unseen = chosen.flatMap((errand) => errand.unseen);
  return {
    ticked,
    /** Listings that are ticked before anybody chose, and those that are ticked one by one. */
    first: new Set<string>(errands.filter(tickedFirst).map(({ listing }) => listing)),
    alone: new Set<string>(errands.filter(tellsEverybody).map(({ listing }) => listing)),
    tickedIds: new Set<string>(ticked.map(({ listing }) => listing)),
    freed,
    listings,
    picked,
    decided,
    undecided,
    uncoded,
    /** A way was picked for each, and something that it asks for is missing. */
    unfilled: undecided.every((item) => ways[item.listing] !== undefined),
    count: new Set([...listings, ...decided]).size,
    /** Events of which something goes. */
    changes: events.filter(
      ({ errands: mine, locked: shut }) =>
        [...mine.filter((errand) => chosen.includes(errand)), ...shut.filter((item) => decided.has(item.listing))]
          .length > 0,
    ).length,
    all: errands.length + locked.length + held.length + behind.length,
    /** Of what is chosen: what was taken out need not be acknowledged. */
    unseen,
    acknowledged: unseen.length > 0 && unseen.every((key) => seen.has(key)),
    /** The side effects that are asked for, by listing. */
    effects: Object.fromEntries(
      chosen.map((errand): [string, string[]] => [
        errand.listing,
        errand.effects.filter(({ id }) => besides.has(`${errand.listing} ${id}`)).map(({ id }) => id),
      ]),
    ),
  };
}

/** True where what keeps a listing is decided by the ways that were picked. */
export function isFreed(held: HeldToSend, { decided }: Pick<Choices, 'decided'>): boolean {
  return held.freedBy.every((id) => decided.has(id));
}

function flipped(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(key)) next.add(key);
  return next;
}
