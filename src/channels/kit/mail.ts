import type { Lastly } from './http';

/** A letter on its way out (RFC 5322), to a server that takes mail from us (SMTP, RFC 5321). */
export interface OutgoingMail {
  host: string;
  port: number;
  user: string;
  password: string;
  from: string;
  to: string;
  subject: string;
  html: string;
  text: string;
  /** Without the angle brackets. */
  messageId: string;
  inReplyTo: string | null;
  headers: Readonly<Record<string, string>>;
  /** Pictures within it, by the name that its HTML calls them by (`cid:`). */
  pictures: readonly { name: string; bytes: Uint8Array }[];
}

/** Sends one letter. Throws an `OutsideError` where it was not taken, or where that is not known. */
export type Mail = (mail: OutgoingMail) => Promise<void>;

/**
 * The way by mail itself, under the one door: asked for the last time when the server said that it takes the letter.
 */
export type MailLine = (mail: OutgoingMail, lastly?: Lastly) => Promise<void>;
