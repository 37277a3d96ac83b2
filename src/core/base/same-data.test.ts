import fc from 'fast-check';
import { stableText } from './hash';
import { sameData } from './same-data';

test.each<[string, unknown, unknown, boolean]>([
  ['key order', { a: 1, b: [2] }, { b: [2], a: 1 }, true],
  ['an undefined property is none', { a: 1, b: undefined }, { a: 1 }, true],
  ['null is not absent', { a: 1, b: null }, { a: 1 }, false],
  ['a list is not an object', [], {}, false],
  ['order of a list', [1, 2], [2, 1], false],
  ['the empty text is not nothing', { a: '' }, { a: null }, false],
])('%s', (_, a, b, same) => expect([sameData(a, b), sameData(b, a)]).toEqual([same, same]));

test('it tells what the stable text tells, again and again', () => {
  const data = fc.jsonValue({ maxDepth: 4 });
  fc.assert(
    fc.property(data, data, fc.boolean(), (item, other, equal) => {
      const b: unknown = equal ? JSON.parse(JSON.stringify(item)) : other;
      const told = stableText(item) === stableText(b);
      expect([sameData(item, b), sameData(item, b), sameData(b, item)]).toEqual([told, told, told]);
    }),
    { seed: 3021, numRuns: 1500 },
  );
});
