import type { z } from 'zod';
import type { ChannelRules, Wire } from '@/core/listing/channel-rules';
import type { Shown } from '@/core/listing/shown';
import type { Http } from './http';

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
}

/** A picture ready to be sent: JPEG bytes under the name of the rendition. */
export interface Rendition {
  name: string;
  bytes: Uint8Array<ArrayBuffer>;
}

/** What goes with every write. */
export interface Sending {
  /** Our own reference for the listing: the channel can be asked for it. */
  reference: string;
  /** Same key, same wish: a channel that knows keys does it once. */
  key: string;
  pictures: readonly Rendition[];
}

/** What a channel shows: its API's answer, and its public page where there is one. */
export interface Answer {
  wire: Wire;
  page: string | null;
  remote: Remote;
}

/** A channel's door. Every call may throw an `OutsideError`; "not there" is `null`. */
export interface ChannelClient {
  place(wire: Wire, sending: Sending): Promise<Remote>;
  amend(remote: Remote, wire: Wire, sending: Sending): Promise<Remote>;
  withdraw(remote: Remote, sending: Sending): Promise<Remote>;
  /** Renews what lapses. Only where something does. */
  renew?(remote: Remote, sending: Sending): Promise<Remote>;
  fetch(remote: Remote): Promise<Answer | null>;
  /** Asks the channel for our own reference. */
  find(reference: string): Promise<Remote | null>;
  /** Asks whose profile an address or handle is; `null`: nobody's. Only where a channel has profiles. */
  whose?(link: string): Promise<string | null>;
  /** Proves that the credentials work; gives the name under which the channel knows us. */
  greet(): Promise<string>;
}

/** One credential that a person types when connecting. */
export interface CredentialField {
  name: string;
  label: string;
  secret: boolean;
}

/** A channel: its rules, how to read it, and how to reach it. */
export interface Channel {
  rules: ChannelRules;
  /** Reads an answer into shown fields (pure). */
  read(answer: Pick<Answer, 'wire' | 'page'>): Shown;
  /** How many the channel says it has sold, by our references of performance and level (pure). */
  sales?(answer: Pick<Answer, 'wire'>): { performanceId: string; levelId: string; sold: number }[];
  /** The channel whose connection it uses, where it has none of its own. */
  connectsAs?: string;
  credentials: readonly CredentialField[];
  connectionSchema: z.ZodType<Record<string, string>>;
  client(connection: { address: string; credentials: Record<string, string> }, http: Http): ChannelClient;
}
