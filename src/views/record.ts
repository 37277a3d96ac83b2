import type { OwnFact } from '@/core/record/house-own';
import type { LeftLock } from '@/channels/survey-shapes';
import type { KnownListing } from '@/channels/survey-shapes';
import type { ChannelId, RecordId } from '@/core/base/ids';
import type { Clash } from '@/core/clashes/clashes';
import type { ErrandMark } from '@/core/errands/surveyed';
import type { AboutUs } from '@/core/facts/facts';
import type { Count, SourceCount } from '@/core/facts/sales';
import type { ChannelRow } from '@/core/listing/channel-row';
import type { SheetTick } from '@/core/listing/sale-sheet';
import type { Artist, Organiser, Venue, Wording } from '@/core/record/directory';
import type { RecordContent, ToFollow } from '@/core/record/record';
import type { Question } from '@/core/record/ticket-schema';
import type { TourShared } from '@/core/record/tour';
import type { Earlier } from '@/core/words/mention';

/** All that the record's screen needs; the survey itself is made in the browser, as one types. */
export interface RecordView {
  id: RecordId;
  code: string;
  revision: number;
  content: RecordContent;
  log: { number: number; actor: string; at: number; reason: string }[];
  /** What else was done with it, and by whom, newest first: sent, decided, taken out as a file, put away. */
  deeds: { at: number; doer: string; words: string }[];
  venues: Venue[];
  artists: Artist[];
  organisers: Organiser[];
  wordings: Wording[];
  tours: { id: string; name: string }[];
  /** What the tour of this record shares. */
  tourShared: TourShared | null;
  listings: KnownListing[];
  errands: [string, ErrandMark][];
  /** What channels said that refused, by listing. */
  refusals: [string, string][];
  channels: readonly ChannelRow[];
  /** How many were sold, as counted, oldest first. */
  sales: Count[];
  /** From where those came who bought or registered. */
  sources: SourceCount[];
  /** What earlier revisions said, for typed facts that were right once. */
  earlier: Earlier;
  clashes: Clash[];
  /** Ticked lines of the sheet before the sale opens. */
  ticks: SheetTick[];
  /** Locks that a person said are to stay as they are. */
  left: LeftLock[];
  /** What the house keeps to be used again. */
  house: HouseWords;
  /** What the house says of itself. */
  aboutUs: AboutUs;
  /** What a new record took over from the house. */
  took: readonly OwnFact[];
  /** Pictures that may be used until a day only, by id. */
  pictureEnds: [string, { name: string; until: string }][];
  /** How it may end; `null`: it was never saved. */
  endings: Endings | null;
  now: number;
  /** Now, by the monotonic clock. */
  monotonic: number;
}

/** How a record may end: deleted, put away, or its tie to a channel cut. */
export interface Endings {
  /** When it was put away; `null`: it stands in the season. */
  awayAt: number | null;
  /** Why it cannot be deleted; `null`: it can. */
  keptBecause: string | null;
  /** Why it cannot be put away; `null`: it can. */
  openBecause: string | null;
  /** Channels where something of it stands that can be let go of. */
  ties: { channel: ChannelId; name: string; address: string }[];
}

/** What the record's screen goes by. */
export type RecordContext = Omit<RecordView, 'id' | 'log'> & {
  /** `null`: not saved yet. */
  id: RecordId | null;
};

/** What a house keeps to be used again in its records: roles, sets of questions, words for what is to follow; and its zone. */
export interface HouseWords {
  roles: string[];
  questionSets: QuestionSet[];
  follow: ToFollow;
  zone: string;
  doorsBefore: number | null;
  /** Kinds of event that there are, and those that are never public. */
  types: string[];
  closedTypes: string[];
}

export interface QuestionSet {
  name: string;
  questions: Question[];
}
