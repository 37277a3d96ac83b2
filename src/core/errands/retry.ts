import type { Instant } from '../base/zones';

/** What can go wrong outside; each kind has a cure of its own. The last is a mistake of our own. */
export const outsideErrorKinds = [
  'again-later',
  'sign-in-again',
  'not-allowed',
  'invalid',
  'locked',
  'conflict',
  'gone',
  'unknown-outcome',
  'not-connected',
  'stopped',
  'held',
  'our-fault',
] as const;
export type OutsideErrorKind = (typeof outsideErrorKinds)[number];

/** What is to be done after a failed try: the whole account waits, this errand is tried again, or a person decides. */
export type Cure = { kind: 'account' } | { kind: 'again'; at: Instant } | { kind: 'final' };

const second = 1000;
const longest = 5 * 60 * second;
const dayMs = 86_400_000;
const signInTries = 3;

/** How long to wait after so many failures in a row (1 or more), in milliseconds. */
function backoffMs(failures: number): number {
  return Math.min(second * 2 ** Math.min(Math.max(failures, 1) - 1, 12), longest);
}

/** A wait that a channel asked for, bounded to a day; `null`: it asked for none. Milliseconds. */
export function boundedWait(waitMs: number | null): number | null {
  return waitMs === null ? null : Math.min(Math.max(waitMs, 0), dayMs);
}

/**
 * What follows a failed try. Pure: decided by the kind of error and the tries so far (1 or more). `now` is of a
 * monotonic clock.
 */
export function cureFor(kind: OutsideErrorKind, tries: number, now: Instant): Cure {
  switch (kind) {
    case 'again-later':
    case 'unknown-outcome':
      return { kind: 'account' };
    case 'sign-in-again':
      return tries < signInTries ? { kind: 'again', at: now + backoffMs(tries) } : { kind: 'final' };
    case 'stopped':
      return { kind: 'again', at: now };
    case 'not-allowed':
    case 'invalid':
    case 'locked':
    case 'conflict':
    case 'gone':
    case 'not-connected':
    case 'held':
    case 'our-fault':
      return { kind: 'final' };
    default:
      return kind satisfies never;
  }
}

/** What each kind of error means to a person, and the way out. */
export const outsideErrorWords: Record<OutsideErrorKind, string> = {
  'again-later': 'The channel cannot take it now; it is tried again by itself.',
  'sign-in-again': 'The channel does not accept our credentials. Check the connection under Channels, then try again.',
  'not-allowed': 'The channel does not allow this with our credentials. Check the connection under Channels.',
  invalid: 'The channel does not accept a value. Put it right in the record and send again.',
  locked: 'The channel has locked this field. Leave it as it stands there, or choose a way under Dispatch.',
  conflict: 'The listing was edited there since we last read it. Look at Read-back and decide.',
  gone: 'The listing is not on the channel any more. Look at Read-back and decide.',
  'unknown-outcome': 'No answer came back. The channel is asked what happened before anything is sent again.',
  'not-connected': 'This channel is not connected. Connect it under Channels, then try again.',
  stopped: 'The record changed while it was being sent: it was looked at again.',
  held: 'The record says something now that needs a yes of its own. Look at it and send it again.',
  'our-fault':
    'This is a mistake of our own, not of the channel or of yours. It is written down with its place in the log.',
};

/**
 * What an account has come to: how it fails, and until when nothing is asked of it. Moments are of a monotonic clock.
 */
export interface AccountState {
  failures: number;
  failingSince: Instant | null;
  blockedUntil: Instant;
}

export const calmAccount: AccountState = { failures: 0, failingSince: null, blockedUntil: 0 };

/** An account after an answer that was good. */
export function answered(state: AccountState): AccountState {
  return state.failures === 0 && state.blockedUntil === 0 ? state : calmAccount;
}

/** An account after a try that failed for a while: everything on it waits, and one knocks when the wait is over. */
export function failed(state: AccountState, now: Instant, waitMs: number | null): AccountState {
  // Several that were under way at once fail together: that is one failure.
  const failures = now < state.blockedUntil ? state.failures : state.failures + 1;
  const wait = boundedWait(waitMs) ?? backoffMs(failures);
  return { failures, failingSince: state.failingSince ?? now, blockedUntil: Math.max(state.blockedUntil, now + wait) };
}

/** Trouble that lasts so long reaches a person, in milliseconds. */
export const longTroubleMs = 3_600_000;
