import { sameData } from '../base/same-data';
import type { Performance, RecordContent } from './record';
import type { CarriedFact } from './choices';
import type { PriceLevel } from './ticket-schema';

/**
 * A group of facts that a copy may carry over: what it is called, the section it stands in, and its part of the record.
 */
export interface CarriedGroup {
  key: CarriedFact;
  name: string;
  section: string;
  of: (content: RecordContent) => unknown;
}

const perPerformance = (pick: (performance: Performance) => unknown) => (content: RecordContent) =>
  content.performances.map(pick);

/** Groups that every record has. Keys stay: records keep them. */
const groups: readonly CarriedGroup[] = [
  {
    key: 'dates',
    name: 'dates',
    section: 'dates',
    of: perPerformance(({ date, lastDate, precision }) => [date, lastDate, precision]),
  },
  {
    key: 'times',
    name: 'doors and times',
    section: 'dates',
    of: perPerformance(({ doors, start, end }) => [doors, start, end]),
  },
  {
    key: 'venue',
    name: 'venue and room',
    section: 'dates',
    of: perPerformance(({ venueId, roomId, setUpId }) => [venueId, roomId, setUpId]),
  },
  {
    key: 'notes',
    name: 'notes on dates',
    section: 'dates',
    of: perPerformance((performance) => [performance.note, performance.lineUpExtra]),
  },
  {
    key: 'line-up',
    name: 'line-up',
    section: 'line-up',
    of: (c) => c.lineUp.map((act) => [act.name, act.role, act.setTime]),
  },
  {
    key: 'programme',
    name: 'programme',
    section: 'line-up',
    of: (c) => c.programme.map(({ id: _, performanceId: _p, ...item }) => item),
  },
  {
    key: 'levels',
    name: 'which price levels there are',
    section: 'tickets',
    of: (c) => c.tickets.levels.map((l) => [l.name, l.buyers, l.words]),
  },
  {
    key: 'ticket-links',
    name: 'ticket links',
    section: 'tickets',
    of: (c) => [
      c.tickets.link,
      c.tickets.outlets.map((outlet) => outlet.link),
      c.performances.map((performance) => performance.link),
    ],
  },
  {
    key: 'allocations',
    name: 'seats of outlets, holds and parts',
    section: 'tickets',
    of: (c) => [
      c.tickets.outlets.map((outlet) => outlet.allocation),
      c.tickets.holds?.map((hold) => [hold.name, hold.seats]),
      c.tickets.pools.map((pool) => [pool.name, pool.seats]),
      c.tickets.total,
    ],
  },
  {
    key: 'booking',
    name: 'limits and end of booking',
    section: 'tickets',
    of: (c) => [c.tickets.closes, c.tickets.mostPerOrder, c.tickets.showLeft, c.tickets.serviceFee],
  },
  { key: 'extras', name: 'extras', section: 'tickets', of: (c) => c.tickets.extras.map(({ id: _, ...item }) => item) },
  {
    key: 'coupons',
    name: 'coupons',
    section: 'tickets',
    of: (c) => c.tickets.coupons.map(({ id: _, ...item }) => item),
  },
  {
    key: 'registration',
    name: 'registration',
    section: 'tickets',
    of: ({ tickets: { registration: r } }) => [r.limit, r.contact, r.closes, r.yes, r.no, r.waiting],
  },
  {
    key: 'questions',
    name: 'questions',
    section: 'tickets',
    of: (c) => c.tickets.questions.map(({ id: _, ...question }) => question),
  },
  {
    key: 'refunds',
    name: 'refunds and the seller’s letter',
    section: 'tickets',
    of: ({ tickets: { refunds, letter } }) => (letter.words + letter.several === '' ? refunds : [refunds, letter]),
  },
  ...(['line', 'teaser', 'short', 'full'] as const).map((key): CarriedGroup => ({
    key: `words.${key}`,
    name: { line: 'line', teaser: 'teaser', short: 'short text', full: 'full text' }[key],
    section: 'words',
    of: (c) => c.words[key],
  })),
  { key: 'subtitle', name: 'subtitle', section: 'essentials', of: (c) => c.subtitle },
  { key: 'access', name: 'access and age', section: 'words', of: (c) => [c.words.access, c.words.age] },
  { key: 'pictures', name: 'pictures', section: 'picture', of: (c) => c.pictures.map((picture) => picture.pictureId) },
  {
    key: 'documents',
    name: 'documents',
    section: 'words',
    of: (c) => c.documents.map(({ id: _, ...item }) => item),
  },
  {
    key: 'links',
    name: 'links, film, sound and online addresses',
    section: 'publicity',
    of: (c) => [c.links.map(({ id: _, ...item }) => item), c.online, c.video, c.sound],
  },
  {
    key: 'link-choices',
    name: 'what links lead to',
    section: 'publicity',
    of: (c) => c.linkChoices.map((choice) => [choice.channel, choice.to, choice.reason]),
  },
  { key: 'categories', name: 'further kinds', section: 'essentials', of: (c) => c.categories },
  { key: 'tags', name: 'tags', section: 'essentials', of: (c) => c.tags },
  { key: 'hashtags', name: 'hashtags', section: 'essentials', of: (c) => c.hashtags },
  {
    key: 'audience',
    name: 'for whom it is',
    section: 'publicity',
    of: (c) => (c.audience.who === 'everyone' ? null : c.audience),
  },
  { key: 'overrides', name: 'words by hand for single channels', section: 'publicity', of: (c) => c.overrides },
  {
    key: 'notices',
    name: 'posts and letters',
    section: 'notices',
    of: (c) => c.notices.map((notice) => [notice.channel, notice.words]),
  },
];

