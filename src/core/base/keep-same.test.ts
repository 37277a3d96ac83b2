import fc from 'fast-check';
import { keepSame } from './keep-same';

const data = fc.letrec((tie) => ({
  any: fc.oneof(
    { maxDepth: 4 },
    fc.constantFrom(null, undefined, 0, -0, Number.NaN, '', 'a', true),
    fc.array(tie('any'), { maxLength: 3 }),
    fc.dictionary(fc.constantFrom('a', 'b', 'c'), tie('any'), { maxKeys: 3, noNullPrototype: true }),
    fc.array(fc.tuple(fc.constantFrom('x', 'y'), tie('any')), { maxLength: 2 }).map((pairs) => new Map(pairs)),
  ),
})).any;

/** The same data in objects of its own. */
function copy<T>(nonNullable: T): T {
  if (Array.isArray(nonNullable)) return nonNullable.map(copy) as T;
  if (nonNullable instanceof Map) return new Map([...nonNullable].map(([key, value]) => [key, copy(value)])) as T;
  if (typeof nonNullable !== 'object' || nonNullable === null) return nonNullable;
  return Object.fromEntries(Object.entries(nonNullable).map(([key, value]) => [key, copy(value)])) as T;
}

test('it says what came after, and is the one before wherever that says the same', () => {
  fc.assert(
    fc.property(data, data, (before, after) => {
      const kept = keepSame(before, after);
      expect(kept).toStrictEqual(after);
      expect(keepSame(kept, copy(after))).toBe(kept);
    }),
  );
});

test('what differs takes only those along in whom it lies', () => {
  const before = { a: { b: [1, { c: 2 }] }, d: { e: 3 }, m: new Map([['k', { n: 1 }]]) };
  const after = keepSame(before, { ...copy(before), a: { b: [1, { c: 4 }] } });
  expect(after).not.toBe(before);
  expect([after.d === before.d, after.m === before.m, after.a === before.a]).toEqual([true, true, false]);
  expect(after.a.b[1]).toEqual({ c: 4 });
});

test('the order of keys is part of what is said', () => {
  expect(Object.keys(keepSame({ a: 1, b: 2 }, { b: 2, a: 1 }))).toEqual(['b', 'a']);
  expect([
    ...keepSame(
      new Map([
        ['a', 1],
        ['b', 2],
      ]),
      new Map([
        ['b', 2],
        ['a', 1],
      ]),
    ).keys(),
  ]).toEqual(['b', 'a']);
});

test('a part that reckons when it is asked is asked once', () => {
  let asked = 0;
  const lazy = {
    get words() {
      asked += 1;
      return ['x'];
    },
  };
  const kept = keepSame({ words: ['x'] }, lazy);
  expect([kept.words, kept.words, asked]).toEqual([['x'], ['x'], 1]);
});
