import { withNeeded } from '@/core/errands/needed';
import { goesOf, leftUntil, saidWays } from '@/core/errands/goes';
import type { ChangeView } from '@/views/change';
import { isWhole, type Picked } from '@/ui/dispatch/picked';

/** What a person chose of a change: what stays out, what goes though it is apart, and the ways for what is locked. */
export interface Picks {
  /** Listings that go and were unticked. */
  out: ReadonlySet<string>;
  /** Listings that go only when they are asked for, and were. */
  asked: ReadonlySet<string>;
  ways: Readonly<Record<string, Picked>>;
  seen: boolean;
  /** What quotes the old fact beyond the channels and is seen to by a person, by `quoteKey`. */
  mended: ReadonlySet<string>;
}

export const noPicks: Picks = { out: new Set(), asked: new Set(), ways: {}, seen: false, mended: new Set() };

/** What the picks of a change come to: what is sent, and what keeps it from being sent. */
export function sumOfPicks(view: ChangeView, { out, asked, ways }: Picks) {
  const isAsked = ({ listing }: { listing: string }) => asked.has(listing);
  const goes = goesOf(view, { out: ({ listing }) => out.has(listing), asked: isAsked });
  const open = view.locked.filter(({ listing, ways: offered }) => {
    const picked = ways[listing];
    return picked === undefined || !isWhole(picked, offered);
  });
  const said: [string, Picked][] = saidWays(view.said, isAsked, leftUntil(view));
  const locks = Object.fromEntries(
    view.locked.flatMap(({ listing }) => (ways[listing] ? [[listing, ways[listing]]] : [])),
  );
  const corrected = said.filter(([, { way }]) => way === 'correct').length;
  const byWay = Object.values(locks).filter(({ way }) => way !== 'leave').length;
  return {
    listings: goes.map((listing): string => listing),
    ways: { ...locks, ...Object.fromEntries(said) },
    /** What is locked and has no way yet, or lacks what its way asks for. */
    open,
    errands: goes.length + corrected + byWay,
  };
}

/** On the night itself nobody is asked about what can only stay as it is there: it is left, and that is said. */
export function picksOfTonight(view: ChangeView): Picks {
  const until = leftUntil(view);
  const left = { way: 'leave', reason: 'It was changed on the night, when it was locked there.', code: '', until };
  const only = view.locked.filter(({ ways }) => ways.length === 1 && ways[0]?.id === 'leave');
  return { ...noPicks, ways: Object.fromEntries(only.map(({ listing }) => [listing, left])) };
}

/**
 * The picks once a listing is ticked or unticked: what gives the link that it waits for is ticked with it, and what
 * waits for its own is unticked with it. `asked`: it goes only where it is asked for.
 */
export function flippedWith(view: ChangeView, picks: Picks, listing: string, asked: boolean): Partial<Picks> {
  const on = asked ? !picks.asked.has(listing) : picks.out.has(listing);
  const along = withNeeded(view.needs, [listing], on);
  const goesAsked = new Set<string>([...view.apart, ...view.said].map((item) => item.listing));
  const next = on
    ? {
        out: new Set([...picks.out].filter((id) => !along.has(id))),
        asked: asked ? new Set([...picks.asked, listing]) : picks.asked,
      }
    : {
        out: new Set([...picks.out, ...[...along].filter((id) => (id === listing ? !asked : !goesAsked.has(id)))]),
        asked: new Set([...picks.asked].filter((id) => !along.has(id))),
      };
  // What warns of more than was seen is to be seen anew.
  return unseenOf(view, next).length > unseenOf(view, picks).length ? { ...next, seen: false } : next;
}

/** What is to be acknowledged of what goes: what is only sent where it is asked for counts once it is. */
export function unseenOf({ unseen, apart }: ChangeView, { asked }: Pick<Picks, 'asked'>): ChangeView['unseen'] {
  const waits = new Set<string>(apart.map(({ listing }) => listing).filter((listing) => !asked.has(listing)));
  return unseen.filter(({ listing }) => listing === null || !waits.has(listing));
}
