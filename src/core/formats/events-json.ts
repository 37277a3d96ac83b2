import { z } from 'zod';
import { fingerprint } from '../base/hash';
import { cleanHtml, plainToHtml } from '../words/markup';
import { newEntry, newLevel, newNotice, newOutlet, newRecord } from '../record/new-record';
import { brought, performanceSchema, type RecordContent } from '../record/record';
import { recordLimits } from '../record/choices';
import { recurrenceId } from '../recurrence/recurrence';
import { issueWords } from '../base/issue-words';
import { isoDate, zoneName } from '../base/scalars';
import { readDirectory, type FileDirectory } from './file-directory';
import {
  bareContext,
  fileLimits,
  firstOfTwo,
  placed,
  settled,
  type FilePart,
  type ImportedEvent,
  type ReadContext,
} from './import-row';
import { type BrokenRow } from './file-note';
import { type FileNote } from './file-note';

const fileSchema = z.looseObject({ nuntiax: z.literal(1), events: z.array(z.unknown()).default([]) });

/** What was read from a JSON file. */
export type ReadJson =
  { ok: true; directory: FileDirectory; events: ImportedEvent[]; broken: BrokenRow[] } | { ok: false; message: string };

/** Reads a file of events in JSON, whole: see `jsonParts`. */
export function readEventsJson(text: string, zone: string | null = null): ReadJson {
  const read: Extract<ReadJson, { ok: true }> = {
    ok: true,
    directory: { venues: [], artists: [], organisers: [], wordings: [], tours: [] },
    events: [],
    broken: [],
  };
  for (const part of jsonParts(text, bareContext(zone))) {
    if (part.kind === 'refused') return { ok: false, message: part.message };
    if (part.kind === 'directory') read.directory = part.directory;
    else if (part.kind === 'event') read.events.push(part.event);
    else if (part.kind === 'broken') read.broken.push(part.row);
  }
  return read;
}

/**
 * Reads a file of events in JSON (RFC 8259): `{"nuntiax": 1, "venues": […], "artists": […], "organisers": […],
 * "events": […]}`. Venues, rooms, organisers and tours are named, not numbered; ids of parts are made where they are
 * missing. An entry or event that cannot be read is told by its number in its list. `skip`: events, by that number,
 * that are passed over.
 */
export function* jsonParts(
  text: string,
  context: ReadContext,
  skip: (line: number) => boolean = () => false,
): Generator<FilePart> {
  let raw: unknown;
  try {
    raw = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    return yield {
      kind: 'refused',
      message: `This is no JSON: ${error instanceof Error ? error.message.slice(0, 200) : 'it cannot be read'}. Export it again.`,
    };
  }
  const file = fileSchema.safeParse(raw);
  if (!file.success)
    return yield {
      kind: 'refused',
      message: 'This JSON is no file of events: it must be an object with "nuntiax": 1 and a list "events".',
    };
  const { directory, broken } = readDirectory(file.data);
  for (const row of broken) yield { kind: 'broken', row };
  yield { kind: 'directory', directory };
  const own = withVenues(context, directory);
  const { events } = file.data;
  const seen = new Map<string, number>();
  for (const [i, item] of events.entries()) {
    const line = i + 1;
    if (i >= fileLimits.rows)
      return yield {
        kind: 'note',
        line,
        note: {
          code: 'too-many-rows',
          text: `From event ${line} on nothing was read: at most ${fileLimits.rows} events are read of one file. Split it and read the rest.`,
        },
      };
    if (skip(line)) continue;
    yield { kind: 'at', line, place: i, of: events.length };
    const read = readEvent(item, line, own);
    if (!('origin' in read)) yield { kind: 'broken', row: read };
    else if (seen.has(read.origin))
      yield {
        kind: 'broken',
        row: {
          line,
          field: 'ref',
          code: 'ref-twice',
          text: `It has the same “ref” as event ${seen.get(read.origin)}. Give each event its own, or take one out.`,
        },
      };
    else {
      seen.set(read.origin, line);
      yield* settled(read, (path) =>
        path.startsWith('venue') ? path.replace(/^venue\.name/, 'venue').replace(/^venue\./, '') : path,
      );
    }
  }
}

