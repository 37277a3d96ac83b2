import { answered, calmAccount, failed } from './retry';

test('an account is calm again after a good answer, whatever was the matter; a calm one is the very same', () => {
  expect(answered(calmAccount)).toBe(calmAccount);
  const same = { ...calmAccount };
  expect(answered(same)).toBe(same);
  // Blocked without a failure, by a word of the channel; or failed and not blocked any more.
  expect(answered({ failures: 0, failingSince: null, blockedUntil: 50 })).toEqual(calmAccount);
  expect(answered({ failures: 2, failingSince: 10, blockedUntil: 0 })).toEqual(calmAccount);
});

test('what fails while it is blocked is the same failure', () => {
  const once = failed(calmAccount, 1_000, 5_000);
  expect(once.failures).toBe(1);
  expect(failed(once, once.blockedUntil - 1, 5_000).failures).toBe(1);
  expect(failed(once, once.blockedUntil, 5_000).failures).toBe(2);
  expect([once.failingSince, failed(once, once.blockedUntil, 5_000).failingSince]).toEqual([1_000, 1_000]);
});
