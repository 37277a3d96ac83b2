import type { ChannelRules } from '@/core/listing/channel-rules';
import { flagAt, pictureAt, textAt, urlAt } from '@/core/listing/wire';
import { linkValue, on, text } from '../kit/common-rows';

const dayMs = 86_400_000;

/** The social pages: posts. */
export const rules: ChannelRules = {
  id: 'hearthside-posts',
  name: 'Hearthside posts',
  shortName: 'H. posts',
  trade: 'social page, notices',
  rows: [
    {
      each: 'event',
      field: 'body',
      label: 'text',
      kind: 'text',
      limit: 1800,
      need: 'must',
      from: (f) => text(f.notice?.words ?? ''),
      ...textAt('text'),
    },
    { each: 'event', field: 'link', label: 'link', kind: 'url', from: linkValue, ...urlAt('link') },
    {
      each: 'event',
      field: 'picture',
      label: 'photo',
      kind: 'picture',
      need: 'should',
      from: () => null,
      ...pictureAt('photo'),
    },
    {
      each: 'event',
      field: 'pinned',
      label: 'pin',
      kind: 'flag',
      from: (f) => (f.notice ? { kind: 'flag', on: f.notice.pin } : null),
      ...flagAt('pinned', true, false),
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
  ],
  picture: { ratio: [4, 5], minWidth: 1080 },
  notice: { limit: 1800, linkLength: null },
  lapse: { field: 'pinned', leadMs: 2 * dayMs },
  lists: { performance: 'times', level: 'levels', ref: 'tag' },
  mostPerformances: Infinity,
  delayMs: 10 * 60_000,
  givesLink: false,
  takesUnlisted: false,
  hasProfiles: false,
  fee: null,
  requests: { place: 2, amend: 1, withdraw: 1, renew: 1 },
  accepts: () => true,
  habits: [
    'A post has up to 1800 characters of plain text, one link and one upright photo, 4:5, at least 1080 px wide.',
    'A pin lapses after ten days; it is to be renewed from two days before.',
    'Posts use the connection of the page’s events, and the same page token.',
  ],
};
