import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { House } from '@/house/house';

/**
 * Asks the outside services to move the simulated clock on by `ms`, and follows it. Nothing happens on the real clock.
 */
export async function moveClock(
  house: House & { follow: () => Promise<boolean> },
  doer: Doer,
  ms: number,
): Promise<void> {
  asks(doer, 'moveClock');
  const url = process.env.NUNTIAX_CLOCK;
  if (house.clock.kind === 'real' || !url) return;
  await fetch(url, {
    method: 'POST',
    body: new URLSearchParams({ ms: String(ms) }),
    signal: AbortSignal.timeout(3000),
  }).catch(() => null);
  await house.follow();
}
