import { longDate, parseTimeOfDay } from '../dates/date-words';
import { fullYears } from '../dates/full-years';
import { pasteDates } from '../dates/paste-dates';
import { quoted } from '../base/quoted';
import type { Precision } from '../record/choices';
import { isoDate } from '../base/scalars';
import { toLocal } from '../base/zones';
import type { FileNote } from './file-note';

/** One cell that cannot be read: its column, and why. Caught where rows are read. */
export class CellError extends Error {
  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message);
  }
}

function refuse(field: string, message: string): never {
  throw new CellError(field, message);
}

/**
 * A date and a time of day as machines write them: `2027-04-01T19:30:00`, with or without seconds and an offset from
 * UTC.
 */
const stamped = /^(\d{4}-\d{2}-\d{2})[T ](\d{1,2}:\d{2}(?::\d{2}(?:\.\d{1,9})?)?)\s?(Z|[+-]\d{2}:?\d{2})?$/i;

/** What a date cell says. `time` is there where a time of day stands with it. */
export interface DateCell {
  date: string;
  precision: Precision;
  time: string | null;
}

/**
 * Reads a date: `2027-03-14`, `2027-03-14T19:30:00`, or as people write it, with its year; `2027-03` or `March 2027`
 * where only the month is known; `open` where nothing is. A moment in UTC is put in `zone`; where that is not known
 * (`null`), it cannot be.
 */
export function dateCell(text: string, zone: string | null, notes: FileNote[]): DateCell {
  if (/^open$/i.test(text)) return { date: '2037-12-31', precision: 'open', time: null };
  const stamp = stamped.exec(text);
  if (stamp) return stampedDate(text, stamp, zone);
  const month = /^\d{4}-\d{2}$/.test(text) ? text : monthNamed(text);
  const date = month !== null ? `${month}-01` : isoDate.safeParse(text).success ? text : writtenDate(text, notes);
  if (date === null || !isoDate.safeParse(date).success)
    return refuse(
      'date',
      `${quoted(text)} is no date. Write it as YYYY-MM-DD, as YYYY-MM where only the month is known, or “open”.`,
    );
  return { date, precision: month === null ? 'exact' : 'month', time: null };
}

function stampedDate(text: string, [, date = '', clock = '', offset]: RegExpExecArray, zone: string | null): DateCell {
  const time = parseTimeOfDay(clock);
  if (!isoDate.safeParse(date).success || time === null)
    return refuse(
      'date',
      `${quoted(text)} is no date and time of day at a full minute. Write it like 2027-04-01T19:30:00.`,
    );
  if (offset === undefined) return { date, precision: 'exact', time: time === '00:00' ? null : time };
  if (zone === null)
    return refuse(
      'date',
      `${quoted(text)} is a moment in UTC, and the zone of the place is not known. Say the zone, or write the local time.`,
    );
  const local = toLocal(
    Date.parse(`${date}T${time}:00${offset.toUpperCase() === 'Z' ? 'Z' : `${offset.slice(0, 3)}:${offset.slice(-2)}`}`),
    zone,
  );
  return { date: local.date, precision: 'exact', time: local.time };
}

/** Days that spreadsheets write with a bare time of day. */
const noDay = ['1899-12-30', '1899-12-31', '1900-01-00', '1900-01-01'];

/** Reads a time of day; a date that stands with it has to be the row's. `null`: the cell is empty. */
export function timeCell(field: 'doors' | 'start' | 'end', text: string, date: string): string | null {
  if (text === '') return null;
  const [, day = '', clock = text, offset] = stamped.exec(text) ?? [];
  if (offset !== undefined)
    return refuse(
      field,
      `${quoted(text)} is a moment in UTC or at an offset from it. Write the time of day as the clock there shows it.`,
    );
  if (day !== '' && day !== date && !noDay.includes(day) && field !== 'end')
    return refuse(field, `${quoted(text)} is on another day than the date of the row. Put one of them right.`);
  return parseTimeOfDay(clock) ?? refuse(field, `${quoted(text)} is no time of day. Write it like 19:30.`);
}

/** A local moment: `2027-02-12 10:00`, or a date and a time as people write them. */
export function momentCell(field: string, text: string): { date: string; time: string } {
  const [, date = '', clock = '', offset] = stamped.exec(text) ?? [];
  const time = parseTimeOfDay(clock);
  if (offset === undefined && time !== null && isoDate.safeParse(date).success) return { date, time };
  const {
    dates: [found, second],
  } = /\d{4}/.test(fullYears(text.slice(0, 200))) ? pasteDates(text.replace(/\s+/g, ' '), '1970-01-01') : { dates: [] };
  const [only, more] = found?.times ?? [];
  return found && second === undefined && only !== undefined && more === undefined
    ? { date: found.date, time: only }
    : refuse(field, `${quoted(text)} is no moment. Write it like 2027-02-12 10:00.`);
}

/** `March 2027` as `2027-03`. */
function monthNamed(text: string): string | null {
  const [, name = '', year = ''] = /^([a-z]{3,9})\.?\s+(\d{4})$/i.exec(text) ?? [];
  const at = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'].indexOf(
    name.slice(0, 3).toLowerCase(),
  );
  return at < 0 ? null : `${year}-${String(at + 1).padStart(2, '0')}`;
}

/**
 * A date with its year, as people write it. Of two figures that could both be the month, the first is the day, which is
 * told.
 */
function writtenDate(text: string, notes: FileNote[]): string | null {
  if (text.length > 200) return null;
  const line = text.replace(/\s+/g, ' ');
  const {
    dates,
    problems: [problem],
  } = pasteDates(line, '1970-01-01');
  const [found] = dates;
  if (problem && !problem.why.startsWith('No date')) return refuse('date', problem.why);
  if (found && dates.length > 1)
    return refuse('date', `${quoted(text)} is ${dates.length} dates. Write a row for each.`);
  if (!found || found.times.length > 0 || !/\d{4}|[/.-]\d{2}$/.test(fullYears(line))) return null;
  const [, first = 0, second = 0] = (/^(\d{1,2})[/.-](\d{1,2})[/.-]\d{2,4}$/.exec(text) ?? []).map(Number);
  if (first > 0 && first <= 12 && second <= 12 && first !== second)
    notes.push({ code: 'day-first', text: `${quoted(text)} was read day first: ${longDate(found.date)}.` });
  return found.date;
}
