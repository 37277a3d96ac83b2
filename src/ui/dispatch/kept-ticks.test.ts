import type { EventToSend } from '@/views/dispatch';
import { flippedBy, marksFrom } from './kept-ticks';

const errand = (listing: string, part: object = {}) => ({
  listing,
  op: 'amend',
  tells: 'nobody',
  notBefore: null,
  ...part,
});
const post = { op: 'place', tells: 'followers' };
const event = (part: object) => ({ errands: [], locked: [], held: [], busy: [], ...part }) as unknown as EventToSend;
const page = [
  event({
    errands: [errand('a'), errand('post', post), errand('later', { notBefore: 9 })],
    locked: [{ listing: 'b' }],
  }),
];

test('what was ticked and unticked is so again, by what it was and not by how it differed', () => {
  const marks = marksFrom({}, page, new Set(['a', 'post', 'b']));
  expect(marks).toEqual({ a: false, post: true, b: false });
  expect([...flippedBy(marks, page)].sort()).toEqual(['a', 'b', 'post']);
  // The post went and is to be amended: that is ticked by itself, and stays as it was left.
  expect([...flippedBy(marks, [event({ errands: [errand('post'), errand('a', post)] })])]).toEqual([]);
});

test('what is not on the page keeps its marks; what went has none any more', () => {
  const before = { elsewhere: false, a: false, b: false };
  expect(marksFrom(before, page, new Set(['a']))).toEqual({ elsewhere: false, a: false });
  expect(marksFrom(before, page, new Set(['a', 'post']), ['post'])).toEqual({ elsewhere: false, a: false });
  expect([...flippedBy({ elsewhere: false }, page)]).toEqual([]);
});
