import type { Instant } from './zones';

/** The one seam through which time comes in. */
export interface Clock {
  kind: 'real' | 'simulated';
  /** Now, in milliseconds since 1970. */
  now(): Instant;
}
