import type { Instant } from '../base/zones';

/** How many requests an account may make: so many in so long, and so many at once after a rest. */
export interface Pace {
  requests: number;
  /** The time that `requests` are meant for, in milliseconds. */
  perMs: number;
  burst: number;
}

/** What an account may still ask for at a moment of the machine's own clock. */
export interface Fill {
  tokens: number;
  at: Instant;
}

/**
 * Of a turn that came late, because the machine was busy, so much is made up for by the next ones, as a share of one
 * request: else a busy machine would keep an account slower than it may be. No more, for what is sent on time may
 * arrive late, too, and the next soon after it: what a channel counts lies between the two.
 */
const madeUp = 1 / 10;

/**
 * What an account may ask for at `now`. It fills with time, up to its burst; `waited`: somebody was waiting for a turn
 * all the time since. A clock that was put back fills nothing.
 */
export function filled({ tokens, at }: Fill, { requests, perMs, burst }: Pace, now: Instant, waited: boolean): Fill {
  const most = burst + (waited ? madeUp : 0);
  return { tokens: Math.min(most, tokens + (Math.max(0, now - at) * requests) / perMs), at: now };
}

/** Milliseconds until a whole request may be made: at least one. */
export function untilNext({ tokens }: Fill, { requests, perMs }: Pace): number {
  return Math.max(1, Math.ceil(((1 - tokens) * perMs) / requests));
}
