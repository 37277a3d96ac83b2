import { z } from 'zod';
import type { Point } from './directory';
import { distanceKm, travelHours } from './geo';
import { stableText } from '../base/hash';
import {
  announceSchema,
  lineUpEntrySchema,
  pictureUseSchema,
  typeBrought,
  wordsSchema,
  type RecordContent,
} from './record';
import { recordLimits } from './choices';
import { isoDate, named, timeOfDay } from '../base/scalars';
import type { Instant } from '../base/zones';

/** What the dates of a tour share. The opening of the sale is a local time, the same everywhere. */
const tourSharedSchema = z.object({
  title: z.string().trim().min(1, 'Give the tour’s events a title.').max(recordLimits.title),
  subtitle: z.string().trim().max(recordLimits.title),
  eventType: named(40, 'Say what kind of event it is.'),
  lineUp: z.array(lineUpEntrySchema).max(recordLimits.lineUp),
  tags: z.array(z.string().trim().min(1).max(40)).max(20),
  words: wordsSchema.omit({ drafted: true, access: true, age: true }),
  pictures: z.array(pictureUseSchema).max(recordLimits.pictures),
  announce: announceSchema,
  onSale: z.object({ date: isoDate, time: timeOfDay }).nullable(),
});
/** What a tour's dates share, as any program of ours has written it. */
export const savedTourSchema = z.preprocess(typeBrought, tourSharedSchema);
export type TourShared = z.infer<typeof tourSharedSchema>;

/** A tour: its name and what its dates share. */
export const tourSchema = z.object({
  id: z.string(),
  name: z.string().trim().min(1, 'Give the tour a name.').max(160),
  shared: tourSharedSchema,
});
export type Tour = z.infer<typeof tourSchema>;

/** One shared fact: where it stands in a record, and how it is put there. */
interface SharedFact {
  name: string;
  ofTour: (shared: TourShared) => unknown;
  ofRecord: (content: RecordContent) => unknown;
  put: (content: RecordContent, shared: TourShared) => RecordContent;
}

type WordKey = keyof TourShared['words'];
const words = (key: WordKey, name: string): SharedFact => ({
  name,
  ofTour: (t) => t.words[key],
  ofRecord: (c) => c.words[key],
  put: (c, t) => ({ ...c, words: { ...c.words, [key]: t.words[key] } }),
});
const whole = (key: 'title' | 'subtitle' | 'eventType' | 'lineUp' | 'tags' | 'pictures', name: string): SharedFact => ({
  name,
  ofTour: (t) => t[key],
  ofRecord: (c) => c[key],
  put: (c, t) => ({ ...c, [key]: structuredClone(t[key]) }),
});

/**
 * A line-up without the ids of its lines, which every record has for itself, and of the directory's entries, which a
 * name finds for itself where a date is read from a table.
 */
const billing = (lineUp: TourShared['lineUp']) => lineUp.map(({ id: _, artistId: _a, ...entry }) => entry);

/** Opening of the general sale: that of the first level that anyone may buy. */
function openingOf(content: RecordContent): TourShared['onSale'] {
  const level = content.tickets.levels.find((level) => level.buyers === 'anyone') ?? content.tickets.levels[0];
  return level?.opens?.kind === 'at' ? { date: level.opens.date, time: level.opens.time } : null;
}

/** A record with the opening of its general sale as said; other openings stay. */
export function withOpening(content: RecordContent, { onSale }: Pick<TourShared, 'onSale'>): RecordContent {
  const before = stableText(openingOf(content));
  const levels = content.tickets.levels.map((level) => {
    const own = level.opens?.kind === 'at' ? { date: level.opens.date, time: level.opens.time } : null;
    return stableText(own) === before && level.buyers !== 'code'
      ? { ...level, opens: onSale && { kind: 'at' as const, ...onSale } }
      : level;
  });
  return { ...content, tickets: { ...content.tickets, levels } };
}

