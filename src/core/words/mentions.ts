import type { Facts } from '../facts/facts';
import { addDays, toLocal, type Instant } from '../base/zones';
import { datesIn } from './mention-dates';
import { prices, priceShape } from './mention-prices';
import { daySaid, timeSaid, type Earlier, type Mention, type MentionContext } from './mention';
import { timesIn } from './mention-times';
import type { Token } from './tokens';

/** Longest text that is searched, in UTF-16 units; beyond it nothing is said. */
const mostMentionChars = 60_000;
/** Most mentions told of one text. */
const mostMentions = 200;

/** Longest stretch that is searched at once: some readings cost the square of the length. */
const stretch = 3_000;

/** Finds dates, times, prices, places, names and links typed into plain text, in order, each with its verdict. */
export function findMentions(text: string, context: MentionContext): Mention[] {
  const searched = withoutTokens(text.slice(0, mostMentionChars));
  const found: Mention[] = [];
  for (let from = 0; from < searched.length && found.length < mostMentions;) {
    const to = endOfStretch(searched, from);
    found.push(
      ...inStretch(searched.slice(from, to), context).map((mention) => ({
        ...mention,
        from: mention.from + from,
        to: mention.to + from,
        text: text.slice(mention.from + from, mention.to + from),
      })),
    );
    from = to;
  }
  return found.slice(0, mostMentions);
}

/** Where a stretch ends that begins at `from`: at the end of the text, else of a paragraph, a sentence or a word. */
function endOfStretch(text: string, from: number): number {
  if (text.length - from <= stretch) return text.length;
  const piece = text.slice(from, from + stretch);
  const cut = ['\n', '. ', ' '].map((mark) => piece.lastIndexOf(mark) + mark.length).find((at) => at > stretch / 3);
  return from + (cut ?? stretch);
}

function inStretch(searched: string, context: MentionContext): Mention[] {
  const taken: Mention[] = [];
  const add = (found: Mention[]) => {
    for (const mention of found)
      if (!taken.some((other) => mention.from < other.to && other.from < mention.to)) taken.push(mention);
  };
  add(links(searched, context));
  // What stands in an address is not said to the reader.
  const prose = searched.replace(address, blank);
  add(prices(prose, context));
  // The figures of a price are no day, and those of a day are no time.
  const unpriced = prose.replace(priceShape, blank);
  const { mentions: dates, dated } = datesIn(unpriced, context);
  add(dates);
  add(timesIn(blankedOut(unpriced, dates), context, dated));
  add(places(prose, context));
  add(names(prose, context));
  return taken.sort((a, b) => a.from - b.from);
}

const blank = (words: string) => '\u0000'.repeat(words.length);

/** A text without what was found in it. */
function blankedOut(text: string, found: readonly Mention[]): string {
  return found.reduce((kept, { from, to }) => kept.slice(0, from) + blank(kept.slice(from, to)) + kept.slice(to), text);
}

