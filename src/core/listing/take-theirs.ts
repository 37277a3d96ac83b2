import { cleanHtml, plainToHtml } from '../words/markup';
import { noticePart } from './parts';
import type { Notice, Override, Performance, RecordContent } from '../record/record';
import { fail, ok, type Result } from '../base/result';
import { splitKey, type ShownValue } from './shown';
import { doorsDate, whichOfTwo } from '../dates/readings';
import { addDays, toLocal, type LocalTime } from '../base/zones';

/** Why a channel's value cannot become the record's. */
export type NotTaken =
  'gone-there' | 'no-such-part' | 'not-a-fact-of-the-record' | 'cannot-be-read' | 'end-too-far' | 'doors-too-far';

/** Put in words, with the way out. */
export const notTakenWords: Record<NotTaken, string> = {
  'gone-there': 'The channel shows no value to take. Send ours again, or change the record.',
  'no-such-part': 'The record has no such performance or price level. Send ours again, or add it to the record.',
  'not-a-fact-of-the-record':
    'This field is made from other facts and has no place of its own in the record. Send ours again.',
  'cannot-be-read': 'What the channel shows cannot be read as such a value. Send ours again.',
  'doors-too-far': 'The doors shown there open on another day than the start. Change the record by hand.',
  'end-too-far': 'The end shown there lies more than a day after the start. Change the record by hand.',
};

/**
 * The record with a channel's shown value taken in. Where the field is worded by hand for that channel, the words by hand
 * become what the channel shows, and the record's own stay; of a notice, its own words and pin change. The record itself
 * is not changed.
 */
export function takeTheirs(
  content: RecordContent,
  key: string,
  value: ShownValue | undefined,
  { channel, part }: { channel: string; part: number },
): Result<RecordContent, NotTaken> {
  if (value === undefined) return fail('gone-there');
  const { field, item } = splitKey(key);
  const byHand = content.overrides.find((one) => one.channel === channel && one.field === field);
  if (byHand) return takeByHand(content, byHand, value);
  const notice = content.notices.find((one) => one.channel === channel && noticePart(one.id) === part);
  if (notice) return takeNotice(content, notice, field, value);
  switch (field) {
    case 'title':
    case 'subtitle':
      return value.kind === 'text' ? ok({ ...content, [field]: value.text }) : fail('cannot-be-read');
    case 'teaser':
      return value.kind === 'text'
        ? ok({ ...content, words: { ...content.words, teaser: value.text } })
        : fail('cannot-be-read');
    case 'body':
      return takeBody(content, value);
    case 'start':
    case 'end':
    case 'doors':
      return takeTime(content, field, item, value);
    case 'price':
    case 'quantity':
      return takeLevel(content, item, value);
    default:
      return fail('not-a-fact-of-the-record');
  }
}

function takeByHand(content: RecordContent, byHand: Override, value: ShownValue): Result<RecordContent, NotTaken> {
  if (value.kind !== 'rich' && value.kind !== 'text') return fail('cannot-be-read');
  const next = { ...byHand, value: value.kind === 'rich' ? cleanHtml(value.html) : value.text };
  return ok({ ...content, overrides: content.overrides.map((one) => (one === byHand ? next : one)) });
}

function takeNotice(
  content: RecordContent,
  notice: Notice,
  field: string,
  value: ShownValue,
): Result<RecordContent, NotTaken> {
  if (field !== 'body' && field !== 'pinned') return fail('not-a-fact-of-the-record');
  const change =
    field === 'body' && value.kind === 'text'
      ? { words: value.text }
      : field === 'pinned' && value.kind === 'flag'
        ? { pin: value.on }
        : null;
  return change === null
    ? fail('cannot-be-read')
    : ok({ ...content, notices: content.notices.map((one) => (one === notice ? { ...one, ...change } : one)) });
}

function takeBody(content: RecordContent, value: ShownValue): Result<RecordContent, NotTaken> {
  if (value.kind !== 'rich' && value.kind !== 'text') return fail('cannot-be-read');
  const full = value.kind === 'rich' ? cleanHtml(value.html) : plainToHtml(value.text);
  return ok({ ...content, words: { ...content.words, full } });
}

function takeTime(
  content: RecordContent,
  field: 'start' | 'end' | 'doors',
  item: string | null,
  value: ShownValue,
): Result<RecordContent, NotTaken> {
  if (value.kind !== 'instant') return fail('cannot-be-read');
  const at = content.performances.findIndex((one) => one.id === item);
  const one = content.performances[at];
  if (!one) return fail('no-such-part');
  const local = toLocal(value.at, one.zone);
  const repeat = whichOfTwo(value.at, one.zone);
  const moved =
    field === 'end'
      ? withEnd(one, local)
      : { ...one, [field]: local.time, ...(field === 'start' ? { date: local.date, repeat } : {}) };
  if (moved === null) return fail('end-too-far');
  if (field === 'doors' && doorsDate(moved) !== local.date) return fail('doors-too-far');
  const settled = repeat === null ? moved : { ...moved, repeat };
  return ok({ ...content, performances: content.performances.map((p, i) => (i === at ? settled : p)) });
}

function withEnd(one: Performance, local: LocalTime): Performance | null {
  if (local.date === one.date) return { ...one, end: local.time, endsNextDay: false };
  if (local.date === addDays(one.date, 1)) return { ...one, end: local.time, endsNextDay: true };
  return null;
}

function takeLevel(content: RecordContent, item: string | null, value: ShownValue): Result<RecordContent, NotTaken> {
  const { levels, currency } = content.tickets;
  if (!levels.some((level) => level.id === item)) return fail('no-such-part');
  if (value.kind === 'price' && value.currency !== currency) return fail('cannot-be-read');
  const change =
    value.kind === 'price'
      ? { name: value.name, price: value.minor }
      : value.kind === 'count'
        ? { quantity: value.n }
        : null;
  if (change === null) return fail('cannot-be-read');
  const moved = levels.map((level) => (level.id === item ? { ...level, ...change } : level));
  return ok({ ...content, tickets: { ...content.tickets, levels: moved } });
}
