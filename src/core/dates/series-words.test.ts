import fc from 'fast-check';
import { addDays } from '../base/zones';
import { seriesWords, type SeriesDate } from './series-words';

const weekly = (first: string, count: number, step = 7, time = '19:45'): SeriesDate[] =>
  Array.from({ length: count }, (_, n) => ({ date: addDays(first, n * step), time, off: false }));
const without = (dates: SeriesDate[], ...gone: string[]) => dates.filter((date) => !gone.includes(date.date));

test.each<[string, SeriesDate[], string, string | null]>([
  [
    'Tuesdays but for one, begun',
    without(weekly('2027-02-02', 12), '2027-03-16'),
    '2027-02-03',
    'Tuesdays 19:45 until 20 April, not 16 March',
  ],
  [
    'the same, not begun',
    without(weekly('2027-02-02', 12), '2027-03-16'),
    '2027-01-05',
    'Tuesdays 19:45 from 2 February until 20 April, not 16 March',
  ],
  [
    'one that was cancelled is none',
    weekly('2027-02-02', 5).map((date) => ({ ...date, off: date.date === '2027-02-16' })),
    '2027-02-03',
    'Tuesdays 19:45 until 2 March, not 16 February',
  ],
  [
    'an extra day, and one at another hour',
    [
      ...weekly('2027-02-02', 6),
      { date: '2027-03-18', time: '19:45', off: false },
      { date: '2027-03-20', time: '15:00', off: false },
    ],
    '2027-02-03',
    'Tuesdays 19:45 until 20 March, also 18 March and 20 March 15:00',
  ],
  ['every other week', weekly('2027-02-02', 5, 14), '2027-02-03', 'Every other Tuesday 19:45 until 30 March'],
  [
    'two weekdays',
    [...weekly('2027-02-02', 4), ...weekly('2027-02-04', 4)].sort((a, b) => (a.date < b.date ? -1 : 1)),
    '2027-02-03',
    'Tuesdays and Thursdays 19:45 until 25 February',
  ],
  ['daily', weekly('2027-03-01', 14, 1), '2027-03-02', 'Daily 19:45 until 14 March'],
  ['over the turn of the year', weekly('2027-12-07', 6), '2027-12-08', 'Tuesdays 19:45 until 11 January 2028'],
  ['two are no series', weekly('2027-02-02', 2), '2027-02-03', null],
  ['a month apart is none', weekly('2027-02-02', 5, 31), '2027-02-03', null],
])('%s', (_, dates, today, words) => expect(seriesWords(dates, today)).toBe(words));

test('whatever days a rhythm leaves out or adds, each is named, or there is no line', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 4, max: 20 }),
      fc.uniqueArray(fc.integer({ min: 1, max: 18 }), { maxLength: 7 }),
      fc.uniqueArray(fc.integer({ min: 1, max: 120 }), { maxLength: 4 }),
      (count, gaps, extra) => {
        const base = weekly('2027-02-02', count).filter((_, n) => !gaps.includes(n));
        const all = [...base, ...extra.map((n) => ({ date: addDays('2027-02-02', n), time: '19:45', off: false }))];
        const dates = [...new Map(all.map((date) => [date.date, date])).values()].sort((a, b) =>
          a.date < b.date ? -1 : 1,
        );
        const words = seriesWords(dates, '2027-02-03');
        if (words === null) return;
        // Read back: the days of the rhythm, less those named as left out, and those named beside it.
        const named = (word: string) =>
          (new RegExp(`, ${word} ([^,]*(?:, \\d[^,]*)*)`).exec(words)?.[1] ?? '').match(/\d{1,2} [A-Z][a-z]+/g) ?? [];
        const said = new Set([...named('also')]);
        const not = named('not');
        expect(not.length + said.size).toBeLessThanOrEqual(5);
        for (const day of not) expect(dates.some((date) => dayOf(date.date) === day)).toBe(false);
        for (const day of said) expect(dates.some((date) => dayOf(date.date) === day)).toBe(true);
      },
    ),
  );
});

const months = 'January February March April May June July August September October November December'.split(' ');
const dayOf = (date: string) => `${Number(date.slice(8))} ${months[Number(date.slice(5, 7)) - 1]}`;
