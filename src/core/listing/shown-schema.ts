import { z } from 'zod';
import { currencies } from '../base/money';
import { listedStates } from './listed-states';

const url = z.object({ kind: z.literal('url'), href: z.string() });

/** One value as a channel shows it. Unknown is the absence of a value, never an empty one. */
export const shownValueSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('text'), text: z.string() }),
  /** Rich text: HTML of the record's set. */
  z.object({
    kind: z.literal('rich'),
    html: z.string(),
    /** Pictures that stand in it, by the file name they have there, and where each comes from. */
    figures: z.array(z.object({ name: z.string(), pictureId: z.string() })).optional(),
  }),
  z.object({ kind: z.literal('instant'), at: z.number(), zone: z.string() }),
  z.object({ kind: z.literal('price'), name: z.string(), minor: z.number(), currency: z.enum(currencies) }),
  z.object({ kind: z.literal('count'), n: z.number() }),
  /** Items of a group that something counts for, or any so many of them; and how that is said. */
  z.object({ kind: z.literal('refs'), refs: z.array(z.string()), any: z.number().nullable(), words: z.string() }),
  /** A file that goes along, under the name that it has there. */
  z.object({ kind: z.literal('file'), name: z.string(), source: z.object({ fileId: z.string() }).nullable() }),
  z.object({ kind: z.literal('flag'), on: z.boolean() }),
  /** How far a listing is to be seen at all: moved by operations of its own, never as a field among others. */
  z.object({ kind: z.literal('state'), is: z.enum(listedStates) }),
  url,
  /** A value that another channel has yet to give. */
  z.object({
    kind: z.literal('awaited'),
    from: z.string(),
    /** What the outlet is called. */
    name: z.string().default('another outlet'),
    /** What is awaited. */
    gift: z.string().default('ticket link'),
    /** The parameter that is put to the link once it is there, so that channels can be told apart. */
    track: z.object({ name: z.string(), value: z.string() }).nullable().default(null),
  }),
  z.object({
    kind: z.literal('picture'),
    /** File name of the rendition; equal names are equal pictures. */
    name: z.string(),
    alt: z.string(),
    /** Where the rendition comes from; unknown for one that was observed. */
    source: z
      .object({
        pictureId: z.string(),
        crop: z.object({ x: z.number(), y: z.number(), w: z.number(), h: z.number() }),
        width: z.number(),
        height: z.number(),
      })
      .nullable(),
  }),
]);

export type ShownValue = z.infer<typeof shownValueSchema>;
export type ShownKind = ShownValue['kind'];

/** A listing's shown fields, by key: `title`, or `start@` with the performance's id. */
export const shownSchema = z.record(z.string(), shownValueSchema);

export type Shown = z.infer<typeof shownSchema>;
