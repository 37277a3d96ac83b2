import type { ListingId, ChannelId, RecordId } from '@/core/base/ids';
import type { Instant } from '@/core/base/zones';
import type { ChannelRow } from '@/core/listing/channel-row';
import type { Sold } from '@/core/facts/tickets/sold';
import type { FollowWords } from '@/core/facts/performance-facts';
import type { ErrandMark } from '@/core/errands/surveyed';
import type { ListingState } from '@/core/listing/compare';
import type { SheetTick } from '@/core/listing/sale-sheet';
import type { ShownValue } from '@/core/listing/shown';
import type { RecordContent } from '@/core/record/record';
import type { Artist, Venue, Organiser } from '@/core/record/directory';
import type { AboutUs, Facts } from '@/core/facts/facts';
import type { GateContext } from '@/core/listing/gates';

/** What is known of one listing, as the survey needs it. */
export interface KnownListing extends ListingState {
  id: ListingId;
  channel: ChannelId;
  part: number;
  performanceIds: string[];
  publicUrl: string | null;
  /** The ticket link that it has given. */
  link: string | null;
  /** Everything that it has given, the ticket link included. */
  gifts: Readonly<Record<string, string>>;
  /** How many the channel says it has sold of it. */
  sold: number;
  /** Where else it stands, since an answer was lost. */
  twins: readonly { id: string; publicUrl: string | null }[];
  /** What the channel says of how it stands there. */
  note: string;
  /** The tie to it was cut: since when, and where it was seen. Not there: it was not. */
  cut?: { at: Instant; address: string } | null;
  /** A person there turned it down. */
  turnedDown: boolean;
}

/** A person's word that what is locked stays as it is there. */
export interface LeftLock {
  listing: ListingId;
  /**
   * What was locked and is left, by key, with what was wanted then: where something else is wanted by now, it asks
   * again.
   */
  keys: Readonly<Record<string, ShownValue | null>>;
  because: string;
  until: Instant;
  by: string;
}

export interface SurveyInput {
  recordId: RecordId;
  code: string;
  content: RecordContent;
  venues: ReadonlyMap<string, Venue>;
  organisers: ReadonlyMap<string, Organiser>;
  /** Artists of the directory. Not there: none. */
  artists?: ReadonlyMap<string, Artist>;
  /** What the house says of itself. Not there: nothing. */
  aboutUs?: AboutUs;
  listings: readonly KnownListing[];
  /** Listings with an errand that is open or refused. */
  errands: ReadonlyMap<string, ErrandMark>;
  /** What a channel said that refused, by listing. Not there: it is not told. */
  refusals?: ReadonlyMap<string, string>;
  /** Locks that a person said are to stay as they are, by listing. */
  left?: ReadonlyMap<string, LeftLock>;
  channels: readonly ChannelRow[];
  /** Ticked lines of the sheet before the first opening of a sale; not there: the sheet is not asked about. */
  ticks?: readonly SheetTick[];
  /** Purchases so far, by performance and level. */
  sold: ReadonlyMap<string, Sold>;
  now: Instant;
  /** What the house says of what is to follow. */
  follow?: Partial<FollowWords>;
  /** The house's zone: the public is told of any other. Not there: of none. */
  houseZone?: string;
  /** Kinds of event that are never public in this house. Not there: none. */
  closedTypes?: readonly string[];
  /** Pictures that may be used until a day only, by id. */
  pictureEnds?: ReadonlyMap<string, { name: string; until: string }>;
  /** Now, by the monotonic clock: what is known of listings goes by it. */
  monotonic: Instant;
}

/** What one listing is about: performances of the event, or a notice. */
export interface Subject {
  part: number;
  performanceIds: string[];
  facts: Facts;
  /** The channel whose word it shows: its own, or that of another. */
  source: string;
  emptied: GateContext['emptied'];
  ownMoment: GateContext['ownMoment'];
}

/** What the link of one listing leads to, as facts tell it. */
export type LinkHere = Pick<Facts, 'link' | 'linkUnmet' | 'linkCircle' | 'giverDraft'>;
