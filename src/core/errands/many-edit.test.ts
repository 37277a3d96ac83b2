import { performance, sample, venues } from '../testing/samples';
import type { RecordContent } from '../record/record';
import { edited, manyEditSchema, type ManyEdit } from './many-edit';
import { editWords } from './many-words';

/** A turn of which nothing is said. */
const unsaid = { why: '', tickets: 'valid', until: null, by: '', post: null } as const;

const ground = { today: '2027-02-02', venues, fresh: 'fresh' };
const nights = (part: Partial<RecordContent> = {}) =>
  sample({
    performances: [
      performance('p1', '2027-03-14', { doors: '19:00', start: '19:30', end: '22:00' }),
      performance('over', '2027-01-14', { doors: '19:00', start: '19:30', end: '22:00' }),
      performance('off', '2027-03-15', { start: '19:30', turn: 'cancelled' }),
      performance('days', '2027-03-16', { doors: '09:00', start: '10:00', end: '18:00', lastDate: '2027-03-18' }),
      performance('month', '2027-03-17', { start: null, doors: null, end: null, precision: 'month' }),
      performance('day', '2027-03-20', { start: null, doors: null, end: null, precision: 'day' }),
    ],
    ...part,
  });
const made = (edit: ManyEdit, content = nights()): RecordContent => {
  const answer = edited(content, edit, ground);
  if (!answer.ok) throw new Error(answer.error);
  return answer.value;
};
const hours = (edit: ManyEdit) =>
  made(edit).performances.map(({ id, doors, start, end, endsNextDay }) =>
    [id, doors, start, end, endsNextDay ? 'next day' : ''].filter(Boolean).join(' '),
  );
const still = ['over 19:00 19:30 22:00', 'off 19:00 19:30 22:00'];

test.each<[string, ManyEdit, string[]]>([
  [
    'an hour takes doors and end along, but not the end of several days',
    { what: 'start', to: '20:15' },
    ['p1 19:45 20:15 22:45', ...still, 'days 19:15 20:15 18:00', 'month', 'day 20:15'],
  ],
  [
    'minutes later, for those that have an hour',
    { what: 'start', to: '+150' },
    ['p1 21:30 22:00 00:30 next day', ...still, 'days 11:30 12:30 18:00', 'month', 'day'],
  ],
  [
    'minutes earlier, with either sign for less',
    { what: 'start', to: '−30 min' },
    ['p1 18:30 19:00 21:30', ...still, 'days 08:30 09:30 18:00', 'month', 'day'],
  ],
  [
    'doors alone',
    { what: 'doors', to: '18.45' },
    ['p1 18:45 19:30 22:00', ...still, 'days 18:45 10:00 18:00', 'month', 'day 18:45'],
  ],
  [
    'an end after midnight',
    { what: 'end', to: '00:30' },
    ['p1 19:00 19:30 00:30 next day', ...still, 'days 09:00 10:00 00:30', 'month', 'day 00:30'],
  ],
])('%s', (_, edit, expected) => expect(hours(edit)).toEqual(expected));

test.each<[ManyEdit, RegExp]>([
  [{ what: 'start', to: '+300' }, /another day/],
  [{ what: 'doors', to: '-999' }, /another day/],
  [{ what: 'start', to: 'later' }, /no time/],
  [{ what: 'move', place: null, ...unsaid }, /where it moves/],
])('what cannot be is said: %j', (edit, words) => {
  const answer = edited(nights(), edit, ground);
  expect(answer.ok ? '' : answer.error).toMatch(words);
});

test('an hour that lies in the day as a whole is kept', () => {
  const late = nights({ performances: [performance('p1', '2027-03-14', { doors: null, start: '23:00', end: null })] });
  expect(made({ what: 'start', to: '+59' }, late).performances[0]?.start).toBe('23:59');
  expect(edited(late, { what: 'start', to: '+60' }, ground).ok).toBe(false);
});

test('no turn is put on what has no date left', () =>
  expect(
    edited(
      nights({ performances: [performance('p1', '2027-01-14')] }),
      { what: 'cancel', place: null, ...unsaid },
      ground,
    ),
  ).toEqual({
    ok: false,
    error: 'No date is left for that.',
  }));

const words = (edit: ManyEdit, part: object) => {
  const base = nights();
  return made(edit, { ...base, words: { ...base.words, ...part } }).words;
};
test.each<[string, ManyEdit, object, object]>([
  ['a line in place of another', { what: 'line', text: 'New', how: 'instead' }, { line: 'Old' }, { line: 'New' }],
  ['behind a line', { what: 'line', text: 'New', how: 'behind' }, { line: 'Old' }, { line: 'Old New' }],
  ['before a text', { what: 'short', text: 'New', how: 'before' }, { short: 'Old' }, { short: 'New\n\nOld' }],
  ['into what is empty', { what: 'access', text: ' New ', how: 'behind' }, { access: '' }, { access: 'New' }],
  ['nothing added', { what: 'teaser', text: '', how: 'behind' }, { teaser: 'Old' }, { teaser: 'Old' }],
  [
    'a paragraph behind the full text, as it was typed',
    { what: 'full', text: 'A < B\n\nC', how: 'behind' },
    { full: '<p>Old</p>' },
    { full: '<p>Old</p><p>A &lt; B</p><p>C</p>' },
  ],
  [
    'what was drafted is a person’s now',
    { what: 'line', text: 'New', how: 'instead' },
    { line: 'Old', drafted: ['line', 'short'] },
    { drafted: ['short'] },
  ],
  ['the age', { what: 'age', to: '16+' }, { age: '' }, { age: '16+' }],
])('words: %s', (_, edit, part, expected) => expect(words(edit, part)).toMatchObject(expected));

