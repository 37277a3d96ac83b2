import type { ChannelId, ListingId, RecordId } from '@/core/base/ids';
import type { KnownDay } from '@/core/dates/date-words';
import type { Consequences } from '@/core/errands/consequences';
import type { Foreseen } from '@/core/errands/foreseen';
import type { Way } from '@/core/errands/steps';
import type { Finding } from '@/core/findings/finding';
import type { ByWhen } from '@/core/listing/shows';
import type { PlainChange } from '@/core/listing/value-words';
import type { PlainLockedChange } from './dispatch';

/** What is foretold of one listing, for the eye. */
export type PlainForeseen = Omit<Foreseen, 'changes'> & { changes: PlainChange[] };

/** What is locked on one channel, for the eye. */
export interface LockedChange {
  listing: ListingId;
  channel: ChannelId;
  sold: number;
  locked: PlainLockedChange[];
  ways: Way[];
  /** By when it is seen by each way that sends something. */
  by: Partial<Record<Way['id'], ByWhen>>;
}

/** What a change of a record does, for its screen. */
export interface ChangeView {
  recordId: RecordId;
  code: string;
  title: string;
  /** The revision that it would be. */
  revision: number;
  date: KnownDay;
  zone: string;
  now: number;
  /** Facts before and after, in words: `start`, `22:00`, `22:30`. */
  facts: { label: string; before: string; after: string }[];
  /** Words for the public on why, drafted from what changes; empty where there is nothing to say. */
  reason: string;
  atOnce: PlainForeseen[];
  later: (PlainForeseen & { afterDoors: boolean })[];
  locked: LockedChange[];
  apart: PlainForeseen[];
  asks: Consequences['asks'];
  held: { listing: ListingId; channel: ChannelId; reasons: Finding[]; waitsFor: string | null }[];
  busy: Consequences['busy'];
  said: Consequences['said'];
  quotes: Consequences['quotes'];
  moments: Consequences['moments'];
  sentences: { where: string; text: string; says: string; token: string | null }[];
  arises: Finding[];
  holders: Consequences['holders'];
  telling: Consequences['telling'];
  wrong: Consequences['wrong'];
  needs: Consequences['needs'];
  /** Clashes that arise, in words. */
  clashes: string[];
  /** What is to be acknowledged before it goes: by its key, on which channel, of which listing, what it is. */
  unseen: { key: string; channel: ChannelId | null; listing: ListingId | null; words: string }[];
}

/** What came of asking what a change does. */
export type ChangeAnswer = { kind: 'view'; view: ChangeView } | { kind: 'stopped'; messages: string[] };

/** What came of saving and sending at once: nothing is saved where it cannot be sent. */
export type SentAnswer =
  | { kind: 'sent'; dispatchId: string | null; revision: number }
  | { kind: 'stopped'; messages: string[] }
  | { kind: 'merge' };
