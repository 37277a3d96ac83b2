import { z } from 'zod';
import { outsideErrorKinds } from '@/core/errands/retry';
import { operations } from '@/core/listing/operations';
import { shownSchema, shownValueSchema } from '@/core/listing/shown-schema';
import { roomSchema } from '@/core/record/directory';

/** What columns keep as JSON, where it is the store's own. */

/** Where a listing stands on its channel. */
export const remoteSchema = z.object({
  id: z.string(),
  publicUrl: z.string().nullable(),
  etag: z.string().nullable(),
  link: z.string().nullable(),
  lapsesAt: z.number().nullable().default(null),
  note: z.string().default(''),
  turnedDown: z.boolean().default(false),
  /** What the place told of this listing for its door alone, by name: a key that its writes ask for. */
  kept: z.record(z.string(), z.string()).default({}),
});

/** A first writing whose outcome is not known: kept before it is begun, whatever becomes of the errand. */
export const pendingOutcomeSchema = z.object({
  since: z.number(),
  errand: z.number(),
  /** How often the channel was asked since and knew nothing of it, and when last. */
  looks: z.number(),
  lookedAt: z.number().nullable(),
  /** When it was begun, and looked for last, by the machine's own time. */
  begunOn: z.number().nullable().default(null),
  lookedOn: z.number().nullable().default(null),
  /** What was to be written: all of it at a placing, else the fields that the operation was to bring about. */
  shown: shownSchema.nullable(),
  /** The operation whose outcome is not known. */
  op: z.enum(operations).default('place'),
});

/** Who cut the tie to a listing, when, and where it was seen. */
export const cutSchema = z.object({ at: z.number(), by: z.string(), address: z.string() });
export type CutTie = z.infer<typeof cutSchema>;

/** Moments by the key of a field. */
export const momentsSchema = z.record(z.string(), z.number());
/** Items of others in a listing's groups, as they came. */
export const othersSchema = z.record(z.string(), z.array(z.record(z.string(), z.unknown())));
/** Fields of a listing, by key; an absent one is `null`. */
export const wantedOfSchema = z.record(z.string(), shownValueSchema.nullable());
export const namesSchema = z.array(z.string());
export const credentialsSchema = z.record(z.string(), z.string());
/** What a room is beside its name and capacity. */
export const roomMoreSchema = roomSchema.omit({ id: true, name: true, capacity: true });
/** A value whose shape belongs to whoever wrote it. */
export const looseSchema = z.record(z.string(), z.unknown());

/** One field of what a person saw when saying yes. */
export const changeSchema = z.object({
  key: z.string(),
  before: shownValueSchema.nullable(),
  after: shownValueSchema.nullable(),
});

/** Why an errand could not be done. */
export const errandErrorSchema = z.object({
  kind: z.enum(outsideErrorKinds),
  message: z.string(),
  field: z.string().nullable(),
});

/** What was handed over to a channel that answers later. */
export const lodgedSchema = z.object({
  ticket: z.string(),
  op: z.enum(operations),
  changes: z.array(changeSchema),
  stood: shownSchema,
  revision: z.number(),
});
