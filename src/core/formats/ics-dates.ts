import ICAL from 'ical.js';
import { groupBy } from '../base/group-by';
import { recordLimits } from '../record/choices';
import { patternWords, ruleDates, ruleText, untilOf, type PatternProblem } from '../recurrence/recurrence';
import { fail, ok, type Result } from '../base/result';
import { addDays, toLocal, type LocalTime } from '../base/zones';
import { likeStart } from './ics-clock';
import { ruleProperty } from './ics-lines';
import type { FileNote } from './file-note';

/** A rule without an end is read this far, in days. */
const openRuleDays = 366;

/** The rules of an event as they stand in its file, without their name. */
export function rulesOf(component: ICAL.Component): string[] {
  return component.getAllProperties(ruleProperty).map((property) => ruleText(String(property.getFirstValue() ?? '')));
}

/** Wall-clock reading of an iCalendar time; a UTC time is put in the zone. */
export function localOf(time: ICAL.Time, zone: string): LocalTime {
  const pad = (n: number) => String(n).padStart(2, '0');
  const flat = {
    date: `${time.year}-${pad(time.month)}-${pad(time.day)}`,
    time: `${pad(time.hour)}:${pad(time.minute)}`,
  };
  return time.zone === ICAL.Timezone.utcTimezone ? toLocal(Date.parse(`${flat.date}T${flat.time}:00Z`), zone) : flat;
}

/**
 * What an event's recurrence gives: its occurrences as their rule has them, in order, and what is to be said of them.
 */
export interface RecurrenceDates {
  times: ICAL.Time[];
  notes: FileNote[];
}

/**
 * The occurrences of an event by its rules, extra dates and exceptions (RFC 5545, sections 3.8.5.1 to 3.8.5.3), before
 * single ones are moved. Rules are reckoned as everywhere in the record, so that a file and a typed rule give the same.
 * A first date that the rule does not give counts as the first, and is told.
 */
export function recurrenceDates(
  component: ICAL.Component,
  start: ICAL.Time,
  zone: string,
): Result<RecurrenceDates, string> {
  // A rule in UTC is reckoned in UTC: its days are not those of the house.
  const own = start.zone === ICAL.Timezone.utcTimezone ? 'UTC' : zone;
  const first = localOf(start, own);
  const notes: FileNote[] = [];
  const made = new Set<string>([key(first)]);
  const rules = rulesOf(component);
  if (rules.length > mostRules)
    return fail(`It has ${rules.length} rules; at most ${mostRules} are read. Name its dates instead.`);
  for (const rule of rules) {
    const found = readingsOf(rule, first, own, notes);
    if (!found.ok) return fail(patternWords(found.error));
    if (rules.length === 1 && found.value[0] !== key(first))
      notes.push({
        code: 'first-not-of-rule',
        text: `The first date, ${first.date}, is not one that its rule gives. It was kept.`,
      });
    for (const text of found.value) made.add(text);
    if (made.size > mostReckoned)
      return fail(patternWords({ code: 'rule-too-many', limit: recordLimits.performances }));
  }
  for (const extra of timesNamed(component, 'rdate'))
    made.add(extra.isDate ? `${localOf(extra, own).date}T${first.time}` : key(localOf(extra, own)));
  const byDay = groupBy([...made], (at) => at.slice(0, 10));
  for (const left of timesNamed(component, 'exdate')) {
    const { date, time } = localOf(left, own);
    for (const text of left.isDate ? (byDay.get(date) ?? []) : [`${date}T${time}`]) made.delete(text);
  }
  if (made.size > recordLimits.performances)
    return fail(patternWords({ code: 'rule-too-many', limit: recordLimits.performances }));
  if (made.size === 0) return fail(patternWords({ code: 'rule-empty' }));
  return ok({
    times: [...made].sort().map((at) => likeStart(start, { date: at.slice(0, 10), time: at.slice(11) })),
    notes,
  });
}

const key = ({ date, time }: LocalTime) => `${date}T${time}`;

/** Most rules of one event, and most readings that they may make before exceptions are taken from them. */
const mostRules = 10;
const mostReckoned = 20_000;

/** The wall-clock readings of one rule. Hours and minutes that it names are times of day on each of its dates. */
function readingsOf(rule: string, first: LocalTime, zone: string, notes: FileNote[]): Result<string[], PatternProblem> {
  const listed = (name: string, otherwise: string) =>
    new RegExp(`(?:^|;)${name}=([\\d,]+)`)
      .exec(rule)?.[1]
      ?.split(',', 2_000)
      .map((text) => text.padStart(2, '0')) ?? [otherwise];
  // What is said several times is one time of day.
  const [hours, minutes] = [
    new Set(listed('BYHOUR', first.time.slice(0, 2))),
    new Set(listed('BYMINUTE', first.time.slice(3))),
  ];
  const odd =
    [...hours].find((hour) => Number(hour) > 23 || hour.length > 2) ??
    [...minutes].find((minute) => Number(minute) > 59 || minute.length > 2);
  if (odd !== undefined) return fail({ code: 'rule-malformed', detail: `“${odd}” is no hour or minute` });
  const clocks = [...hours].flatMap((hour) => [...minutes].map((minute) => `${hour}:${minute}`)).sort();
  let plain = rule.replace(/(^|;)(?:BYHOUR|BYMINUTE|BYSECOND)=[\d,]+(?=;|$)/g, '').replace(/^;/, '');
  if (!/(?:^|;)(?:COUNT|UNTIL)=/.test(plain)) {
    notes.push({ code: 'rule-no-end', text: 'The rule has no end: one year of it was read.' });
    plain = `${plain};UNTIL=${addDays(first.date, openRuleDays).replaceAll('-', '')}`;
  }
  const dates = ruleDates(plain, first.date, zone);
  if (!dates.ok) return dates;
  const until = untilOf(plain, zone);
  if (dates.value.length * clocks.length > mostReckoned)
    return fail({ code: 'rule-too-many', limit: recordLimits.performances });
  const all = dates.value
    .flatMap((date) => clocks.map((time) => key({ date, time })))
    .filter((at) => at >= key(first) && (until === null || at <= until));
  const count = Number(/(?:^|;)COUNT=(\d+)/.exec(plain)?.[1] ?? Infinity);
  return ok(all.slice(0, all[0] === key(first) ? count : count - 1));
}

/** All times of a property that may hold several, and may stand several times. Of a period, its beginning. */
function timesNamed(component: ICAL.Component, name: 'rdate' | 'exdate'): ICAL.Time[] {
  return component.getAllProperties(name).flatMap((property) =>
    property.getValues().flatMap((value): ICAL.Time[] => {
      if (value instanceof ICAL.Time) return [value];
      return value instanceof ICAL.Period && value.start instanceof ICAL.Time ? [value.start] : [];
    }),
  );
}