/** A ground on which the venues of the file are known, too. */
function withVenues(context: ReadContext, { venues }: FileDirectory): ReadContext {
  const known = new Map(venues.map((venue) => [`${venue.name}|${venue.town}`, venue]));
  const byName = new Map(venues.map((venue) => [venue.name, venue]));
  return {
    ...context,
    find: (place) => {
      const found =
        known.get(`${place.venue}|${place.town}`) ?? (place.town === '' ? byName.get(place.venue) : undefined);
      return found ? { kind: 'known', zone: found.zone, point: found.point, by: 'venue' } : context.find(place);
    },
  };
}

const text = z.string().max(2_000).default('');
const partSchema = z.looseObject({});
const eventSchema = z.looseObject({
  ref: z.string().trim().min(1).max(200),
  writtenFrom: z.string().max(200).nullish(),
  title: z.string().max(20_000),
  organiser: text,
  tour: text,
  venue: text,
  town: text,
  country: text,
  room: text,
  setUp: text,
  zone: zoneName.nullish(),
  performances: z
    .array(
      z.looseObject({
        date: isoDate,
        zone: zoneName.nullish(),
        start: z.string().max(20).nullish(),
        venue: text,
        town: text,
        room: text,
        setUp: text,
      }),
    )
    .min(1)
    .max(recordLimits.performances),
  lineUp: z.array(partSchema).default([]),
  links: z.array(partSchema).default([]),
  documents: z.array(partSchema).default([]),
  programme: z.array(partSchema).default([]),
  notices: z.array(partSchema).default([]),
  tickets: z
    .looseObject({
      levels: z.array(partSchema).default([]),
      outlets: z.array(partSchema).default([]),
      pools: z.array(partSchema).default([]),
      holds: z.array(partSchema).nullish(),
      extras: z.array(partSchema).default([]),
      coupons: z.array(partSchema).default([]),
      questions: z.array(partSchema).default([]),
      registration: z.looseObject({}).default({}),
    })
    .default({ levels: [], outlets: [], pools: [], extras: [], coupons: [], questions: [], registration: {} }),
  words: z
    .looseObject({
      full: z
        .string()
        .max(4 * recordLimits.full)
        .default(''),
    })
    .default({ full: '' }),
});

function readEvent(input: unknown, line: number, context: ReadContext): ImportedEvent | BrokenRow {
  const parsed = eventSchema.safeParse(brought(input));
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    return {
      line,
      field: issue?.path.join('.') || 'event',
      code: 'event-unread',
      text: `${issue ? issueWords(issue) : 'It cannot be read.'} It is event number ${line} of the list.`,
    };
  }
  const {
    ref,
    writtenFrom,
    organiser,
    tour,
    venue,
    town,
    country,
    room,
    setUp,
    zone: said,
    performances,
  } = parsed.data;
  const notes: FileNote[] = [];
  const whole = performances.every((performance) => performance.zone)
    ? null
    : placed(said ?? '', { venue, town, country }, context, 'zone');
  if (whole?.note) notes.push(whole.note);
  const zone = whole?.zone ?? said ?? performances[0]?.zone ?? 'UTC';
  const made = performances.map((performance) => performanceOf(performance, zone));
  const content = contentOf(
    parsed.data,
    zone,
    made.map((item) => safelyFirst(item.performance, notes)),
    notes,
  );
  const places = Object.fromEntries(
    made
      .filter(
        (candidate) => candidate.place.venue !== '' || candidate.place.room !== '' || candidate.place.setUp !== '',
      )
      .map((item) => [item.performance.id, item.place]),
  );
  const place =
    venue === ''
      ? null
      : { name: venue, town, address: '', country, zone, room, capacity: null, point: whole?.point ?? null };
  return {
    origin: `json:${ref}`,
    writtenFrom: writtenFrom ?? null,
    line,
    content,
    venue: place,
    organiser,
    tour,
    setUp,
    places,
    notes,
    ask: whole?.ask ?? null,
  };
}

