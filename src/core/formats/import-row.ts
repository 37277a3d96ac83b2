import { checkRecord } from '../record/check-record';
import { newVenueSchema, organiserSchema, type NewVenue, type Point, type Venue } from '../record/directory';
import { fieldOf } from '../findings/finding';
import { findingWords } from '../findings/finding-words';
import { issueWords } from '../base/issue-words';
import { readingTwice } from '../dates/readings';
import type { Performance, RecordContent } from '../record/record';
import type { FileDirectory } from './file-directory';
import type { BrokenRow, FileNote } from './file-note';

/** What a row does not say and no rule may guess: a person is asked. */
export interface Ask extends FileNote {
  field: string;
  /** What it may be, where that is known. */
  choices: { label: string; zone: string; point: Point }[];
  /** The times that stand for none yet are moments in UTC. */
  inUtc?: boolean;
}

/** An event read from a file, before its venue has been found in the directory. */
export interface ImportedEvent {
  /** The row's own identity: the same row read twice is the same event. */
  origin: string;
  /** The house and record that it was written from, where the file says so. */
  writtenFrom: string | null;
  /** Line of the file where it starts, counted from 1. */
  line: number;
  /** Its performances have no venue yet. */
  content: RecordContent;
  venue: NewVenue | null;
  /** Name of the organiser; empty where the file names none. */
  organiser?: string;
  /** Places of single performances, where they have their own: by performance id. */
  places?: Record<string, { venue: string; town: string; room: string; setUp: string }>;
  /** Name of the set-up in the room. */
  setUp?: string;
  /** Name of the tour that it is a date of. */
  tour?: string;
  /** How it was read. */
  notes: FileNote[];
  /** Until it is answered, the event is not taken in; the zone of its performances stands for none. */
  ask: Ask | null;
}

/**
 * What reading a file gives, piece by piece: events, rows that are broken, and where it is. A file that is not what it
 * should be is refused.
 */
export type FilePart =
  | { kind: 'event'; event: ImportedEvent }
  | { kind: 'broken'; row: BrokenRow }
  | { kind: 'directory'; directory: FileDirectory }
  /** Said before anything is done with a row, so that one that takes too long is known. */
  | { kind: 'at'; line: number; place: number; of: number }
  | { kind: 'note'; line: number; note: FileNote }
  | { kind: 'refused'; message: string };

/** What a file gave: each row either in or broken; or nothing, because the file itself is not what it should be. */
export type ReadFile = { ok: true; events: ImportedEvent[]; broken: BrokenRow[] } | { ok: false; message: string };

/** Where a place lies: known, one of several of its name, or not found. `by` says what it is known by. */
export type PlaceAnswer =
  | { kind: 'known'; zone: string; point: Point | null; by: 'venue' | 'town' | 'country' }
  | { kind: 'several'; choices: Ask['choices'] }
  | { kind: 'none' };

/** Finds where a venue lies by its name, town and country (any of them may be empty). */
export type PlaceFinder = (place: { venue: string; town: string; country: string }) => PlaceAnswer;

/** What a file is read on. */
export interface ReadContext {
  /** The zone that a person chose for rows whose place does not tell it; `null`: such rows are asked about. */
  zone: string | null;
  find: PlaceFinder;
  /** The title of rows where the table has no such column. */
  title?: string;
}

/** A ground on which nothing is known but a chosen zone. */
export function bareContext(zone: string | null, title?: string): ReadContext {
  return { zone, find: () => ({ kind: 'none' }), ...(title === undefined ? {} : { title }) };
}

/**
 * What one file may hold: bytes, rows (events), and dates over all of them; and UTF-16 units of one row, of one cell,
 * and of a cell that holds a text. Beneath them the record's own limits count, in graphemes.
 */
export const fileLimits = {
  bytes: 50_000_000,
  rows: 250_000,
  dates: 250_000,
  row: 400_000,
  cell: 20_000,
  text: 240_000,
} as const;

/** All that a file gives, gathered. */
export function gathered(parts: Iterable<FilePart>): ReadFile {
  const events: ImportedEvent[] = [];
  const broken: BrokenRow[] = [];
  for (const part of parts) {
    if (part.kind === 'refused') return { ok: false, message: part.message };
    if (part.kind === 'event') events.push(part.event);
    else if (part.kind === 'broken') broken.push(part.row);
  }
  return { ok: true, events, broken };
}

