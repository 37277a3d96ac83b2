import { checkRecord } from '@/core/check-record';
import { findingWords } from '@/core/finding-words';
import { readEventsCsv } from '@/core/formats/events-csv';
import { readEventsIcs } from '@/core/formats/events-ics';
import type { BrokenRow, ImportedEvent } from '@/core/formats/import-row';
import { fail, ok, type Result } from '@/core/result';
import type { Venue } from '@/core/directory';
import { whole, type Tx } from '@/store/database';
import { makeRecord, recordOfOrigin, rememberOrigin } from '@/store/records';
import { allVenues, putVenue } from '@/store/venues';
import type { House } from '@/runner/house';

export interface ImportReport {
  made: { line: number; id: string; code: string; title: string; notes: string[] }[];
  /** Rows that an earlier reading brought in; the records were left as they are. */
  known: { line: number; id: string; code: string; title: string }[];
  broken: BrokenRow[];
}

/**
 * Reads a CSV or iCalendar file of events and makes a record of each row that is whole, in one transaction. A
 * row that came in before is not taken twice. The error is for the user.
 */
export function importEvents(house: House, fileName: string, text: string, zone: string, actor: string): Result<ImportReport, string> {
  const read = /\.ics$/i.test(fileName) || /^\s*BEGIN:VCALENDAR/i.test(text) ? readEventsIcs(text, zone) : readEventsCsv(text, zone);
  if (!read.ok) return fail(read.message);
  return whole(house.db, (tx) => {
    const report: ImportReport = { made: [], known: [], broken: [...read.broken] };
    const venues = new Venues(tx, actor, house.clock.now());
    for (const event of read.events) takeIn(tx, event, venues, `read from ${fileName}`, report);
    report.broken.sort((a, b) => a.line - b.line);
    return ok(report);
  });
}

function takeIn(tx: Tx, event: ImportedEvent, venues: Venues, reason: string, report: ImportReport): void {
  const { line, origin } = event;
  const known = recordOfOrigin(tx, origin);
  if (known) {
    report.known.push({ line, ...known, title: event.content.title });
    return;
  }
  // Everything but the place is checked before the directory is touched, so that a broken row leaves nothing.
  const bare = checkRecord(event.content, new Map());
  if (!bare.ok) {
    report.broken.push(...bare.error.map((one) => ({ line, field: one.field.split('.').pop() ?? one.field, message: findingWords(one) })));
    return;
  }
  const place = event.venue && venues.find(event.venue);
  const content = place === null ? bare.value : { ...bare.value, performances: bare.value.performances.map((one) => ({ ...one, ...place })) };
  const made = makeRecord(tx, content, venues.actor, venues.at, reason);
  rememberOrigin(tx, origin, made.id);
  report.made.push({ line, id: made.id, code: made.code, title: content.title, notes: event.notes });
}

/** The directory while a file is read: asked once, and again only when a venue or room is new. */
class Venues {
  private byName = new Map<string, Venue>();

  constructor(private readonly tx: Tx, readonly actor: string, readonly at: number) {
    this.learn();
  }

  private learn(): void {
    for (const venue of allVenues(this.tx).values()) this.byName.set(`${venue.name}|${venue.town}`, venue);
  }

  find(wanted: NonNullable<ImportedEvent['venue']>): { venueId: string; roomId: string | null } {
    const known = this.byName.get(`${wanted.name}|${wanted.town}`);
    const room = known?.rooms.find((one) => one.name === wanted.room);
    if (known && (wanted.room === '' || room)) return { venueId: known.id, roomId: room?.id ?? null };
    const made = putVenue(this.tx, wanted, this.actor, this.at);
    this.learn();
    return made;
  }
}
