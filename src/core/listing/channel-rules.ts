import type { PictureShape } from '../pictures/crop';
import type { Facts } from '../facts/facts';
import type { PerformanceFacts } from '../facts/performance-facts';
import type { LevelFacts } from '../facts/sale';
import type { ShownKind, ShownValue } from './shown';
import type { Fee } from '../record/ticket-schema';
import type { FitPart } from '../words/fit';

/** A JSON object as it goes over the wire. */
export type Wire = Record<string, unknown>;

/** Both directions of one field: into wire keys, and out of them. `take(put(v))` equals `v`. */
export interface WireCodec {
  put(value: ShownValue): Wire;
  /** The value in `wire`; `null` where the channel shows none. */
  take(wire: Wire): ShownValue | null;
}

interface RowCommon extends WireCodec {
  field: string;
  /** What the field is called on screen. */
  label: string;
  kind: ShownKind;
  /** Most graphemes that the channel keeps. */
  limit?: number;
  /** `must`: the channel refuses without it; `should`: the listing is poorer without it. */
  need?: 'must' | 'should';
  /** The parts of a short field, of which the worthiest that fit are shown where the whole does not. */
  parts?(facts: Facts): { parts: FitPart[]; joint: string };
  /** The channel is known to drop this field when it shows the listing. */
  dropped?: boolean;
}

/** One field of a channel: read by the projector, the writer and the reader alike. */
export type FieldRow =
  | (RowCommon & { each: 'event'; from(facts: Facts): ShownValue | null })
  | (RowCommon & { each: 'performance'; from(one: PerformanceFacts, facts: Facts): ShownValue | null })
  | (RowCommon & { each: 'level'; from(one: LevelFacts, facts: Facts): ShownValue | null });

/** A channel's rules: data, shown to the user as it stands. */
export interface ChannelRules {
  id: string;
  name: string;
  /** Its name where there is little room; the name itself where it is missing. */
  shortName?: string;
  /** What sort of place it is, in the trade's words. */
  trade: string;
  rows: readonly FieldRow[];
  picture: PictureShape;
  /** It carries notices, not events: how long one may be, and what a link counts as; `null`: it lists events. */
  notice: { limit: number; linkLength: number | null } | null;
  /** A field that the channel lets lapse, and how long before that it is to be renewed, in milliseconds. */
  lapse: { field: string; leadMs: number } | null;
  /** Wire names of the repeated groups, and the key of an item's own reference. */
  lists: { performance: string; level: string; ref: string };
  /** Most performances one listing holds. */
  mostPerformances: number;
  /** Usual time until a change shows in public, in milliseconds. */
  delayMs: number;
  /** Gives back the ticket link that other channels carry. */
  givesLink: boolean;
  /** An unlisted event may stand here: it is found by its link alone. */
  takesUnlisted: boolean;
  /** Artists have pages there, and it can be asked whose a page is. */
  hasProfiles: boolean;
  /** The booking fee that it charges, where it sells. */
  fee: Pick<Fee, 'basisPoints' | 'fixed' | 'cap'> | null;
  /** Requests that each operation costs. */
  requests: { place: number; amend: number; withdraw: number; renew: number };
  /** Whether this channel has any use for such an event. */
  accepts(facts: Facts): boolean;
  /** The channel's habits in plain words, for the person who uses it. */
  habits: readonly string[];
}