test('tags are added once, and taken off however they are written', () => {
  const tagged = nights({ tags: ['Late', 'harp'] });
  expect(made({ what: 'tags', text: 'late, new,, ', how: 'add' }, tagged).tags).toEqual(['Late', 'harp', 'new']);
  expect(made({ what: 'tags', text: 'LATE', how: 'take off' }, tagged).tags).toEqual(['harp']);
  expect(made({ what: 'tags', text: 'other', how: 'take off' }, tagged)).toBe(tagged);
});

test('a channel is put on and taken off once', () => {
  const off = made({ what: 'channel', channel: 'lectern', on: false });
  expect(off.leftOff).toEqual(['lectern']);
  expect(made({ what: 'channel', channel: 'lectern', on: false }, off)).toBe(off);
  expect(made({ what: 'channel', channel: 'lectern', on: true }, off).leftOff).toEqual([]);
});

test('publicity, announce, opening of the sale, notes, turns and posts', () => {
  const at = { date: '2027-02-12', time: '10:00' };
  expect(made({ what: 'publicity', to: 'private' }).publicity.visibility).toBe('private');
  expect(made({ what: 'announce', at: { ...at, zone: 'Europe/Dublin' } }).publicity.announce).toEqual({
    ...at,
    zone: 'Europe/Dublin',
  });
  expect(made({ what: 'onSale', at }).tickets.levels.map(({ opens }) => opens)).toContainEqual({ kind: 'at', ...at });
  expect(made({ what: 'note', to: 'relaxed' }).performances.map(({ note }) => note)).toEqual([
    'relaxed',
    '',
    '',
    'relaxed',
    'relaxed',
    'relaxed',
  ]);
  expect(made({ what: 'eventType', to: 'talk' }).eventType).toBe('talk');
  expect(made({ what: 'soldOut', place: null, ...unsaid }).performances.map(({ soldOut }) => soldOut)).toEqual([
    true,
    false,
    false,
    true,
    true,
    true,
  ]);
  expect(made({ what: 'move', place: 'v1|wick', ...unsaid }).performances[0]).toMatchObject({
    roomId: 'wick',
    turn: 'moved',
  });
  expect(made({ what: 'post', channel: 'murmurline', text: 'Tonight' }).notices.at(-1)).toMatchObject({
    ...{ id: 'fresh', channel: 'murmurline', words: 'Tonight', offSince: null },
  });
});

test('a turn says why, what becomes of tickets, and has a post drafted, for each of them', () => {
  const off = made({
    ...{ what: 'cancel', place: null, why: 'the singer is ill', tickets: 'returned', until: '2027-04-01', by: '' },
    post: 'murmurline',
  });
  expect(off.performances.filter(({ turn }) => turn === 'cancelled').length).toBeGreaterThan(0);
  const paidBack = 'Tickets are paid back until Thu 1 Apr 2027, where they were bought.';
  expect(off.tickets.refunds.endsWith(paidBack)).toBe(true);
  expect(off.notices.at(-1)).toMatchObject({
    ...{ id: 'fresh', channel: 'murmurline', turn: 'cancelled', holders: true },
    words: expect.stringMatching(/is cancelled: the singer is ill\. .*until Thu 1 Apr 2027/),
  });
});

test.each<[unknown, string]>([
  [{ what: 'start', to: '19:30' }, 'start 19:30'],
  [{ what: 'subtitle', to: 'x' }, 'subtitle “x”'],
  [{ what: 'full', text: 'x', how: 'behind' }, 'full text added to, behind it'],
  [{ what: 'full', text: 'x', how: 'instead' }, 'full text replaced'],
  [{ what: 'tags', text: 'a, b', how: 'take off' }, 'tags taken off: a, b'],
  [{ what: 'announce', at: null }, 'no announce moment'],
  [{ what: 'onSale', at: { date: '2027-02-12', time: '10:00' } }, 'on sale 2027-02-12 10:00'],
  [{ what: 'publicity', to: 'public' }, 'made public'],
  [{ what: 'channel', channel: 'x', on: false }, 'taken off The X'],
  [{ what: 'post', channel: 'x', text: '' }, 'a post on The X'],
  [{ what: 'cancel', place: null, ...unsaid }, 'cancelled'],
])('in a few words: %j', (edit, expected) =>
  expect(editWords(manyEditSchema.parse(edit), () => 'The X')).toBe(expected),
);

test.each<unknown>([
  { what: 'start', to: '' },
  { what: 'publicity', to: 'secret' },
  { what: 'announce', at: { date: '2027-02-30', time: '10:00', zone: 'Europe/Dublin' } },
  { what: 'channel', channel: '', on: true },
  { what: 'delete' },
])('what is no edit is not one: %j', (edit) => expect(manyEditSchema.safeParse(edit).success).toBe(false));
