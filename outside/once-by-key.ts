import { createHash } from 'node:crypto';
import type { OutsideStore } from './store';

interface Answered {
  status: number;
  body: object;
}

/**
 * Does a request once for its Idempotency-Key. A key is a key of its request: the same again gets the same answer; for
 * another it is refused, not answered as if it had been that one. What was refused is not remembered.
 */
export function onceByKey<A extends Answered>(
  store: OutsideStore,
  shelf: string,
  key: string,
  request: readonly unknown[],
  work: () => A,
): A | { status: 409; body: object } {
  const asked = createHash('sha256').update(JSON.stringify(request)).digest('hex');
  return store.whole(() => {
    const known = store.answered(shelf, key);
    if (known !== null) {
      const before = JSON.parse(known) as { asked: string; answer: A };
      if (before.asked === asked) return before.answer;
      return { status: 409 as const, body: { message: 'this Idempotency-Key was used for another request' } };
    }
    const fresh = work();
    if (fresh.status < 300) store.rememberAnswer(shelf, key, JSON.stringify({ asked, answer: fresh }));
    return fresh;
  });
}
