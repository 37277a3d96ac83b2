'use client';
import { type Channel } from '@/channels/channels';
import type { SurveyedListing } from '@/core/errands/surveyed';
import type { Override, PictureUse } from '@/core/record/record';
import type { MentionContext } from '@/core/words/mention';

export interface ProofColumnProps {
  /** The record's listings, surveyed from what stands in the form. */
  listings: SurveyedListing[];
  /** Nothing is typed yet: what is still wanted is one line. */
  calm: boolean;
  /** The pictures that the crops are cut from. */
  pictures: readonly PictureUse[];
  /** Fields worded by hand. */
  overrides: readonly Override[];
  /** What facts typed into words by hand are held against. */
  context: MentionContext;
  /** Words a field of a channel by hand; `null`: follows the record again. */
  onOverride: OnOverride;
  /** Keeps the event a draft on a channel, or lets it be shown there. */
  onDraft: (channel: string, on: boolean) => void;
  /** The house's zone, for moments that belong to no event. */
  zone: string;
  /** What is typed and cannot be read: until it can, the proof shows what held last. */
  wrong: readonly string[];
}

/** Takes the words by hand of one channel's field. */
export type OnOverride = (channel: string, field: string, next: { value: string; from: string } | null) => void;
export interface SlipProps extends Omit<ProofColumnProps, 'listings' | 'wrong' | 'context' | 'calm'> {
  listing: SurveyedListing;
  channel: Channel;
  /** There are many: one that is in step and says nothing is a line. */
  folds: boolean;
}
