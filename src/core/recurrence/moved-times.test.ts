import { timesFrom, type FormTimes } from './moved-times';

const times = (text: string): FormTimes => {
  const [doors = '', start = '', end = ''] = text.split(' ').map((text) => (text === '-' ? '' : text.replace('+', '')));
  return { doors, start, end, endsNextDay: text.includes('+') };
};

// Doors, start and end; `+`: on the day after.
test.each([
  ['19:00 19:30 22:00', '11:00', '10:30 11:00 13:30'],
  ['19:00 19:30 22:00', '23:30', '23:00 23:30 02:00+'],
  ['21:30 22:00 04:00+', '20:00', '19:30 20:00 02:00+'],
  ['21:30 22:00 04:00+', '14:00', '13:30 14:00 20:00'],
  ['19:00 19:30 -', '00:15', '23:45 00:15 -'],
  ['23:30 00:15 04:00', '22:00', '21:15 22:00 01:45+'],
  ['23:30 00:15 04:00', '00:30', '23:45 00:30 04:15'],
  ['12:00 19:30 -', '00:15', '- 00:15 -'],
  ['- 19:30 22:00', '19:30', '- 19:30 22:00'],
  ['19:00 - 22:00', '11:00', '19:00 11:00 22:00'],
])('%s started at %s is %s', (before, start, after) => expect(timesFrom(times(before), start)).toEqual(times(after)));
