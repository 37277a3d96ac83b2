import { z } from 'zod';
import type { KindRules } from '@/core/listing/channel-rules';
import { pictureAt, secondsAt, stateAt, textAt, urlAt } from '@/core/listing/wire';
import {
  fullPlace,
  lineUpRow,
  linkRow,
  momentRows,
  pictureRow,
  placeRow,
  plainBodyRow,
  playsAt,
  priceRow,
  publisherRow,
  seenByAll,
  seriesLine,
  stateRow,
  text,
  titleRow,
  turnRow,
} from '../kit/common-rows';
import { operation } from '../kit/operations';

/** Whose page it is: of an act, only its own events are wanted there; empty: the house's own page. */
export const settingsSchema = z.object({ act: z.string().trim().max(160).default('') });

/** The social page: events. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const { act } = settingsSchema.catch({ act: '' }).parse(settings);
  return {
    trade: 'social page',
    rows: [
      titleRow(58, textAt('headline')),
      plainBodyRow(4500, textAt('about')),
      lineUpRow(160, textAt('featuring')),
      placeRow(
        (f) => fullPlace(f.performances[0]) ?? (f.online === null ? text(f.follow.place) : text('Online')),
        textAt('where'),
      ),
      {
        each: 'event',
        field: 'series',
        label: 'dates as one line',
        kind: 'text',
        limit: 160,
        from: seriesLine,
        ...textAt('rhythm'),
      },
      turnRow(textAt('notice')),
      priceRow(textAt('entry')),
      linkRow('ticket link', urlAt('tickets')),
      pictureRow('cover', 'should', pictureAt('cover')),
      publisherRow('page', textAt('published_as')),
      stateRow('visible', seenByAll, stateAt('visible', { public: true, closed: false })),
      ...momentRows({ doors: 'doors', start: 'begins', end: 'finishes' }, (key) => secondsAt(key, 'zone'), 'must'),
    ],
    softBreak: 'kept',
    picture: { ratio: [11, 5], minWidth: 1320 },
    notice: null,
    lapse: null,
    lists: { performance: 'times', ref: 'tag' },
    mostPerformances: 4,
    delayMs: 10 * 60_000,
    observe: 'both',
    page: {
      type: 'Event',
      whileSeen: true,
      rows: [
        { field: 'title', property: 'name', as: 'text' },
        { field: 'start', property: 'startDate', as: 'moments' },
        { field: 'link', property: 'offers/url', as: 'address', hides: true },
      ],
    },
    conditional: 'none',
    answers: 'at once',
    mirrors: null,
    gives: ['public address'],
    states: ['public', 'closed'],
    stateFor: seenByAll,
    operations: [
      operation('place', 'Puts the event on the page.', { tells: 'followers', requests: 2 }),
      operation('amend', 'Changes it.'),
      operation('publish', 'Shows it again.'),
      operation('unpublish', 'Hides it.'),
    ],
    locks: [{ fields: ['start'], when: { hoursBefore: 24 }, lets: 'only away' }],
    budget: { requests: 20, perMs: 1_000, burst: 8, atOnce: 3 },
    hasProfiles: true,
    fee: null,
    accepts: playsAt(act),
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
