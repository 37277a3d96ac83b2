import type { ChannelId, RecordId } from '@/core/base/ids';
import type { KnownDay } from '@/core/dates/date-words';
import type { ManySum } from '@/core/errands/many-sums';
import type { ChangedFact } from '@/core/words/change-words';

/** One of many events that an edit is for. */
export interface ManyEvent {
  id: RecordId;
  code: string;
  title: string;
  date: KnownDay;
  /** `same`: the edit changes nothing of it; `stopped`: it cannot be so, and `why` says it. */
  state: 'changes' | 'same' | 'stopped';
  why: string;
  facts: ChangedFact[];
  /** Listings of it that are locked on a channel. */
  locked: number;
}

/** What an edit of many events does, before it is saved. */
export interface ManyView {
  /** Names what was looked at: it is saved only while it is so. */
  seal: string;
  now: number;
  zone: string;
  /** What the edit is, in a few words. */
  words: string;
  /** Words for the public on why, drafted from the first of them; empty where there is nothing to say. */
  reason: string;
  /** Until which day what is left as it is may stay, where nobody says another. */
  until: string;
  events: ManyEvent[];
  sum: ManySum;
  /** What is to be acknowledged before it goes, in words. */
  unseen: { words: string; count: number }[];
  /** Names of the channels that it is about. */
  names: Record<ChannelId, string>;
}

/** What came of asking what an edit of many does. */
type ManyAnswer = { kind: 'view'; view: ManyView } | { kind: 'stopped'; messages: string[] };

/** A line of the answer while it is being reckoned: how far it is, or what came of it. */
export type ManyLine = { kind: 'at'; done: number; of: number } | ManyAnswer;

/** What came of saving it; `other`: it does something else by now, and nothing was saved. */
export type ManySaved =
  | { kind: 'done'; id: string; events: number; dispatchId: string | null }
  | { kind: 'other' }
  | { kind: 'stopped'; messages: string[] };

/** An edit of many that may still be taken back. */
export interface ManyUndoable {
  id: string;
  words: string;
  at: number;
  events: number;
  /** Why it cannot be taken back any more; `null`: it can. */
  why: string | null;
}

/** What came of taking an edit of many back. */
export type ManyUndone = { kind: 'done'; events: number } | { kind: 'stopped'; messages: string[] };

/** What can be chosen for an edit of many. */
export interface ManyChoices {
  /** Rooms, and venues that have none: `venue|room`. */
  places: { value: string; label: string }[];
  eventTypes: string[];
  /** Channels that carry posts. */
  posts: { value: string; label: string }[];
}