/** Everything that a tour's dates share. */
export const sharedFacts: Record<string, SharedFact> = {
  title: whole('title', 'title'),
  subtitle: whole('subtitle', 'subtitle'),
  eventType: whole('eventType', 'kind of event'),
  lineUp: { ...whole('lineUp', 'line-up'), ofTour: (t) => billing(t.lineUp), ofRecord: (c) => billing(c.lineUp) },
  tags: whole('tags', 'tags'),
  line: words('line', 'line'),
  teaser: words('teaser', 'teaser'),
  short: words('short', 'short text'),
  full: words('full', 'full text'),
  pictures: whole('pictures', 'pictures'),
  announce: {
    name: 'announce moment',
    ofTour: (t) => t.announce,
    ofRecord: (c) => c.publicity.announce,
    put: (c, t) => ({ ...c, publicity: { ...c.publicity, announce: t.announce } }),
  },
  onSale: { name: 'on-sale', ofTour: (t) => t.onSale, ofRecord: openingOf, put: withOpening },
};

/** What a record shares with its tour, taken from the record itself: how a tour is made from a first date. */
export function sharedOf(content: RecordContent): TourShared {
  const { line, teaser, short, full } = content.words;
  return {
    title: content.title,
    subtitle: content.subtitle,
    eventType: content.eventType,
    lineUp: content.lineUp,
    tags: content.tags,
    words: { line, teaser, short, full },
    pictures: content.pictures,
    announce: content.publicity.announce,
    onSale: openingOf(content),
  };
}

/** Shared facts in which a date departs from its tour: it has its own. */
export function ownFacts(content: RecordContent, shared: TourShared): string[] {
  return Object.entries(sharedFacts)
    .filter(([, fact]) => stableText(fact.ofRecord(content)) !== stableText(fact.ofTour(shared)))
    .map(([key]) => key);
}

/** A date after its tour changed: what it takes over, and what it keeps because it has its own. */
export interface TourChange {
  content: RecordContent;
  takes: string[];
  keeps: string[];
}

/** Puts a change of a tour's shared facts into one of its dates. What the date had of its own stays. */
export function applyTour(content: RecordContent, before: TourShared, after: TourShared): TourChange {
  const own = new Set(ownFacts(content, before));
  const changed = Object.entries(sharedFacts).filter(
    ([, fact]) => stableText(fact.ofTour(before)) !== stableText(fact.ofTour(after)),
  );
  const takes = changed.filter(([key]) => !own.has(key));
  return {
    content: takes.reduce((at, [, fact]) => fact.put(at, after), content),
    takes: takes.map(([key]) => key),
    keeps: changed.filter(([key]) => own.has(key)).map(([key]) => key),
  };
}

/** One date of a tour in its order, with the way from the date before. */
export interface TourStop<T> {
  stop: T;
  /** `null` at the first stop, and where a place is not known. */
  km: number | null;
  restDays: number | null;
  /** Hours between the end there and the doors here, and those that the way takes. */
  gapHours: number | null;
  neededHours: number | null;
}

/**
 * Puts a tour's dates in order and reckons distances and rest days between them. Rest days are calendar days without a
 * show.
 */
export function tourRoute<T extends { from: Instant; until: Instant; date: string; point: Point | null }>(
  stops: readonly T[],
): TourStop<T>[] {
  const ordered = [...stops].sort((a, b) => a.from - b.from);
  return ordered.map((stop, i) => {
    const before = ordered[i - 1];
    if (!before) return { stop, km: null, restDays: null, gapHours: null, neededHours: null };
    const km = before.point && stop.point ? distanceKm(before.point, stop.point) : null;
    const days = Math.round((Date.parse(stop.date) - Date.parse(before.date)) / 86_400_000);
    return {
      stop,
      km: km === null ? null : Math.round(km),
      restDays: Math.max(0, days - 1),
      gapHours: (stop.from - before.until) / 3_600_000,
      neededHours: km === null ? null : travelHours(km),
    };
  });
}
