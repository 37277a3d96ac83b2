import { z } from 'zod';
import { artistSchema, organiserSchema, pointSchema, profileSchema, wordingSchema, type NewVenue } from '../directory';
import { fingerprint } from '../hash';
import { cleanHtml, plainToHtml } from '../markup';
import { newEntry, newLevel, newNotice, newOutlet, newRecord } from '../new-record';
import type { RecordContent } from '../record';
import { recurrenceId } from '../recurrence';
import { isZone } from '../zones';
import { firstOfTwo, mostFileChars, mostFileRows, type BrokenRow, type ImportedEvent } from './import-row';

const name = z.string().trim().min(1).max(160);
const holdSchema = z.object({ name, seats: z.number().int().min(0) });

/** A venue in the file, with its rooms and set-ups by name. */
const venueSchema = z.object({
  name, town: z.string().trim().min(1), address: z.string().default(''), country: z.string().default(''), zone: z.string().refine(isZone, 'is no zone of the IANA data'), point: pointSchema.nullable().default(null),
  phone: z.string().default(''), site: z.string().default(''), findIt: z.string().default(''), channelIds: z.record(z.string(), z.string()).default({}),
  rooms: z.array(z.object({ name, capacity: z.number().int().nullable().default(null), changeover: z.number().int().default(0), setUps: z.array(z.object({ name, capacity: z.number().int(), holds: z.array(holdSchema).default([]) })).default([]) })).default([]),
});
export type FileVenue = z.infer<typeof venueSchema>;

/** What a file says of the directory. */
const directorySchema = z.object({
  venues: z.array(venueSchema).default([]),
  artists: z.array(artistSchema.omit({ id: true }).extend({ profiles: z.array(profileSchema.omit({ verified: true })).default([]) })).default([]),
  organisers: z.array(organiserSchema.omit({ id: true })).default([]),
  wordings: z.array(wordingSchema.omit({ id: true })).default([]),
  /** Tours by name; what their dates share is what the event with this `ref` says. */
  tours: z.array(z.object({ name, from: z.string() })).default([]),
});
export type FileDirectory = z.infer<typeof directorySchema>;

const fileSchema = z.object({ nuntiax: z.literal(1), events: z.array(z.unknown()).max(mostFileRows).default([]) });

/** What was read from a JSON file. */
export type ReadJson = { ok: true; directory: FileDirectory; events: ImportedEvent[]; broken: BrokenRow[] } | { ok: false; message: string };

/**
 * Reads a file of events in JSON (RFC 8259): `{"nuntiax": 1, "venues": […], "artists": […], "organisers": […], "events": […]}`.
 * Venues, rooms, organisers and tours are named, not numbered; ids of parts are made where they are missing.
 */
export function readEventsJson(text: string): ReadJson {
  if (text.length > mostFileChars) return { ok: false, message: 'The file is larger than 5 MB. Split it and read the parts.' };
  let raw: unknown;
  try {
    raw = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    return { ok: false, message: `This is no JSON: ${error instanceof Error ? error.message : 'it cannot be read'}. Export it again.` };
  }
  const file = fileSchema.safeParse(raw);
  if (!file.success) return { ok: false, message: 'This JSON is no file of events: it must be an object with "nuntiax": 1 and a list "events".' };
  const directory = directorySchema.safeParse(raw);
  if (!directory.success) {
    const [issue] = directory.error.issues;
    return { ok: false, message: `${issue?.path.join('.')}: ${issue?.message}. Put it right and read the file again.` };
  }
  const events: ImportedEvent[] = [];
  const broken: BrokenRow[] = [];
  file.data.events.forEach((one, i) => {
    const read = readEvent(one, i + 1);
    if ('origin' in read) events.push(read);
    else broken.push(read);
  });
  return { ok: true, directory: directory.data, events, broken };
}

