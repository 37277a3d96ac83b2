import { performance, sample, venues } from '../testing/samples';
import { toDraft } from './draft';
import { lacks, nothingChosen, turnable, turned, type Doing, type TurnChosen } from './turned';

const nights = toDraft(
  sample({
    performances: [
      performance('p1', '2027-03-14'),
      performance('p2', '2027-03-15', { turn: 'cancelled' }),
      performance('p3', '2027-01-15'),
      performance('p4', '2027-03-16', { soldOut: true }),
    ],
  }),
).performances;
const chosen = (part: Partial<TurnChosen> = {}): TurnChosen => ({
  ...nothingChosen('p1'),
  ...part,
});
const after = (doing: Doing, part: Partial<TurnChosen> = {}, ids = ['p1']) =>
  turned(nights, doing, chosen(part), new Set(ids), { venues, fresh: 'new' });
const first = (doing: Doing, part: Partial<TurnChosen> = {}) => after(doing, part)[0];

test('what is over or cancelled cannot be turned; what is sold out cannot sell out', () => {
  const ids = (doing: Doing) => turnable(nights, doing, '2027-02-02').map(({ id }) => id);
  expect([ids('cancel'), ids('soldOut')]).toEqual([['p1', 'p4'], ['p1']]);
  // They are offered by day and hour, however they stand in the record.
  const order = (items: typeof nights) => turnable(items, 'cancel', '2027-02-02').map(({ id }) => id);
  expect(order(nights.toReversed())).toEqual(['p1', 'p4']);
  const same = nights.flatMap((item) => (item.id === 'p1' ? [{ ...item, id: 'late', start: '22:00' }, item] : []));
  expect(order(same)).toEqual(['p1', 'late']);
  // What was cancelled or sold out can be as it was; what is over can not.
  expect(ids('back')).toEqual(['p2', 'p4']);
});

test.each<[string, Doing, Partial<TurnChosen>, object]>([
  ['cancelled', 'cancel', {}, { turn: 'cancelled', date: '2027-03-14' }],
  ['put off without a date', 'postpone', {}, { turn: 'postponed', date: '2027-03-14' }],
  [
    'put off to another day',
    'postpone',
    { date: '2027-05-14' },
    { turn: 'rescheduled', date: '2027-05-14', start: '19:30' },
  ],
  [
    'to another day and hour',
    'postpone',
    { date: '2027-05-14', start: '20:00' },
    { turn: 'rescheduled', start: '20:00' },
  ],
  ['sold out', 'soldOut', {}, { soldOut: true, turn: 'none' }],
  ['somebody cannot be there', 'lineUp', { act: 'a1' }, { lineUpOut: ['a1'], lineUpExtra: '', turn: 'none' }],
  ['somebody joins', 'lineUp', { joins: ' Quill ' }, { lineUpOut: [], lineUpExtra: 'Quill' }],
  ['to another room of the house', 'move', { place: 'v1|wick' }, { turn: 'moved', venueId: 'v1', roomId: 'wick' }],
  ['to a venue of several rooms, of which nobody chose one', 'move', { place: 'v1' }, { turn: 'moved', roomId: null }],
])('%s', (_, doing, part, expected) => {
  expect(first(doing, part)).toMatchObject(expected);
  // The others stay as they are, and it keeps its id.
  expect(after(doing, part).slice(1)).toEqual(nights.slice(1));
  expect(first(doing, part)?.id).toBe('p1');
});

test('what was taken is given back, and no more than that', () => {
  const back = (id: string) => after('back', {}, [id]).find((item) => item.id === id);
  expect([back('p2')?.turn, back('p4')?.soldOut, back('p1')]).toEqual(['none', false, nights[0]]);
  const moved = turned(
    nights.slice(0, 1).map((item) => ({ ...item, turn: 'moved', soldOut: true }) as const),
    'back',
    chosen(),
    new Set(['p1']),
    { venues, fresh: 'new' },
  );
  // Where it was to be before is not known of it.
  expect(moved[0]).toMatchObject({ turn: 'moved', soldOut: false });
});

test('whatever befell it one after another, it goes back to when and where it was to be at first', () => {
  const first = nights.slice(0, 1).map((item) => ({ ...item, doors: '19:00', end: '23:30', endsNextDay: false }));
  const turn = (items: typeof first, doing: Doing, part: Partial<TurnChosen> = {}) =>
    turned(items, doing, chosen(part), new Set(['p1']), { venues, fresh: 'new' });
  const later = turn(first, 'postpone', { date: '2027-05-14', start: '21:00' });
  // Doors and end move along with the start.
  expect(later[0]).toMatchObject({
    date: '2027-05-14',
    doors: '20:30',
    start: '21:00',
    end: '01:00',
    endsNextDay: true,
  });
  const elsewhere = turn(turn(later, 'postpone'), 'move', { place: 'v1|wick' });
  const { date, start, venueId, roomId } = nights[0] ?? {};
  expect(elsewhere[0]).toMatchObject({ roomId: 'wick', was: { date, start, venueId, roomId } });
  expect(turnable(elsewhere, 'back', '2027-02-02')).toHaveLength(1);
  expect(turn(elsewhere, 'back')).toEqual(first);
  expect(turnable(first, 'back', '2027-02-02')).toHaveLength(0);
  // Where it was to be is not known of a performance that came from another house, or from no venue: it stays.
  const foreign = elsewhere.map((item) => ({
    ...item,
    was: { date: '2027-03-14', start: null, venueId: null, roomId: null },
  }));
  expect(turn(foreign, 'back')[0]).toMatchObject({ date: '2027-03-14', venueId: 'v1', roomId: 'wick', turn: 'none' });
  // A start that was not known, or is half typed, is not kept as one; it stays as it is then.
  const open = turn(
    turn(
      first.map((item) => ({ ...item, start: '7' })),
      'cancel',
    ),
    'postpone',
    { date: '2027-06-01' },
  );
  expect(open[0]).toMatchObject({ start: '7', was: { start: null } });
  expect(turn(open, 'back')[0]).toMatchObject({ start: '7', doors: '19:00', date });
});

test('an extra date is a performance of its own, like the one it was made from, and not sold out', () => {
  const made = after('extra', { date: '2027-03-17', start: '21:00' }, ['p4']);
  expect(made.slice(0, -1)).toEqual(nights);
  expect(made.at(-1)).toMatchObject({
    id: 'new',
    date: '2027-03-17',
    start: '21:00',
    soldOut: false,
    turn: 'none',
    roomId: 'vat',
  });
});

test('a turn waits for what it needs', () => {
  const waits = (doing: Doing, part: Partial<TurnChosen> = {}) => lacks(doing, chosen(part), venues);
  expect([waits('cancel'), waits('postpone'), waits('soldOut')]).toEqual([false, false, false]);
  expect([waits('lineUp'), waits('lineUp', { joins: ' ' }), waits('lineUp', { act: 'a1' })]).toEqual([
    true,
    true,
    false,
  ]);
  expect([waits('extra'), waits('extra', { date: '2027-03-17' })]).toEqual([true, false]);
  expect([waits('move'), waits('move', { place: 'gone' }), waits('move', { place: 'v1|wick' })]).toEqual([
    true,
    true,
    false,
  ]);
});
