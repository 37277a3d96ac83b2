import { isInDay, movedBy, timeAt } from './hours';

const hours = (part: object) => ({ doors: '19:00', end: '22:00', endsNextDay: false, lastDate: null, ...part });

test.each([
  ['along by half an hour', {}, 30, { doors: '19:30', end: '22:30', endsNextDay: false }],
  ['to midnight, which is the next day', { end: '23:30' }, 30, { doors: '19:30', end: '00:00', endsNextDay: true }],
  ['to a minute before it', { end: '23:29' }, 30, { doors: '19:30', end: '23:59', endsNextDay: false }],
  [
    'back over midnight',
    { end: '00:15', endsNextDay: true },
    -30,
    { doors: '18:30', end: '23:45', endsNextDay: false },
  ],
  ['back to midnight', { end: '00:30', endsNextDay: true }, -30, { doors: '18:30', end: '00:00', endsNextDay: true }],
  ['doors stay in the day', { doors: '23:50', end: null }, 30, { doors: '23:59', end: null, endsNextDay: false }],
  ['and do not open before it', { doors: '00:10', end: null }, -30, { doors: '00:00', end: null, endsNextDay: false }],
  ['the end of several days stays', { lastDate: '2027-03-16' }, 30, { doors: '19:30', end: '22:00' }],
  ['what is not known stays so', { doors: null, end: null }, 30, { doors: null, end: null }],
])('%s', (_, part, minutes, moved) => expect(movedBy(hours(part), minutes)).toMatchObject(moved));

test.each([
  [-1, '23:59', false],
  [0, '00:00', true],
  [1439, '23:59', true],
  [1440, '00:00', false],
  [1505, '01:05', false],
])('%d minutes after midnight', (minutes, time, within) =>
  expect([timeAt(minutes), isInDay(minutes)]).toEqual([time, within]),
);