/** An address with its scheme, or without one: `tickets.example/e/2`. */
const address = /(?:https?:\/\/|\b(?=(?:[a-z0-9-]{1,63}\.){1,6}[a-z]{2,24}\/))[^\s<>"”)\u0000-\u0002]+/gi;

/**
 * Tokens are not typed facts: they are blanked out, and everything keeps its place. That a day or a time is said there
 * stays known.
 */
function withoutTokens(text: string): string {
  return text.replace(/\{[{%](?:(?!\{[{%])[\s\S])*?[%}]\}/g, (words) => {
    const name = /^\{\{-?\s*(\w+)/.exec(words)?.[1] ?? '';
    return (
      name === 'date' || name === 'day' || name === 'weekday'
        ? daySaid
        : name === 'start' || name === 'doors'
          ? timeSaid
          : '\u0000'
    ).repeat(words.length);
  });
}

// ── Places, names, links ─────────────────────────────────────────────────────────────────────────

/** Every place where a whole name stands in a text. */
function standings(text: string, name: string): { from: number; to: number }[] {
  if (name.trim().length < 3) return [];
  const found: { from: number; to: number }[] = [];
  const lower = text.toLowerCase();
  const wanted = name.toLowerCase();
  for (let at = lower.indexOf(wanted); at >= 0 && found.length < 20; at = lower.indexOf(wanted, at + wanted.length)) {
    const edge = (char: string | undefined) => char === undefined || !/[\p{L}\p{N}]/u.test(char);
    if (edge(lower[at - 1]) && edge(lower[at + wanted.length])) found.push({ from: at, to: at + wanted.length });
  }
  return found;
}

function places(text: string, { facts, rooms, earlier }: MentionContext): Mention[] {
  const ours = new Map<string, Token>();
  for (const { place } of facts.performances) {
    if (place?.room) ours.set(place.room, 'room');
    if (place) ours.set(place.venue, 'venue');
  }
  const rooming = [...ours]
    .filter(([, token]) => token === 'room')
    .map(([name]) => name)
    .join(', ');
  const one = ours.size <= 2;
  const right = [...ours].flatMap(([name, token]) =>
    standings(text, name).map((at): Mention => ({
      kind: 'place',
      ...at,
      text: name,
      verdict: 'typed',
      says: name,
      token: one ? token : null,
    })),
  );
  const wrong = [...new Set([...rooms, ...earlier.places])]
    .filter((name) => !ours.has(name))
    .flatMap((name) =>
      standings(text, name).map((at): Mention => ({
        kind: 'place',
        ...at,
        text: name,
        verdict: earlier.places.includes(name) ? 'stale' : 'contradicts',
        says: rooming === '' ? [...ours.keys()].join(', ') : rooming,
        token: one ? 'room' : null,
      })),
    );
  return [...right, ...wrong];
}

/** Names that were on the line-up once and are not any more. Those that are stand in every text, and say nothing. */
function names(text: string, { facts, earlier }: MentionContext): Mention[] {
  return earlier.names
    .filter((name) => !facts.lineUp.includes(name) && name !== facts.title)
    .flatMap((name) =>
      standings(text, name).map((at): Mention => ({
        kind: 'name',
        ...at,
        text: name,
        verdict: 'stale',
        says: facts.lineUp === '' ? 'nobody is billed' : facts.lineUp,
        token: 'line_up',
      })),
    );
}

const bare = (href: string) =>
  href
    .replace(/^https?:\/\//i, '')
    .replace(/^www\./i, '')
    .replace(/[?#].*$/, '')
    .replace(/\/$/, '')
    .toLowerCase();

function links(text: string, { facts, earlier }: MentionContext): Mention[] {
  const ours = [
    facts.link.kind === 'known' ? facts.link.href : null,
    ...facts.outlets.map((outlet) => outlet.link),
    ...facts.performances.map((performance) => performance.ownLink),
  ].filter((link): link is string => link !== null);
  const hosts = new Set([...ours, ...earlier.links].map((text) => bare(text).split('/')[0]));
  return [...text.matchAll(address)].flatMap((found): Mention[] => {
    const href = found[0].replace(/[.,;:!?]+$/, '');
    const at = { kind: 'link' as const, from: found.index, to: found.index + href.length, text: href };
    const says = ours[0] ?? 'no ticket link';
    if (ours.some((candidate) => bare(candidate) === bare(href)))
      return [{ ...at, verdict: 'typed', says, token: 'link' }];
    if (earlier.links.some((link) => bare(link) === bare(href)))
      return [{ ...at, verdict: 'stale', says, token: 'link' }];
    return hosts.has(bare(href).split('/')[0]) ? [{ ...at, verdict: 'contradicts', says, token: 'link' }] : [];
  });
}

/** What earlier revisions said, from their facts. */
export function earlierFrom(all: readonly Facts[]): Earlier {
  const of = <T>(pick: (facts: Facts) => readonly (T | null)[]) =>
    [...new Set(all.flatMap(pick))].filter((nonNullable): nonNullable is T => nonNullable !== null);
  const clock = (at: Instant | null, zone: string) => (at === null ? null : toLocal(at, zone).time);
  return {
    dates: of((f) =>
      f.performances.flatMap((performance) => [
        performance.date,
        performance.lastDate && addDays(performance.lastDate, 0),
      ]),
    ),
    times: of((f) =>
      f.performances.flatMap((performance) => [
        clock(performance.doors, performance.zone),
        clock(performance.start, performance.zone),
        clock(performance.end, performance.zone),
      ]),
    ),
    prices: of((f) => (f.price.kind === 'priced' ? [f.price.from, f.price.to, f.price.withFees] : [])),
    from: of((f) => (f.price.kind === 'priced' ? [f.price.from] : [])),
    places: of((f) =>
      f.performances.flatMap((performance) => [performance.place?.room ?? null, performance.place?.venue ?? null]),
    ),
    names: of((f) =>
      f.lineUp
        .split(/, | and | with |special guest /)
        .map((name) => name.trim())
        .filter((name) => name !== ''),
    ),
    links: of((f) => [
      f.link.kind === 'known' ? f.link.href : null,
      ...f.outlets.map((outlet) => outlet.link),
      ...f.performances.map((performance) => performance.ownLink),
    ]),
  };
}
