import type { KindRules } from '@/core/listing/channel-rules';
import { sources } from '@/core/listing/sources';
import { flagAt, pictureAt, stateAt, textAt, urlAt } from '@/core/listing/wire';
import { linkRow, noticePage, noticeRow, pictureRow, publisherRow, seenByAll, stateRow } from '../kit/common-rows';
import { deleting, operation } from '../kit/operations';
import { kindRules } from '../kit/usual-rules';

const dayMs = 86_400_000;

/** The social pages: posts. */
export const rules = (): KindRules =>
  kindRules({
    trade: 'social page, notices',
    rows: [
      noticeRow(1800, textAt('text')),
      linkRow('link', urlAt('link')),
      pictureRow('photo', 'should', pictureAt('photo')),
      {
        each: 'event',
        field: 'pinned',
        sources: [sources.noticePin],
        label: 'pin',
        kind: 'flag',
        from: (f) => (f.notice ? { kind: 'flag', on: f.notice.pin } : null),
        ...flagAt('pinned', true, false),
      },
      publisherRow('page', textAt('published_as')),
      stateRow('visible', seenByAll, stateAt('visible', { public: true, closed: false })),
    ],
    picture: { ratio: [4, 5], minWidth: 1080 },
    notice: { limit: 1800, linkLength: null },
    lapse: { field: 'pinned', leadMs: 2 * dayMs },
    mostPerformances: Infinity,
    delayMs: 10 * 60_000,
    page: noticePage,
    operations: [
      operation('place', 'Puts the post on the page.', { tells: 'followers', requests: 2 }),
      operation('amend', 'Changes it.'),
      operation('publish', 'Shows it again.'),
      operation('unpublish', 'Hides it.'),
      deleting('Deletes the post with what was said below it.'),
      operation('renew', 'Pins it for another ten days.', { fields: ['pinned'] }),
    ],
    off: ['A pin: a post is pinned where the notice says so, and one post at a time.'],
    oursOnly: ['In whose name it stands there: the page’s.'],
    unties: ['A pin: nobody renews it any more.'],
    habits: [
      'A post has up to 1800 characters of plain text, one link and one upright photo, 4:5, at least 1080 px wide.',
      'A pin lapses after ten days; it is to be renewed from two days before.',
      'Posts use the connection of the page’s events, and the same page token.',
    ],
  });
