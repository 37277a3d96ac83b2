import { knownDayWords, spanWords } from './date-words';

const [s, min, h, day] = [1_000, 60_000, 3_600_000, 86_400_000];

test.each<[number, string]>([
  [0, 'under 1 s'],
  [999, 'under 1 s'],
  [s, '1 s'],
  [59 * s, '59 s'],
  [2 * min, '2 min'],
  [2 * min + 29 * s, '2 min 29 s'],
  [h, '1 h'],
  [h + 1 * min + 31 * s, '1 h 2 min'],
  [20 * h, '20 h'],
  [day, '1 day'],
  [day + 6 * h, '1 day 6 h'],
  [2 * day + 29 * min, '2 days'],
  [2 * day + 23 * h + 31 * min, '3 days'],
  [10 * day + 31 * min, '10 days 1 h'],
])('a span of %d ms: %s', (ms, words) => expect(spanWords(ms)).toBe(words));

test.each([
  ['', 'date open'],
  ['2027-05', 'May 2027, day open'],
  ['2027-05-14', 'Fri 14 May 2027'],
])('a day as far as it is known: %s', (day, words) => expect(knownDayWords(day)).toBe(words));
