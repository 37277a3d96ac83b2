import type { Facts } from './facts';

const folded = (name: string) =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N} ]/gu, '')
    .trim();

/** Whether an act plays at an event; every event is a place's own where no act is named. */
export function playsAt(act: string): (facts: Facts) => boolean {
  const who = folded(act);
  return ({ performances }) =>
    who === '' || performances.some((performance) => folded(performance.lineUp).includes(who));
}