/** The zone of a place, with its coordinates; and what is to be said or asked, where the file does not say the zone. */
export function placed(
  said: string,
  place: { venue: string; town: string; country: string },
  { zone: chosen, find }: ReadContext,
  field: string,
): { zone: string | null; point: Point | null; note: FileNote | null; ask: Ask | null } {
  const found = find(place);
  const at = (zone: string | null, note: FileNote | null = null, ask: Ask | null = null) => ({
    zone,
    point: found.kind === 'known' && (zone === found.zone || zone === null) ? found.point : null,
    note,
    ask,
  });
  if (said !== '') return at(said);
  if (found.kind === 'known')
    return at(
      found.zone,
      found.by === 'venue'
        ? null
        : {
            code: `zone-by-${found.by}`,
            text:
              found.by === 'town'
                ? `The zone ${found.zone} follows from ${named(place)}.`
                : `${place.town === '' ? 'No town is said' : `${place.town} is not among the towns that are known`}; all of ${place.country || 'its country'} is in ${found.zone}.`,
          },
    );
  const why =
    found.kind === 'several'
      ? `There are several places called ${named(place)}.`
      : place.town === ''
        ? 'Neither a zone nor a town is said.'
        : `${named(place)} is not among the towns that are known.`;
  const code = found.kind === 'several' ? 'town-several' : place.town === '' ? 'zone-unknown' : 'town-unknown';
  if (found.kind !== 'several' && chosen !== null)
    return at(chosen, { code, text: `${why} ${chosen} was taken, as it was chosen.` });
  return at(null, null, {
    code,
    field,
    text: `${why} Say which zone it is in.`,
    choices: found.kind === 'several' ? found.choices : [],
  });
}

const named = ({ town, country }: { town: string; country: string }) =>
  [town, country].filter((part) => part !== '').join(', ');

/**
 * A performance with a reading that comes twice on its night: files mean the first (RFC 5545, section 3.3.5), which is
 * told.
 */
export function firstOfTwo(performance: Performance, notes: FileNote[]): Performance {
  const twice = performance.repeat === null && performance.precision === 'exact' ? readingTwice(performance) : null;
  if (twice === null) return performance;
  notes.push({
    code: 'time-twice',
    text: `${twice.time} comes twice on ${twice.date}, as the clocks go back: the first was taken.`,
  });
  return { ...performance, repeat: 'first' };
}

/** A file need not say the town of a venue. */
const fileVenueSchema = newVenueSchema.partial({ town: true });
const placeSchema = newVenueSchema.pick({ name: true, town: true, room: true });
const organiserName = organiserSchema.shape.name;
const noVenues: ReadonlyMap<string, Venue> = new Map();

/**
 * An event that may be kept as it is, or every reason why not, each at its field: shape, limits and times of the
 * record, the venue that would be made, the organiser. `columnOf` names a field of ours as the file does.
 */
export function settled(event: ImportedEvent, columnOf: (path: string) => string): FilePart[] {
  const found: BrokenRow[] = [];
  const tell = (path: string, code: string, text: string) => {
    const field = columnOf(path);
    if (!found.some((brokenRow) => brokenRow.field === field && brokenRow.text === text))
      found.push({ line: event.line, field, code, text });
  };
  const checked = checkRecord(event.content, noVenues);
  if (!checked.ok) for (const finding of checked.error) tell(fieldOf(finding), finding.code, findingWords(finding));
  if (event.venue !== null) {
    const venue = fileVenueSchema.safeParse({ ...event.venue, town: event.venue.town || undefined });
    if (!venue.success)
      for (const issue of venue.error.issues)
        tell(`venue.${issue.path.join('.')}`, `${String(issue.path[0] ?? 'venue')}-refused`, issueWords(issue));
  }
  for (const { venue, town, room } of Object.values(event.places ?? {})) {
    const place = placeSchema.safeParse({ name: venue || 'x', town: town || 'x', room });
    if (!place.success)
      for (const issue of place.error.issues)
        tell(`venue.${issue.path.join('.')}`, `${String(issue.path[0] ?? 'venue')}-refused`, issueWords(issue));
  }
  if (event.organiser) {
    const organiser = organiserName.safeParse(event.organiser);
    if (!organiser.success)
      for (const issue of organiser.error.issues) tell('organiser', 'organiser-refused', issueWords(issue));
  }
  return found.length > 0
    ? found.map((row) => ({ kind: 'broken', row }))
    : [{ kind: 'event', event: checked.ok ? { ...event, content: checked.value } : event }];
}
