import { quantile } from './quantile';

test.each([
  [[], 0.5, 1, null],
  [[5, 6], 0.5, 3, null],
  [[5, 6, 9], 0.5, 3, 6],
  [[1, 2, 3, 4, 5, 6, 7, 8, 9, 10], 0.9, 10, 10],
  [[1, 2, 3, 4], 1, 1, 4],
  [[7], 0, 1, 7],
])('of %j, the share %d, of at least %d: %s', (sorted, share, least, expected) =>
  expect(quantile(sorted, share, least)).toBe(expected),
);
