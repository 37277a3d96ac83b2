import { toLocal, type Instant } from '../base/zones';

const weekdays = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'] as const;
const months = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const;

/** A span of time in words, to its two largest units: `2 min`, `20 h`, `1 day 6 h`. Milliseconds in. */
export function spanWords(ms: number): string {
  const units = [
    ['day', 86_400_000],
    ['h', 3_600_000],
    ['min', 60_000],
    ['s', 1_000],
  ] as const;
  const first = units.findIndex(([, size]) => ms >= size);
  if (first < 0) return 'under 1 s';
  let left = Math.round(ms / (units[first + 1]?.[1] ?? 1_000)) * (units[first + 1]?.[1] ?? 1_000);
  const said = units.slice(first, first + 2).flatMap(([name, size]) => {
    const n = Math.floor(left / size);
    left -= n * size;
    return n === 0 ? [] : [`${n} ${name}${name === 'day' && n > 1 ? 's' : ''}`];
  });
  return said.join(' ');
}

/** The parts of a calendar date in words, for setting a date block. */
export interface DateParts {
  day: number;
  weekday: string;
  month: string;
  year: number;
}

/** Parts of a YYYY-MM-DD date, in English. */
export function dateParts(date: string): DateParts {
  const at = new Date(`${date}T00:00:00Z`);
  return {
    day: at.getUTCDate(),
    weekday: weekdays[at.getUTCDay()] ?? '',
    month: months[at.getUTCMonth()] ?? '',
    year: at.getUTCFullYear(),
  };
}

/** `Thursday 4 February 2027`. */
export function longDate(date: string): string {
  const { day, weekday, month, year } = dateParts(date);
  return `${weekday} ${day} ${month} ${year}`;
}

/** `Thu 4 Feb`, with the year where `year` is wanted. */
export function shortDate(date: string, withYear = false): string {
  const { day, weekday, month, year } = dateParts(date);
  return `${weekday.slice(0, 3)} ${day} ${month.slice(0, 3)}${withYear ? ` ${year}` : ''}`;
}

/**
 * A date as far as it is known, at the precision of ISO 8601: `2027-05-14` the day, `2027-05` the month, an empty text
 * nothing yet.
 */
export type KnownDay = string;

/** `Fri 14 May 2027`, `May 2027, day open`, `date open`. */
export function knownDayWords(day: KnownDay, withYear = true): string {
  if (day === '') return 'date open';
  if (day.length > 7) return shortDate(day, withYear);
  const { month, year } = dateParts(`${day}-01`);
  return `${month} ${year}, day open`;
}

/** `Thu 4 Feb 2027, 20:00` in `zone`. */
export function momentWords(instant: Instant, zone: string): string {
  const { date, time } = toLocal(instant, zone);
  return `${shortDate(date, true)}, ${time}`;
}

/** The place part of a zone name, in words: `Europe/Dublin` gives `Dublin`. */
export function zonePlace(zone: string): string {
  return (zone.split('/').pop() ?? zone).replaceAll('_', ' ');
}

/** Words that say a time of a performance, with its zone where that is not the house's: `19:30 Adelaide time`. */
export function inZone(words: string, performance: { zoneNote: string } | undefined): string {
  return performance === undefined || performance.zoneNote === '' ? words : `${words} ${performance.zoneNote}`;
}

/** Longest text that is read as a time of day. */
const mostTimeChars = 24;

/**
 * Reads a time of day as people and spreadsheets write it: `19:30`, `19.30`, `1930`, `7pm`, `7.30 pm`, `7:30:00 PM`,
 * `19:30:00`, `19h`, `noon`.
 * Gives HH:mm, or `null` where it is no time of day, or one that is not at a full minute.
 */
export function parseTimeOfDay(text: string): string | null {
  if (text.length > mostTimeChars) return null;
  const word = { noon: '12:00', midday: '12:00', midnight: '00:00' }[text.trim().toLowerCase()];
  if (word !== undefined) return word;
  const found = /^\s*(\d{1,2})(?:[:.h]?(\d{2})(?:[:.](?:00)(?:\.0{1,6})?)?|h)?\s*(?:([ap])\.?\s?m\.?)?\s*$/i.exec(text);
  if (!found) return null;
  const [, hourText = '', minuteText = '00', half] = found;
  let hour = Number(hourText);
  const minute = Number(minuteText);
  if (half) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (half.toLowerCase() === 'p' ? 12 : 0);
  }
  if (hour > 23 || minute > 59) return null;
  return `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;
}

/** A channel's id as a name in a sentence: `gatefold` gives `Gatefold`. */
export function channelWords(id: string): string {
  return (id.charAt(0).toUpperCase() + id.slice(1)).replaceAll('-', ' ');
}
