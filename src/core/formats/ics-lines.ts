import type ICAL from 'ical.js';
import { isoDate, timeOfDay } from '../base/scalars';

/**
 * Under these names a rule and a line that is none pass the parser, which would refuse the whole file for one of them.
 */
export const ruleProperty = 'x-rule-text';
export const brokenProperty = 'x-broken-line';

const nakedDay = /^((?:DTSTART|DTEND|RECURRENCE-ID|EXDATE|RDATE))(?:;(?!VALUE=)[^:;]*)*:(\d{8}(?:,\d{8})*)\s*$/i;

/**
 * The text of an iCalendar file as the parser can take it whole: what is wrong with one event is found when that event
 * is read. Days that are not said to be days (`DTSTART:20270204`) are.
 */
export function parseable(text: string): string {
  let inEvent = false;
  const lines = text.replace(/^\ufeff/, '').split('\n');
  return lines
    .map((line, i) => {
      if (/^(?:BEGIN|END):VEVENT\s*$/i.test(line)) inEvent = /^BEGIN/i.test(line);
      if (!inEvent || /^[ \t]/.test(line)) return line;
      if (!/[:;]/.test(line) && line.trim() !== '' && !/^[ \t]/.test(lines[i + 1] ?? ''))
        return `${brokenProperty.toUpperCase()}:${line
          .trim()
          .replace(/[\\,;]/g, ' ')
          .slice(0, 60)}`;
      return line.replace(/^RRULE(?=[;:])/i, ruleProperty.toUpperCase()).replace(nakedDay, '$1;VALUE=DATE:$2');
    })
    .join('\n');
}

const dated = ['dtstart', 'dtend', 'recurrence-id', 'exdate', 'rdate'] as const;

/**
 * The first date of an event that is none, by its property, in words; `null`: all are dates. The parser would carry the
 * 45th of a 13th month over into the next year.
 */
export function oddDate(component: ICAL.Component): { field: string; message: string } | null {
  for (const name of dated) {
    for (const property of component.getAllProperties(name)) {
      if (!valuesOf(property).every(isMoment))
        return {
          field: name.toUpperCase(),
          message:
            'It is no date and time between 1970 and 2037. Write it like 20270204T193000, or 20270204 for a day.',
        };
    }
  }
  return null;
}

/** The values of a property as they were written; of a period, its beginning. */
function valuesOf(property: ICAL.Property): string[] {
  const [, , , ...values] = property.toJSON() as unknown as [string, object, string, ...(string | string[])[]];
  return values.map((value) => (Array.isArray(value) ? (value[0] ?? '') : String(value)));
}

function isMoment(value: string): boolean {
  const [, date = '', time, seconds = '00'] = /^(\d{4}-\d{2}-\d{2})(?:T(\d{2}:\d{2}):(\d{2})Z?)?$/.exec(value) ?? [];
  return (
    isoDate.safeParse(date).success &&
    (time === undefined || (timeOfDay.safeParse(time).success && Number(seconds) <= 60))
  );
}
