import { performance, sample } from '../testing/samples';
import { toDraft, type RecordDraft } from './draft';
import { canBeLater, ofToday, onTheNight, type OnTheNight } from './tonight';

const night = (part: Parameters<typeof performance>[2] = {}): RecordDraft =>
  toDraft(
    sample({
      performances: [
        performance('p1', '2027-02-02', { doors: '19:00', start: '19:30', end: '23:45', ...part }),
        performance('p2', '2027-02-03', { doors: '19:00', start: '19:30', end: '22:00' }),
      ],
    }),
  );
const after = (on: OnTheNight, draft = night()) => onTheNight(draft, 'p1', on, { channel: 'murmurline', id: 'post' });
const hours = ({ performances: [first] }: Pick<RecordDraft, 'performances'>) =>
  [first?.doors, first?.start, first?.end, first?.endsNextDay ? 'next day' : ''].join(' ').trim();

test.each<[number, object, string, RegExp]>([
  [15, {}, '19:15 19:30 23:45', /doors open later/],
  // Doors may open with the start, and not after it.
  [30, {}, '19:30 19:30 23:45', /doors open later/],
  [45, {}, '19:45 20:15 00:30 next day', /is later tonight/],
  [30, { doors: null }, ' 20:00 00:15 next day', /is later tonight/],
  [30, { doors: null, end: null }, ' 20:00', /is later tonight/],
])('%i minutes late, with %j', (minutes, part, expected, words) => {
  const made = after({ what: 'late', minutes }, night(part));
  expect(hours(made)).toBe(expected.trim());
  expect(made.performances[1]).toEqual(night(part).performances[1]);
  expect(made.notices.at(-1)).toMatchObject({ id: 'post', channel: 'murmurline', words: expect.stringMatching(words) });
});

test('it is later only within the day', () => {
  const [late] = night({ doors: '23:00', start: '23:30' }).performances;
  if (!late) throw new Error('no performance');
  expect([15, 29, 30, 60].map((minutes) => canBeLater(late, minutes))).toEqual([true, true, false, false]);
});

test('who is ill is out of this night alone, once, and another door is said', () => {
  const draft = night();
  const [act] = draft.lineUp;
  if (!act) throw new Error('no act');
  const ill = after({ what: 'ill', act }, draft);
  expect(ill.performances.map(({ lineUpOut }) => lineUpOut)).toEqual([[act.id], []]);
  expect(onTheNight({ ...draft, ...ill }, 'p1', { what: 'ill', act }, null).performances[0]?.lineUpOut).toEqual([
    act.id,
  ]);
  expect(ill.notices.at(-1)?.words).toContain(act.name);
  const door = after({ what: 'door', words: ' In by the yard. ' }, draft);
  expect(door.performances.map(({ note }) => note)).toEqual(['In by the yard.', '']);
  expect(door.notices.at(-1)?.words).toBe('{{ title }} tonight: In by the yard.');
});

test('without a channel for posts nothing is written; what is not there is not changed', () => {
  const draft = night();
  expect(onTheNight(draft, 'p1', { what: 'late', minutes: 15 }, null).notices).toBe(draft.notices);
  expect(onTheNight(draft, 'gone', { what: 'late', minutes: 15 }, { channel: 'x', id: 'y' })).toBe(draft);
});

test('of today is what takes place today, at an hour that is known', () => {
  const of = (part: object) => ofToday(night(part).performances, '2027-02-02').map(({ id }) => id);
  expect([of({}), of({ turn: 'cancelled' }), of({ turn: 'postponed' }), of({ precision: 'day', start: null })]).toEqual(
    [['p1'], [], [], []],
  );
});
