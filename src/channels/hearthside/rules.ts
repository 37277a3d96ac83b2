import { z } from 'zod';
import { playsAt } from '@/core/facts/plays-at';
import type { Facts } from '@/core/facts/facts';
import type { FieldRow, KindRules } from '@/core/listing/channel-rules';
import { flagAt, pictureAt, secondsAt, stateAt, textAt, urlAt, wordAt } from '@/core/listing/wire';
import {
  befellRow,
  fullPlace,
  lineUpRow,
  linkRow,
  momentRows,
  pictureRow,
  placeRow,
  plainBodyRow,
  priceRow,
  publisherRow,
  seenByAll,
  seriesLine,
  stateRow,
  text,
  textRow,
  titleRow,
  turnRow,
} from '../kit/common-rows';
import { deleting, operation } from '../kit/operations';
import { eventPage, kindRules } from '../kit/usual-rules';

/** Whose page it is: of an act, only its own events are wanted there; empty: the house's own page. */
export const settingsSchema = z.object({ act: z.string().trim().max(160).default('') });

/** The social page: events. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const { act } = settingsSchema.catch({ act: '' }).parse(settings);
  return kindRules({
    trade: 'social page',
    rows: [
      titleRow(58, textAt('headline')),
      plainBodyRow(4500, textAt('about')),
      lineUpRow(160, textAt('featuring')),
      placeRow(
        (f) => fullPlace(f.performances[0]) ?? (f.online === null ? text(f.follow.place) : text('Online')),
        textAt('where'),
      ),
      textRow('series', 'dates as one line', seriesLine, textAt('rhythm'), { limit: 160 }),
      turnRow(textAt('notice')),
      priceRow(textAt('entry')),
      linkRow('ticket link', urlAt('tickets')),
      pictureRow('cover', 'should', pictureAt('cover')),
      publisherRow('page', textAt('published_as')),
      guestRow('guests-shown', 'guest list shown', 'shown', 'guest_list'),
      guestRow('guests-write', 'guests may write', 'write', 'guests_write'),
      stateRow('visible', seenByAll, stateAt('visible', { public: true, closed: false })),
      befellRow(wordAt('standing', { cancelled: 'off', postponed: 'waiting' }), ['cancelled']),
      ...momentRows({ doors: 'doors', start: 'begins', end: 'finishes' }, (key) => secondsAt(key, 'zone'), 'must'),
    ],
    picture: { ratio: [11, 5], minWidth: 1320 },
    lists: { performance: 'times', ref: 'tag' },
    mostPerformances: 4,
    delayMs: 10 * 60_000,
    page: eventPage(true),
    gives: ['public address'],
    operations: [
      operation('place', 'Puts the event on the page.', {
        requests: 2,
        effects: [{ id: 'announce', does: 'posts on the page that there is a new event' }],
      }),
      operation('amend', 'Changes it.'),
      operation('publish', 'Shows it again.'),
      operation('unpublish', 'Hides it.'),
      deleting('Deletes the event with everybody who said that they come.'),
    ],
    locks: [{ fields: ['start'], when: { hoursBefore: 24 }, lets: 'only away' }],
    hasProfiles: true,
    accepts: playsAt(act),
    off: [
      'A post by itself about each new event.',
      'The guest list, and guests who write to it: each is set for an event, under Publicity.',
    ],
    oursOnly: ['In whose name it stands there: the page’s.'],
    unties: ['Who said that they come stays there, and hears of no change any more.'],
    lateCauses: ['It speaks of a raffle or lottery, and nobody there has looked at it yet.'],
    habits: [
      'Title up to 58 characters, plain text up to 4500; lists and links are written out.',
      'Cover 11:5, at least 1320 px wide.',
      'Holds at most four performances an event; a longer run becomes several events.',
      'A start cannot be moved in the last 24 hours before it.',
      'An event that speaks of a raffle or lottery waits until a person there has looked at it.',
      'Accepts a person’s token too, and then publishes as that person, not as the page: we check who it says published.',
      'Does not know a repeated request: we look for our own reference before placing again.',
    ],
  });
};

/** Whether something is open to who comes: sent either way, for the place has a default of its own. */
function guestRow(field: string, label: string, part: keyof Facts['guests'], key: string): FieldRow {
  return {
    each: 'event',
    field,
    label,
    kind: 'flag',
    from: ({ guests }) => ({ kind: 'flag', on: guests[part] }),
    ...flagAt(key, true, false),
  };
}