/** What is asked about when a date moves to another town. */
const townGroups: readonly CarriedGroup[] = [
  ...groups
    .filter(({ key }) => key === 'ticket-links' || key === 'allocations')
    .map((group) => ({ ...group, key: `town.${group.key}` })),
  { key: 'town.promoter', name: 'organiser or local promoter', section: 'essentials', of: (c) => c.organiserId },
  {
    key: 'town.prices',
    name: 'prices',
    section: 'tickets',
    of: (c) => c.tickets.levels.map((level) => level.price),
  },
  {
    key: 'town.currency',
    name: 'currency',
    section: 'tickets',
    of: (c) => (c.tickets.levels.length > 0 ? c.tickets.currency : null),
  },
];

/** Groups as older copies were marked by: still there to be kept or replaced. */
const olderGroups: readonly CarriedGroup[] = [
  {
    key: 'prices',
    name: 'prices',
    section: 'tickets',
    of: (c) => c.tickets.levels.map((level) => [level.name, level.price, level.opens, level.closes]),
  },
  {
    key: 'words',
    name: 'words',
    section: 'words',
    of: (c) => [c.words.line, c.words.teaser, c.words.short, c.words.full],
  },
];

/** What of a price level is carried over, each by itself. */
const levelParts: readonly [part: string, name: string, of: (level: PriceLevel) => unknown][] = [
  ['price', 'price', (l) => l.price],
  ['quantity', 'tickets', (l) => l.quantity],
  ['window', 'time of sale', (l) => [l.opens, l.closes]],
  ['code', 'code', (l) => l.code],
];

function levelGroup(id: string, name: string, [part, word, of]: (typeof levelParts)[number]): CarriedGroup {
  return {
    key: `level.${id}.${part}`,
    name: `${word} of ${name}`,
    section: 'tickets',
    of: (content) => {
      const level = content.tickets.levels.find((level) => level.id === id);
      return level && of(level);
    },
  };
}

/** Every group of a record that can be carried over. */
function carriedGroups({ tickets }: RecordContent): CarriedGroup[] {
  return [
    ...groups,
    ...tickets.levels.flatMap((level) => levelParts.map((part) => levelGroup(level.id, level.name, part))),
  ];
}

/** One group by its key; of a price level that is gone, too. `null`: no such group. */
export function carriedGroup(key: CarriedFact, levels: readonly { id: string; name: string }[]): CarriedGroup | null {
  const [, id, part] = /^level\.(.+)\.(\w+)$/.exec(key) ?? [];
  const found = levelParts.find(([text]) => text === part);
  if (id !== undefined && found)
    return levelGroup(id, levels.find((level) => level.id === id)?.name || 'a price level that is gone', found);
  return [...groups, ...townGroups, ...olderGroups].find((group) => group.key === key) ?? null;
}

/** True where there is something to carry over. */
export function isThere(value: unknown): boolean {
  if (value === null || value === undefined || value === '' || value === false) return false;
  if (Array.isArray(value)) return value.some(isThere);
  return typeof value === 'object' ? Object.values(value).some(isThere) : true;
}

/**
 * A copy to make the next event from: private, everything that may be wrong now marked as carried over, each group by
 * itself. Sale marks and turns of the old dates are not copied, nor is what came after the show; ids of performances
 * and notices are made anew by `ids`, so that nothing is taken for the old one.
 */
export function copyRecord(content: RecordContent, code: string, ids: () => string): RecordContent {
  const now = new Map(content.performances.map((performance) => [performance.id, ids()]));
  const idOf = (id: string) => now.get(id) ?? id;
  const whole = structuredClone(content);
  const copy: RecordContent = {
    ...whole,
    performances: whole.performances.map((performance) => ({
      ...performance,
      id: idOf(performance.id),
      pencilled: false,
      turn: 'none',
      was: null,
      soldOut: false,
      repeat: performance.repeat,
    })),
    programme: whole.programme.map((item) => ({
      ...item,
      performanceId: item.performanceId === null ? null : idOf(item.performanceId),
    })),
    tickets: {
      ...whole.tickets,
      levels: whole.tickets.levels.map((level) =>
        level.covers.kind === 'chosen'
          ? { ...level, covers: { kind: 'chosen', ids: level.covers.ids.map(idOf) } }
          : level,
      ),
    },
    publicity: { visibility: 'private', announce: null },
    rule: null,
    // What befell the old one is told of that one alone, and so is what those who bought had to know of it.
    notices: whole.notices.flatMap((notice) =>
      notice.turn === null && !notice.holders ? [{ ...notice, id: ids(), notBefore: null, offSince: null }] : [],
    ),
    linkChoices: whole.linkChoices.filter((choice) => choice.noticeId === null),
    documents: whole.documents.map((document) => ({ ...document, from: null })),
    after: {
      recording: { href: null, shown: false },
      pictures: { ids: [], shown: false },
      setList: { text: '', shown: false },
    },
    copiedFrom: code,
    carried: [],
  };
  return {
    ...copy,
    carried: carriedGroups(copy)
      .filter((group) => isThere(group.of(copy)))
      .map((group) => group.key),
  };
}

/** Carried-over facts that differ from what they were: they have been replaced. */
export function replacedFacts(before: RecordContent, after: RecordContent): CarriedFact[] {
  return after.carried.filter((key) => {
    const group = carriedGroup(key, before.tickets.levels);
    return group === null || !sameData(group.of(before), group.of(after));
  });
}

/** `after` without the marks of carried-over facts that were replaced since `before`. */
export function settleCarried(before: RecordContent, after: RecordContent): RecordContent {
  const replaced = new Set(replacedFacts(before, after));
  return replaced.size === 0 ? after : { ...after, carried: after.carried.filter((fact) => !replaced.has(fact)) };
}
