import type { KindRules } from '@/core/listing/channel-rules';
import { flagAt, stateAt, textAt, urlAt } from '@/core/listing/wire';
import { giftValue, noticeRow, seenByAll, stateRow } from '../kit/common-rows';
import { operation } from '../kit/operations';
import { kindRules } from '../kit/usual-rules';

const dayMs = 86_400_000;

/** The highlight on the artist's page: one date of the register. */
export const rules = (): KindRules =>
  kindRules({
    trade: 'streaming service, highlight',
    rows: [
      noticeRow(140, textAt('text'), { dropped: true }),
      {
        each: 'event',
        field: 'date-id',
        label: 'date in the register',
        kind: 'url',
        need: 'must',
        from: (f) => giftValue(f, 'remote id'),
        ...urlAt('date'),
      },
      {
        each: 'event',
        field: 'pinned',
        label: 'highlight',
        kind: 'flag',
        from: (f) => (f.notice ? { kind: 'flag', on: true } : null),
        ...flagAt('highlighted', true, false),
      },
      stateRow('shown', seenByAll, stateAt('state', { public: 'on', closed: 'off' })),
    ],
    notice: { limit: 140, linkLength: null },
    lapse: { field: 'pinned', leadMs: 2 * dayMs },
    delayMs: dayMs,
    shows: { when: 'after', fromMs: 0, toMs: dayMs },
    observe: 'api',
    operations: [
      operation('place', 'Highlights the date on the artist’s page; what was highlighted before is not any more.', {
        called: 'Post',
      }),
      operation('amend', 'Changes it.'),
      operation('publish', 'Highlights it again.'),
      operation('unpublish', 'Takes the highlight off.', { called: 'Remove' }),
      operation('renew', 'Holds it another 120 days.'),
    ],
    budget: { requests: 10, perMs: 1_000, burst: 4, atOnce: 1 },
    off: ['Highlighting the next date by itself.'],
    unties: ['The highlight: it lapses by itself.'],
    habits: [
      'One date is highlighted at a time; it lapses after 120 days.',
      'Shows it within a day. Of a date it shows neither text nor picture.',
      'The date must stand in the register first.',
    ],
  });