const text = z.string().default('');
const partSchema = z.looseObject({});
const eventSchema = z.looseObject({
  ref: z.string().trim().min(1), title: z.string(), organiser: text, tour: text, venue: text, town: text, room: text, setUp: text, zone: z.string().refine(isZone).default('UTC'),
  performances: z.array(z.looseObject({ date: z.string(), venue: text, town: text, room: text, setUp: text })).min(1),
  lineUp: z.array(partSchema).default([]),
  notices: z.array(partSchema).default([]),
  tickets: z.looseObject({ levels: z.array(partSchema).default([]), outlets: z.array(partSchema).default([]), pools: z.array(partSchema).default([]), holds: z.array(partSchema).nullish(), registration: z.looseObject({ questions: z.array(partSchema).default([]) }).default({ questions: [] }) }).default({ levels: [], outlets: [], pools: [], registration: { questions: [] } }),
  words: z.looseObject({ full: text }).default({ full: '' }),
});

function readEvent(input: unknown, line: number): ImportedEvent | BrokenRow {
  const parsed = eventSchema.safeParse(input);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    return { line, field: issue?.path.join('.') ?? 'event', message: `${issue?.message ?? 'it cannot be read'}. It is event number ${line} of the list.` };
  }
  const { ref, organiser, tour, venue, town, room, setUp, zone, performances, lineUp, notices, tickets, words, ...rest } = parsed.data;
  const origin = `json:${ref}`;
  const made = performances.map((one) => performanceOf(one, zone));
  const base = newRecord('2027-01-01', zone, () => 'p');
  const notes: string[] = [];
  const content = {
    ...base, ...rest,
    performances: made.map((one) => firstOfTwo(one.performance, notes)),
    lineUp: withIds('a', lineUp).map((one) => ({ ...newEntry(one.id, ''), ...one })),
    notices: withIds('n', notices).map((one) => ({ ...newNotice(one.id, ''), ...one })),
    tickets: { ...base.tickets, ...tickets, levels: withIds('l', tickets.levels).map((one) => ({ ...newLevel(one.id, '', 0), ...one })), outlets: withIds('o', tickets.outlets).map((one) => ({ ...newOutlet(one.id, ''), ...one })), pools: withIds('q', tickets.pools), holds: tickets.holds ? withIds('h', tickets.holds) : null, registration: { ...tickets.registration, questions: withIds('f', tickets.registration.questions) } },
    words: { ...base.words, ...words, full: /<\w/.test(words.full) ? cleanHtml(words.full) : plainToHtml(words.full) },
  } as unknown as RecordContent;
  const places = Object.fromEntries(made.filter((one) => one.place.venue !== '' || one.place.room !== '' || one.place.setUp !== '').map((one) => [one.performance.id, one.place]));
  const place: NewVenue | null = venue === '' ? null : { name: venue, town, address: '', country: '', zone, room, capacity: null };
  return { origin, line, content, venue: place, organiser, tour, setUp, places, notes };
}

function performanceOf({ venue, town, room, setUp, ...one }: z.infer<typeof eventSchema>['performances'][number], zone: string) {
  const start = typeof one.start === 'string' ? one.start : null;
  const given = typeof one.id === 'string' ? one.id : recurrenceId(one.date, start ?? '00:00');
  const base = newRecord(one.date, zone, () => given).performances[0];
  const end = typeof one.end === 'string' ? one.end : null;
  return {
    performance: { ...base, doors: null, start: null, precision: start === null ? 'day' : 'exact', endsNextDay: end !== null && start !== null && end <= start && one.lastDate === undefined, ...one, id: given } as RecordContent['performances'][number],
    place: { venue, town, room, setUp },
  };
}

/** Parts with an id each: the given one, or one made from the place in the list. */
function withIds<T extends Record<string, unknown>>(kind: string, parts: readonly T[]): (T & { id: string })[] {
  return parts.map((part, i) => ({ ...part, id: typeof part.id === 'string' ? part.id : `${kind}${i}${fingerprint(part.name ?? part.ask ?? i).slice(0, 4)}` }));
}
