import { z } from 'zod';
import { isoDate, line, prose, timeOfDay, zoneName } from '../base/scalars';
import { fail, ok, type Result } from '../base/result';
import { parseTimeOfDay } from '../dates/date-words';
import { recordLimits } from '../record/choices';
import type { Venue } from '../record/directory';
import { isInDay, minutesOf, movedBy, timeAt } from '../record/hours';
import { newNotice } from '../record/new-record';
import type { Performance, RecordContent } from '../record/record';
import { withOpening } from '../record/tour';
import { withTurn } from '../record/turn-said';
import { lacks, nothingChosen, turnable } from '../record/turned';
import { plainToHtml } from '../words/markup';
import { manyHours, type manyTexts, type manyTurns } from './many-names';

const moment = z.object({ date: isoDate, time: timeOfDay });

/** One change for many events. */
export const manyEditSchema = z.discriminatedUnion('what', [
  /** `19:30`, or so many minutes later or earlier: `+30`, `-15`. */
  z.object({ what: z.enum(['start', 'doors', 'end']), to: z.string().trim().min(1, 'Give a time.').max(24) }),
  z.object({ what: z.enum(['subtitle', 'eventType', 'age', 'note']), to: line(recordLimits.title) }),
  z.object({
    what: z.enum(['line', 'teaser', 'short', 'full', 'access']),
    text: prose(recordLimits.full),
    how: z.enum(['instead', 'before', 'behind']),
  }),
  /** With commas between them. */
  z.object({ what: z.literal('tags'), text: line(800), how: z.enum(['add', 'take off']) }),
  z.object({ what: z.literal('announce'), at: moment.extend({ zone: zoneName }).nullable() }),
  /** A local time, where each of them takes place. */
  z.object({ what: z.literal('onSale'), at: moment.nullable() }),
  z.object({ what: z.literal('publicity'), to: z.enum(['private', 'unlisted', 'public']) }),
  z.object({ what: z.literal('channel'), channel: z.string().min(1).max(40), on: z.boolean() }),
  z.object({
    what: z.enum(['postpone', 'move', 'cancel', 'soldOut']),
    /** Of a move: `venue|room`. */
    place: z.string().max(140).nullable(),
    /** Why, in public words; empty: nothing is said of it. */
    why: line(160),
    /** What becomes of tickets that were bought, until when they are paid back, and where or by whom. */
    tickets: z.enum(['valid', 'returned']),
    until: isoDate.nullable(),
    by: line(80),
    /** The account that says so, with a post drafted for each; `null`: none. */
    post: z.string().min(1).max(40).nullable(),
  }),
  z.object({ what: z.literal('post'), channel: z.string().min(1).max(40), text: prose(4000) }),
]);
export type ManyEdit = z.infer<typeof manyEditSchema>;

/** What an edit is put into a record with. */
export interface EditGround {
  /** Today's date in the house's zone: what is over stays as it is. */
  today: string;
  venues: ReadonlyMap<string, Venue>;
  /** An id that the record has not yet, for a post. */
  fresh: string;
}

/** What was typed as an hour: a time of day, or minutes later (earlier, where they are negative). */
function readHour(text: string): Result<{ at: string } | { by: number }, string> {
  const by = /^([+−-])\s*(\d{1,3})(?:\s*min(?:utes)?)?$/.exec(text.trim());
  if (by) return ok({ by: Number(by[2]) * (by[1] === '+' ? 1 : -1) });
  const at = parseTimeOfDay(text);
  return at === null ? fail(`“${text}” is no time: write 19:30, or +30 and -15 for minutes.`) : ok({ at });
}

/** A record after an edit, which may say the same as before; the error says why it cannot be so. */
export function edited(content: RecordContent, edit: ManyEdit, ground: EditGround): Result<RecordContent, string> {
  switch (edit.what) {
    case 'start':
    case 'doors':
    case 'end':
      return withHour(content, edit.what, edit.to, ground.today);
    case 'subtitle':
    case 'eventType':
      return ok(content[edit.what] === edit.to ? content : { ...content, [edit.what]: edit.to });
    case 'age':
      return ok(withWords(content, 'age', edit.to));
    case 'note':
      return ok(
        ofThoseToCome(content, ground.today, (item) => (item.note === edit.to ? item : { ...item, note: edit.to })),
      );
    case 'line':
    case 'teaser':
    case 'short':
    case 'full':
    case 'access':
      return ok(withText(content, edit));
    case 'tags':
      return ok(withTags(content, edit));
    case 'announce':
      return ok({ ...content, publicity: { ...content.publicity, announce: edit.at } });
    case 'onSale':
      return ok(withOpening(content, { onSale: edit.at }));
    case 'publicity':
      return ok({ ...content, publicity: { ...content.publicity, visibility: edit.to } });
    case 'channel':
      return ok(withChannel(content, edit));
    case 'post':
      return ok({
        ...content,
        notices: [...content.notices, newNotice(ground.fresh, edit.channel, { words: edit.text })],
      });
    case 'postpone':
    case 'move':
    case 'cancel':
    case 'soldOut':
      return befallen(content, edit, ground);
  }
}

