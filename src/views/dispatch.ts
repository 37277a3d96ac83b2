import type { KnownDay } from '@/core/dates/date-words';
import type { ChannelId, DispatchId, ListingId, RecordId } from '@/core/base/ids';
import type { OutsideErrorKind } from '@/core/errands/retry';
import type { LockedChange, Way } from '@/core/errands/steps';
import type { Finding } from '@/core/findings/finding';
import type { PlainChange } from '@/core/listing/value-words';
import type { Operation, SideEffect, Undo } from '@/core/listing/operations';
import type { Standing } from '@/core/listing/standing';
import type { ReadBackListing } from './drift';

/** Who bought and was told by nobody of what changed. */
interface UntoldHolders {
  listingId: ListingId;
  recordId: RecordId;
  title: string;
  channel: string;
  sold: number;
  /** What they have to know: `the start`. */
  what: readonly string[];
  at: number;
  by: string;
}

/** What is open of that, and what it can be told with: empty where there is nothing, or it is not for this person. */
export interface ToldNobody {
  holders: UntoldHolders[];
  /** Accounts on which a post or a letter can be drafted. */
  accounts: { id: ChannelId; name: string; letter: boolean }[];
  /** The house's wordings that it can be drafted from. */
  wordings: { id: string; name: string }[];
}

/** One errand that could go, for the eye. */
export interface ErrandToSend {
  listing: ListingId;
  channel: ChannelId;
  /** Which of a long run's listings it is: `part 2`; empty for the only one. */
  part: string;
  op: Operation;
  changes: PlainChange[];
  waitsFor: string[];
  /** Listings that give what it waits for: they go along. */
  needs: readonly string[];
  notBefore: number | null;
  requests: number;
  undo: Undo;
  /** Whom it tells by itself: what tells everybody is never chosen beforehand. */
  tells: 'nobody' | 'buyers' | 'followers' | 'subscribers';
  /** It has a moment of its own, and waits for a yes. */
  ownMoment: boolean;
  /** Findings that do not stop it. */
  findings: Finding[];
  /** Warnings that nobody has said to have seen. */
  unseen: string[];
  /** What it can do besides, where it is asked to. */
  effects: readonly SideEffect[];
  /** What it is to delete it there in place of taking it down; `null`: that is not offered. */
  deleting: Way | null;
  /** It goes without its link, or stays a draft: what acknowledges the first, and whether the second can be had. */
  orDraft: { without: string; draft: boolean } | null;
}

/** A change that a lock keeps, for the eye. */
export type PlainLockedChange = Omit<LockedChange, 'before' | 'after'> & PlainChange;

/** What is locked on a channel, with the ways through. */
interface LockedToSend {
  listing: ListingId;
  channel: ChannelId;
  part: string;
  locked: PlainLockedChange[];
  ways: Way[];
}

/** A listing with something to send that cannot go yet. */
export interface HeldToSend {
  listing: ListingId;
  channel: ChannelId;
  reasons: Finding[];
  waitsFor: string | null;
  /** Locked listings on which a decision would let it go, where nothing else keeps it; none: something else does. */
  freedBy: readonly string[];
  op: Operation;
  changes: PlainChange[];
}

export interface EventToSend {
  recordId: RecordId;
  code: string;
  title: string;
  /** The tour that it is of; `null`: of none. */
  tour: string | null;
  date: KnownDay;
  zone: string;
  errands: ErrandToSend[];
  locked: LockedToSend[];
  /** Channels that refused it or show something else: with the decision at hand. */
  asks: ReadBackListing[];
  held: HeldToSend[];
  /** Channels on which an errand of it is under way, and whether more is to be said there once that has ended. */
  busy: { listing: ListingId; channel: ChannelId; more: boolean }[];
  /** Posts and letters that were planned before the event was cancelled or postponed, and were taken off. */
  takenOff: { notice: string; channel: string; turn: string }[];
  /** It is to be seen somewhere for the first time, there are accounts to post on, and nobody has written a post. */
  noPost: boolean;
  /** Double bookings that are to be seen before it goes. */
  clashes: { key: string; words: string }[];
}

/**
 * Why nothing is to send: the record is gone, private or wanted nowhere; no channel is connected; it is on its way, or
 * in step.
 */
export type NothingWhy = 'gone' | 'private' | 'nowhere' | 'no-channels' | 'underway' | 'in-step';

/** A receipt for the eye. */
export interface ReceiptLine {
  id: number;
  at: number;
  outcome: string;
  words: string;
}

/** What an errand still waits for. */
export type WaitsFor =
  | { for: 'link'; channel: string; giver: 'coming' | 'refused' | 'not sent' }
  | { for: 'moment'; at: number }
  | { for: 'decision' }
  | { for: 'channel'; since: number }
  | { for: 'off' }
  | { for: 'try'; at: number }
  | { for: 'turn' };

export type ErrandState = 'waiting' | 'running' | 'lodged' | 'done' | 'refused' | 'dropped' | 'not needed';

export interface ErrandView {
  id: number;
  recordId: RecordId;
  code: string;
  title: string;
  channel: ChannelId;
  channelName: string;
  op: Operation;
  /** It is about a second place where the listing stood. */
  twin: boolean;
  /** It takes back what stood beyond the record, and nobody had to say yes. */
  narrows: boolean;
  state: ErrandState;
  tries: number;
  changes: PlainChange[];
  error: { kind: OutsideErrorKind; message: string; field: string | null } | null;
  waits: WaitsFor | null;
  /** A person may drop it. */
  canDrop: boolean;
  publicUrl: string | null;
  /** What was foretold of it, and what came: by when it is seen, when it was, when it was last looked for in vain. */
  foretold: {
    asRule: number;
    atLatest: number;
    seenAt: number | null;
    unseenAt: number | null;
    passedOver: boolean;
  } | null;
  /** How the listing stands now, once the errand is done. */
  standing: Standing | null;
  receipts: ReceiptLine[];
}

export interface DispatchView {
  id: DispatchId;
  actor: string;
  at: number;
  now: number;
  errands: ErrandView[];
  /** No errand waits or runs any more. */
  ended: boolean;
  /** Listings of these events that go on standing there against the record, and why. */
  stays: { recordId: RecordId; channelName: string; why: string }[];
}
