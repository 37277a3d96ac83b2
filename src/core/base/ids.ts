import { z } from 'zod';

/*
 * Ids of the things that are most easily mixed up. An id is branded where it is made (`store/ids`, `listingId`) or
 * where it comes in by a door (form, route, file, script: the schemas here); in between it is handed on and never made
 * of a bare text.
 */

/** What any id may look like. */
const idText = z.string().min(1).max(120);

/** A master record. */
export const recordIdSchema = idText.brand<'RecordId'>();
export type RecordId = z.infer<typeof recordIdSchema>;

/** A listing: a record, a channel, a part. */
export const listingIdSchema = idText.brand<'ListingId'>();
export type ListingId = z.infer<typeof listingIdSchema>;

/** A channel: one connected place of a kind. */
export const channelIdSchema = z
  .string()
  .regex(/^[a-z0-9-]{1,40}$/)
  .brand<'ChannelId'>();
export type ChannelId = z.infer<typeof channelIdSchema>;

/** A dispatch: what one person sent at once. */
export const dispatchIdSchema = idText.brand<'DispatchId'>();
export type DispatchId = z.infer<typeof dispatchIdSchema>;

/** Stands for the id of a record that was not saved yet. */
export const unsavedRecord = 'new' as RecordId;
