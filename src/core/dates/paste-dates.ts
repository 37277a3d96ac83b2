import * as chrono from 'chrono-node/en';
import { dateParts } from './date-words';
import { fullYears } from './full-years';
import { fail, ok, type Result } from '../base/result';
import { isoDate } from '../base/scalars';
import { mostPasteChars } from './paste-limit';
import { clockPieces } from './clock-pieces';
import { dayReadings, type DayReading } from './day-readings';
import { addDays } from '../base/zones';

/** A pasted line that was understood. */
export interface PastedDate {
  line: number;
  text: string;
  date: string;
  times: string[];
}

/** A pasted line that was not, and why. */
export interface PasteProblem {
  line: number;
  text: string;
  why: string;
}

const pad = (n: number) => String(n).padStart(2, '0');

/**
 * Reads pasted dates, one or several a line: `Thu 18 March 2027 19:30`, `2027-03-18, 11:00, 14:00`, `18.3.2027`, `18
 * and 19 March`. A date without a year is the next such date from `today` on (YYYY-MM-DD). Of times, those at which
 * something begins are taken. A weekday that does not fit its date is a problem, and so is a span of days.
 */
export function pasteDates(text: string, today: string): { dates: PastedDate[]; problems: PasteProblem[] } {
  const dates: PastedDate[] = [];
  const problems: PasteProblem[] = [];
  if (text.length > mostPasteChars)
    return {
      dates,
      problems: [
        {
          line: 1,
          text: `${text.slice(0, 60)}…`,
          why: `More than ${mostPasteChars / 1000} 000 characters. Paste fewer lines.`,
        },
      ],
    };
  text.split(/\r?\n/).forEach((raw, i) => {
    const line = raw.trim();
    if (line === '') return;
    const read = readLine(line.slice(0, 300), today);
    if (typeof read === 'string') problems.push({ line: i + 1, text: line, why: read });
    else dates.push(...read.map((item) => ({ line: i + 1, text: line, ...item })));
  });
  return { dates, problems };
}

/** Words that name a day by how far from now it is. */
const relative = /\b(?:today|tonight|tomorrow|yesterday|days?|weeks?|fortnights?|months?)\b/i;
/** Half a year, in days: how far before a coming date another one without a year may lie. */
const halfYear = 182;

/**
 * Reads the one date that is typed into a field: `2027-02-04`, `4 Feb 2027`, `Thu 4 Feb`, `next Saturday`, `in two
 * weeks`. What is said in relation to now is reckoned from `today`. A date without a year is the next one from half a
 * year before
 * `near`, the date that stands in the field, but none that is over by `today`; where `near` itself is over, it is in
 * that year. The error is for the user.
 */
export function typedDate(text: string, near: string | null, today: string): Result<string, string> {
  const named = /\d\s*[./-]\s*\d|\d{8}|\b(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)/i.test(text);
  const half = near === null ? today : addDays(near, -halfYear);
  const from =
    !named || near === null ? today : near < today ? `${near.slice(0, 4)}-01-01` : half < today ? today : half;
  const { dates, problems } = pasteDates(text.replace(/\s+/g, ' '), from);
  const [first] = dates;
  if (first && dates.length === 1) return ok(first.date);
  const fromNow =
    !named && relative.test(text)
      ? chrono.GB.parseDate(text.slice(0, 60), { instant: new Date(`${today}T12:00:00Z`), timezone: 'UTC' })
      : null;
  if (fromNow) return ok(fromNow.toISOString().slice(0, 10));
  return fail(
    first
      ? 'These are several dates; this field holds one.'
      : (problems[0]?.why ?? 'No date was found. Write it like 18 March 2027.').replace(' in this line', ''),
  );
}

/** A moment in UTC, or at an offset from it: what it is on a clock there depends on where `there` is. */
const absolute = /\d{4}-\d{2}-\d{2}[T ]\d{2}:?\d{2}(?::?\d{2}(?:\.\d{1,9})?)?(?:Z\b|[+-]\d{2}:?\d{2}\b)/i;
const placeInMonth =
  /\b(?:first|second|third|fourth|last)\s+(?:mon|tues?|wed(?:nes)?|thu(?:rs)?|fri|sat(?:ur)?|sun)(?:day)?\s+(?:of|in)\b/i;

/** The most recent such day before `today`. */
function lastWeekday(named: string, today: string): string {
  const wanted = weekdays.findIndex((weekday) => weekday.slice(0, 3).toLowerCase() === named.slice(0, 3).toLowerCase());
  const back = (new Date(`${today}T00:00:00Z`).getUTCDay() - wanted + 7) % 7;
  return addDays(today, -(back || 7));
}

