import { groupBy } from '../group-by';
import ICAL from 'ical.js';
import { fingerprint } from '../hash';
import { plainToHtml } from '../markup';
import { newPerformance, newRecord, newTickets, newWords } from '../new-record';
import { recordLimits, type Performance, type RecordContent } from '../record';
import { isZone, lastZoneYear, toLocal, type LocalTime } from '../zones';
import { mostFileChars, mostFileRows, type BrokenRow, type ImportedEvent, type ReadFile } from './import-row';

/** A rule without an end is read this far, in days. */
const openRuleDays = 366;

/** Thrown inside this file only: one event that cannot be read. */
class EventError extends Error {
  constructor(readonly field: string, message: string) {
    super(message);
  }
}

/**
 * Reads the events of an iCalendar file (RFC 5545). A recurrence becomes the performances of one record, with the
 * exceptions, extra and moved dates it names. Local times keep their zone by TZID; UTC and floating times are put in
 * `zone`. A broken event is reported with its line and the rest goes on.
 */
export function readEventsIcs(text: string, zone: string): ReadFile {
  if (text.length > mostFileChars) return { ok: false, message: 'The file is larger than 5 MB. Split it and read the parts.' };
  if (!/^\s*BEGIN:VCALENDAR/i.test(text.replace(/^\ufeff/, ''))) {
    return { ok: false, message: 'This is no iCalendar file: it does not begin with BEGIN:VCALENDAR. Export it as .ics and read it again.' };
  }
  let calendar: ICAL.Component;
  try {
    const parsed = ICAL.parse(text.replace(/^\ufeff/, '')) as unknown[];
    calendar = new ICAL.Component((Array.isArray(parsed[0]) ? parsed[0] : parsed) as never);
  } catch (error) {
    return { ok: false, message: `This iCalendar file is broken: ${error instanceof Error ? error.message : 'it cannot be read'}. Export it again.` };
  }
  const all = calendar.getAllSubcomponents('vevent');
  if (all.length > mostFileRows) return { ok: false, message: `${all.length} events; at most ${mostFileRows} are read at once. Split the file.` };
  return readAll(all, lineNumbers(text), zone);
}

