import { z } from 'zod';
import { currencies } from '../base/money';

/** A listing's states: not seen yet, seen by everybody, found by its link alone, taken down or no longer sold, told to be cancelled. */
export const listedStates = ['draft', 'public', 'unlisted', 'closed', 'cancelled'] as const;
export type ListedState = (typeof listedStates)[number];

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

/** Key of a field of one item of a repeated group. */
export function shownKey(field: string, item?: string): string {
  return item === undefined ? field : `${field}@${item}`;
}

/** Takes a key apart again. */
export function splitKey(key: string): { field: string; item: string | null } {
  const at = key.indexOf('@');
  return at < 0 ? { field: key, item: null } : { field: key.slice(0, at), item: key.slice(at + 1) };
}

/** The field that says whether a listing stands in public at all. */
export const listedField = 'listed';

/** A listing's state by its shown fields; where none is shown, what is there stands in public. */
export function listedState(shown: Shown): ListedState {
  const value = shown[listedField];
  return value?.kind === 'state' ? value.is : 'public';
}

/** True where nobody is to find it, or nobody can get in by it any more. */
export function isOff(value: ShownValue | undefined): boolean {
  return value?.kind === 'state' && value.is !== 'public' && value.is !== 'unlisted';
}

/** True where it is wanted there with all that it says, and not seen yet: a person keeps it a draft. */
export function isKeptDraft(wanted: Shown): boolean {
  return listedState(wanted) === 'draft';
}

/** True where nothing is wanted there but that it is not seen, or no longer gets anybody in. */
export function isDown(wanted: Shown): boolean {
  return isOff(wanted[listedField]) && !isKeptDraft(wanted);
}

/** The listing that is wanted where an event must not stand: nothing but that it is taken down. */
export const takenDown: Shown = { [listedField]: { kind: 'state', is: 'closed' } };
