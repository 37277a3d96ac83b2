const dayMs = 86_400_000;
const names = ['SU', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA'];
/** Years that are looked through for a rule whose parts may never meet. */
const mostYears = 200;

type Parts = ReadonlyMap<string, string>;

function partsOf(rule: string): Parts {
  return new Map(rule.split(';').map((part) => part.split('=') as [string, string]));
}

const numbers = (parts: Parts, name: string) => parts.get(name)?.split(',').map(Number) ?? null;

/**
 * Whether a yearly rule names its days in several ways at once, so that a day has to meet them all: `BYYEARDAY` with `BYDAY`,
 * `BYMONTHDAY` with `BYWEEKNO`. The library takes one of them and passes over the other.
 */
export function isCrossed(rule: string): boolean {
  const parts = partsOf(rule);
  if (parts.get('FREQ') !== 'YEARLY') return false;
  const named = ['BYYEARDAY', 'BYWEEKNO', 'BYMONTHDAY'].filter((name) => parts.has(name)).length;
  return named > 1 || (parts.has('BYYEARDAY') && parts.has('BYDAY')) || (parts.has('BYMONTHDAY') && /\d/.test(parts.get('BYDAY') ?? ''));
}

/**
 * The dates of a crossed yearly rule from `first` on, in order: of each year all days that meet every part (RFC 5545, section
 * 3.3.10, the table of what expands and what limits), then those that BYSETPOS picks. `until` (YYYY-MM-DD) and COUNT end it.
 */
export function* crossedDates(rule: string, first: string, until: string | null): Generator<string> {
  const parts = partsOf(rule);
  const positions = numbers(parts, 'BYSETPOS');
  const every = Number(parts.get('INTERVAL') ?? 1);
  let left = Number(parts.get('COUNT') ?? Infinity);
  const from = Number(first.slice(0, 4));
  for (let year = from; year < from + mostYears; year += every) {
    const meeting = daysOf(year).filter((day) => meets(day, parts));
    const picked = positions === null ? meeting : meeting.filter((_, i) => positions.includes(i + 1) || positions.includes(i - meeting.length));
    for (const { date } of picked) {
      if (date < first) continue;
      if (left <= 0 || (until !== null && date > until)) return;
      left -= 1;
      yield date;
    }
  }
}

interface Day {
  date: string;
  at: number;
  month: number;
  ofMonth: number;
  monthLength: number;
  ofYear: number;
  yearLength: number;
  weekday: number;
}

function daysOf(year: number): Day[] {
  const start = Date.UTC(year, 0, 1);
  const yearLength = (Date.UTC(year + 1, 0, 1) - start) / dayMs;
  return Array.from({ length: yearLength }, (_, i) => {
    const at = start + i * dayMs;
    const day = new Date(at);
    const month = day.getUTCMonth();
    return { date: day.toISOString().slice(0, 10), at, month: month + 1, ofMonth: day.getUTCDate(), monthLength: new Date(Date.UTC(year, month + 1, 0)).getUTCDate(), ofYear: i + 1, yearLength, weekday: day.getUTCDay() };
  });
}

/** Whether a place, counted from 1, is among those named from the beginning or, with a minus, from the end. */
const among = (named: readonly number[] | null, place: number, length: number) => named === null || named.includes(place) || named.includes(place - length - 1);

function meets(day: Day, parts: Parts): boolean {
  const months = numbers(parts, 'BYMONTH');
  if (months !== null && !months.includes(day.month)) return false;
  if (!among(numbers(parts, 'BYMONTHDAY'), day.ofMonth, day.monthLength) || !among(numbers(parts, 'BYYEARDAY'), day.ofYear, day.yearLength)) return false;
  const named = parts.get('BYDAY')?.split(',');
  if (named && !named.some((one) => meetsWeekday(day, one, months !== null))) return false;
  const weeks = numbers(parts, 'BYWEEKNO');
  return weeks === null || meetsWeek(day, weeks, names.indexOf(parts.get('WKST') ?? 'MO'));
}

/** `TU`: any Tuesday; `2TU` and `-1TU`: the second and the last of the month, where months are named, or of the year. */
function meetsWeekday(day: Day, named: string, ofMonth: boolean): boolean {
  if (names[day.weekday] !== named.slice(-2)) return false;
  const nth = Number(named.slice(0, -2));
  const [place, length] = ofMonth ? [day.ofMonth, day.monthLength] : [day.ofYear, day.yearLength];
  return nth === 0 || (nth > 0 ? Math.ceil(place / 7) === nth : Math.ceil((length - place + 1) / 7) === -nth);
}

/** The week of a day is numbered in the year that holds at least four of its days (RFC 5545, BYWEEKNO; ISO 8601). */
function meetsWeek({ at, weekday }: Day, weeks: readonly number[], firstDay: number): boolean {
  const fourth = (day: number, of: number) => day + (3 - ((of - firstDay + 7) % 7)) * dayMs;
  const year = new Date(fourth(at, weekday)).getUTCFullYear();
  const opening = (of: number) => fourth(Date.UTC(of, 0, 4), new Date(Date.UTC(of, 0, 4)).getUTCDay());
  const count = Math.round((opening(year + 1) - opening(year)) / (7 * dayMs));
  return among(weeks, Math.round((fourth(at, weekday) - opening(year)) / (7 * dayMs)) + 1, count);
}
