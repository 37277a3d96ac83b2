import { z } from 'zod';
import type { Facts } from '@/core/facts/facts';
import type { KindRules } from '@/core/listing/channel-rules';
import { shortDate } from '@/core/dates/date-words';
import { pictureAt, stateAt, textAt, urlAt } from '@/core/listing/wire';
import { linkRow, noticeRow, pictureRow, seenByAll, stateRow, textRow } from '../kit/common-rows';
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
      textRow('subject', 'subject', (f) => f.notice?.subject || subjectOf(f), textAt('subject'), {
        limit: 90,
        need: 'must',
      }),
      textRow('preview', 'preview line', (f) => f.line || f.teaser, textAt('preview'), { limit: 120 }),
      noticeRow(4000, textAt('words')),
      linkRow('link', urlAt('link')),
      // A picture went out with its letter: nothing sets it right in what people hold.
      { ...pictureRow('picture', 'should', pictureAt('picture')), settled: true },
      textRow('segment', 'to whom', (f) => f.notice?.segment || segment, textAt('segment'), { need: 'must' }),
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
