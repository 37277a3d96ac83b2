import { carriedFacts, type CarriedFact, type RecordContent } from './record';
import { sameData } from '../base/same-data';

/** What each carried-over fact is called, and the part of the record it stands for. */
export const carriedParts: Record<CarriedFact, { name: string; of: (content: RecordContent) => unknown }> = {
  dates: {
    name: 'date and times',
    of: (c) =>
      c.performances.map(({ date, start, doors, end, lastDate, precision }) => [
        date,
        start,
        doors,
        end,
        lastDate,
        precision,
      ]),
  },
  links: {
    name: 'ticket links',
    of: (c) => [
      c.tickets.link,
      c.tickets.outlets.map((one) => one.link),
      c.online,
      c.video,
      c.performances.map((one) => one.link).filter((one) => one !== null),
    ],
  },
  prices: { name: 'prices', of: (c) => c.tickets.levels.map((one) => [one.name, one.price, one.opens, one.closes]) },
  tags: { name: 'tags and hashtag', of: (c) => [c.tags, c.hashtag] },
  pictures: { name: 'pictures', of: (c) => c.pictures.map((one) => one.pictureId) },
  words: { name: 'words', of: (c) => [c.words.line, c.words.teaser, c.words.short, c.words.full] },
  overrides: { name: 'words by hand for single channels', of: (c) => c.overrides },
};

/** True where there is something to carry over. */
function isThere(value: unknown): boolean {
  if (value === null || value === undefined || value === '' || value === false) return false;
  return Array.isArray(value) ? value.some(isThere) : true;
}

/**
 * A copy to make the next event from: private, everything that may be wrong now marked as carried over. Notices, sale marks
 * and turns of the old dates are not copied; ids of parts are made anew by `ids`, so that nothing is taken for the old one.
 */
export function copyRecord(content: RecordContent, code: string, ids: () => string): RecordContent {
  const copy: RecordContent = {
    ...structuredClone(content),
    performances: content.performances.map((one) => ({
      ...one,
      id: ids(),
      pencilled: false,
      turn: 'none',
      soldOut: false,
      repeat: one.repeat,
    })),
    publicity: { visibility: 'private', announce: null },
    rule: null,
    notices: [],
    copiedFrom: code,
    carried: [],
  };
  return { ...copy, carried: carriedFacts.filter((fact) => isThere(carriedParts[fact].of(copy))) };
}

/** Carried-over facts that differ from what they were: they have been replaced. */
export function replacedFacts(before: RecordContent, after: RecordContent): CarriedFact[] {
  return after.carried.filter((fact) => !sameData(carriedParts[fact].of(before), carriedParts[fact].of(after)));
}

/** `after` without the marks of carried-over facts that were replaced since `before`. */
export function settleCarried(before: RecordContent, after: RecordContent): RecordContent {
  const replaced = new Set(replacedFacts(before, after));
  return replaced.size === 0 ? after : { ...after, carried: after.carried.filter((fact) => !replaced.has(fact)) };
}
