import * as chrono from 'chrono-node/en';
import type { ParsedResult } from 'chrono-node/en';
import { lately } from '../base/lately';
import { monthFirst } from './month-first';
import { clockPieces } from './clock-pieces';

/** A phrase that names a day: what names it, and where all of the phrase stands, clock readings with it. */
export interface DayReading {
  start: ParsedResult['start'];
  end: ParsedResult['start'] | null;
  /** The words of the day alone, and their place in the whole text. */
  text: string;
  index: number;
  whole: { from: number; to: number };
  /** One of several days said together, without its month: `13` in `13 and 14 March`. */
  listed: boolean;
}

export const month = '(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\\.?';
export const weekday = '(?:mon|tues|wednes|thurs|fri|satur|sun)day';
const ordinals =
  'first|second|third|fourth|fifth|sixth|seventh|eighth|ninth|tenth|eleventh|twelfth|thirteenth|fourteenth|fifteenth|sixteenth|seventeenth|eighteenth|nineteenth|twentieth|twenty[- ]\\w+|thirtieth|thirty[- ]first';

/** A day is named by its date or its weekday. `Tonight`, `an hour` or `last` are not held against a calendar. */
const namesDay = new RegExp(
  `\\b${weekday}\\b|\\b(?:mon|tue|wed|thu|fri|sat|sun)\\b\\.?,?\\s+\\d|\\d{1,2}(?:st|nd|rd|th)?\\s+(?:of\\s+)?${month}|\\b(?:${ordinals})\\s+(?:of\\s+)?${month}|\\b${month}\\s+\\d|\\d{1,2}[/.-]\\d{1,2}|\\d{4}-\\d{2}-\\d{2}`,
  'i',
);

/** `two weeks before` takes the day that follows it elsewhere: the day is still the one that is named. */
const relative =
  /\b(?:an?|one|two|three|four|five|six|seven|eight|nine|ten|twelve|few|\d+)\s+(?:minutes?|hours?|days?|nights?|weeks?|months?)\s+(?:before|after|from|following|until)\b/gi;

/** `A night on 20 March`: the parser would take the part of the day for the time, and the day for a guess. */
const dayPart = /(?<!day\s)\b(?:mornings?|afternoons?|evenings?|nights?)\b/gi;

const blank = (words: string) => '\u0000'.repeat(words.length);

/** Spellings that the date parser does not know, as ones of equal length that it does: `14-Mar-2027`, `Sun 14.3.`. */
function respelt(text: string): string {
  return text
    .replace(relative, blank)
    .replace(dayPart, blank)
    .replace(new RegExp(`\\b(\\d{1,2})-(${month})-(\\d{2,4})\\b`, 'gi'), '$1 $2 $3')
    .replace(/\b(\d{1,2})\.(\d{1,2})\.(?=\s|,|$)/g, '$1/$2 ')
    .replace(/(\d{4}-\d{2}-\d{2})T(?=\u0000)/g, '$1 ');
}

/**
 * Finds phrases that name a day, in no order; a phrase read in two ways comes twice, the better reading first. Not to be
 * changed: the last few are kept.
 */
export function dayReadings(text: string, today: string): readonly DayReading[] {
  return readLately(`${today} ${text}`);
}

const readLately = lately((dayAndText) => readingsOf(dayAndText.slice(11), dayAndText.slice(0, 10)));

function readingsOf(text: string, today: string): DayReading[] {
  const at = { instant: new Date(`${today}T12:00:00Z`), timezone: 'UTC' };
  // A clock reading beside a date is no part of it: left in, `14 March 19.30` would be a day in 2019.
  const untimed = clockPieces(text)
    .filter((piece) => !piece.couldBeDate)
    .reduce((words, { from, to }) => words.slice(0, from) + blank(words.slice(from, to)) + words.slice(to), text);
  const readable = respelt(untimed);
  const parse = (parser: typeof chrono.GB, words: string, shift: number) =>
    parser
      .parse(words, at, { forwardDate: true })
      .flatMap(({ start, end, text: said, index }) => dayOf(readable, start, end ?? null, said, index + shift));
  const found = [
    ...[...readable.matchAll(monthFirst)].flatMap((match) => parse(chrono.casual, match[0], match.index)),
    ...parse(chrono.GB, readable, 0),
  ];
  const listed = found.flatMap((reading) => listedBefore(readable, reading, (words) => parse(chrono.GB, words, 0)[0]));
  // `Sat 20 & Sun 21 March`: a weekday that stands alone for the parser may be the first half of a listed day.
  const whole = (reading: DayReading) => reading.start.isCertain('day');
  return [...found.filter(whole), ...listed, ...found.filter((reading) => !whole(reading))];
}

