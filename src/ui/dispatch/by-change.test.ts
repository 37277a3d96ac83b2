import type { ErrandToSend, EventToSend } from '@/views/dispatch';
import { byChange, byTour, choicesBy, kindsOf } from './by-change';

const text = (words: string) => ({ kind: 'text', text: words });
const change = (key: string, before: string | null, after: string) => ({
  key,
  before: before === null ? null : text(before),
  after: text(after),
});
const start = change('start@p1', '22:00', '22:30');
const errand = (channel: string, changes: object[], part: object = {}) =>
  ({
    ...{ listing: `r.${channel}.0`, channel, part: '', op: 'amend', changes, tells: 'nobody', notBefore: null },
    ...{ findings: [], orDraft: null, deleting: null, ownMoment: false, effects: [], ...part },
  }) as unknown as ErrandToSend;
const event = (id: string, errands: ErrandToSend[], part: object = {}) =>
  ({
    ...{ recordId: id, code: id, title: `Event ${id}`, tour: null, zone: 'UTC', errands },
    ...{ locked: [], asks: [], held: [], busy: [], clashes: [], takenOff: [], ...part },
  }) as unknown as EventToSend;
const short = (groups: ReturnType<typeof byChange>) =>
  groups.map(({ sort, errands, facts, own }) => [
    sort,
    errands.map(({ channel }) => channel).join(),
    facts.map(({ field, before, after }) => `${field} ${before} → ${after}`).join(),
    [...own].flatMap(([, changes]) => changes.map(({ key }) => key)).join(),
  ]);

test('what several channels say alike stands once; what one says of its own stands under it', () => {
  const body = change('body', 'From ten', 'From half past ten');
  expect(short(byChange([errand('site', [start, body]), errand('market', [start]), errand('page', [start])]))).toEqual([
    ['changed', 'site,market,page', 'start 22:00 → 22:30', 'body'],
  ]);
});

test('a channel alone says all of it as facts; long words stay out of the line', () => {
  const long = change('body', 'x'.repeat(91), 'y');
  expect(short(byChange([errand('site', [start, long])]))).toEqual([
    ['changed', 'site', 'start 22:00 → 22:30', 'body'],
  ]);
});

test('the same field with other words is told of each by itself', () => {
  const other = change('start@p1', '21:00', '22:30');
  expect(short(byChange([errand('site', [start]), errand('market', [other])]))).toEqual([
    ['changed', 'site,market', '', 'start@p1,start@p1'],
  ]);
});

test('what is new, taken down, cancelled and renewed is of a change each, in that order after what is new', () => {
  const groups = byChange([
    errand('a', [start], { op: 'renew' }),
    errand('b', [start], { op: 'unpublish' }),
    errand('c', [start], { op: 'cancel' }),
    errand('d', [start], { op: 'publish' }),
    errand('e', [start], { op: 'place' }),
    errand('f', [start], { op: 'remove' }),
  ]);
  expect(groups.map(({ sort, errands }) => `${sort} ${errands.map(({ channel }) => channel).join()}`)).toEqual([
    'new e',
    'changed d',
    'down b,f',
    'cancelled c',
    'renewed a',
  ]);
});

test.each<[string, object, string[]]>([
  ['amend', { changes: [start, change('body', 'a', 'b')] }, ['date and time', 'words']],
  [
    'amend',
    { changes: [change('price@l', 'a', 'b'), change('link', 'a', 'b'), change('place', 'a', 'b')] },
    ['price and seats', 'link', 'place'],
  ],
  ['amend', { changes: [change('title', 'a', 'b'), change('picture', 'a', 'b')] }, ['names', 'picture']],
  ['place', { changes: [start] }, ['new listing']],
  ['unpublish', { changes: [start] }, ['taken down']],
  ['renew', { changes: [change('pinned', 'a', 'b')] }, ['pin']],
])('%s is of its kinds of change', (op, part, kinds) =>
  expect(kindsOf({ op, ...part } as unknown as ErrandToSend)).toEqual(kinds),
);

test('one chooses by what the errands have in common', () => {
  const events = [
    event('1', [errand('site', [start]), errand('market', [start], { notBefore: 5 })], { tour: 'Salt' }),
    event('2', [errand('site', [start], { listing: 'r2.site.0', op: 'place' })]),
  ];
  const by = (chooser: Parameters<typeof choicesBy>[0]) =>
    choicesBy(chooser, events, (id) => id.toUpperCase(), String).map(
      ({ name, listings }) => `${name} ${listings.length}`,
    );
  expect([by('event'), by('tour'), by('channel'), by('kind of change'), by('moment')]).toEqual([
    ['Event 1 1 2', 'Event 2 2 1'],
    ['Salt 2', 'no tour 1'],
    ['SITE 2', 'MARKET 1'],
    ['date and time 2', 'new listing 1'],
    ['now 2', '5 1'],
  ]);
});

test('dates of a tour that change alike are read as one; what has something of its own is not', () => {
  const dates = ['1', '2', '3'].map((id) => event(id, [errand('site', [start])], { tour: 'Salt' }));
  const sold = event('4', [errand('site', [start])], { tour: 'Salt', locked: [{}] });
  const otherwise = event('5', [errand('site', [change('title', 'a', 'b')])], { tour: 'Salt' });
  const warned = event('6', [errand('site', [start], { findings: [{}] })], { tour: 'Salt' });
  const alone = event('7', [errand('site', [start])]);
  expect(
    byTour([...dates, sold, otherwise, warned, alone]).map((item) =>
      'events' in item ? `${item.tour}: ${item.events.map(({ code }) => code).join()}` : item.code,
    ),
  ).toEqual(['Salt: 1,2,3', '4', '5', '6', '7']);
});
