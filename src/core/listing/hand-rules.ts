import { z } from 'zod';
import { line } from '../base/scalars';

/** What a place that is filled in by hand may ask for, each with what it is usually called there. */
export const handFields = {
  title: 'Title',
  subtitle: 'Subtitle',
  start: 'Starts',
  doors: 'Doors',
  end: 'Ends',
  place: 'Place',
  'line-up': 'Who plays',
  line: 'Short text',
  body: 'Text',
  price: 'Price',
  link: 'Link to tickets',
  category: 'Kind of event',
  age: 'Age and access',
  contact: 'Contact',
} as const;
export type HandField = keyof typeof handFields;

/** Fields that say a moment: they have no length. */
export const handMoments: ReadonlySet<HandField> = new Set(['start', 'doors', 'end']);

/** Longest text that a field of such a place may be said to take, in characters. */
const mostLimit = 20_000;

const handFieldSchema = z.object({
  field: z.enum(Object.keys(handFields) as [HandField, ...HandField[]]),
  /** What the place calls it. */
  label: line(40).pipe(z.string().min(1, 'Say what the place calls it.')),
  /** The most characters that it takes; `null`: as many as there are. */
  limit: z.number().int().min(1, 'A limit is 1 or more.').max(mostLimit, `A limit is ${mostLimit} or less.`).nullable(),
});
export type HandFieldRow = z.infer<typeof handFieldSchema>;

/** The rules of a place that is filled in by hand: set on screen. */
export const handRulesSchema = z.object({
  /** Its fields, in its own order. */
  fields: z
    .array(handFieldSchema)
    .min(1, 'Name at least one field.')
    .max(Object.keys(handFields).length)
    .refine((rows) => new Set(rows.map(({ field }) => field)).size === rows.length, 'A field stands there twice.')
    .refine((rows) => rows.some(({ field }) => field === 'title'), 'The title is always needed.')
    .default([
      { field: 'title', label: handFields.title, limit: 80 },
      { field: 'start', label: handFields.start, limit: null },
      { field: 'place', label: handFields.place, limit: 120 },
      { field: 'line', label: handFields.line, limit: 200 },
      { field: 'price', label: handFields.price, limit: null },
      { field: 'link', label: handFields.link, limit: null },
    ]),
  /** So many days before the event it has to be there. */
  leadDays: z.number().int().min(0, 'Days are 0 or more.').max(365, 'Days are 365 or less.').default(7),
  /** Where its form is, or to whom one writes: for whoever does it. */
  where: line(400).default(''),
});
