import { quoted } from '../base/quoted';
import type { Performance } from '../record/record';
import { recordLimits } from '../record/choices';
import { fail, ok, type Result } from '../base/result';
import { daysOfRule } from './rule-days';
import { rulePartsProblem } from './rule-parts';
import { isoDate } from '../base/scalars';
import { addDays, lastZoneYear, toLocal } from '../base/zones';

/** Dates made by a rule, with exceptions and extra dates, each at one or several times of day. */
export interface Pattern {
  /** RFC 5545 recurrence rule without its name, e.g. `FREQ=WEEKLY;BYDAY=TU;COUNT=12`. */
  rule: string;
  /** First date, YYYY-MM-DD: DTSTART. */
  first: string;
  /** Times of day, HH:mm. */
  times: readonly string[];
  /** Dates left out (EXDATE) and dates added (RDATE). */
  except: readonly string[];
  extra: readonly string[];
  zone: string;
}

/** One occurrence: its recurrence id is the date and time that the pattern gave it. */
export interface Occurrence {
  id: string;
  date: string;
  time: string;
}

/** Why a pattern gives no dates. */
export type PatternProblem =
  | { code: 'rule-malformed'; detail: string }
  | { code: 'rule-unsteady' }
  | { code: 'rule-misses-first'; first: string; next: string | null }
  | { code: 'rule-too-many'; limit: number }
  | { code: 'rule-too-far'; year: number }
  | { code: 'rule-empty' }
  | { code: 'date-malformed'; text: string };

/** Words for each problem, with the way out. */
export function patternWords(problem: PatternProblem): string {
  switch (problem.code) {
    case 'rule-malformed':
      return `This is no recurrence rule: ${problem.detail}. Write one like FREQ=WEEKLY;BYDAY=TU;COUNT=12.`;
    case 'rule-unsteady':
      return 'A rule with BYWEEKNO needs BYDAY too: without it, calendars disagree on which days it means. Add BYDAY.';
    case 'rule-misses-first':
      return `The rule does not fall on the first date ${problem.first}, and calendars disagree on whether that date then counts. ${problem.next === null ? 'Change the rule.' : `Start on ${problem.next}, or add ${problem.first} as an extra date.`}`;
    case 'rule-too-many':
      return `The rule makes more than ${problem.limit} dates. End it earlier with COUNT or UNTIL.`;
    case 'rule-too-far':
      return `The rule reaches beyond ${problem.year}, where no zone’s clocks are known yet. End it earlier with COUNT or UNTIL.`;
    case 'rule-empty':
      return 'The rule gives no date at all. Change it, or the dates left out.';
    case 'date-malformed':
      return `${quoted(problem.text)} is no date. Write it as YYYY-MM-DD.`;
  }
}

/** Longest rule that is read, in UTF-16 units; and most exceptions or extra dates of one pattern. */
const mostRuleChars = 2_000;
const mostNamedDates = 10_000;

/**
 * The occurrences of a pattern, in order of time. Rules finer than a day are refused: times of day are given by
 * `times`.
 * A first date that the rule does not produce is refused rather than guessed at, as is BYWEEKNO without BYDAY.
 */
export function occurrences(pattern: Pattern): Result<Occurrence[], PatternProblem> {
  const { first } = pattern;
  const rule = ruleText(pattern.rule);
  for (const text of [first, ...pattern.except, ...pattern.extra])
    if (!isoDate.safeParse(text).success) return fail({ code: 'date-malformed', text });
  if (pattern.except.length + pattern.extra.length > mostNamedDates)
    return fail({ code: 'rule-too-many', limit: mostNamedDates });
  const dates = ruleDates(rule, first, pattern.zone);
  if (!dates.ok) return dates;
  if (dates.value[0] !== first)
    return fail({ code: 'rule-misses-first', first, next: dates.value.find((date) => date > first) ?? null });
  const until = untilOf(rule, pattern.zone);
  const extra = new Set(pattern.extra);
  const except = new Set(pattern.except);
  const kept = new Set([...dates.value, ...pattern.extra].filter((date) => !except.has(date)));
  const times = pattern.times.length > 0 ? [...new Set(pattern.times)].sort() : ['00:00'];
  if (kept.size === 0) return fail({ code: 'rule-empty' });
  if (kept.size * times.length > recordLimits.performances)
    return fail({ code: 'rule-too-many', limit: recordLimits.performances });
  const made = [...kept]
    .sort()
    .flatMap((date) =>
      times
        .filter((time) => extra.has(date) || until === null || `${date}T${time}` <= until)
        .map((time) => ({ id: recurrenceId(date, time), date, time })),
    );
  return made.length === 0 ? fail({ code: 'rule-empty' }) : ok(made);
}

