import { performance, sample, venues } from '../testing/samples';
import { toDraft, type RecordDraft } from './draft';
import { draftedTurn, nothingSaid, withTurn, type TurnSaid } from './turn-said';
import { nothingChosen, type Doing, type TurnChosen } from './turned';

const draft = toDraft(sample({ performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15')] }));
const said = (doing: Doing, part: Partial<TurnSaid> = {}) => ({ ...nothingSaid(doing), ...part });
const chosen = (part: Partial<TurnChosen> = {}) => ({ ...nothingChosen('p1'), ...part });
const words = (
  doing: Doing,
  part: Partial<TurnChosen & TurnSaid>,
  { ids = ['p1'], of = draft }: { ids?: string[]; of?: RecordDraft } = {},
) => draftedTurn(doing, chosen(part), said(doing, part), { draft: of, ids: new Set(ids), venues });
const act = draft.lineUp[0];

test.each<[string, Doing, Partial<TurnChosen & TurnSaid>, string]>([
  [
    'cancelled, with a reason',
    'cancel',
    { why: 'the singer is ill.', until: '2027-04-01' },
    '{{ title }} on Sun 14 Mar 2027 is cancelled: the singer is ill. Tickets are paid back until Thu 1 Apr 2027, where they were bought.',
  ],
  [
    'cancelled, and tickets are good for another night',
    'cancel',
    { tickets: 'valid' },
    '{{ title }} on Sun 14 Mar 2027 is cancelled. Tickets stay valid.',
  ],
  [
    'put off, the date to follow',
    'postpone',
    {},
    '{{ title }} on Sun 14 Mar 2027 is postponed. The new date is to follow. Tickets stay valid for the new date.',
  ],
  [
    'put off to a day',
    'postpone',
    { date: '2027-05-14', by: 'the box office' },
    '{{ title }} takes place on Fri 14 May 2027 at 19:30, not on Sun 14 Mar 2027. Tickets stay valid; who cannot come is paid back, the box office.',
  ],
  [
    'put off to a day and an hour',
    'postpone',
    { date: '2027-05-14', start: '20:15', why: 'Snow!' },
    '{{ title }} takes place on Fri 14 May 2027 at 20:15, not on Sun 14 Mar 2027: Snow. Tickets stay valid.',
  ],
  [
    'moved',
    'move',
    { place: 'v1|wick' },
    '{{ title }} on Sun 14 Mar 2027 takes place in Wick Room, Tallow Yard, Marrowby. Tickets stay valid.',
  ],
  ['sold out', 'soldOut', {}, '{{ title }} on Sun 14 Mar 2027 is sold out.'],
  ['a date more', 'extra', { date: '2027-03-16' }, '{{ title }}: one date more, on Tue 16 Mar 2027.'],
  ['as it was', 'back', {}, '{{ title }} on Sun 14 Mar 2027 takes place after all.'],
  [
    'somebody cannot be there',
    'lineUp',
    { act: act?.id ?? null, joins: 'Quill', why: 'ill' },
    `{{ title }} on Sun 14 Mar 2027: ${act?.name} cannot be there: ill. Quill plays.`,
  ],
  ['somebody joins', 'lineUp', { joins: 'Quill' }, '{{ title }} on Sun 14 Mar 2027: Quill joins.'],
])('a post is drafted: %s', (_, doing, part, expected) => {
  expect(words(doing, part)).toBe(expected);
});

test('of several dates no day is said; where nothing is sold nothing is said of tickets', () => {
  expect(words('cancel', {}, { ids: ['p1', 'p2'] })).toBe(
    '{{ title }} is cancelled. Tickets are paid back, where they were bought.',
  );
  const free: RecordDraft = { ...draft, tickets: { ...draft.tickets, mode: 'free entry' } };
  expect(words('cancel', {}, { of: free })).toBe('{{ title }} on Sun 14 Mar 2027 is cancelled.');
  const open: RecordDraft = {
    ...draft,
    performances: draft.performances.map((item) => ({ ...item, precision: 'month' })),
  };
  expect(words('cancel', { tickets: 'valid' }, { of: open })).toBe('{{ title }} is cancelled. Tickets stay valid.');
});

test('it is put into the record: the date, what is said of tickets, and a post of the words as they were put', () => {
  const ground = { draft, ids: new Set(['p1']), venues };
  const put = (part: Partial<TurnSaid>, post: { channel: string; id: string } | null, doing: Doing = 'cancel') =>
    withTurn(doing, chosen(), said(doing, part), ground, { post, fresh: 'new' });
  const post = { channel: 'murmurline', id: 'n9' };
  const made = put({ until: '2027-04-01' }, post);
  expect(made.performances.map(({ turn }) => turn)).toEqual(['cancelled', 'none']);
  expect(made.tickets).toEqual({
    ...draft.tickets,
    refunds: 'Tickets are paid back until Thu 1 Apr 2027, where they were bought.',
  });
  expect(made.notices.slice(0, -1)).toEqual(draft.notices);
  expect(made.notices.at(-1)).toMatchObject({ ...post, words: words('cancel', { until: '2027-04-01' }) });
  expect(put({ words: 'Ours ' }, post).notices.at(-1)?.words).toBe('Ours');
  expect([put({ words: ' ' }, post).notices, put({}, null).notices]).toEqual([draft.notices, draft.notices]);
  // What is sold out says nothing of refunds.
  expect(put({}, null, 'soldOut').tickets).toEqual(draft.tickets);
});

test('what the house says of refunds stays before what a turn says, which the next one replaces', () => {
  const after = (doing: Doing, refunds: string) =>
    withTurn(
      doing,
      chosen(),
      said(doing),
      { draft: { ...draft, tickets: { ...draft.tickets, refunds } }, ids: new Set(['p1']), venues },
      { post: null, fresh: 'new' },
    ).tickets.refunds;
  const house = 'Up to a week before, at the box office.';
  const off = `${house} Tickets are paid back, where they were bought.`;
  expect(after('cancel', house)).toBe(off);
  expect(after('postpone', off)).toBe(`${house} Tickets stay valid for the new date.`);
  expect([after('back', off), after('soldOut', off), after('back', '')]).toEqual([house, off, '']);
});

test('a post that a turn drafted tells those who bought, and is taken out once nothing is so any more', () => {
  const put = (of: RecordDraft, doing: Doing, ids: string[], id = 'n9', part: Partial<TurnChosen> = {}) => ({
    ...of,
    ...withTurn(
      doing,
      { ...chosen(), ...part },
      said(doing),
      { draft: of, ids: new Set(ids), venues },
      { post: { channel: 'murmurline', id }, fresh: 'new' },
    ),
  });
  const drafted = ({ notices }: RecordDraft) => notices.slice(draft.notices.length).map(({ id }) => id);
  const marks = (of: RecordDraft) => of.notices.slice(-1).map(({ turn, holders }) => [turn, holders])[0];
  const off = put(draft, 'cancel', ['p1', 'p2']);
  expect(marks(off)).toEqual(['cancelled', true]);
  // One of them is still cancelled: what says so of it stays.
  const half = put(off, 'back', ['p1'], 'n10');
  expect(drafted(half)).toEqual(['n9', 'n10']);
  expect([drafted(put(half, 'back', ['p2'], 'n11')), marks(half)]).toEqual([
    ['n10', 'n11'],
    [null, true],
  ]);
  const moved = (part: Partial<TurnChosen>, doing: Doing = 'postpone') => marks(put(draft, doing, ['p1'], 'n9', part));
  expect([moved({}), moved({ date: '2027-06-01' }), moved({ place: 'v1|wick' }, 'move')]).toEqual([
    ['postponed', true],
    ['rescheduled', true],
    ['moved', true],
  ]);
  // A date more, or a full house, is news to others; where nothing is sold nobody bought.
  expect([moved({ date: '2027-06-01' }, 'extra'), moved({}, 'soldOut')]).toEqual([
    [null, false],
    [null, false],
  ]);
  const free: RecordDraft = { ...draft, tickets: { ...draft.tickets, mode: 'free entry' } };
  expect(marks(put(free, 'cancel', ['p1']))).toEqual(['cancelled', false]);
});
