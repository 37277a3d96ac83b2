import { newNotice } from './new-record';
import type { Notice, RecordContent } from './record';
import { performance, sample } from '../testing/samples';
import { takeOffPlanned } from './turn-of';

type Turn = RecordContent['performances'][number]['turn'];
const notice = newNotice('n', 'hearthside-posts', { words: 'Two days to go' });
const event = (turns: Turn[], ...notices: Notice[]) =>
  sample({ performances: turns.map((turn, i) => performance(`p${i}`, `2027-03-1${i}`, { turn })), notices });
const never = () => false;

test.each<[string, Turn[], Turn[], Notice | null, (id: string) => boolean, Notice['offSince']]>([
  ['cancelled', ['none'], ['cancelled'], null, never, 'cancelled'],
  ['postponed', ['none'], ['postponed'], null, never, 'postponed'],
  ['one of two cancelled, the other put off', ['none', 'none'], ['cancelled', 'postponed'], null, never, 'postponed'],
  ['one of two cancelled', ['none', 'none'], ['none', 'cancelled'], null, never, null],
  ['cancelled, its words written for that', ['none'], ['cancelled'], { ...notice, words: 'It is off' }, never, null],
  ['cancelled, its subject written for that', ['none'], ['cancelled'], { ...notice, subject: 'Off' }, never, null],
  ['cancelled, and it has gone out', ['none'], ['cancelled'], null, (id) => id === 'n', null],
  ['cancelled before already', ['cancelled'], ['cancelled'], null, never, null],
  ['on again', ['cancelled'], ['none'], { ...notice, offSince: 'cancelled' }, never, null],
  [
    'put off after it was cancelled',
    ['cancelled'],
    ['postponed'],
    { ...notice, offSince: 'cancelled' },
    never,
    'postponed',
  ],
])('a notice that was planned, of an event that is %s', (_, was, is, now, went, off) => {
  const after = event(is, now ?? notice);
  const taken = takeOffPlanned(event(was, notice), after, went);
  expect(taken.notices.map((item) => item.offSince)).toEqual([off]);
  // What is as it was comes back as it was given.
  if ((now ?? notice).offSince === off) expect(taken).toBe(after);
});

test('a notice that is new along with the turn speaks of it, and stays; an event of no dates has not turned', () => {
  const taken = takeOffPlanned(event(['none']), event(['cancelled'], notice), never);
  expect(taken.notices[0]?.offSince).toBeNull();
  const empty = { ...event(['none'], notice), performances: [] };
  expect(takeOffPlanned(event(['none'], notice), empty, never).notices[0]?.offSince).toBeNull();
});
