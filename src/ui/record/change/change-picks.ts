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
}

export const noPicks: Picks = { out: new Set(), asked: new Set(), ways: {}, seen: false };

/** What is said of a post or letter that stays as it was sent: who reads the book later finds it. */
const readAlready = 'It was read already, and is not corrected.';

const dayMs = 86_400_000;
const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10);

/**
 * Until which day something may stay as it is there: the event's own, a month where that is open, and never a day that
 * is over.
 */
export function leftUntil({ date, now }: Pick<ChangeView, 'date' | 'now'>): string {
  const tomorrow = dayOf(now + dayMs);
  if (date.length !== 10) return dayOf(now + 30 * dayMs);
  return date > tomorrow ? date : tomorrow;
}

/** What the picks of a change come to: what is sent, and what keeps it from being sent. */
export function sumOfPicks(view: ChangeView, { out, asked, ways }: Picks) {
  const goes = [...view.atOnce, ...view.later.filter(({ op }) => op !== null)].filter(
    ({ listing }) => !out.has(listing),
  );
  const edits = view.said.filter(({ mending, listing }) => mending === 'edit' && !out.has(listing));
  const apart = view.apart.filter(({ listing }) => asked.has(listing));
  const behind = view.busy.filter(({ more, listing }) => more && !out.has(listing));
  const open = view.locked.filter(({ listing, ways: offered }) => {
    const picked = ways[listing];
    return picked === undefined || !isWhole(picked, offered);
  });
  const until = leftUntil(view);
  const saidWays = view.said
    .filter(({ mending }) => mending !== 'edit')
    .map(({ listing, mending }): [string, Picked] => [
      listing,
      mending === 'anew' && asked.has(listing)
        ? { way: 'correct', reason: '', code: '', until: '' }
        : { way: 'leave', reason: readAlready, code: '', until },
    ]);
  const locks = Object.fromEntries(
    view.locked.flatMap(({ listing }) => (ways[listing] ? [[listing, ways[listing]]] : [])),
  );
  const corrected = saidWays.filter(([, { way }]) => way === 'correct').length;
  const byWay = Object.values(locks).filter(({ way }) => way !== 'leave').length;
  return {
    listings: [...goes, ...edits, ...apart, ...behind].map(({ listing }): string => listing),
    ways: { ...locks, ...Object.fromEntries(saidWays) },
    /** What is locked and has no way yet, or lacks what its way asks for. */
    open,
    errands: goes.length + edits.length + apart.length + behind.length + corrected + byWay,
  };
}
