import { pathWords, plainWords } from './path-words';

test('a path in words', () => {
  expect([pathWords('performances.p1.start'), pathWords('lineUp.order')]).toEqual([
    expect.stringMatching(/^performance › start$/),
    expect.stringMatching(/ › order$/),
  ]);
});

test.each([
  ['nothing', null, 'nothing'],
  ['an empty list', [], 'nothing'],
  ['a text without its marks', '<p>Strings <b>and</b> wind</p>', /Strings\s+and\s+wind/],
  [
    'a list of names',
    [
      { id: 'a', name: 'Odalys Quarry' },
      { id: 'b', name: 'Marisol Venn' },
    ],
    'Odalys Quarry, Marisol Venn',
  ],
  ['a date', { id: 'p1', date: '2027-03-14', start: '19:30' }, '2027-03-14 19:30'],
  [
    'an object: no ids, no braces, nothing empty',
    { km: 40, days: 30, venueId: 'v1', note: '' },
    /^[^{}"]*40[^{}"]*30$/,
  ],
])('a value in words: %s', (_, value, words) => {
  if (typeof words === 'string') expect(plainWords(value)).toBe(words);
  else expect(plainWords(value)).toMatch(words);
});
