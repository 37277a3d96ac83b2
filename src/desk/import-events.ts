import { checkRecord } from '@/core/check-record';
import type { Venue } from '@/core/directory';
import { findingWords } from '@/core/finding-words';
import { readEventsCsv } from '@/core/formats/events-csv';
import { readEventsIcs } from '@/core/formats/events-ics';
import { readEventsJson, type FileDirectory } from '@/core/formats/events-json';
import type { BrokenRow, ImportedEvent } from '@/core/formats/import-row';
import { fail, ok, type Result } from '@/core/result';
import { slugOf } from '@/core/slug';
import { sharedFacts, sharedOf, type TourShared } from '@/core/tour';
import type { RecordContent } from '@/core/record';
import { whole, type Tx } from '@/store/database';
import { putPerson } from '@/store/people';
import { addRevision, makeRecord, recordAt, recordOfCode, recordOfOrigin, rememberOrigin } from '@/store/records';
import { noteSlug } from '@/store/slugs';
import { allTours, makeTour } from '@/store/tours';
import { allVenues, putVenue } from '@/store/venues';
import type { House } from '@/runner/house';
import { takeDirectory } from './take-directory';

export interface ImportReport {
  made: { line: number; id: string; code: string; title: string; notes: string[] }[];
  /** Rows that an earlier reading brought in; the records were left as they are. */
  known: { line: number; id: string; code: string; title: string }[];
  broken: BrokenRow[];
}

interface Read {
  events: ImportedEvent[];
  broken: BrokenRow[];
  directory: FileDirectory | null;
}

/**
 * Reads a CSV, iCalendar or JSON file of events and makes a record of each row that is whole, in one transaction. A
 * row that came in before is not taken twice. The error is for the user.
 */
export function importEvents(house: House, fileName: string, text: string, zone: string, actor: string): Result<ImportReport, string> {
  const read = readFile(fileName, text, zone);
  return read.ok ? ok(takeInAll(house, read.value, `read from ${fileName}`, actor, null)) : read;
}

