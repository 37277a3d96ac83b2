import { newPerformance } from '../record/new-record';
import type { Performance } from '../record/record';
import { occurrences, planEdit, type EditScope, type Pattern, type PerformanceEdit } from './recurrence';
import { instantOf } from '../base/zones';

const pattern = (part: Partial<Pattern>): Pattern => ({
  rule: 'FREQ=WEEKLY;BYDAY=TU;COUNT=12',
  first: '2027-02-02',
  times: ['18:00'],
  except: [],
  extra: [],
  zone: 'Europe/Dublin',
  ...part,
});
const dates = (part: Partial<Pattern>) => {
  const made = occurrences(pattern(part));
  return made.ok ? made.value.map((occurrence) => occurrence.date) : made.error.code;
};

// Expected dates as RFC 5545 gives them in its examples (section 3.8.5.3) or as counted on a calendar.
test.each<[string, Partial<Pattern>, string[] | string]>([
  ['every Tuesday', { rule: 'FREQ=WEEKLY;BYDAY=TU;COUNT=3' }, ['2027-02-02', '2027-02-09', '2027-02-16']],
  [
    'every other week on two days',
    { rule: 'FREQ=WEEKLY;INTERVAL=2;WKST=SU;BYDAY=TU,TH;COUNT=4' },
    ['2027-02-02', '2027-02-04', '2027-02-16', '2027-02-18'],
  ],
  [
    'the week’s first day decides',
    { rule: 'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO', first: '1997-08-05' },
    ['1997-08-05', '1997-08-10', '1997-08-19', '1997-08-24'],
  ],
  [
    '… and another gives others',
    { rule: 'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU', first: '1997-08-05' },
    ['1997-08-05', '1997-08-17', '1997-08-19', '1997-08-31'],
  ],
  [
    'the first Friday of a month',
    { rule: 'FREQ=MONTHLY;BYDAY=1FR;COUNT=3', first: '2027-03-05' },
    ['2027-03-05', '2027-04-02', '2027-05-07'],
  ],
  [
    'the last but one weekday',
    { rule: 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2;COUNT=3', first: '2027-02-25' },
    ['2027-02-25', '2027-03-30', '2027-04-29'],
  ],
  [
    'the last day of the month',
    { rule: 'FREQ=MONTHLY;BYMONTHDAY=-1;COUNT=3', first: '2027-02-28' },
    ['2027-02-28', '2027-03-31', '2027-04-30'],
  ],
  [
    'the 31st, where there is one',
    { rule: 'FREQ=MONTHLY;BYMONTHDAY=31;COUNT=3', first: '2027-01-31' },
    ['2027-01-31', '2027-03-31', '2027-05-31'],
  ],
  [
    'leap days',
    { rule: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29;COUNT=2', first: '2028-02-29' },
    ['2028-02-29', '2032-02-29'],
  ],
  [
    'until a local day, said in UTC',
    { rule: 'FREQ=DAILY;UNTIL=20270204T233000Z', times: ['09:00'], zone: 'Australia/Adelaide' },
    ['2027-02-02', '2027-02-03', '2027-02-04', '2027-02-05'],
  ],
  [
    'until a moment before that day’s time',
    { rule: 'FREQ=DAILY;UNTIL=20270204T120000Z' },
    ['2027-02-02', '2027-02-03'],
  ],
  ['until that very moment', { rule: 'FREQ=DAILY;UNTIL=20270204T180000Z' }, ['2027-02-02', '2027-02-03', '2027-02-04']],
  [
    'until a local moment',
    { rule: 'FREQ=DAILY;UNTIL=20270203T180000', zone: 'Australia/Adelaide' },
    ['2027-02-02', '2027-02-03'],
  ],
  ['until a day, which counts', { rule: 'FREQ=DAILY;UNTIL=20270203' }, ['2027-02-02', '2027-02-03']],
  [
    'left out and added',
    { rule: 'FREQ=WEEKLY;BYDAY=TU;COUNT=3', except: ['2027-02-09'], extra: ['2027-02-11'] },
    ['2027-02-02', '2027-02-11', '2027-02-16'],
  ],
  ['weeks without a day', { rule: 'FREQ=YEARLY;BYWEEKNO=20' }, 'rule-unsteady'],
  ['a first date that the rule does not give', { rule: 'FREQ=WEEKLY;BYDAY=WE;COUNT=3' }, 'rule-misses-first'],
  ['a hundred thousand dates', { rule: 'FREQ=DAILY;COUNT=100000' }, 'rule-too-many'],
  ['no end', { rule: 'FREQ=DAILY' }, 'rule-too-many'],
  ['beyond the last year of zone data', { rule: 'FREQ=YEARLY;COUNT=20' }, 'rule-too-far'],
  ['a day that never comes', { rule: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30' }, 'rule-empty'],
  ['hours', { rule: 'FREQ=HOURLY;COUNT=3' }, 'rule-malformed'],
  ['nonsense', { rule: 'FREQ=BANANA' }, 'rule-malformed'],
  ['an end before the beginning', { rule: 'FREQ=WEEKLY;UNTIL=20270101' }, 'rule-empty'],
  ['both ends', { rule: 'FREQ=DAILY;COUNT=3;UNTIL=20270301' }, 'rule-malformed'],
  ['a date that is none', { extra: ['2027-02-30'] }, 'date-malformed'],
])('%s', (_, part, expected) => expect(dates(part)).toEqual(expected));

test('as many dates as a record holds, and one more', () => {
  const count = (part: Partial<Pattern>) => {
    const made = occurrences(pattern(part));
    return made.ok ? made.value.length : made.error.code;
  };
  const two = { times: ['11:00', '18:00'] };
  expect([
    count({ rule: 'FREQ=DAILY;COUNT=3000' }),
    count({ rule: 'FREQ=DAILY;COUNT=3001' }),
    count({ rule: 'FREQ=DAILY;COUNT=1500', ...two }),
    count({ rule: 'FREQ=DAILY;COUNT=1501', ...two }),
    count({ rule: 'FREQ=DAILY;COUNT=2999', extra: ['2036-02-02'] }),
    count({ rule: 'FREQ=DAILY;COUNT=3000', extra: ['2036-02-02'] }),
  ]).toEqual([3000, 'rule-too-many', 3000, 'rule-too-many', 3000, 'rule-too-many']);
});

// A part that is not known, or out of its bounds (RFC 5545, section 3.3.10), is told: passed over, it would make other
// dates.
test.each([
  ['FREQ=WEEKLY;BYDAYS=TU;COUNT=2', '“BYDAYS=TU” is no part of a rule'],
  ['FREQ=YEARLY;BYEASTER=0;COUNT=2', '“BYEASTER=0” is no part of a rule'],
  ['FREQ=WEEKLY;;COUNT=2', '“” is no part of a rule'],
  ['FREQ=WEEKLY;COUNT=2;COUNT=3', 'COUNT is said twice'],
  ['FREQ=WEEKLY;COUNT=0', 'COUNT takes whole numbers from 1 to 1000000, not “0”'],
  ['FREQ=WEEKLY;COUNT=3\nEXDATE:20270209', 'COUNT takes'],
  ['FREQ=WEEKLY;BYMONTH=13;COUNT=2', 'BYMONTH takes whole numbers from 1 to 12, not “13”'],
  [
    'FREQ=MONTHLY;BYMONTHDAY=0;COUNT=2',
    'BYMONTHDAY takes whole numbers from 1 to 31, or from the end with a minus, not “0”',
  ],
  ['FREQ=MONTHLY;BYDAY=0TU;COUNT=2', 'BYDAY takes'],
  ['FREQ=YEARLY;BYWEEKNO=54;BYDAY=TU;COUNT=2', 'BYWEEKNO takes'],
  ['FREQ=WEEKLY;BYDAY=1TU;COUNT=3', 'BYDAY'],
  ['FREQ=WEEKLY;UNTIL=2027-03-01', 'UNTIL takes a date like'],
])('%s is refused: %s', (rule, detail) => {
  const made = occurrences(pattern({ rule }));
  expect(made.ok ? null : made.error).toEqual({ code: 'rule-malformed', detail: expect.stringContaining(detail) });
});

const weekly = (): Performance[] => {
  const made = occurrences(pattern({ except: ['2027-03-16'], extra: ['2027-03-18'] }));
  if (!made.ok) throw new Error(made.error.code);
  return made.value.map((occurrence) =>
    newPerformance(occurrence.id, occurrence.date, 'Europe/Dublin', { start: occurrence.time, doors: null }),
  );
};

test('twelve Tuesdays, one left out and one added, keep six o’clock when the clocks change', () => {
  const all = weekly();
  expect(all).toHaveLength(12);
  const at = (date: string) =>
    new Date(
      instantOf({ date, time: all.find((performance) => performance.date === date)?.start ?? '' }, 'Europe/Dublin') ??
        0,
    )
      .toISOString()
      .slice(11, 16);
  expect([at('2027-03-23'), at('2027-03-30')]).toEqual(['18:00', '17:00']);
});

test('this and later from 6 April: three move, all ids stay, earlier ones are the same objects', () => {
  const before = weekly();
  const { performances, touched } = planEdit(before, '20270406T1800', 'later', { start: '18:30' });
  expect(touched.map((item) => item.id)).toEqual(['20270406T1800', '20270413T1800', '20270420T1800']);
  expect(performances.map((performance) => performance.id)).toEqual(before.map((performance) => performance.id));
  expect(performances.slice(0, 9).every((performance, i) => performance === before[i])).toBe(true);
});

test.each<[string, EditScope, PerformanceEdit, string[], string[]]>([
  ['this one', 'this', { start: '20:00' }, ['b'], []],
  ['later: the one set apart keeps its own', 'later', { start: '20:00' }, ['b'], ['c']],
  ['all: the first too', 'all', { start: '20:00' }, ['a', 'b'], ['c']],
  ['a date moves all by as many days', 'all', { date: '2027-03-04' }, ['a', 'b', 'c'], []],
])('%s', (_, scope, edit, changed, kept) => {
  const list = [
    newPerformance('a', '2027-03-02', 'UTC'),
    newPerformance('b', '2027-03-03', 'UTC'),
    newPerformance('c', '2027-03-04', 'UTC', { start: '17:00' }),
  ];
  const { performances, touched } = planEdit(list, 'b', scope, edit);
  expect([
    touched.filter((candidate) => candidate.changes.length > 0).map((item) => item.id),
    touched.filter((candidate) => candidate.keepsOwn.length > 0).map((item) => item.id),
  ]).toEqual([changed, kept]);
  if (edit.date)
    expect(performances.map((performance) => performance.date)).toEqual(['2027-03-03', '2027-03-04', '2027-03-05']);
});
