import { between } from './use-chosen';

const order = ['a', 'b', 'c', 'd'];
test.each<[string | null, string, string]>([
  ['a', 'c', 'abc'],
  ['d', 'b', 'bcd'],
  ['b', 'b', 'b'],
  [null, 'c', 'c'],
  ['gone', 'c', 'c'],
  ['a', 'gone', ''],
  ['d', 'a', 'abcd'],
])('from %s to %s', (from, to, expected) => expect(between(order, from, to).join('')).toBe(expected));
