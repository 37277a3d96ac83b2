import type { z } from 'zod';
import type { Gift, KindRules, Wire } from '@/core/listing/channel-rules';
import type { KindId } from '@/core/listing/channel-row';
import type { Http } from './http';
import type { Mail } from './mail';
import type { Currency } from '@/core/base/money';
import type { Instant } from '@/core/base/zones';
import type { KeptThere, Rendition } from './kept';

/** What stands on a channel, by its own name for it. */
export interface Remote {
  id: string;
  /** Where the public sees it. */
  publicUrl: string | null;
  /** The channel's version mark, where it has one. */
  etag: string | null;
  /** The ticket link that other channels carry, where this channel gives one. */
  link: string | null;
  /** When the channel lets lapse what its rules name, by its own word. */
  lapsesAt: number | null;
  /** What else it gives to others. */
  gifts?: Partial<Record<Gift, string>>;
  /**
   * What the channel says of how it stands there, in words: why it does not show, why a person there turned it down.
   */
  note?: string;
  /** A person there turned it down: it will not show by itself. */
  turnedDown?: boolean;
  /** It was handed over, and its answer comes later: what to ask for it by. */
  lodged?: string;
  /**
   * What the door wants handed back with every later call about this listing, by name: the key of an entry. Where it is
   * not told again, what was told last stays.
   */
  kept?: Readonly<Record<string, string>>;
}

/** What goes with every write. */
export interface Sending {
  /** Our own reference for the listing: the channel can be asked for it. */
  reference: string;
  /** Same key, same wish on the same ground: a channel that knows keys does it once. */
  key: string;
  pictures: readonly Rendition[];
  /** Why, in public words, where the operation needs it. */
  reason: string;
  /** Side effects that a person asked for: every other is to be turned off. */
  effects: readonly string[];
}

/** What a channel shows: its interface's answer, and its public page where there is one. */
export interface Answer {
  wire: Wire;
  page: string | null;
  remote: Remote;
}

/** What a purchase came to that was made to try it: what is asked of the buyer, and what they are written. */
interface Trial {
  pays: { minor: number; currency: Currency };
  starts: Instant;
  zone: string;
  letter: string;
}

/** A channel's door. Every call may throw an `OutsideError`; "not there" is `null`. */
export interface ChannelClient {
  place(wire: Wire, sending: Sending): Promise<Remote>;
  amend(remote: Remote, wire: Wire, sending: Sending): Promise<Remote>;
  /** Takes it out of the public's sight. Only where there is such a step. */
  unpublish?(remote: Remote, sending: Sending): Promise<Remote>;
  /** Deletes it there for good. Only where there is such a step. */
  remove?(remote: Remote, sending: Sending): Promise<void>;
  /** Renews what lapses. Only where something does. */
  renew?(remote: Remote, sending: Sending): Promise<Remote>;
  /** Moves what is locked, by the channel's own step. Only where there is one. */
  reschedule?(remote: Remote, wire: Wire, sending: Sending): Promise<Remote>;
  /**
   * Says anew, in a reply or another letter, what cannot be changed where it stands; gives where that stands now. Only
   * where there is such a step.
   */
  correct?(remote: Remote, wire: Wire, sending: Sending): Promise<Remote>;
  /** Cancels for good. Only where there is such a step. */
  cancel?(remote: Remote, sending: Sending): Promise<Remote>;
  /**
   * Buys one ticket to try it, marked as such, and has it paid back: it counts nowhere. Only where there is such a
   * thing.
   */
  trial?(remote: Remote, which: { performance: string; level: string }, sending: Sending): Promise<Trial>;
  /**
   * What goes out as it will be read, as HTML; pictures stand as `cid:` and their name. Only where what is sent is more
   * than its words.
   */
  preview?(wire: Wire): Promise<string>;
  /**
   * What became of what was handed over: `null` as long as there is no answer. Throws for a row that was turned down.
   * Only where answers come later.
   */
  collect?(ticket: string): Promise<Remote | null>;
  /** What it shows; without `page`, what its interface says alone. */
  fetch(remote: Remote, how: { page: boolean }): Promise<Answer | null>;
  /** Everything that stands there under our own reference: one, none, or more where an answer was lost. */
  find(reference: string): Promise<Remote[]>;
  /** Asks whose profile an address or handle is; `null`: nobody's. Only where a channel has profiles. */
  whose?(link: string): Promise<string | null>;
  /**
   * Proves that the credentials work; gives the name under which the channel knows us. Only where there is an account.
   */
  greet?(): Promise<string>;
}

/** One credential that a person types when connecting. */
interface CredentialField {
  name: string;
  label: string;
  secret: boolean;
  /** Where it is to be found there. */
  about?: string;
}

/** One setting that is asked for in words; `choices`: it is chosen, from the parts of the house that there are. */
interface SettingField {
  name: string;
  label: string;
  about: string;
  choices?: 'parts of the house';
}

/** What the house knows of a listing when an answer about it is read. */
export interface Held {
  /** References of performances and price levels that this listing holds by our doing. */
  items: ReadonlySet<string>;
}

/** What sort of place a kind is of, in the order in which they stand. */
export const tradeGroups = {
  own: 'Our own',
  sale: 'Sale and registration',
  social: 'Social',
  artists: 'Artists',
  calendars: 'Calendars and letters',
} as const;
type TradeGroup = keyof typeof tradeGroups;

/** The pure half of a kind: its rules and how its answers are read. */
export interface Kind {
  id: KindId;
  group: TradeGroup;
  /** What such a place is called; a channel begins with this name. */
  name: string;
  /** Its name where there is little room. */
  shortName: string;
  settings: z.ZodType<Record<string, unknown>>;
  /** The settings that are asked for in words, when a channel is connected. */
  settingFields?: readonly SettingField[];
  /** It lies at our own house, at an address of ours: there is none to be typed, and nobody to be asked. */
  ours?: boolean;
  /** A person does what is sent there: from a sheet to type from, or with a block to paste. */
  byPerson?: 'sheet' | 'block';
  /** How such a place is connected, step by step, in words. */
  steps?: readonly string[];
  /** Rules by settings. */
  rules(settings: Record<string, unknown>): KindRules;
  /** How many the channel says it has sold, by our references of performance and level (pure). */
  sales?(answer: Pick<Answer, 'wire'>): { performanceId: string; levelId: string; sold: number }[];
  /**
   * From where those came who bought or registered, by the channel's own count (pure): another channel by its id;
   * empty: not known.
   */
  sources?(answer: Pick<Answer, 'wire'>): { source: string; n: number }[];
  /** The kind whose connection it uses, where it has none of its own: it is connected along with such a channel. */
  connectsAs?: KindId;
  credentials: readonly CredentialField[];
  connectionSchema: z.ZodType<Record<string, string>>;
}

/** How to reach a channel of a kind: its address, its credentials, the one way out, and what is kept of the account. */
export interface Connection {
  address: string;
  credentials: Record<string, string>;
  /** Where the calendar feed lies that this account reads. */
  feed?: string;
  /** What whoever comes for that feed gets of one listing; `null`: the feed is not there. */
  served?: (listing: string) => string | null;
  /** Where this account may call us when something happened there. */
  hook?: string;
}

/** The door of a kind: what goes over the wire. Never loaded by a browser. */
export type Door = (
  connection: Connection,
  http: Http,
  kept: KeptThere,
  mail: Mail,
  now: () => Instant,
) => ChannelClient;
