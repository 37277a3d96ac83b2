import type { ChannelRules } from '@/core/listing/channel-rules';
import { readMarkup, writePlain } from '@/core/words/markup';
import { flagAt, pictureAt, secondsAt, textAt, urlAt } from '@/core/listing/wire';
import type { PerformanceFacts } from '@/core/facts/performance-facts';
import {
  instant,
  lineUpParts,
  linkValue,
  on,
  priceText,
  remembered,
  text,
  titleParts,
  turnNote,
} from '../kit/common-rows';

const plain = remembered((html) => writePlain(readMarkup(html)));

/** The social pages: events. */
export const rules: ChannelRules = {
  id: 'hearthside',
  name: 'Hearthside',
  trade: 'social page',
  rows: [
    {
      each: 'event',
      field: 'title',
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
    {
      each: 'event',
      field: 'listed',
      label: 'visible',
      kind: 'flag',
      from: () => on,
      ...flagAt('visible', true, false),
    },
    {
      each: 'performance',
      field: 'doors',
      label: 'doors',
      kind: 'instant',
      from: (p) => instant(p.doors, p),
      ...secondsAt('doors', 'zone'),
    },
    {
      each: 'performance',
      field: 'start',
      label: 'start',
      kind: 'instant',
      need: 'must',
      from: (p) => instant(p.start, p),
      ...secondsAt('begins', 'zone'),
    },
    {
      each: 'performance',
      field: 'end',
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
  givesLink: false,
  takesUnlisted: false,
  hasProfiles: true,
  fee: null,
  requests: { place: 2, amend: 1, withdraw: 1, renew: 0 },
  accepts: () => true,
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

function fullPlace(one: PerformanceFacts | undefined) {
  if (!one?.place) return null;
  const { room, venue, address, town, country } = one.place;
  return text([room, venue, address, town, country].filter((part) => part !== null && part !== '').join(', '));
}
