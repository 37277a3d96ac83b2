import type { Instant } from '../base/zones';

/** What can go wrong outside; each kind has a cure of its own. */
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
] as const;
export type OutsideErrorKind = (typeof outsideErrorKinds)[number];

/** What is to be done after a failed try: again at a moment, or a person decides. */
export type Cure = { kind: 'again'; at: Instant } | { kind: 'final' };

const second = 1000;
const longest = 5 * 60 * second;
const signInTries = 3;

/**
 * What follows a failed try. Pure: decided by the kind of error, the tries so far (1 or more) and, where the
 * channel gave one, its own moment.
 */
export function cureFor(kind: OutsideErrorKind, tries: number, now: Instant, givenAt: Instant | null): Cure {
  const backoff = now + Math.min(second * 2 ** Math.min(tries - 1, 12), longest);
  switch (kind) {
    case 'again-later':
      return { kind: 'again', at: Math.max(givenAt ?? backoff, now) };
    case 'unknown-outcome':
      return { kind: 'again', at: backoff };
    case 'sign-in-again':
      return tries < signInTries ? { kind: 'again', at: backoff } : { kind: 'final' };
    case 'not-allowed':
    case 'invalid':
    case 'locked':
    case 'conflict':
    case 'gone':
    case 'not-connected':
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
  locked: 'The channel has locked this field. Leave it as it stands there, or settle it with the channel.',
  conflict: 'The listing was edited there since we last read it. Look at Read-back and decide.',
  gone: 'The listing is not on the channel any more. Look at Read-back and decide.',
  'unknown-outcome': 'No answer came back. The channel is asked what happened before anything is sent again.',
  'not-connected': 'This channel is not connected. Connect it under Channels, then try again.',
};
