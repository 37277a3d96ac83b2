import type { ListingId } from '../base/ids';
import type { KnownDay } from '../dates/date-words';
import type { Consequences } from './consequences';

/** Listings of a change by how they go, as the list has them or as a screen does. */
interface Going {
  atOnce: readonly { listing: ListingId }[];
  later: readonly { listing: ListingId; op: string | null }[];
  apart: readonly { listing: ListingId }[];
  said: readonly Pick<Consequences['said'][number], 'listing' | 'mending'>[];
  busy: readonly { listing: ListingId; more: boolean }[];
}

/** What a person says of a listing: it stays out, or it goes because it was asked for. */
export interface Saying<Item extends { listing: ListingId }> {
  out: (item: Item) => boolean;
  asked: (item: Item) => boolean;
}

/**
 * Which listings of a change go, in their order: what goes by itself unless it was taken out, what tells people where
 * it was asked for.
 */
export function goesOf<G extends Going>(
  { atOnce, later, apart, said, busy }: G,
  { out, asked }: Saying<{ listing: ListingId }>,
): ListingId[] {
  const goes = [
    ...[...atOnce, ...later.filter(({ op }) => op !== null)].filter((item) => !out(item)),
    ...said.filter((item) => item.mending === 'edit' && !out(item)),
    ...apart.filter(asked),
    ...busy.filter((item) => item.more && !out(item)),
  ];
  return goes.map(({ listing }) => listing);
}

/** A way for one listing, as a person picks it. */
interface SaidWay {
  way: string;
  reason: string;
  code: string;
  until: string;
}

/** What is said of a post or letter that stays as it was sent: who reads the book later finds it. */
const readAlready = 'It was read already, and is not corrected.';

/** What becomes of posts and letters that went out and cannot be edited: corrected where asked for, else left. */
export function saidWays<S extends Pick<Consequences['said'][number], 'listing' | 'mending'>>(
  said: readonly S[],
  asked: (item: S) => boolean,
  until: string,
): [ListingId, SaidWay][] {
  return said
    .filter(({ mending }) => mending !== 'edit')
    .map((item) => [
      item.listing,
      item.mending === 'anew' && asked(item)
        ? { way: 'correct', reason: '', code: '', until: '' }
        : { way: 'leave', reason: readAlready, code: '', until },
    ]);
}

const dayMs = 86_400_000;
const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10);

/**
 * Until which day something may stay as it is there: the event's own, a month where that is open, and never a day that
 * is over.
 */
export function leftUntil({ date, now }: { date: KnownDay; now: number }): string {
  const tomorrow = dayOf(now + dayMs);
  if (date.length !== 10) return dayOf(now + 30 * dayMs);
  return date > tomorrow ? date : tomorrow;
}