function readLine(raw: string, today: string): { date: string; times: string[] }[] | string {
  const moment = absolute.exec(raw)?.[0];
  if (moment)
    return `“${moment}” is a moment in UTC or at an offset from it. Write the date and the time of day as the clock there shows them.`;
  const inMonth = placeInMonth.exec(raw)?.[0];
  if (inMonth) return `“${inMonth}” names a day by its place in a month. Write the date itself.`;
  const line = fullYears(raw.replace(/\b((?:19|20)\d{2})([01]\d)([0-3]\d)\b/g, '$1-$2-$3'))
    .replace(/(\d{1,2}:\d{2}):00(?:\.0{1,6})?(?![\d:])/g, '$1')
    .replace(
      /\b(?:last|past)\s+((?:mon|tues?|wed(?:nes)?|thu(?:rs)?|fri|sat(?:ur)?|sun)(?:day)?)\b/gi,
      (_, named: string) => lastWeekday(named, today),
    );
  const clocks = clockPieces(line);
  const odd = [...line.matchAll(/\b\d{1,2}:\d{2}\b/g)].find(
    (match) => !clocks.some(({ from, to }) => from <= match.index && match.index < to),
  );
  if (odd) return `“${odd[0]}” is no time of day between 00:00 and 23:59.`;
  const days = apart(dayReadings(line, today));
  if (days.length === 0) {
    const iso = /\b\d{4}-\d{2}-\d{2}\b/.exec(line)?.[0];
    return iso
      ? `“${iso}” is no date between 1970 and 2037.`
      : 'No date was found in this line. Write it like 18 March 2027.';
  }
  const span = days.find(
    (day, i) =>
      i > 0 && joinsSpan.test(line.slice((days[i - 1]?.index ?? 0) + (days[i - 1]?.text.length ?? 0), day.index)),
  );
  if (span) return spanWords(line.slice(days[days.indexOf(span) - 1]?.index, span.index + span.text.length));
  const pieces = clocks.filter(
    (piece) => !days.some((day) => piece.from < day.index + day.text.length && day.index < piece.to),
  );
  const times = pieces
    .filter(
      (piece) =>
        !piece.closes && !/\b(?:doors?|open|until|till|ends?)\s*(?:at\s*)?:?\s*$/i.test(line.slice(0, piece.from)),
    )
    .map((piece) => piece.readings[0] ?? '');
  const read = days.map((day) => dateOf(day, line, days.length === 1));
  const problem = read.find((candidate) => candidate.problem !== null)?.problem;
  return problem ?? read.map(({ date }) => ({ date, times }));
}

/** What stands between the first and the last day of a span. */
const joinsSpan = /^\s*(?:-|–|—|\bto\b|\btill?\b|\buntil\b|\bthrough\b)\s*$/i;
const spanWords = (text: string) =>
  `“${text}” is a span of days. Write each day on a line of its own, or give one performance a last day.`;

/** Readings that do not overlap, in the order of the line: of two for the same words, the first. */
function apart(readings: readonly DayReading[]): DayReading[] {
  const kept: DayReading[] = [];
  for (const reading of readings)
    if (
      !kept.some(
        (other) => reading.index < other.index + other.text.length && other.index < reading.index + reading.text.length,
      )
    )
      kept.push(reading);
  return kept.sort((a, b) => a.index - b.index);
}

const weekdays = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];
const asDate = (from: DayReading['start']) =>
  `${from.get('year')}-${pad(from.get('month') ?? 0)}-${pad(from.get('day') ?? 0)}`;

function dateOf(
  { start, end, text }: DayReading,
  line: string,
  alone: boolean,
): { date: string; problem: string | null } {
  const date = asDate(start);
  if (!isoDate.safeParse(date).success) return { date, problem: `“${date}” is no date between 1970 and 2037.` };
  if (end !== null && asDate(end) !== date) return { date, problem: spanWords(text) };
  const named = start.isCertain('weekday')
    ? weekdays[start.get('weekday') ?? -1]
    : alone
      ? weekdays.find((weekday) => new RegExp(`\\b${weekday.slice(0, 3)}[a-z]*\\b`, 'i').test(line))
      : undefined;
  const real = dateParts(date);
  return {
    date,
    problem:
      named === undefined || real.weekday.slice(0, 3) === named.slice(0, 3)
        ? null
        : `${real.day} ${real.month} ${real.year} is a ${real.weekday}. Put the day or the date right.`,
  };
}
