import { groupBy } from '../group-by';
import ICAL from 'ical.js';
import { fingerprint } from '../hash';
import { plainToHtml } from '../markup';
import { newPerformance, newRecord, newTickets, newWords } from '../new-record';
import { quoted } from '../quoted';
import { recordLimits, type Performance, type RecordContent } from '../record';
import { whichOfTwo } from '../readings';
import { addDays, isZone } from '../zones';
import { localOf, recurrenceDates, rulesOf } from './ics-dates';
import { brokenProperty, oddDate, parseable } from './ics-lines';
import { firstOfTwo, mostFileChars, mostFileRows, type BrokenRow, type ImportedEvent, type ReadFile } from './import-row';

/** Thrown inside this file only: one event that cannot be read. */
class EventError extends Error {
  constructor(readonly field: string, message: string) {
    super(message);
  }
}

/**
 * Reads the events of an iCalendar file (RFC 5545). A recurrence becomes the performances of one record, with the
 * exceptions, extra, moved and cancelled dates it names; a day without a time is a date known to the day. Local times keep
 * their zone by TZID (or by the place that its VTIMEZONE names); UTC and floating times are put in `zone`. A broken event
 * is reported with its line and the rest goes on. A file may hold several calendars.
 */
export function readEventsIcs(text: string, zone: string): ReadFile {
  if (text.length > mostFileChars) return { ok: false, message: 'The file is larger than 5 MB. Split it and read the parts.' };
  if (!/^\s*BEGIN:VCALENDAR/i.test(text.replace(/^\ufeff/, ''))) {
    return { ok: false, message: 'This is no iCalendar file: it does not begin with BEGIN:VCALENDAR. Export it as .ics and read it again.' };
  }
  let calendars: ICAL.Component[];
  try {
    const parsed = ICAL.parse(parseable(text)) as unknown[];
    calendars = (Array.isArray(parsed[0]) ? parsed : [parsed]).map((one) => new ICAL.Component(one as never));
  } catch (error) {
    return { ok: false, message: `This iCalendar file is broken: ${error instanceof Error ? error.message : 'it cannot be read'}. Export it again.` };
  }
  const all = calendars.flatMap((one) => one.getAllSubcomponents('vevent'));
  if (all.length > mostFileRows) return { ok: false, message: `${all.length} events; at most ${mostFileRows} are read at once. Split the file.` };
  return readAll(all, lineNumbers(text), { zone, named: namedZones(calendars) });
}

/** What zone a time is in: the house's, where it says none; and the zones that the file itself names otherwise. */
interface Zones {
  zone: string;
  named: ReadonlyMap<string, string>;
}

/** Zones by the names that a file gives them, where its VTIMEZONE says which place is meant (X-LIC-LOCATION). */
function namedZones(calendars: readonly ICAL.Component[]): Map<string, string> {
  return new Map(calendars.flatMap((one) => one.getAllSubcomponents('vtimezone')).flatMap((one): [string, string][] => {
    const [name, place] = [one.getFirstPropertyValue('tzid'), one.getFirstPropertyValue('x-lic-location')].map((value) => String(value ?? ''));
    return name && place && isZone(place) ? [[name, place]] : [];
  }));
}

function readAll(all: ICAL.Component[], lines: number[], zones: Zones): ReadFile {
  const events: ImportedEvent[] = [];
  const broken: BrokenRow[] = [];
  const uidOf = (one: ICAL.Component) => String(one.getFirstPropertyValue('uid') ?? '');
  const moved = groupBy(all.filter((one) => one.hasProperty('recurrence-id')), uidOf);
  const masters = new Set(all.filter((one) => !one.hasProperty('recurrence-id')).map(uidOf));
  all.forEach((component, i) => {
    const line = lines[i] ?? 0;
    try {
      if (component.hasProperty('recurrence-id')) {
        if (!masters.has(uidOf(component))) refuse('RECURRENCE-ID', 'It changes one date of an event that is not in this file. Export the whole event.');
        return;
      }
      events.push(readEvent(component, moved.get(uidOf(component)) ?? [], line, zones));
    } catch (error) {
      const field = error instanceof EventError ? error.field : 'VEVENT';
      broken.push({ line, field, message: error instanceof Error ? error.message : 'it cannot be read' });
    }
  });
  return { ok: true, events, broken };
}

