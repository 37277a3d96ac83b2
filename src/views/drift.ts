import type { KnownDay } from '@/core/dates/date-words';
import type { ChannelId, ListingId, RecordId } from '@/core/base/ids';
import type { Outcome } from '@/core/listing/compare';
import type { ShownValue } from '@/core/listing/shown';
import type { Standing } from '@/core/listing/standing';

/** One field on which a channel shows something else than was sent. */
interface ReadBackField {
  key: string;
  label: string;
  wanted: ShownValue | null;
  sent: ShownValue | null;
  observed: ShownValue | null;
  /** The same in words. */
  words: { wanted: string; sent: string; observed: string };
  outcome: Outcome;
  late: boolean;
  /** The channel's value can become the record's. */
  takeable: boolean;
  /** It can be kept on this one channel, worded by hand. */
  keepable: boolean;
}

/** A listing that asks a person: what it shows against what was sent. */
export interface ReadBackListing {
  listing: ListingId;
  recordId: RecordId;
  code: string;
  title: string;
  date: KnownDay;
  channel: ChannelId;
  channelName: string;
  /** Which of a long run's listings it is: `part 2`; empty for the only one. */
  part: string;
  standing: Standing;
  observedAt: number | null;
  publicUrl: string | null;
  /** It was deleted there. */
  gone: boolean;
  /** All places where it stands, ours first, where an answer was lost and there is more than one. */
  twins: { id: string; address: string }[];
  /** The errand that was refused, with what the channel said. */
  refused: { errand: number; message: string; kind: string } | null;
  fields: ReadBackField[];
}
