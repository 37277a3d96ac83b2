import { readLineUp, readStatus } from './csv-cells';

test.each<[string, [string, string][]]>([
  ['Odalys Quarry', [['Odalys Quarry', 'headliner']]],
  ['Odalys Quarry (support)', [['Odalys Quarry', 'support']]],
  [
    ' A ;B (Special Guest); C(support) ;; D (solo)',
    [
      ['A', 'headliner'],
      ['B', 'special guest'],
      ['C', 'support'],
      ['D (solo)', 'headliner'],
    ],
  ],
  ['(support)', [['', 'support']]],
  ['', []],
])('a line-up of one cell: %s', (text, expected) =>
  expect(readLineUp(text, 'r').map(({ name, role }) => [name, role])).toEqual(expected),
);

describe('what befell a date', () => {
  test.each<[string, string, boolean]>([
    ['', 'none', false],
    ['as planned', 'none', false],
    ['Sold out', 'none', true],
    ['postponed', 'postponed', false],
    ['moved; sold out', 'moved', true],
    [' CANCELLED ', 'cancelled', false],
  ])('%j is read', (text, turn, soldOut) => expect(readStatus(text)).toEqual({ turn, soldOut }));
  test.each([['off'], ['none'], ['moved; cancelled'], ['sold']])('%j is refused, at its column', (text) =>
    expect(() => readStatus(text)).toThrow(expect.objectContaining({ field: 'status' }) as Error),
  );
});
