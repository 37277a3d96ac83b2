const dayMs = 86_400_000;
const weekdayNames = ['SU', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA'];
/** Days that a rule is followed for at the most, so that one whose parts never meet comes to an end. */
const mostDays = 75_000;

/** A recurrence rule that makes dates, taken apart (RFC 5545, section 3.3.10). A part that is not there is `null`. */
interface RuleOfDays {
  freq: 'DAILY' | 'WEEKLY' | 'MONTHLY' | 'YEARLY';
  interval: number;
  count: number;
  /** The last day, YYYY-MM-DD, on which it may fall. */
  until: string | null;
  months: ReadonlySet<number> | null;
  monthDays: readonly number[] | null;
  yearDays: readonly number[] | null;
  weeks: readonly number[] | null;
  /** Weekdays (0: Sunday), each with its place in the month or year (0: any). */
  weekdays: readonly { day: number; nth: number }[] | null;
  positions: ReadonlySet<number> | null;
  weekStart: number;
}

function partsOf(rule: string): RuleOfDays {
  const parts = new Map(rule.split(';').map((part) => part.split('=') as [string, string]));
  const numbers = (name: string) => parts.get(name)?.split(',').map(Number) ?? null;
  const [, y, m, d] = /^(\d{4})(\d{2})(\d{2})/.exec(parts.get('UNTIL') ?? '') ?? [];
  const months = numbers('BYMONTH');
  const positions = numbers('BYSETPOS');
  return {
    freq: (parts.get('FREQ') ?? 'YEARLY') as RuleOfDays['freq'],
    interval: Number(parts.get('INTERVAL') ?? 1),
    count: Number(parts.get('COUNT') ?? Infinity),
    until: y === undefined ? null : `${y}-${m}-${d}`,
    months: months && new Set(months),
    monthDays: numbers('BYMONTHDAY'),
    yearDays: numbers('BYYEARDAY'),
    weeks: numbers('BYWEEKNO'),
    weekdays:
      parts
        .get('BYDAY')
        ?.split(',')
        .map((text) => ({ day: weekdayNames.indexOf(text.slice(-2)), nth: Number(text.slice(0, -2)) })) ?? null,
    positions: positions && new Set(positions),
    weekStart: weekdayNames.indexOf(parts.get('WKST') ?? 'MO'),
  };
}

/** A day of the calendar with what a rule may ask of it. */
interface Day {
  at: number;
  month: number;
  ofMonth: number;
  monthLength: number;
  ofYear: number;
  yearLength: number;
  weekday: number;
}

function dayAt(at: number): Day {
  const day = new Date(at);
  const [year, month] = [day.getUTCFullYear(), day.getUTCMonth()];
  const start = Date.UTC(year, 0, 1);
  return {
    at,
    month: month + 1,
    ofMonth: day.getUTCDate(),
    monthLength: new Date(Date.UTC(year, month + 1, 0)).getUTCDate(),
    ofYear: (at - start) / dayMs + 1,
    yearLength: (Date.UTC(year + 1, 0, 1) - start) / dayMs,
    weekday: day.getUTCDay(),
  };
}

const dateOf = (at: number) => new Date(at).toISOString().slice(0, 10);

/**
 * The dates of a rule (in capitals, its parts checked) from `first` on, in order, whether `first` is one of them or
 * not. Of each day, week, month or year all days are taken that meet every part (the table of what expands and what
 * limits), then those that BYSETPOS picks of them. The calendar is walked day by day, so that no rule costs more than
 * its days.
 */
export function* daysOfRule(rule: string, first: string): Generator<string> {
  const parts = partsOf(rule);
  const start = Date.parse(`${first}T00:00:00Z`);
  const anchor = dayAt(start);
  let left = parts.count;
  let walked = 0;
  for (let i = 0; walked < mostDays; i += 1) {
    const [from, to] = period(parts, anchor, i * parts.interval);
    const meeting: number[] = [];
    if (
      parts.months === null ||
      parts.freq === 'YEARLY' ||
      parts.freq === 'WEEKLY' ||
      parts.months.has(dayAt(from).month)
    ) {
      for (let at = from; at < to; at += dayMs) if (meets(dayAt(at), parts, anchor)) meeting.push(at);
    }
    walked += Math.max(parts.freq === 'DAILY' ? parts.interval : 1, Math.round((to - from) / dayMs) * parts.interval);
    const { positions } = parts;
    const picked =
      positions === null
        ? meeting
        : meeting.filter((_, n) => positions.has(n + 1) || positions.has(n - meeting.length));
    for (const at of picked) {
      if (at < start) continue;
      const date = dateOf(at);
      if (left <= 0 || (parts.until !== null && date > parts.until)) return;
      left -= 1;
      yield date;
    }
    if (left <= 0 || (parts.until !== null && dateOf(from) > parts.until)) return;
  }
}

/** The days of one period, so many periods after that of the first date: from midnight to midnight. */
function period({ freq, weekStart }: RuleOfDays, { at, weekday }: Day, on: number): [number, number] {
  const day = new Date(at);
  const [year, month] = [day.getUTCFullYear(), day.getUTCMonth()];
  switch (freq) {
    case 'DAILY':
      return [at + on * dayMs, at + (on + 1) * dayMs];
    case 'WEEKLY': {
      const opening = at - ((weekday - weekStart + 7) % 7) * dayMs + on * 7 * dayMs;
      return [opening, opening + 7 * dayMs];
    }
    case 'MONTHLY':
      return [Date.UTC(year, month + on, 1), Date.UTC(year, month + on + 1, 1)];
    case 'YEARLY':
      return [Date.UTC(year + on, 0, 1), Date.UTC(year + on + 1, 0, 1)];
  }
}

/** Whether a place, counted from 1, is among those named from the beginning or, with a minus, from the end. */
const among = (named: readonly number[] | null, place: number, length: number) =>
  named === null || named.includes(place) || named.includes(place - length - 1);

function meets(day: Day, parts: RuleOfDays, anchor: Day): boolean {
  if (parts.months !== null && !parts.months.has(day.month)) return false;
  if (!among(parts.monthDays, day.ofMonth, day.monthLength) || !among(parts.yearDays, day.ofYear, day.yearLength))
    return false;
  if (parts.weekdays !== null && !parts.weekdays.some((weekday) => meetsWeekday(day, weekday, parts))) return false;
  if (parts.weeks !== null && !meetsWeek(day, parts.weeks, parts.weekStart)) return false;
  if (parts.weekdays !== null || parts.monthDays !== null || parts.yearDays !== null) return true;
  // What no part says is as on the first date.
  switch (parts.freq) {
    case 'DAILY':
      return true;
    case 'WEEKLY':
      return day.weekday === anchor.weekday;
    case 'MONTHLY':
      return day.ofMonth === anchor.ofMonth;
    case 'YEARLY':
      return day.ofMonth === anchor.ofMonth && (parts.months !== null || day.month === anchor.month);
  }
}

/**
 * `TU`: any Tuesday; `2TU` and `-1TU`: the second and the last of the month, in months and where months are named, or
 * of the year.
 */
function meetsWeekday(
  day: Day,
  { day: wanted, nth }: { day: number; nth: number },
  { freq, months }: RuleOfDays,
): boolean {
  if (day.weekday !== wanted) return false;
  const [place, length] =
    freq === 'MONTHLY' || months !== null ? [day.ofMonth, day.monthLength] : [day.ofYear, day.yearLength];
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
