import type { NewVenue } from '../directory';
import { readingTwice } from '../readings';
import type { Performance, RecordContent } from '../record';

/** An event read from a file, before its venue has been found in the directory. */
export interface ImportedEvent {
  /** The row's own identity: the same row read twice is the same event. */
  origin: string;
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
  /** What a person should know of how it was read. */
  notes: string[];
}

/** A row that could not be read: where, which field, why and the way out. */
export interface BrokenRow {
  line: number;
  field: string;
  message: string;
}

/** What a file gave: each row either in or broken; or nothing, because the file itself is not what it should be. */
export type ReadFile = { ok: true; events: ImportedEvent[]; broken: BrokenRow[] } | { ok: false; message: string };

/** Largest file that is read, in characters. */
export const mostFileChars = 5_000_000;
/** Most events in one file. */
export const mostFileRows = 5_000;

/** A performance with a reading that comes twice on its night: files mean the first (RFC 5545, section 3.3.5), which is told. */
export function firstOfTwo(one: Performance, notes: string[]): Performance {
  const twice = one.repeat === null && one.precision === 'exact' ? readingTwice(one) : null;
  if (twice === null) return one;
  notes.push(`${twice.time} comes twice on ${twice.date}, as the clocks go back: the first was taken.`);
  return { ...one, repeat: 'first' };
}
