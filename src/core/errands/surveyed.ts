import type { ChannelId, ListingId, RecordId } from '../base/ids';
import type { Instant } from '../base/zones';
import type { Finding } from '../findings/finding';
import type { ChannelRules } from '../listing/channel-rules';
import type { FieldComparison, ListingState } from '../listing/compare';
import type { Down } from '../listing/gates';
import type { LockContext } from '../listing/operations';
import type { Shown } from '../listing/shown';
import type { Standing } from '../listing/standing';
import type { Steps } from './steps';

/** How a listing's newest errand stands, where a person or the runner has still to deal with it. */
export type ErrandMark = 'open' | 'refused';

/**
 * One listing as everything takes it: what is wanted, what was noticed, how it stands, and what is to be done about it.
 */
export interface SurveyedListing {
  id: ListingId;
  record: RecordId;
  channel: ChannelId;
  rules: ChannelRules;
  part: number;
  performanceIds: string[];
  wanted: Shown;
  /** What the channel would show if it were wanted there now; equals `wanted` unless it is to be taken down. */
  proof: Shown;
  /** What the record says where a field is worded by hand. */
  beneath: Record<string, string>;
  findings: Finding[];
  comparison: readonly FieldComparison[];
  /** `null`: not wanted on this channel and never was there. */
  standing: Standing | null;
  /** Why it is not to stand there; `null`: it is. */
  down: Down | null;
  state: ListingState;
  publicUrl: string | null;
  embargoUntil: Instant | null;
  lock: LockContext;
  /** What goes without asking, what is locked, and the ways through. */
  steps: Steps;
  /** What a person said to leave as it stands there, by key. */
  left: readonly string[];
  errand: ErrandMark | 'none';
}
