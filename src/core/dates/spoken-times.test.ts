import { spokenTimes } from './spoken-times';

test.each<[string, string[][]]>([
  ['half past seven', [['07:30', '19:30']]],
  ['quarter to eight', [['07:45', '19:45']]],
  ['quarter past 8', [['08:15', '20:15']]],
  // Half a step around noon and midnight: twelve is the first hour of its half of the day.
  ['half past twelve', [['00:30', '12:30']]],
  ['quarter to twelve', [['23:45', '11:45']]],
  ['quarter to one', [['00:45', '12:45']]],
  ['twelve o’clock', [['00:00', '12:00']]],
  ['doors at eleven', [['11:00', '23:00']]],
  ['noon, then midnight', [['12:00'], ['00:00']]],
  ['1930 hrs', [['19:30']]],
  ['half past thirteen', []],
  ['quarter past 0', []],
])('%s', (text, expected) => expect(spokenTimes(text).map(({ readings }) => readings)).toEqual(expected));