/** Line of each BEGIN:VEVENT, in order. */
function lineNumbers(text: string): number[] {
  return text.split(/\r?\n/).flatMap((line, i) => (/^BEGIN:VEVENT/i.test(line) ? [i + 1] : []));
}

function readEvent(component: ICAL.Component, moved: ICAL.Component[], line: number, zones: Zones): ImportedEvent {
  const { zone } = zones;
  const odd = [component, ...moved].map(oddDate).find((one) => one !== null);
  if (odd) refuse(odd.field, odd.message);
  const brokenLine = component.getFirstPropertyValue(brokenProperty);
  if (brokenLine !== null) refuse('VEVENT', `“${String(brokenLine)}” is no line of an iCalendar file: it has no colon. Export it again.`);
  const text = (name: string) => String(component.getFirstPropertyValue(name) ?? '').trim();
  const uid = text('uid') || refuse('UID', 'The event has no UID, so it could not be known again. Export it with UIDs.');
  const title = text('summary') || refuse('SUMMARY', 'The event has no title (SUMMARY). Give it one.');
  if (/^cancelled$/i.test(text('status'))) refuse('STATUS', 'The event is cancelled there and was left out.');
  const start = component.getFirstProperty('dtstart') ?? refuse('DTSTART', 'The event has no start (DTSTART). Give it one.');
  const notes: string[] = [];
  const performances = readPerformances(component, moved, zoneOf(start, zones), uid, notes);
  const content: RecordContent = {
    ...newRecord('2027-01-01', zone, () => 'x'),
    title: title.slice(0, recordLimits.title),
    stage: isTentative(component) ? 'pencilled' : 'confirmed',
    kind: kindOf(component),
    performances,
    tickets: newTickets({ mode: 'free entry' }),
    rule: rulesOf(component)[0]?.slice(0, 500) ?? null,
    words: newWords({ full: plainToHtml(text('description')) }),
    publicity: { visibility: /^public$/i.test(text('class')) ? 'public' : 'private', announce: null },
  };
  return { origin: `ics:${uid}`, line, content, venue: venueOf(text('location'), performances[0]?.zone ?? zone), notes };
}

/** What is said of one date alone. */
interface Status {
  cancelled: boolean;
  pencilled: boolean;
}

const endsEarly = 'It ends before it begins there: the end was left out.';

/** Held, and not confirmed yet (RFC 5545, section 3.8.1.11). */
function isTentative(component: ICAL.Component): boolean {
  return /^tentative$/i.test(String(component.getFirstPropertyValue('status') ?? '').trim());
}

function refuse(field: string, message: string): never {
  throw new EventError(field, message);
}

/** The zone of a time: its TZID, whole or after a prefix of the file's own, or the place that is named for it; else the house's. */
function zoneOf(property: ICAL.Property, { zone, named }: Zones): string {
  const tzid = property.getFirstParameter('tzid');
  if (!tzid) return zone;
  const tail = /[A-Z][A-Za-z]+\/[A-Z][A-Za-z_/-]+$/.exec(tzid)?.[0] ?? '';
  const known = [tzid, named.get(tzid) ?? '', tail].find((one) => one !== '' && isZone(one));
  return known ?? refuse('DTSTART', `The zone ${quoted(tzid)} is not in the IANA zone data. Use a zone such as Europe/Dublin.`);
}

