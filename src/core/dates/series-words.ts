import { addDays } from '../base/zones';
import { listWords } from '../base/list-words';
import { longDate } from './date-words';

/** One date of a series: its day and time, and whether it takes place. */
export interface SeriesDate {
  date: string;
  time: string;
  off: boolean;
}

const weekdays = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];
/** More exceptions than this, and it is no series that one line could tell. */
const mostExceptions = 5;

const weekdayOf = (date: string) => (new Date(`${date}T00:00:00Z`).getUTCDay() + 6) % 7;
const daysBetween = (a: string, b: string) => (Date.parse(b) - Date.parse(a)) / 86_400_000;

function mostCommon(values: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].reduce((best, count) => (count[1] > best[1] ? count : best), ['', 0] as [string, number])[0];
}

/**
 * A series in one line of public words: `Tuesdays 19:45 until 20 April, not 16 March`. Dates come in order; `today`
 * says whether it has begun (`from 2 February until 20 April` before that). `null`: fewer than three, or no weekly
 * rhythm that one line could tell.
 */
export function seriesWords(dates: readonly SeriesDate[], today: string): string | null {
  const on = dates.filter((date) => !date.off);
  const [first, last] = [on[0]?.date, on[on.length - 1]?.date];
  if (on.length < 3 || first === undefined || last === undefined) return null;
  const time = mostCommon(on.map((date) => date.time));
  const usual = on.filter((date) => date.time === time);
  const counts = new Map<number, number>();
  for (const date of usual) counts.set(weekdayOf(date.date), (counts.get(weekdayOf(date.date)) ?? 0) + 1);
  // What comes twice in a fortnight is a rhythm; in a longer series it comes three times.
  const often = Math.min(3, Math.max(2, Math.floor(daysBetween(first, last) / 7)));
  const days = [...counts]
    .filter(([, n]) => n >= Math.min(often, on.length - 1))
    .map(([day]) => day)
    .sort((a, b) => a - b);
  if (days.length === 0) return null;
  const rhythm = stepOf(
    usual.map((date) => date.date).filter((date) => days.includes(weekdayOf(date))),
    days.length,
  );
  if (rhythm === null) return null;
  const held = new Set(usual.map((date) => date.date));
  const expected = expectedDays(days, rhythm, usual);
  const not = expected.filter((date) => !held.has(date));
  const wanted = new Set(expected);
  const also = on.filter((date) => date.time !== time || !wanted.has(date.date));
  if (not.length + also.length > mostExceptions || not.length >= held.size) return null;
  const sameYear = first.slice(0, 4) === last.slice(0, 4);
  const day = (date: string) =>
    longDate(date)
      .replace(/^\w+ /, '')
      .replace(sameYear ? / \d{4}$/ : /^$/, '');
  const named = days.length === 7 ? 'daily' : listWords(days.map((day) => weekdays[day] ?? ''));
  const span = today < first ? `from ${day(first)} until ${day(last)}` : `until ${day(last)}`;
  const extra = also.map((date) => `${day(date.date)}${date.time === time ? '' : ` ${date.time}`}`);
  return [
    `${rhythm === 14 ? `every other ${named.replace(/s$/, '')}` : named} ${time} ${span}`.replace(/^./, (c) =>
      c.toUpperCase(),
    ),
    not.length === 0 ? '' : `not ${listWords(not.map(day))}`,
    extra.length === 0 ? '' : `also ${listWords(extra)}`,
  ]
    .filter((part) => part !== '')
    .join(', ');
}

/** Days between one date and the next of the same weekday: 7, or 14 where every other week is left out. */
function stepOf(dates: readonly string[], weekdaysHeld: number): 7 | 14 | null {
  if (weekdaysHeld > 1) return 7;
  const gaps = dates.slice(1).map((date, i) => daysBetween(dates[i] ?? date, date));
  if (gaps.every((gap) => gap % 14 === 0) && gaps.filter((gap) => gap === 14).length * 2 > gaps.length) return 14;
  return gaps.filter((gap) => gap === 7).length * 2 >= gaps.length ? 7 : null;
}

function expectedDays(days: readonly number[], step: 7 | 14, usual: readonly SeriesDate[]): string[] {
  const held = usual.filter((date) => days.includes(weekdayOf(date.date)));
  const [first, last] = [held[0]?.date, held[held.length - 1]?.date];
  if (first === undefined || last === undefined) return [];
  const out: string[] = [];
  for (let date = first; date <= last; date = addDays(date, 1))
    if (days.includes(weekdayOf(date)) && (step === 7 || daysBetween(first, date) % 14 === 0)) out.push(date);
  return out;
}
