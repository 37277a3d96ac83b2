import type { PictureShape } from '../pictures/crop';
import type { Facts } from '../facts/facts';
import type { FindingFact } from '../findings/finding';
import type { Group, GroupItems } from './groups';
import type { LockRow, Operation, OperationRow } from './operations';
import type { KindId } from './channel-row';
import type { ListedState, ShownKind, ShownValue } from './shown';
import type { Shows } from './shows';
import type { Source } from './sources';
import type { Fee } from '../record/ticket-schema';
import type { CountIn, FitPart } from '../words/fit';

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
  /** The most that the channel keeps of it, and in what it counts; as programs do, where it is not said. */
  limit?: number;
  limitIn?: CountIn;
  /** What every link in the text counts as there; its own length, where it is not said. */
  linkLength?: number;
  /** Of a text that is one of a closed list there: which words it takes, and how many of them, joined by `, `. */
  among?: { words: readonly string[]; most: number };
  /** `must`: the channel refuses without it; `should`: the listing is poorer without it. */
  need?: 'must' | 'should';
  /** The parts of a short field, of which the worthiest that fit are shown where the whole does not. */
  parts?(facts: Facts): { parts: FitPart[]; joint: string };
  /**
   * Only those who hold a place see it: in a letter, a reminder, a page of their own. Everybody does, where it is not
   * said.
   */
  seenBy?: 'holders';
  /** The channel is known to drop this field when it shows the listing. */
  dropped?: boolean;
  /** It goes out once and for all: what is seen of it later cannot be set right, and is no drift. */
  settled?: boolean;
  /** What is told where the record says nothing and the channel is sent something usual all the same. */
  usual?(facts: Facts): FindingFact | null;
  /** Of a rich text: pictures in it are shown there, and go along with it. */
  figures?: boolean;
  /** Where in the record its value may come from: what is taken back from a channel goes to the one that was shown. */
  sources?: readonly Source[];
}

/** One field of a channel: read by the projector, the writer and the reader alike. */
export type FieldRow =
  | (RowCommon & { each: 'event'; from(facts: Facts): ShownValue | null })
  | { [G in Group]: RowCommon & { each: G; from(item: GroupItems[G], facts: Facts): ShownValue | null } }[Group];

/** One field that a channel's public page says too. */
export interface PageRow {
  field: string;
  /** Name of the property (schema.org); `offers/url`: the address within the offer. */
  property: string;
  /** How it is read: its text, its moments one by one in the page's order, or its address. */
  as: 'text' | 'moments' | 'address';
  /** What the page does not show is not shown, whatever the interface for programs says. */
  hides?: boolean;
}

/** What one listing may give to others. */
export type Gift = 'ticket link' | 'join link' | 'registration link' | 'public address' | 'remote id';

/** Who may see each gift: anyone, those who hold a place, or nobody outside. */
export const giftSeenBy: Record<Gift, 'anyone' | 'holders' | 'nobody'> = {
  'ticket link': 'anyone',
  'registration link': 'anyone',
  'public address': 'anyone',
  'join link': 'holders',
  'remote id': 'nobody',
};

