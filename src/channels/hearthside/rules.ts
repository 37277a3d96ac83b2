import { z } from 'zod';
import type { KindRules } from '@/core/listing/channel-rules';
import { sources } from '@/core/listing/sources';

import { readMarkup, writePlain } from '@/core/words/markup';
import { pictureAt, secondsAt, stateAt, textAt, urlAt } from '@/core/listing/wire';
import type { PerformanceFacts } from '@/core/facts/performance-facts';
import {
  instant,
  lineUpParts,
  linkValue,
  priceText,
  remembered,
  seenByAll,
  stateRow,
  text,
  titleParts,
  turnNote,
} from '../kit/common-rows';

const plain = remembered((html) => writePlain(readMarkup(html)));

/** Whose page it is: of an act, only its own events are wanted there; empty: the house's own page. */
export const settingsSchema = z.object({ act: z.string().trim().max(160).default('') });

const fold = (name: string) =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N} ]/gu, '');

/** The social page: events. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const act = fold(settingsSchema.catch({ act: '' }).parse(settings).act);
  return {
    trade: 'social page',
    rows: [
      {
        each: 'event',
        field: 'title',
        sources: [sources.title, sources.shortTitle],
        label: 'title',
        kind: 'text',
        limit: 58,
        need: 'must',
        from: (f) => text(f.title),
        parts: titleParts,
        ...textAt('headline'),
      },
      {
        each: 'event',
        field: 'body',
        sources: [sources.short, sources.teaser],
        label: 'text',
        kind: 'text',
        limit: 4500,
        need: 'should',
        from: (f) => text(plain(f.full) || f.short || f.teaser),
        ...textAt('about'),
      },
      {
        each: 'event',
        field: 'line-up',
        label: 'line-up',
        kind: 'text',
        limit: 160,
        from: (f) => text(f.lineUp),
        parts: lineUpParts,
        ...textAt('featuring'),
      },
      {
        each: 'event',
        field: 'place',
        label: 'place',
        kind: 'text',
        need: 'must',
        from: (f) => fullPlace(f.performances[0]) ?? (f.online === null ? null : text('Online')),
        ...textAt('where'),
      },
      { each: 'event', field: 'turn', label: 'notice', kind: 'text', limit: 120, from: turnNote, ...textAt('notice') },
      {
        each: 'event',
        field: 'price',
        label: 'price',
        kind: 'text',
        need: 'should',
        from: priceText,
        ...textAt('entry'),
      },
      { each: 'event', field: 'link', label: 'ticket link', kind: 'url', from: linkValue, ...urlAt('tickets') },
      {
        each: 'event',
        field: 'picture',
        label: 'cover',
        kind: 'picture',
        need: 'should',
        from: () => null,
        ...pictureAt('cover'),
      },
      {
        each: 'event',
        field: 'publisher',
        label: 'published by',
        kind: 'text',
        from: () => text('page'),
        ...textAt('published_as'),
      },
      stateRow('visible', seenByAll, stateAt('visible', { public: true, closed: false })),
      {
        each: 'performance',
        field: 'doors',
        sources: [sources.doors],
        label: 'doors',
        kind: 'instant',
        from: (p) => instant(p.doors, p),
        ...secondsAt('doors', 'zone'),
      },
      {
        each: 'performance',
        field: 'start',
        sources: [sources.start],
        label: 'start',
        kind: 'instant',
        need: 'must',
        from: (p) => instant(p.start, p),
        ...secondsAt('begins', 'zone'),
      },
      {
        each: 'performance',
        field: 'end',
        sources: [sources.end],
        label: 'end',
        kind: 'instant',
        from: (p) => instant(p.end, p),
        ...secondsAt('finishes', 'zone'),
      },
    ],
    picture: { ratio: [11, 5], minWidth: 1320 },
    notice: null,
    lapse: null,
    lists: { performance: 'times', level: 'levels', ref: 'tag' },
    mostPerformances: 4,
    delayMs: 10 * 60_000,
    observe: 'both',
    page: {
      type: 'Event',
      rows: [
        { field: 'title', property: 'name', as: 'text' },
        { field: 'start', property: 'startDate', as: 'moments' },
        { field: 'link', property: 'offers/url', as: 'address', hides: true },
      ],
    },
    conditional: 'none',
    answers: 'at once',
    mirrors: null,
    gives: [],
    states: ['public', 'closed'],
    stateFor: seenByAll,
    operations: [
      {
        op: 'place',
        fields: 'all',
        needs: [],
        undo: { how: 'wholly' },
        tells: 'followers',
        requests: 2,
        does: 'Puts the event on the page.',
      },
      {
        op: 'amend',
        fields: 'all',
        needs: [],
        undo: { how: 'wholly' },
        tells: 'nobody',
        requests: 1,
        does: 'Changes it.',
      },
      {
        op: 'publish',
        fields: 'state',
        leadsTo: ['public'],
        needs: [],
        undo: { how: 'wholly' },
        tells: 'nobody',
        requests: 1,
        does: 'Shows it again.',
      },
      {
        op: 'unpublish',
        fields: 'state',
        leadsTo: ['closed', 'draft'],
        needs: [],
        undo: { how: 'wholly' },
        tells: 'nobody',
        requests: 1,
        does: 'Hides it.',
      },
    ],
    locks: [{ fields: ['start'], when: { hoursBefore: 24 }, lets: 'only away' }],
    budget: { requests: 20, perMs: 1_000, burst: 8, atOnce: 3 },
    hasProfiles: true,
    fee: null,
    accepts: ({ performances }) => act === '' || performances.some((one) => fold(one.lineUp).includes(act)),
    habits: [
      'Title up to 58 characters, plain text up to 4500; lists and links are written out.',
      'Cover 11:5, at least 1320 px wide.',
      'Holds at most four performances an event; a longer run becomes several events.',
      'A start cannot be moved in the last 24 hours before it.',
      'An event that speaks of a raffle or lottery waits until a person there has looked at it.',
      'Accepts a person’s token too, and then publishes as that person, not as the page: we check who it says published.',
      'Does not know a repeated request: we look for our own reference before placing again.',
    ],
  };
};

function fullPlace(one: PerformanceFacts | undefined) {
  if (!one?.place) return null;
  const { room, venue, address, town, country } = one.place;
  return text([room, venue, address, town, country].filter((part) => part !== null && part !== '').join(', '));
}
