import type { KindRules } from '@/core/listing/channel-rules';
import { pictureAt, stateAt, textAt } from '@/core/listing/wire';
import { noticePage, noticeRow, pictureRow, seenByAll, stateRow } from '../kit/common-rows';
import { operation } from '../kit/operations';
import { kindRules } from '../kit/usual-rules';

const limit = 340;
const linkLength = 18;
const lockedAfter = 20;

/** Short posts. */
export const rules = (): KindRules =>
  kindRules({
    trade: 'short notices',
    rows: [
      noticeRow(limit, textAt('note'), { limitIn: 'graphemes', linkLength, need: 'must' }),
      pictureRow('picture', 'should', pictureAt('picture')),
      stateRow('visible', seenByAll, stateAt('visible', { public: 'yes', closed: 'no' })),
    ],
    picture: { ratio: [16, 9], minWidth: 1200 },
    notice: { limit, linkLength },
    delayMs: 60_000,
    page: noticePage,
    operations: [
      operation('place', 'Posts the notice.', { called: 'Post', tells: 'followers', requests: 2 }),
      operation('amend', 'Changes it, within 20 minutes.'),
      operation('correct', 'Posts a reply beneath it that says it right. The first one stays as it is.', {
        fields: ['body', 'picture'],
        tells: 'followers',
        undo: { how: 'in part', stays: 'Who read the first one has read it.' },
      }),
      operation('unpublish', 'Removes it, with the replies that corrected it. It cannot be brought back.', {
        called: 'Remove',
        leadsTo: ['closed'],
        undo: { how: 'never' },
      }),
    ],
    locks: [{ fields: ['body', 'picture'], when: { minutesAfterSending: lockedAfter }, lets: 'none' }],
    budget: { requests: 6, perMs: 1_000, burst: 3, atOnce: 1 },
    off: ['Telling the people who are named in a notice.'],
    unties: ['Its notices stay there, and cannot be corrected any more.'],
    habits: [
      'A notice has up to 340 characters, and every link counts as 18.',
      'One picture 16:9 of at least 1200 px.',
      'Can be changed for 20 minutes; after that it is put right in a reply, or removed.',
    ],
  });