function readPerformances(component: ICAL.Component, moved: ICAL.Component[], zone: string, uid: string, notes: string[]): Performance[] {
  // Its own exceptions are named: else every exception of the calendar, of whatever event, would be laid on it.
  const event = new ICAL.Event(component, { strictExceptions: true, exceptions: moved });
  if (!(event.startDate instanceof ICAL.Time)) return refuse('DTSTART', 'The start cannot be read. Write it like 20270204T193000.');
  const make = (start: ICAL.Time, end: ICAL.Time | null, recurrence: string, { cancelled, pencilled }: Status = { cancelled: false, pencilled: false }): Performance => {
    const at = localOf(start, zone);
    const until = end === null || end.compare(start) <= 0 ? null : localOf(end, zone);
    if (end !== null && end.compare(start) < 0 && !notes.includes(endsEarly)) notes.push(endsEarly);
    const id = `p${fingerprint([uid, recurrence])}`;
    const turn = cancelled ? ('cancelled' as const) : ('none' as const);
    // The end of days is the day after the last (RFC 5545, section 3.6.1).
    const last = start.isDate && until !== null ? addDays(until.date, -1) : (until?.date ?? at.date);
    if (start.isDate) return newPerformance(id, at.date, zone, { doors: null, start: null, precision: 'day', lastDate: last > at.date ? last : null, turn, pencilled });
    const days = Math.round((Date.parse(last) - Date.parse(at.date)) / 86_400_000);
    return firstOfTwo(newPerformance(id, at.date, zone, { doors: null, start: at.time, end: until?.time ?? null, endsNextDay: days === 1, lastDate: days > 1 ? last : null, repeat: repeatOf(start, zone) ?? (end && repeatOf(end, zone)), turn, pencilled }), notes);
  };
  const recurs = rulesOf(component).length > 0 || component.hasProperty('rdate');
  return recurs ? expand(event, zone, make, notes) : [make(event.startDate, endOf(event), event.startDate.toString())];
}

/** Which of two equal readings a moment in UTC is; `null`: it comes once, or is not said in UTC. */
function repeatOf(time: ICAL.Time, zone: string): Performance['repeat'] {
  return time.zone === ICAL.Timezone.utcTimezone && !time.isDate ? whichOfTwo(time.toUnixTime() * 1000, zone) : null;
}

function endOf(event: ICAL.Event): ICAL.Time | null {
  return event.component.hasProperty('dtend') || event.component.hasProperty('duration') ? event.endDate : null;
}

function expand(event: ICAL.Event, zone: string, make: (start: ICAL.Time, end: ICAL.Time | null, recurrence: string, status: Status) => Performance, notes: string[]): Performance[] {
  const found = recurrenceDates(event.component, event.startDate, zone);
  if (!found.ok) return refuse('RRULE', found.error);
  notes.push(...found.value.notes);
  return found.value.times.map((at) => {
    const { startDate, endDate, recurrenceId, item } = event.getOccurrenceDetails(at);
    const cancelled = /^cancelled$/i.test(String(item.component.getFirstPropertyValue('status') ?? ''));
    const pencilled = item.component !== event.component && isTentative(item.component);
    return make(startDate, endOf(item) === null ? null : endDate, recurrenceId.toString(), { cancelled, pencilled });
  });
}

function kindOf(component: ICAL.Component): RecordContent['kind'] {
  const words = component.getAllProperties('categories').flatMap((one) => one.getValues().map(String)).join(' ').toLowerCase();
  if (/workshop|making/.test(words)) return 'workshop';
  if (/reading|spoken/.test(words)) return 'reading';
  if (/film|screen/.test(words)) return 'film';
  if (/late|club/.test(words)) return 'club night';
  return /talk|lecture/.test(words) ? 'talk' : 'concert';
}

/** `Room, Venue, Town` or `Venue, Town` or `Venue`. */
function venueOf(location: string, zone: string): ImportedEvent['venue'] {
  const parts = location.split(',').map((part) => part.trim()).filter((part) => part !== '');
  if (parts.length === 0) return null;
  const town = parts.length > 1 ? (parts[parts.length - 1] ?? '') : '';
  const name = parts.length > 2 ? (parts[1] ?? '') : (parts[0] ?? '');
  return { name, address: '', town, country: '', zone, room: parts.length > 2 ? (parts[0] ?? '') : '', capacity: null };
}
