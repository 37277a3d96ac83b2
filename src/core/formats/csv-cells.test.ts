import { readLineUp } from './csv-cells';

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
