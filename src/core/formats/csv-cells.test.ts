import { dateCell } from './csv-dates';
import type { FileNote } from './file-note';
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

test.each([
  ['3/4/2027', '2027-04-03', true],
  ['12/12/2027', '2027-12-12', false],
  ['13/4/2027', '2027-04-13', false],
  ['4/12/2027', '2027-12-04', true],
  ['12-1-2027', '2027-01-12', true],
  ['0/4/2027', null, false],
  ['2027-04-03', '2027-04-03', false],
])('%s is read day first, and that is told only where it could be otherwise', (text, date, told) => {
  const notes: FileNote[] = [];
  const read = () => dateCell(text, 'Europe/Dublin', notes);
  if (date === null) expect(read).toThrow();
  else expect(read()).toMatchObject({ date });
  expect(notes.some((note) => note.code === 'day-first')).toBe(told);
});