/** `20270202T1800`: the date and time that the pattern gave (RFC 5545, section 3.8.4.4), which never changes. */
export function recurrenceId(date: string, time: string): string {
  return `${date.replaceAll('-', '')}T${time.replace(':', '')}`;
}

/** A rule as it is read: without its name, in capitals. */
export function ruleText(rule: string): string {
  return rule
    .trim()
    .replace(/^RRULE:/i, '')
    .toUpperCase();
}

/**
 * The dates that a rule (see `ruleText`) gives from `first` on, in order, whether `first` is one of them or not. Its
 * end is the local day, in `zone`, on which UNTIL falls.
 */
export function ruleDates(rule: string, first: string, zone: string): Result<string[], PatternProblem> {
  if (rule.length > mostRuleChars) return fail({ code: 'rule-malformed', detail: `it has ${rule.length} characters` });
  if (/FREQ=(HOURLY|MINUTELY|SECONDLY)|BYHOUR|BYMINUTE|BYSECOND/.test(rule))
    return fail({ code: 'rule-malformed', detail: 'a rule makes dates, and the times of day stand beside it' });
  const malformed = rulePartsProblem(rule);
  if (malformed !== null) return fail({ code: 'rule-malformed', detail: malformed });
  if (/BYWEEKNO/.test(rule) && !/BYDAY/.test(rule)) return fail({ code: 'rule-unsteady' });
  const made: string[] = [];
  for (const date of daysOfRule(withLocalUntil(rule, zone), first)) {
    made.push(date);
    if (made.length > recordLimits.performances || Number(date.slice(0, 4)) > lastZoneYear) break;
  }
  if (made.length > recordLimits.performances) return fail({ code: 'rule-too-many', limit: recordLimits.performances });
  if (made.some((date) => Number(date.slice(0, 4)) > lastZoneYear))
    return fail({ code: 'rule-too-far', year: lastZoneYear });
  return made.length === 0 ? fail({ code: 'rule-empty' }) : ok(made);
}

/**
 * The local moment `YYYY-MM-DDTHH:mm` after which a rule makes nothing more; `null` where it ends by a whole day, or
 * not by UNTIL.
 */
export function untilOf(rule: string, zone: string): string | null {
  const [, y = '', m = '', d = '', hour, minute = '00', utc] = untilShape.exec(rule) ?? [];
  if (hour === undefined) return null;
  if (!utc) return `${y}-${m}-${d}T${hour}:${minute}`;
  const local = toLocal(Date.parse(`${y}-${m}-${d}T${hour}:${minute}:00Z`), zone);
  return `${local.date}T${local.time}`;
}

const untilShape = /UNTIL=(\d{4})(\d{2})(\d{2})(?:T(\d{2})(\d{2})\d{2}(Z)?)?/;

/** UNTIL may be an instant in UTC (RFC 5545, section 3.3.10): the local day it falls on is the last that has dates. */
function withLocalUntil(rule: string, zone: string): string {
  return rule.replace(
    untilShape,
    (_, y: string, m: string, d: string, hour?: string, minute?: string, utc?: string) => {
      const date = utc ? toLocal(Date.parse(`${y}-${m}-${d}T${hour}:${minute}:00Z`), zone).date : `${y}-${m}-${d}`;
      return `UNTIL=${date.replaceAll('-', '')}T235959Z`;
    },
  );
}

