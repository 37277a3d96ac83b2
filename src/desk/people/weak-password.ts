import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

const guesser = new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
/** Of 0 to 4: what takes fewer than 10^10 guesses is turned down. */
const leastScore = 4;

/**
 * Why a password is too easily guessed: it is common, or near to one that is, or made of `own` words, such as the
 * person's name; `null`: it is not.
 */
export function weakPassword(password: string, own: readonly string[]): string | null {
  const words = own
    .map((text) => text.toLowerCase())
    .flatMap((text) => [text, ...text.split(/[^\p{L}\p{N}]+/u)])
    .filter((word) => word.length > 2);
  const { score, sequence } = guesser.check(password.slice(0, 128), ['nuntiax', ...words]);
  if (score >= leastScore) return null;
  const common = sequence.some((part) => part.pattern === 'dictionary' && part.dictionaryName.startsWith('passwords'));
  return common
    ? 'This is a common password, or near to one. Take several words that have nothing to do with each other.'
    : 'This is easily guessed. Take several words that have nothing to do with each other.';
}
