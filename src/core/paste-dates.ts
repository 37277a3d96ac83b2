import * as chrono from 'chrono-node/en';
import { dateParts, parseTimeOfDay } from './date-words';
import { isoDate } from './scalars';

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

/** Most characters of one paste. */
export const mostPasteChars = 100_000;

const pad = (n: number) => String(n).padStart(2, '0');

/**
 * Reads pasted dates, one a line: `Thu 18 March 2027 19:30`, `2027-03-18, 11:00, 14:00`, `18.3.2027`. A date without a
 * year is the next such date from `today` on (YYYY-MM-DD). A weekday that does not fit its date is a problem.
 */
export function pasteDates(text: string, today: string): { dates: PastedDate[]; problems: PasteProblem[] } {
  const dates: PastedDate[] = [];
  const problems: PasteProblem[] = [];
  if (text.length > mostPasteChars) return { dates, problems: [{ line: 1, text: `${text.slice(0, 60)}…`, why: `More than ${mostPasteChars / 1000} 000 characters. Paste fewer lines.` }] };
  text.split(/\r?\n/).forEach((raw, i) => {
    const line = raw.trim();
    if (line === '') return;
    const read = readLine(line.slice(0, 300), today);
    if (typeof read === 'string') problems.push({ line: i + 1, text: line, why: read });
    else dates.push({ line: i + 1, text: line, ...read });
  });
  return { dates, problems };
}

function readLine(line: string, today: string): { date: string; times: string[] } | string {
  const iso = /\b(\d{4}-\d{2}-\d{2})(?:[T ,]|$)/.exec(line)?.[1];
  const found = iso ? null : chrono.GB.parse(line, { instant: new Date(`${today}T12:00:00Z`), timezone: 'UTC' }, { forwardDate: true }).find((one) => one.start.isCertain('day') || one.start.isCertain('weekday'));
  if (!iso && !found) return 'No date was found in this line. Write it like 18 March 2027.';
  const date = iso ?? `${found?.start.get('year')}-${pad(found?.start.get('month') ?? 0)}-${pad(found?.start.get('day') ?? 0)}`;
  if (!isoDate.safeParse(date).success) return `“${date}” is no date between 1970 and 2037.`;
  const weekday = /\b(mon|tue|wed|thu|fri|sat|sun)[a-z]*\b/i.exec(line)?.[1]?.toLowerCase();
  const real = dateParts(date).weekday;
  if (weekday && real.slice(0, 3).toLowerCase() !== weekday) return `${dateParts(date).day} ${dateParts(date).month} ${dateParts(date).year} is a ${real}. Put the day or the date right.`;
  const times = [...line.matchAll(/\b(\d{1,2}[:.h]\d{2}\s*(?:am|pm)?|\d{1,2}\s*(?:am|pm))(?![\d.])/gi)]
    .filter((one) => !new RegExp(`${one[1]?.replace(/[.]/g, '\\.')}\\.\\d{4}`).test(line))
    .map((one) => parseTimeOfDay(one[1] ?? ''))
    .filter((one) => one !== null);
  return { date, times };
}