function readFile(fileName: string, text: string, zone: string): Result<Read, string> {
  if (/\.json$/i.test(fileName) || /^\s*\{/.test(text)) {
    const read = readEventsJson(text);
    return read.ok ? ok(read) : fail(read.message);
  }
  const read = /\.ics$/i.test(fileName) || /^\s*BEGIN:VCALENDAR/i.test(text) ? readEventsIcs(text, zone) : readEventsCsv(text, zone);
  return read.ok ? ok({ ...read, directory: null }) : fail(read.message);
}

/** Reads pasted tour dates (CSV; needs `date`, `start`, `venue`) and makes each a date of the tour, with what the tour shares. */
export function importTourDates(house: House, tourId: string, text: string, zone: string, actor: string): Result<ImportReport, string> {
  const tour = allTours(house.db).find((one) => one.id === tourId);
  if (!tour) return fail('This tour is not there any more.');
  const read = readEventsCsv(text, zone, tour.shared.title);
  if (!read.ok) return fail(read.message);
  const events = read.events.map((event) => ({ ...event, origin: `${event.origin} ${tourId}` }));
  return ok(takeInAll(house, { ...read, events, directory: null }, `a date of ${tour.name}`, actor, { id: tourId, shared: tour.shared }));
}

function takeInAll(house: House, read: Read, reason: string, actor: string, tour: { id: string; shared: TourShared } | null): ImportReport {
  return whole(house.db, (tx) => {
    const report: ImportReport = { made: [], known: [], broken: [...read.broken] };
    if (read.directory) takeDirectory(tx, read.directory, actor, house.clock.now());
    const taking = new Taking(tx, actor, house.clock.now(), reason, tour);
    for (const event of read.events) taking.takeIn(event, report);
    if (read.directory) makeTours(tx, read.directory, read.events, actor, house.clock.now());
    report.broken.sort((a, b) => a.line - b.line);
    return report;
  });
}

/** Makes the file's tours, each sharing what the event it names says, and puts their dates under them. */
function makeTours(tx: Tx, directory: FileDirectory, events: readonly ImportedEvent[], actor: string, at: number): void {
  for (const { name, from } of directory.tours) {
    const lead = recordOfOrigin(tx, `json:${from}`);
    const record = lead && recordAt(tx, lead.id);
    if (!record || allTours(tx).some((one) => one.name === name)) continue;
    const id = makeTour(tx, name, sharedOf(record.content), actor, at);
    for (const { origin } of events.filter((one) => one.tour === name)) {
      const known = recordOfOrigin(tx, origin);
      const one = known && recordAt(tx, known.id);
      if (one) addRevision(tx, one.id, one.revision + 1, { ...one.content, tourId: id }, actor, at, `a date of ${name}`);
    }
  }
}

/** Takes events in, one after the other; the directory is asked once, and again only when a venue or room is new. */
class Taking {
  private byName = new Map<string, Venue>();

  constructor(private readonly tx: Tx, private readonly actor: string, private readonly at: number, private readonly reason: string, private readonly tour: { id: string; shared: TourShared } | null) {
    this.learn();
  }

  takeIn(event: ImportedEvent, report: ImportReport): void {
    const { line, origin } = event;
    const known = recordOfOrigin(this.tx, origin) ?? this.written(event);
    if (known) {
      report.known.push({ line, ...known, title: event.content.title });
      return;
    }
    const shaped = this.tour ? withTour(event.content, this.tour) : event.content;
    // Everything but the place is checked before the directory is touched, so that a broken row leaves nothing.
    const bare = checkRecord(shaped, new Map());
    if (!bare.ok) {
      report.broken.push(...bare.error.map((one) => ({ line, field: one.field.split('.').pop() ?? one.field, message: findingWords(one) })));
      return;
    }
    const content = this.placed(bare.value, event);
    const made = makeRecord(this.tx, content, this.actor, this.at, this.reason);
    rememberOrigin(this.tx, origin, made.id);
    noteSlug(this.tx, slugOf(content), made.id, this.at);
    report.made.push({ line, id: made.id, code: made.code, title: content.title, notes: event.notes });
  }

  /** The record of this very house that a file was written from: it goes by our code, and its title is the same. */
  private written({ origin, content }: ImportedEvent): { id: string; code: string } | null {
    const code = /^(?:json|csv):([^/ ]+)/.exec(origin)?.[1];
    const record = code === undefined ? null : recordOfCode(this.tx, code);
    return record?.title === content.title.trim() ? record : null;
  }

  /** The content with its places and people taken from the directory, or made there. */
  private placed(content: RecordContent, event: ImportedEvent): RecordContent {
    const person = (sort: 'artist' | 'organiser', name: string) => putPerson(this.tx, sort, name, this.actor, this.at);
    const own = event.venue;
    const performances = content.performances.map((one) => {
      const place = event.places?.[one.id];
      const venue = place?.venue ? { name: place.venue, town: place.town, address: '', country: '', zone: one.zone, room: place.room, capacity: null } : own && place?.room ? { ...own, room: place.room } : own;
      return venue ? { ...one, ...this.place(venue, place?.setUp || event.setUp || '') } : one;
    });
    return {
      ...content, performances,
      lineUp: content.lineUp.map((one) => ({ ...one, artistId: person('artist', one.name) })),
      organiserId: event.organiser ? person('organiser', event.organiser) : content.organiserId,
    };
  }

  private place(wanted: NonNullable<ImportedEvent['venue']>, setUp: string): { venueId: string; roomId: string | null; setUpId: string | null; zone?: string } {
    const known = this.find(wanted);
    const room = known?.rooms.find((one) => one.name === wanted.room);
    if (known && (wanted.room === '' || room)) return { venueId: known.id, roomId: room?.id ?? null, setUpId: room?.setUps.find((one) => one.name === setUp)?.id ?? null };
    const made = putVenue(this.tx, known ? { ...wanted, name: known.name, town: known.town } : wanted, this.actor, this.at);
    this.learn();
    return { ...made, setUpId: null };
  }

  /** The venue of that name and town; where no town is said, the one of that name. */
  private find({ name, town }: { name: string; town: string }): Venue | undefined {
    return this.byName.get(`${name}|${town}`) ?? (town === '' ? [...this.byName.values()].find((one) => one.name === name) : undefined);
  }

  private learn(): void {
    for (const venue of allVenues(this.tx).values()) this.byName.set(`${venue.name}|${venue.town}`, venue);
  }
}

function withTour(content: RecordContent, { id, shared }: { id: string; shared: TourShared }): RecordContent {
  return { ...Object.values(sharedFacts).reduce((at, fact) => fact.put(at, shared), content), tourId: id };
}