/** Which performances an edit is for. */
export type EditScope = 'this' | 'later' | 'all';

/** What an edit may change in several performances at once. Times and places; a `date` moves by as many days. */
export type PerformanceEdit = Partial<
  Pick<
    Performance,
    | 'date'
    | 'doors'
    | 'start'
    | 'end'
    | 'endHidden'
    | 'endsNextDay'
    | 'precision'
    | 'venueId'
    | 'roomId'
    | 'setUpId'
    | 'zone'
    | 'pencilled'
    | 'turn'
    | 'soldOut'
    | 'note'
    | 'link'
    | 'lineUpExtra'
    | 'lineUpOut'
    | 'lastDate'
    | 'repeat'
  >
>;

/** What an edit does to one performance: the fields that change, and those that keep a value of their own. */
interface Touched {
  id: string;
  changes: (keyof PerformanceEdit)[];
  keepsOwn: (keyof PerformanceEdit)[];
}

/** An edit worked out: every performance as it will be, and what is touched. */
export interface EditPlan {
  performances: Performance[];
  touched: Touched[];
}

const order = (item: Pick<Performance, 'date' | 'start' | 'id'>) => `${item.date} ${item.start ?? ''} ${item.id}`;

/** The fields of `after` that differ from `before`. */
export function editBetween(before: Performance, after: Performance): PerformanceEdit {
  const keys = [
    'date',
    'doors',
    'start',
    'end',
    'endHidden',
    'endsNextDay',
    'precision',
    'venueId',
    'roomId',
    'setUpId',
    'zone',
    'pencilled',
    'turn',
    'soldOut',
    'note',
    'link',
    'lineUpExtra',
    'lineUpOut',
    'lastDate',
    'repeat',
  ] as const;
  return Object.fromEntries(keys.filter((key) => !equal(before[key], after[key])).map((key) => [key, after[key]]));
}

function equal(a: unknown, b: unknown): boolean {
  return Array.isArray(a) && Array.isArray(b) ? a.join('|') === b.join('|') : a === b;
}

/**
 * Works an edit of one performance out for its scope. Ids stay. Beyond the one that was edited, a performance takes a
 * new value only where it had the same old value: what was set apart before keeps its own. Dates move by the same
 * number of days.
 */
export function planEdit(
  performances: readonly Performance[],
  id: string,
  scope: EditScope,
  edit: PerformanceEdit,
): EditPlan {
  const target = performances.find((performance) => performance.id === id);
  if (!target) return { performances: [...performances], touched: [] };
  const touched: Touched[] = [];
  const shift =
    edit.date === undefined ? 0 : Math.round((Date.parse(edit.date) - Date.parse(target.date)) / 86_400_000);
  const from = order(target);
  const next = performances.map((performance): Performance => {
    const inScope = performance.id === id || scope === 'all' || (scope === 'later' && order(performance) > from);
    if (!inScope) return performance;
    const { changed, mark } = editOne(performance, target, edit, shift);
    if (mark.changes.length > 0 || mark.keepsOwn.length > 0) touched.push(mark);
    return changed;
  });
  return { performances: next, touched };
}

function editOne(
  performance: Performance,
  target: Performance,
  edit: PerformanceEdit,
  shift: number,
): { changed: Performance; mark: Touched } {
  const mark: Touched = { id: performance.id, changes: [], keepsOwn: [] };
  const changed = { ...performance };
  for (const key of Object.keys(edit) as (keyof PerformanceEdit)[]) {
    if (key === 'date') {
      changed.date = addDays(performance.date, shift);
      mark.changes.push(key);
    } else if (equal(performance[key], edit[key])) {
      continue;
    } else if (performance.id === target.id || equal(performance[key], target[key])) {
      Object.assign(changed, { [key]: edit[key] });
      mark.changes.push(key);
    } else mark.keepsOwn.push(key);
  }
  return { changed, mark };
}
