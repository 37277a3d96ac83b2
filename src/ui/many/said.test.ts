import type { ManyView } from '@/views/many';
import { blank, editOf, nameOfEdit } from './edits';
import { nothingSaid, sumOfSaid } from './said';

const view = (part: object = {}, sum: object = {}) =>
  ({
    unseen: [],
    events: [{ state: 'changes' }],
    ...part,
    sum: {
      atOnce: [{ channel: 'site', count: 3 }],
      later: [
        { channel: 'diary', count: 2, goes: true },
        { channel: 'mirror', count: 9, goes: false },
      ],
      said: [
        { channel: 'posts', count: 4, mending: 'edit' },
        { channel: 'letters', count: 1, mending: 'anew' },
        { channel: 'letters', count: 7, mending: 'none' },
      ],
      apart: [{ channel: 'posts', count: 5 }],
      locked: [],
      ...sum,
    },
  }) as unknown as ManyView;
const set = (...channels: string[]) => new Set(channels);

test('errands are counted by what is ticked', () => {
  const errands = (said: object) => sumOfSaid(view(), { ...nothingSaid, ...said }).errands;
  expect([
    errands({}),
    errands({ out: set('site', 'posts') }),
    errands({ asked: set('posts') }),
    errands({ corrected: set('letters') }),
  ]).toEqual([9, 2, 14, 10]);
});

const market = {
  key: 'k',
  channel: 'market',
  listings: ['l1', 'l2'],
  ways: [
    { id: 'cancel', needs: ['reason', 'code'] },
    { id: 'leave', needs: [] },
  ],
};
const way = (part: object) => ({
  ...nothingSaid,
  ways: { k: { way: '', reason: '', code: '', until: '2027-03-14', ...part } },
});
test.each<[string, ManyView, object, RegExp]>([
  ['nothing stands in the way', view(), nothingSaid, /^$/],
  ['one that cannot be so', view({ events: [{ state: 'stopped' }] }), nothingSaid, /Leave out/],
  ['a warning', view({ unseen: [{ words: 'x', count: 1 }] }), nothingSaid, /seen the warnings/],
  ['a warning that was seen', view({ unseen: [{ words: 'x', count: 1 }] }), { ...nothingSaid, seen: true }, /^$/],
  ['a lock', view({}, { locked: [market] }), nothingSaid, /Pick a way/],
  ['a way without its reason', view({}, { locked: [market] }), way({ way: 'cancel', code: '2' }), /Fill in/],
  [
    'a way with another number',
    view({}, { locked: [market] }),
    way({ way: 'cancel', reason: 'x', code: '3' }),
    /Fill in/,
  ],
  ['a whole way', view({}, { locked: [market] }), way({ way: 'cancel', reason: 'x', code: ' 2 ' }), /^$/],
  ['left, with its reason', view({}, { locked: [market] }), way({ way: 'leave', reason: 'x' }), /^$/],
])('%s', (_, shown, said, words) => expect(sumOfSaid(shown, said as never).why).toMatch(words));

test('what is left as it is is no errand; what goes by a way is one each', () => {
  const errands = (part: object) => sumOfSaid(view({}, { locked: [market] }), way(part)).errands;
  expect([errands({ way: 'leave' }), errands({ way: 'cancel' })]).toEqual([9, 11]);
});

test.each<[Parameters<typeof blank>, unknown]>([
  [['start'], null],
  [['start', { text: '+30' }], { what: 'start', to: '+30' }],
  [['subtitle', { text: ' ' }], null],
  [['full', { text: 'x', how: 'before' }], { what: 'full', text: 'x', how: 'before' }],
  [['tags', { text: 'x' }], { what: 'tags', text: 'x', how: 'add' }],
  [['announce'], null],
  [
    ['announce', { date: '2027-02-04' }],
    { what: 'announce', at: { date: '2027-02-04', time: '10:00', zone: 'Europe/Dublin' } },
  ],
  [['onSale', { date: '2027-02-04' }], { what: 'onSale', at: { date: '2027-02-04', time: '10:00' } }],
  [['move'], null],
  [
    ['move', { place: 'v|r' }],
    { what: 'move', place: 'v|r', why: '', tickets: 'valid', until: null, by: '', post: null },
  ],
  [
    ['cancel', { text: 'ill', channel: 'y', date: '2027-04-01', by: 'us' }],
    { what: 'cancel', place: null, why: 'ill', tickets: 'returned', until: '2027-04-01', by: 'us', post: 'y' },
  ],
  [['publicity', { text: 'public' }], { what: 'publicity', to: 'public' }],
  [['channel', { channel: 'x', on: false }], { what: 'channel', channel: 'x', on: false }],
  [['post', { text: 'x' }], null],
  [['post', { text: 'x', channel: 'y' }], { what: 'post', channel: 'y', text: 'x' }],
])('what is typed as an edit: %j', (typed, expected) =>
  expect(editOf(blank(...typed), 'Europe/Dublin')).toEqual(expected),
);

test.each<[Parameters<typeof blank>, string]>([
  [['start'], 'Change a fact'],
  [['cancel'], 'Cancel'],
  [['publicity', { text: 'private' }], 'Make private'],
  [['post'], 'A post about each'],
  [['channel', { channel: 'x' }], 'Put on The X'],
  [['channel', { channel: 'gone', on: false }], 'Take off gone'],
])('as its heading says it: %j', (typed, expected) =>
  expect(nameOfEdit(blank(...typed), [{ id: 'x', name: 'The X' }])).toBe(expected),
);
