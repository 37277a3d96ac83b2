import { z } from 'zod';
import type { Facts } from '@/core/facts/facts';
import type { KindRules } from '@/core/listing/channel-rules';
import { shortDate } from '@/core/dates/date-words';
import { pictureAt, stateAt, textAt, urlAt } from '@/core/listing/wire';
import { linkRow, pictureRow, seenByAll, stateRow, text } from '../kit/common-rows';
import { operation } from '../kit/operations';
import { kindRules } from '../kit/usual-rules';

/** To whom letters go that do not say it themselves. */
export const settingsSchema = z.object({ segment: z.string().trim().max(60).default('') });

const all = ['subject', 'preview', 'body', 'link', 'picture', 'segment'] as const;

/** The mailing list: letters. */
export const rules = (settings: Record<string, unknown>): KindRules => {
  const { segment } = settingsSchema.catch({ segment: '' }).parse(settings);
  return kindRules({
    trade: 'mailing list',
    rows: [
      {
        each: 'event',
        field: 'subject',
        label: 'subject',
        kind: 'text',
        limit: 90,
        need: 'must',
        from: (f) => text(f.notice?.subject || subjectOf(f)),
        ...textAt('subject'),
      },
      {
        each: 'event',
        field: 'preview',
        label: 'preview line',
        kind: 'text',
        limit: 120,
        from: (f) => text(f.line || f.teaser),
        ...textAt('preview'),
      },
      {
        each: 'event',
        field: 'body',
        label: 'text',
        kind: 'text',
        limit: 4000,
        need: 'must',
        from: (f) => text(f.notice?.words ?? ''),
        ...textAt('words'),
      },
      linkRow('link', urlAt('link')),
      pictureRow('picture', 'should', pictureAt('picture')),
      {
        each: 'event',
        field: 'segment',
        label: 'to whom',
        kind: 'text',
        need: 'must',
        from: (f) => text(f.notice?.segment || segment),
        ...textAt('segment'),
      },
      stateRow('sent', seenByAll, stateAt('state', { public: 'sent' })),
    ],
    picture: { ratio: [3, 2], minWidth: 1200 },
    notice: { limit: 4000, linkLength: null },
    previews: true,
    delayMs: 5 * 60_000,
    observe: 'api',
    states: ['public'],
    operations: [
      operation('place', 'Sends the letter to everybody in the segment. What was sent stays sent.', {
        called: 'Send',
        tells: 'subscribers',
        undo: { how: 'never' },
        requests: 3,
      }),
      operation('correct', 'Sends another letter that says it right, in answer to the first.', {
        fields: all,
        tells: 'subscribers',
        undo: { how: 'never' },
        requests: 3,
      }),
    ],
    budget: { requests: 10, perMs: 1_000, burst: 4, atOnce: 1 },
    off: ['Following who opens which link: only how many opened a letter is counted.'],
    oursOnly: ['The letter’s reference, in a header of its own.'],
    unties: ['Letters that went out stay with those who have them.'],
    habits: [
      'Subject up to 90 characters, a preview line, text, one picture and one link; sent as HTML and as plain text.',
      'Goes by real mail (SMTP) with a header by which one leaves the list.',
      'What was sent cannot be changed or taken back: another letter can put it right.',
      'To whom it goes is chosen letter by letter, or said once for the channel.',
    ],
  });
};

/** `The Lamp Lecture, Thu 4 March`: cut shorter where the title is long. */
function subjectOf({ title, shortTitle, performances: [first] }: Facts): string {
  const date = first?.start == null ? '' : `, ${shortDate(first.date)}`;
  const whole = `${title}${date}`;
  return whole.length <= 90 || shortTitle === '' ? whole : `${shortTitle}${date}`;
}