/** The performances that are to come and take place, each put otherwise. */
function ofThoseToCome(content: RecordContent, today: string, put: (item: Performance) => Performance): RecordContent {
  const ids = new Set(turnable(content.performances, 'postpone', today).map(({ id }) => id));
  const performances = content.performances.map((item) => (ids.has(item.id) ? put(item) : item));
  return performances.every((item, i) => item === content.performances[i]) ? content : { ...content, performances };
}

/** An hour of each performance to come. Doors and end move along with the start. */
function withHour(
  content: RecordContent,
  what: keyof typeof manyHours,
  text: string,
  today: string,
): Result<RecordContent, string> {
  const hour = readHour(text);
  if (!hour.ok) return hour;
  const to = hour.value;
  let problem: string | null = null;
  const made = ofThoseToCome(content, today, (item) => {
    // A day that is open, or known by its month, has no hour of its own yet.
    if (item.precision === 'open' || item.precision === 'month') return item;
    const was = item[what];
    if (was === null && 'by' in to) return item;
    const from = was === null ? null : minutesOf(was);
    const minutes = 'at' in to ? minutesOf(to.at) : (from ?? 0) + to.by;
    if (!isInDay(minutes)) {
      problem = `${text} puts the ${manyHours[what].toLowerCase()} on another day: change that by itself.`;
      return item;
    }
    if (from === minutes) return item;
    if (what === 'doors') return { ...item, doors: timeAt(minutes) };
    if (what === 'end') return { ...item, end: timeAt(minutes), endsNextDay: endsNextDay(item, minutes) };
    return movedBy(
      { ...item, precision: 'exact', start: timeAt(minutes), repeat: null },
      from === null ? 0 : minutes - from,
    );
  });
  return problem === null ? ok(made) : fail(problem);
}

/** An end before the start lies on the next day; on the last of several days it is of that day. */
function endsNextDay({ start, lastDate }: Performance, end: number): boolean {
  return lastDate === null && start !== null && end <= minutesOf(start);
}

function withWords(content: RecordContent, key: keyof typeof manyTexts | 'age', text: string): RecordContent {
  if (content.words[key] === text) return content;
  // What a person worded is a draft no more.
  const drafted = content.words.drafted.filter((length) => length !== key);
  return { ...content, words: { ...content.words, [key]: text, drafted } };
}

function withText(
  content: RecordContent,
  { what, text, how }: Extract<ManyEdit, { what: keyof typeof manyTexts }>,
): RecordContent {
  const was = content.words[what];
  const put = what === 'full' ? plainToHtml(text) : text.trim();
  if (how === 'instead' || was.trim() === '') return withWords(content, what, put);
  if (put === '') return content;
  const between = what === 'full' ? '' : what === 'line' ? ' ' : '\n\n';
  return withWords(content, what, how === 'before' ? `${put}${between}${was}` : `${was}${between}${put}`);
}

function withTags(content: RecordContent, { text, how }: Extract<ManyEdit, { what: 'tags' }>): RecordContent {
  const named = text.split(',').flatMap((tag) => (tag.trim() === '' ? [] : [tag.trim()]));
  const same = (a: string) => (b: string) => a.toLowerCase() === b.toLowerCase();
  const tags =
    how === 'add'
      ? [...content.tags, ...named.filter((tag) => !content.tags.some(same(tag)))]
      : content.tags.filter((tag) => !named.some(same(tag)));
  return tags.length === content.tags.length ? content : { ...content, tags };
}

function withChannel(content: RecordContent, { channel, on }: Extract<ManyEdit, { what: 'channel' }>): RecordContent {
  if (on !== content.leftOff.includes(channel)) return content;
  const leftOff = on ? content.leftOff.filter((id) => id !== channel) : [...content.leftOff, channel];
  return { ...content, leftOff };
}

function befallen(
  content: RecordContent,
  { what, place, post, ...said }: Extract<ManyEdit, { what: keyof typeof manyTurns }>,
  { today, venues, fresh }: EditGround,
): Result<RecordContent, string> {
  const chosen = { ...nothingChosen('all'), place };
  if (lacks(what, chosen, venues)) return fail('Choose where it moves to.');
  const ids = new Set(turnable(content.performances, what, today).map(({ id }) => id));
  if (ids.size === 0) return fail('No date is left for that.');
  const carried = post === null ? null : { channel: post, id: fresh };
  const ground = { draft: content, ids, venues };
  return ok({ ...content, ...withTurn(what, chosen, { ...said, words: null }, ground, { post: carried, fresh }) });
}
