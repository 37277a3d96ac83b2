import { quoted } from '../base/quoted';

/**
 * What may stand in one part of a recurrence rule: its shape, and whole numbers up to `most` (of either sign where
 * `signed`).
 */
interface PartForm {
  says: string;
  fits: (value: string) => boolean;
}

const whole = (most: number, signed: boolean): PartForm => ({
  says: `whole numbers from 1 to ${most}${signed ? ', or from the end with a minus' : ''}`,
  fits: (value) =>
    (signed ? /^[+-]?\d{1,4}$/ : /^\d{1,7}$/).test(value) &&
    Math.abs(Number(value)) >= 1 &&
    Math.abs(Number(value)) <= most,
});
/** Most values in one part: every day of a year, from either end. */
const mostValues = 800;
const list = ({ says, fits }: PartForm): PartForm => ({
  says,
  fits: (value) => value.split(',', mostValues + 1).length <= mostValues && value.split(',').every(fits),
});
const weekdays = 'MO|TU|WE|TH|FR|SA|SU';
const shape = (says: string, pattern: RegExp): PartForm => ({ says, fits: (value) => pattern.test(value) });

/** The parts of a recurrence rule that makes dates, as RFC 5545 (section 3.3.10) bounds them. */
const forms: Record<string, PartForm> = {
  FREQ: shape('DAILY, WEEKLY, MONTHLY or YEARLY', /^(?:DAILY|WEEKLY|MONTHLY|YEARLY)$/),
  UNTIL: shape('a date like 20270331, or a moment like 20270331T180000Z', /^\d{8}(?:T\d{6}Z?)?$/),
  COUNT: whole(1_000_000, false),
  INTERVAL: whole(1_000, false),
  BYMONTH: list(whole(12, false)),
  BYMONTHDAY: list(whole(31, true)),
  BYYEARDAY: list(whole(366, true)),
  BYWEEKNO: list(whole(53, true)),
  BYSETPOS: list(whole(366, true)),
  BYDAY: list(
    shape(
      'days like TU, or 2TU and -1FR in months and years',
      new RegExp(`^(?:[+-]?(?:[1-9]|[1-4]\\d|5[0-3]))?(?:${weekdays})$`),
    ),
  ),
  WKST: shape('a day like MO', new RegExp(`^(?:${weekdays})$`)),
};

/**
 * What is wrong with the parts of a rule, in words; `null`: nothing. A part that is not known is told rather than
 * passed over: a rule with a slip in it would make other dates than were meant.
 */
export function rulePartsProblem(rule: string): string | null {
  const seen = new Set<string>();
  for (const part of rule.split(';').filter((candidate, i, all) => candidate !== '' || i < all.length - 1)) {
    const [, name = part, value = ''] = /^([^=]*)=([\s\S]*)$/.exec(part) ?? [];
    const form = forms[name];
    if (!form) return `${quoted(part)} is no part of a rule`;
    if (seen.has(name)) return `${name} is said twice`;
    seen.add(name);
    if (!form.fits(value)) return `${name} takes ${form.says}, not ${quoted(value)}`;
  }
  return together(rule, seen);
}

/** What may not stand together in one rule, though each part is right by itself. */
function together(rule: string, seen: ReadonlySet<string>): string | null {
  const freq = /(?:^|;)FREQ=([A-Z]+)/.exec(rule)?.[1] ?? '';
  if (freq === '') return 'FREQ is missing';
  if (seen.has('COUNT') && seen.has('UNTIL')) return 'COUNT and UNTIL are two ends; take one of them out';
  if (seen.has('BYWEEKNO') && freq !== 'YEARLY') return 'BYWEEKNO goes with FREQ=YEARLY only';
  if (seen.has('BYYEARDAY') && freq !== 'YEARLY') return 'BYYEARDAY goes with FREQ=YEARLY only';
  if (seen.has('BYMONTHDAY') && freq === 'WEEKLY') return 'BYMONTHDAY does not go with FREQ=WEEKLY';
  const numbered = /(?:^|;)BYDAY=[^;]*\d/.test(rule);
  if (numbered && freq !== 'MONTHLY' && freq !== 'YEARLY') return `a numbered BYDAY does not go with FREQ=${freq}`;
  if (numbered && seen.has('BYWEEKNO')) return 'a numbered BYDAY does not go with BYWEEKNO';
  if (seen.has('BYSETPOS') && ![...seen].some((name) => name.startsWith('BY') && name !== 'BYSETPOS'))
    return 'BYSETPOS picks of what another BY… part gives, and there is none';
  return null;
}