/** A parsed phrase as the day it names; nothing where it names none. */
function dayOf(
  readable: string,
  start: ParsedResult['start'],
  end: ParsedResult['start'] | null,
  said: string,
  index: number,
): DayReading[] {
  // `Friday 12 to Sunday 14 March`: only the second half is whole.
  const half = end?.isCertain('day') && !start.isCertain('day') ? secondHalf(said) : 0;
  if (half > 0) return dayOf(readable, end ?? start, null, said.slice(half), index + half);
  if (!namesDay.test(said) || !(start.isCertain('day') || start.isCertain('weekday'))) return [];
  const opening = /^[\s,(]*(?:(?:on|from)\s+)?/i.exec(said)?.[0].length ?? 0;
  const text = said.slice(opening).replace(/[\s,()@–-]+$/, '');
  return [
    {
      start,
      end,
      text,
      index: index + opening,
      whole: withClock(readable, index, index + opening + text.length),
      listed: false,
    },
  ];
}

/** Where a range of days has its second half; 0 where it has none. */
export function secondHalf(words: string): number {
  return /^[\s\S]*?(?:\bto\b|until|till|[–-])\s*/.exec(words)?.[0].length ?? 0;
}

/** The day's phrase with the blanked clock readings right before and behind it. */
function withClock(readable: string, from: number, to: number): DayReading['whole'] {
  const before = /\u0000+[\s,]*(?:\bon\s+)?$/i.exec(readable.slice(Math.max(0, from - 30), from))?.[0].length ?? 0;
  const behind = /^[\s,(@–-]*(?:\b(?:at|from)\s+)?\u0000+/i.exec(readable.slice(to, to + 40))?.[0].length ?? 0;
  return { from: from - before, to: to + behind };
}

const listItem = `(?:(?:${weekday}|mon|tue|wed|thu|fri|sat|sun)\\.?,?\\s+)?\\d{1,2}(?:st|nd|rd|th)?`;
const listLead = new RegExp(
  `(?<![\\d:.€£$]|\\b(?:at|doors?|room|screen|studio|ages?d?|over|under|no\\.?)\\s{0,3})\\b(${listItem}(?:\\s*,\\s*${listItem})*)(?:\\s*,?\\s*(?:&|\\+|/|and|or|to|till|until|into|–|-)\\s*)$`,
  'i',
);

/**
 * The days said before a whole one, their month left to it: `13` and `14` in `13, 14 and 15 March`, `Friday 12` in
 * `Friday 12 to Sunday 14 March`.
 */
function listedBefore(
  text: string,
  reading: DayReading,
  read: (words: string) => DayReading | undefined,
): DayReading[] {
  if (!reading.start.isCertain('day') || !reading.start.isCertain('month')) return [];
  const [lead = '', list = ''] = listLead.exec(text.slice(Math.max(0, reading.index - 80), reading.index)) ?? [];
  const named = new RegExp(`${month}(?:,?\\s+\\d{4})?`, 'i').exec(reading.text)?.[0];
  if (list === '' || named === undefined) return [];
  const from = reading.index - lead.length;
  return [...list.matchAll(new RegExp(listItem, 'gi'))].flatMap((item) => {
    const parsed = read(`${item[0]} ${named}`);
    const index = from + item.index;
    return parsed
      ? [{ ...parsed, text: item[0], index, whole: { from: index, to: index + item[0].length }, listed: true }]
      : [];
  });
}
