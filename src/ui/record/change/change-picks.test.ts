import type { ChangeView } from '@/views/change';
import { leftUntil } from '@/core/errands/goes';
import { flippedWith, noPicks, picksOfTonight, sumOfPicks, unseenOf, type Picks } from './change-picks';
import { whenWords } from './when-words';

const now = Date.parse('2027-02-02T10:20Z');
const view = (part: object) =>
  ({
    atOnce: [],
    later: [],
    apart: [],
    said: [],
    busy: [],
    locked: [],
    date: '2027-02-05',
    now,
    ...part,
  }) as unknown as ChangeView;
const item = (listing: string, part: object = {}) => ({ listing, op: 'amend', ...part });
const all = view({
  atOnce: [item('site')],
  later: [item('batch'), item('mirror', { op: null })],
  apart: [item('post')],
  busy: [item('busy', { more: true }), item('quiet', { more: false })],
  said: [item('edits', { mending: 'edit' }), item('letter', { mending: 'anew' }), item('old', { mending: 'none' })],
  locked: [
    item('market', {
      ways: [
        { id: 'reschedule', needs: ['reason'] },
        { id: 'leave', needs: [] },
      ],
    }),
  ],
});

test('what goes by itself goes; what only mirrors is not sent; what tells people waits to be asked for', () => {
  const { listings, open, errands } = sumOfPicks(all, noPicks);
  expect([listings, open.length, errands]).toEqual([['site', 'batch', 'edits', 'busy'], 1, 4]);
});

test('what was said already and is not corrected stays by the person’s word; what is, goes by its way', () => {
  const ways = (asked: string[]) => sumOfPicks(all, { ...noPicks, asked: new Set(asked) }).ways;
  expect([ways([]).letter?.way, ways(['letter']).letter?.way, ways(['old']).old?.way]).toEqual([
    'leave',
    'correct',
    'leave',
  ]);
  expect(ways([]).letter).toMatchObject({ until: '2027-02-05', reason: expect.stringMatching(/./) });
});

test('a way counts once it has what it asks for; to leave it sends nothing', () => {
  const sum = (way: object) =>
    sumOfPicks(all, { ...noPicks, ways: { market: { way: '', reason: '', code: '', until: '2027-02-05', ...way } } });
  expect(sum({ way: 'reschedule' }).open).toHaveLength(1);
  expect([sum({ way: 'reschedule', reason: 'x' }).open, sum({ way: 'reschedule', reason: 'x' }).errands]).toEqual([
    [],
    5,
  ]);
  expect([sum({ way: 'leave', reason: 'x' }).open, sum({ way: 'leave', reason: 'x' }).errands]).toEqual([[], 4]);
});

test.each([
  ['2027-03-14', '2027-03-14'],
  ['2027-02-02', '2027-02-03'],
  ['2027-01-02', '2027-02-03'],
  ['2027-05', '2027-03-04'],
  ['', '2027-03-04'],
])('what stays as it is asks again after a day that is not over: %s', (date, until) =>
  expect(leftUntil({ date, now })).toBe(until),
);

test('what was taken out stays out', () => {
  const out = new Set(['site', 'edits', 'busy']);
  expect(sumOfPicks(all, { ...noPicks, out }).listings).toEqual(['batch']);
});

test.each([
  ['2027-02-02T11:00Z', '11:00'],
  ['2027-02-03T10:00Z', 'Wed 10:00'],
  ['2027-02-18T10:00Z', 'Thu 18 Feb 10:00'],
  ['2028-02-18T10:00Z', 'Fri 18 Feb 2028 10:00'],
])('a moment as near as it is: %s', (at, words) => expect(whenWords(Date.parse(at), now, 'Europe/Dublin')).toBe(words));

test('on the night, what can only stay is left with a word; what has a way is asked about', () => {
  const night = view({
    locked: [
      item('page', { ways: [{ id: 'leave', needs: [] }] }),
      item('market', {
        ways: [
          { id: 'reschedule', needs: ['reason'] },
          { id: 'leave', needs: [] },
        ],
      }),
    ],
  });
  const picks = picksOfTonight(night);
  expect(Object.keys(picks.ways)).toEqual(['page']);
  expect(sumOfPicks(night, picks).open.map(({ listing }) => listing)).toEqual(['market']);
});

test('what gives a link and what waits for it are ticked and unticked together; what tells people is never ticked so', () => {
  const shown = view({
    ...{ atOnce: [item('market'), item('site')], later: [item('batch')], apart: [item('post')] },
    unseen: [],
    needs: [
      { listing: 'site', needs: ['market'] },
      { listing: 'post', needs: ['market'] },
    ],
  });
  const flip = (picks: Picks, listing: string, asked = false) => ({
    ...picks,
    ...flippedWith(shown, picks, listing, asked),
  });
  const said = ({ out, asked }: Picks) => [[...out].sort(), [...asked]];
  const posted = flip(noPicks, 'post', true);
  expect(said(posted)).toEqual([[], ['post']]);
  // Without the market nothing goes that waits for it.
  const none = flip(posted, 'market');
  expect(said(none)).toEqual([['market', 'site'], []]);
  expect(sumOfPicks(shown, none).listings).toEqual(['batch']);
  expect(said(flip(none, 'site'))).toEqual([[], []]);
  expect(said(flip(none, 'market'))).toEqual([['site'], []]);
  expect(said(flip(none, 'post', true))).toEqual([['site'], ['post']]);
  expect(said(flip(posted, 'post', true))).toEqual([[], []]);
  expect(said(flip(noPicks, 'batch'))).toEqual([['batch'], []]);
});

test('what warns of a post counts once the post is asked for', () => {
  const warned = (listing: string | null) => ({ key: `k ${listing}`, channel: null, listing, words: '' });
  const shown = view({ apart: [item('post')], needs: [], unseen: ['post', 'site', null].map(warned) });
  const keys = (asked: string[]) => unseenOf(shown, { asked: new Set(asked) }).map(({ key }) => key);
  expect([keys([]), keys(['post'])]).toEqual([
    ['k site', 'k null'],
    ['k post', 'k site', 'k null'],
  ]);
  // What was acknowledged before it was asked for did not cover it.
  const seen = { ...noPicks, seen: true };
  expect([flippedWith(shown, seen, 'post', true).seen, flippedWith(shown, seen, 'site', false).seen]).toEqual([
    false,
    undefined,
  ]);
});