/** The content of an event as the file has it; what it leaves out is as in a new record. It is checked afterwards. */
function contentOf(
  event: z.infer<typeof eventSchema>,
  zone: string,
  read: RecordContent['performances'],
  notes: FileNote[],
): RecordContent {
  const { ref: _, writtenFrom: _from, organiser: _by, tour: _tour, ...said } = event;
  const { venue: _v, town: _t, country: _c, room: _r, setUp: _s, zone: _z, ...facts } = said;
  const { lineUp, links, documents, programme, notices, tickets, words, ...rest } = facts;
  const base = newRecord('2027-01-01', zone, () => 'p');
  const levels = withIds('l', tickets.levels);
  for (const level of levels)
    if (level.buyers === undefined)
      notes.push({
        code: 'buyers-assumed',
        text: `“${String(level.name).slice(0, 60)}” does not say what it is (buyers): it was taken for the full price.`,
      });
  return {
    ...base,
    ...rest,
    performances: read,
    lineUp: withIds('a', lineUp).map((id) => ({ ...newEntry(id.id, ''), ...id })),
    links: withIds('k', links),
    documents: withIds('d', documents),
    programme: withIds('g', programme),
    notices: withIds('n', notices).map((id) => ({ ...newNotice(id.id, ''), ...id })),
    tickets: {
      ...base.tickets,
      ...tickets,
      levels: levels.map((level) => ({ ...newLevel(level.id, '', 0), ...level })),
      outlets: withIds('o', tickets.outlets).map((id) => ({ ...newOutlet(id.id, ''), ...id })),
      pools: withIds('q', tickets.pools),
      holds: tickets.holds ? withIds('h', tickets.holds) : null,
      extras: withIds('x', tickets.extras),
      coupons: withIds('c', tickets.coupons),
      questions: withIds('f', tickets.questions),
      registration: { ...base.tickets.registration, ...tickets.registration },
    },
    words: { ...base.words, ...words, full: /<\w/.test(words.full) ? cleanHtml(words.full) : plainToHtml(words.full) },
  } as unknown as RecordContent;
}

/** Of a time that comes twice, the first; a performance that is none yet is told of later, at its field. */
function safelyFirst(
  performance: RecordContent['performances'][number],
  notes: FileNote[],
): RecordContent['performances'][number] {
  return performanceSchema.safeParse(performance).success ? firstOfTwo(performance, notes) : performance;
}

function performanceOf(
  { venue, town, room, setUp, ...item }: z.infer<typeof eventSchema>['performances'][number],
  zone: string,
) {
  const start = typeof item.start === 'string' ? item.start : null;
  const given = typeof item.id === 'string' ? item.id : recurrenceId(item.date, start ?? '00:00');
  const base = newRecord(item.date, zone, () => given).performances[0];
  const end = typeof item.end === 'string' ? item.end : null;
  return {
    performance: {
      ...base,
      doors: null,
      start: null,
      precision: start === null ? 'day' : 'exact',
      endsNextDay: end !== null && start !== null && end <= start && item.lastDate === undefined,
      ...item,
      zone: item.zone ?? zone,
      id: given,
    } as RecordContent['performances'][number],
    place: { venue, town, room, setUp },
  };
}

/** Parts with an id each: the given one, or one made from the place in the list. */
function withIds<T extends Record<string, unknown>>(kind: string, parts: readonly T[]): (T & { id: string })[] {
  return parts.map((part, i) => ({
    ...part,
    id: typeof part.id === 'string' ? part.id : `${kind}${i}${fingerprint(part.name ?? part.ask ?? i).slice(0, 4)}`,
  }));
}
