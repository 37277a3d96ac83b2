import type { ChannelId } from '@/core/base/ids';
import type { Operation } from '@/core/listing/operations';

/** What a channel is called, and what its operations and fields are called there. */
export interface ChannelNames {
  id: ChannelId;
  name: string;
  /** Operations that have a name of their own there. */
  does: Partial<Record<Operation, string>>;
  /** Fields by what they are called on screen. */
  labels: Record<string, string>;
  /** Whether it carries notices. */
  notices: boolean;
}
