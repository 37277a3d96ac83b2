import type { Clash } from './clashes';
import { groupClashes } from './group-clashes';

const side = (record: string, at: number) => ({
  record,
  code: record,
  title: record,
  performance: `${record}${at}`,
  at,
  zone: 'UTC',
});
const overlap = (a: string, b: string, at: number, weight: Clash['weight'] = 'warns', room = 'Vat'): Clash => ({
  code: 'room-overlap',
  weight,
  room,
  minutes: 30,
  a: side(a, at),
  b: side(b, at),
});

test('clashes of a run with the same event in the same way are one, as grave as the gravest', () => {
  const groups = groupClashes([
    overlap('run', 'other', 1),
    overlap('run', 'third', 2),
    // The sides come in the order of time.
    overlap('other', 'run', 3, 'stops'),
    overlap('run', 'other', 4, 'notes'),
    overlap('run', 'other', 5, 'warns', 'Wick'),
    { code: 'sale-after-start', weight: 'stops', level: 'Full', a: side('run', 6), b: null },
    { code: 'sale-after-start', weight: 'stops', level: 'Half', a: side('run', 6), b: null },
  ]);
  expect(groups.map(({ first, weight, more }) => [first.code, first.a.at, weight, more.map(({ a }) => a.at)])).toEqual([
    ['room-overlap', 1, 'stops', [3, 4]],
    ['room-overlap', 2, 'warns', []],
    ['room-overlap', 5, 'warns', []],
    ['sale-after-start', 6, 'stops', []],
    ['sale-after-start', 6, 'stops', []],
  ]);
  expect(groupClashes([])).toEqual([]);
});