function readAll(all: ICAL.Component[], lines: number[], zone: string): ReadFile {
  const events: ImportedEvent[] = [];
  const broken: BrokenRow[] = [];
  const uidOf = (one: ICAL.Component) => String(one.getFirstPropertyValue('uid') ?? '');
  const moved = groupBy(all.filter((one) => one.hasProperty('recurrence-id')), uidOf);
  all.forEach((component, i) => {
    if (component.hasProperty('recurrence-id')) return;
    const line = lines[i] ?? 0;
    try {
      events.push(readEvent(component, moved.get(uidOf(component)) ?? [], line, zone));
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

function readEvent(component: ICAL.Component, moved: ICAL.Component[], line: number, zone: string): ImportedEvent {
  const text = (name: string) => String(component.getFirstPropertyValue(name) ?? '').trim();
  const uid = text('uid') || refuse('UID', 'The event has no UID, so it could not be known again. Export it with UIDs.');
  const title = text('summary') || refuse('SUMMARY', 'The event has no title (SUMMARY). Give it one.');
  if (/^cancelled$/i.test(text('status'))) refuse('STATUS', 'The event is cancelled there and was left out.');
  const start = component.getFirstProperty('dtstart') ?? refuse('DTSTART', 'The event has no start (DTSTART). Give it one.');
  const notes: string[] = [];
  const performances = readPerformances(component, moved, zoneOf(start, zone), uid, notes);
  const content: RecordContent = {
    ...newRecord('2027-01-01', zone, () => 'x'),
    title: title.slice(0, recordLimits.title),
    kind: kindOf(component),
    performances,
    tickets: newTickets({ mode: 'free entry' }),
    rule: ruleOf(component),
    words: newWords({ full: plainToHtml(text('description')) }),
    publicity: { visibility: /^public$/i.test(text('class')) ? 'public' : 'private', announce: null },
  };
  return { origin: `ics:${uid}`, line, content, venue: venueOf(text('location'), performances[0]?.zone ?? zone), notes };
}

function refuse(field: string, message: string): never {
  throw new EventError(field, message);
}

/** The zone of a time: its TZID, which must be in the zone data; else the house's. */
function zoneOf(property: ICAL.Property, fallback: string): string {
  const tzid = property.getFirstParameter('tzid');
  if (!tzid) return fallback;
  return isZone(tzid) ? tzid : refuse('DTSTART', `The zone “${tzid}” is not in the IANA zone data. Use a zone such as Europe/Dublin.`);
}

function readPerformances(component: ICAL.Component, moved: ICAL.Component[], zone: string, uid: string, notes: string[]): Performance[] {
  const event = new ICAL.Event(component, { strictExceptions: true });
  if (!(event.startDate instanceof ICAL.Time)) return refuse('DTSTART', 'The start cannot be read. Write it like 20270204T193000.');
  moved.forEach((one) => event.relateException(one));
  const make = (start: ICAL.Time, end: ICAL.Time | null, recurrence: string): Performance => {
    const at = localOf(start, zone);
    const until = end === null || end.compare(start) <= 0 ? null : localOf(end, zone);
    return newPerformance(`p${fingerprint([uid, recurrence])}`, at.date, zone, { doors: null, start: at.time, end: until?.time ?? null, endsNextDay: until !== null && until.date !== at.date });
  };
  if (!event.isRecurring()) return [make(event.startDate, endOf(event), event.startDate.toString())];
  return expand(event, make, notes);
}

function endOf(event: ICAL.Event): ICAL.Time | null {
  return event.component.hasProperty('dtend') || event.component.hasProperty('duration') ? event.endDate : null;
}

function expand(event: ICAL.Event, make: (start: ICAL.Time, end: ICAL.Time | null, recurrence: string) => Performance, notes: string[]): Performance[] {
  const performances: Performance[] = [];
  const limit = event.startDate.clone();
  limit.adjust(openRuleDays, 0, 0, 0);
  const rule = event.component.getFirstPropertyValue('rrule');
  const endless = rule instanceof ICAL.Recur && rule.isFinite() === false;
  const dates = event.iterator();
  for (let at = dates.next() as ICAL.Time | null; at; at = dates.next() as ICAL.Time | null) {
    if (at.year > lastZoneYear) break;
    if (endless && at.compare(limit) > 0) {
      notes.push('The rule has no end: one year of it was read.');
      break;
    }
    if (performances.length >= recordLimits.performances) {
      refuse('RRULE', `The rule makes more than ${recordLimits.performances} dates. End it earlier, or split it.`);
    }
    const { startDate, endDate, recurrenceId } = event.getOccurrenceDetails(at);
    performances.push(make(startDate, endOf(event) === null ? null : endDate, recurrenceId.toString()));
  }
  return performances.length > 0 ? performances : refuse('RRULE', 'The rule gives no date at all. Put it right and read it again.');
}

/** Wall-clock reading of an iCalendar time; a UTC time is put in the zone. */
function localOf(time: ICAL.Time, zone: string): LocalTime {
  if (time.isDate) return refuse('DTSTART', 'The event has a day but no time of day. Give it a start.');
  const pad = (n: number) => String(n).padStart(2, '0');
  const flat = { date: `${time.year}-${pad(time.month)}-${pad(time.day)}`, time: `${pad(time.hour)}:${pad(time.minute)}` };
  return time.zone === ICAL.Timezone.utcTimezone ? toLocal(Date.parse(`${flat.date}T${flat.time}:00Z`), zone) : flat;
}

/** The rule as text, kept so that an export says it again. */
function ruleOf(component: ICAL.Component): string | null {
  const rule = component.getFirstPropertyValue('rrule');
  return rule instanceof ICAL.Recur ? rule.toString().slice(0, 500) : null;
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