/** A kind's rules: data, shown to the user as it stands. Nothing in it knows which channel it is for. */
export interface KindRules {
  /** What sort of place it is, in the trade's words. */
  trade: string;
  rows: readonly FieldRow[];
  /** What one soft break within a paragraph becomes: it stays, or it becomes a blank, or a new paragraph. */
  softBreak: 'kept' | 'blank' | 'paragraph';
  /** The shape of its picture; `null`: it shows none. */
  picture: PictureShape | null;
  /** It carries notices, not events: how long one may be, and what a link counts as; `null`: it lists events. */
  notice: { limit: number; linkLength: number | null } | null;
  /** A field that the channel lets lapse, and how long before that it is to be renewed, in milliseconds. */
  lapse: { field: string; leadMs: number } | null;
  /** Wire names of the repeated groups, and the key of an item's own reference; `null`: a flat listing. */
  lists: ({ ref: string } & Partial<Record<Group, string>>) | null;
  /** Most performances one listing holds. */
  mostPerformances: number;
  /** Usual time until a change shows in public, in milliseconds. */
  delayMs: number;
  /** When the public sees what it took: the ground of what is foretold of a change. */
  shows: Shows;
  /** Whether what stands there can be read: by its interface for programs, its public page, both, or not. */
  observe: 'api' | 'page' | 'both' | 'none';
  /**
   * What its public page says in an item of this schema.org type, laid over what the interface says; `null`: no such
   * page.
   */
  page: {
    type: string;
    rows: readonly PageRow[];
    /**
     * The page is there as long as the public sees the listing: where it still is, it is not taken down yet, whatever
     * the interface says.
     */
    whileSeen: boolean;
  } | null;
  /** How it guards against two writing at once: a version mark for each write, or not at all. */
  conditional: 'version' | 'none';
  /** When it answers a write: at once, later (a batch), or by coming for it. */
  answers: 'at once' | 'later' | 'pulled';
  /** The kind that it shows what stands on; `null`: it stands for itself. */
  mirrors: KindId | null;
  /** What it gives back that other channels carry. */
  gives: readonly Gift[];
  /** The states that it can say of what it shows. */
  states: readonly ListedState[];
  /** The state that such an event is to have there, where nothing forbids it. */
  stateFor(facts: Facts): ListedState;
  operations: readonly OperationRow[];
  locks: readonly LockRow[];
  /**
   * How many requests it takes of one account in so many milliseconds, how many of them in one go, and how many errands
   * at once.
   */
  budget: { requests: number; perMs: number; burst: number; atOnce: number };
  /** What goes out can be looked at beforehand as it will be read. */
  previews?: boolean;
  /** A purchase can be tried there: it is paid back, and counts nowhere. */
  tries?: boolean;
  /** It has a register of venues, and may know one by an id of its own. */
  hasVenues: boolean;
  /** Artists have pages there, and it can be asked whose a page is. */
  hasProfiles: boolean;
  /** The booking fee that it charges, where it sells: its amounts in hundredths of what it sells in (see `feeIn`). */
  fee: Pick<Fee, 'basisPoints' | 'fixed' | 'cap'> | null;
  /** Whether it has any use for such an event. */
  accepts(facts: Facts): boolean;
  /** Its own closed list of categories, and which of them each kind of event stands in; `chosen`: a person said so. */
  categories?: {
    theirs: readonly string[];
    map: Readonly<Record<string, string>>;
    chosen: boolean;
    /** So many of them one event may stand in. */
    most: number;
  };
  /** What it would do by itself, or could, and is off until it is set. */
  off?: readonly string[];
  /** Fields that only we can set there, or see. */
  oursOnly?: readonly string[];
  /** Why something usually shows late there. */
  lateCauses?: readonly string[];
  /** What taking the channel off unties for good. */
  unties?: readonly string[];
  /** Its habits in plain words, for the person who uses it. */
  habits: readonly string[];
}

/** A channel's rules: its kind's, under its own id and names. */
export interface ChannelRules extends KindRules {
  id: string;
  kind: KindId;
  name: string;
  shortName: string;
}

/** In what a field is counted there. */
export function unitOf(row: Pick<FieldRow, 'limitIn'> | undefined): CountIn {
  return row?.limitIn ?? 'characters';
}

/** True where the channel sells, and gives the ticket link that others carry. */
export function sells({ gives }: Pick<KindRules, 'gives'>): boolean {
  return gives.includes('ticket link');
}

/** Requests that an operation costs there. */
export function requestsFor({ operations }: Pick<KindRules, 'operations'>, op: Operation): number {
  return operations.find((row) => row.op === op)?.requests ?? 1;
}

/** True where a channel carries posts, which anybody may come upon; letters go to those who asked for them. */
export function isPost({ notice, rows }: Pick<ChannelRules, 'notice' | 'rows'>): boolean {
  return notice !== null && !rows.some((row) => row.field === 'subject');
}
