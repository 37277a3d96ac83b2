import type { Facts } from '../facts/facts';
import type { Instant } from '../base/zones';
import type { Token } from './tokens';

/** What a mention says of the record: it is wrong, it was right once, or it is right and will not follow. */
type Verdict = 'contradicts' | 'stale' | 'typed';

/** A fact that stands typed in prose, held against the record. */
export interface Mention {
  kind: 'date' | 'time' | 'price' | 'place' | 'name' | 'link';
  /** Where it stands in the text, in UTF-16 units. */
  from: number;
  to: number;
  text: string;
  verdict: Verdict;
  /** What the record says there, in words. */
  says: string;
  /** The token that would follow the record, where one says just this. */
  token: Token | null;
}

/** What the record said at earlier revisions, so that an old truth is told from an error. */
export interface Earlier {
  dates: readonly string[];
  times: readonly string[];
  /** In minor units: all that was asked, and the lowest of them. */
  prices: readonly number[];
  from: readonly number[];
  places: readonly string[];
  names: readonly string[];
  links: readonly string[];
}

export const noEarlier: Earlier = { dates: [], times: [], prices: [], from: [], places: [], names: [], links: [] };

/** What mentions are held against. */
export interface MentionContext {
  facts: Facts;
  now: Instant;
  earlier: Earlier;
  /** Names of all rooms of the record's venues. */
  rooms: readonly string[];
}

/** What stands in a searched text in place of a token that says a day, and of one that says when it opens or begins. */
export const daySaid = '\u0001';
export const timeSaid = '\u0002';

/** The text just before a place, to tell what a mention is about. */
export function before(text: string, at: number, length = 24): string {
  return text.slice(Math.max(0, at - length), at);
}

/** The text just after a place. */
export function after(text: string, at: number, length = 24): string {
  return text.slice(at, at + length);
}
