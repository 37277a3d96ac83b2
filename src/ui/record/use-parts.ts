import { useState } from 'react';

/**
 * Some parts of a whole: the same object as long as each of them is the same, so that only who uses what changed is
 * drawn.
 */
export function useParts<T extends object, K extends keyof T>(whole: T, keys: readonly K[]): Pick<T, K> {
  const [held, hold] = useState<Pick<T, K>>(() => pick(whole, keys));
  if (keys.every((key) => Object.is(held[key], whole[key]))) return held;
  const next = pick(whole, keys);
  hold(next);
  return next;
}

function pick<T extends object, K extends keyof T>(whole: T, keys: readonly K[]): Pick<T, K> {
  return Object.fromEntries(keys.map((key) => [key, whole[key]])) as Pick<T, K>;
}
