import { channelIdSchema } from '../base/ids';
import { z } from 'zod';
import { audienceSchema } from '../record/record';

/** Who sees what stands on a channel; `alone`: what is for everyone does not go there. */
export const channelAudienceSchema = audienceSchema.and(z.object({ alone: z.boolean().optional() }));
export type ChannelAudience = z.infer<typeof channelAudienceSchema>;

/** Id of a kind: the folder of its code. */
export type KindId = string;

/** A channel as the house keeps it, without its secrets. */
export const channelRowSchema = z.object({
  id: channelIdSchema,
  kind: z.string().min(1).max(40),
  /** The name that the user gave it. */
  name: z.string().min(1).max(60),
  /** Its name where there is little room. */
  shortName: z.string().min(1).max(20),
  /** The kind's own settings. */
  settings: z.record(z.string(), z.unknown()),
  /** The channel whose connection it uses; `null`: it has one of its own. */
  through: channelIdSchema.nullable(),
  /** It can be reached now. One that was taken off keeps its listings and its history. */
  connected: z.boolean(),
  /** Who sees what stands there: an event for some goes nowhere else. */
  audience: channelAudienceSchema.default({ who: 'everyone' }),
  /** What the clock alone changes is sent there without asking. */
  standingLeave: z.boolean().default(true),
});
export type ChannelRow = z.infer<typeof channelRowSchema>;
