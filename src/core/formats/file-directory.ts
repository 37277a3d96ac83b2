import { z } from 'zod';
import {
  artistSchema,
  organiserSchema,
  pointSchema,
  profileSchema,
  venueEditSchema,
  wordingSchema,
} from '../record/directory';
import { issueWords } from '../base/issue-words';
import { line, prose, zoneName } from '../base/scalars';
import type { BrokenRow } from './file-note';

const name = line(160).min(1);
const seats = z.number().int().min(0).max(500_000);
const holdSchema = z.object({ name: line(60).min(1), seats });

/** A venue in the file, with its rooms and set-ups by name; limits are those of the directory. */
const fileVenueSchema = venueEditSchema.pick({ name: true, town: true }).extend({
  address: line(200).default(''),
  country: line(80).default(''),
  zone: zoneName,
  point: pointSchema.nullable().default(null),
  phone: line(60).default(''),
  site: venueEditSchema.shape.site,
  findIt: prose(1000).default(''),
  channelIds: venueEditSchema.shape.channelIds,
  rooms: z
    .array(
      z.object({
        name: line(120).min(1),
        capacity: seats.nullable().default(null),
        changeover: z.number().int().min(0).max(2880).default(0),
        setUps: z
          .array(
            z.object({ name: line(60).min(1), capacity: seats.min(1), holds: z.array(holdSchema).max(20).default([]) }),
          )
          .max(12)
          .default([]),
      }),
    )
    .max(60)
    .default([]),
});
export type FileVenue = z.infer<typeof fileVenueSchema>;

const schemas = {
  venues: fileVenueSchema,
  artists: artistSchema.omit({ id: true }).extend({
    profiles: z
      .array(profileSchema.omit({ verified: true }))
      .max(20)
      .default([]),
  }),
  organisers: organiserSchema.omit({ id: true }),
  wordings: wordingSchema.omit({ id: true }),
  /** Tours by name; what their dates share is what the event with this `ref` says. */
  tours: z.object({ name, from: z.string().max(200) }),
} as const;

/** What a file says of the directory. */
export type FileDirectory = { [K in keyof typeof schemas]: z.infer<(typeof schemas)[K]>[] };

/**
 * Reads the directory in a file, entry by entry: one that cannot be kept is told by its list and place, and the rest
 * goes on.
 */
export function readDirectory(raw: Record<string, unknown>): { directory: FileDirectory; broken: BrokenRow[] } {
  const broken: BrokenRow[] = [];
  const read = <K extends keyof typeof schemas>(list: K): FileDirectory[K] => {
    const entries = raw[list];
    if (entries === undefined) return [];
    if (!Array.isArray(entries)) {
      broken.push({ line: 0, field: list, code: `${list}-unread`, text: 'It is no list. Write it between [ and ].' });
      return [];
    }
    return entries.slice(0, 50_000).flatMap((entry: unknown, i) => {
      const parsed = schemas[list].safeParse(entry);
      if (parsed.success) return [parsed.data];
      for (const issue of parsed.error.issues.slice(0, 5))
        broken.push({
          line: 0,
          field: `${list}.${i}.${issue.path.join('.')}`,
          code: `${list}-unread`,
          text: issueWords(issue),
        });
      return [];
    }) as FileDirectory[K];
  };
  return {
    directory: {
      venues: read('venues'),
      artists: read('artists'),
      organisers: read('organisers'),
      wordings: read('wordings'),
      tours: read('tours'),
    },
    broken,
  };
}
