import ICAL from 'ical.js';
import { cutToFit } from '../base/graphemes';
import { groupBy } from '../base/group-by';
import { putOff } from '../facts/facts';
import { fingerprint } from '../base/hash';
import { plainToHtml } from '../words/markup';
import { newPerformance, newRecord, newWords } from '../record/new-record';
import { quoted } from '../base/quoted';
import type { Performance, RecordContent } from '../record/record';
import { recordLimits, eventTypes, mostCategories } from '../record/choices';
import { whichOfTwo } from '../dates/readings';
import { webAddress } from '../base/scalars';
import { addDays, isZone } from '../base/zones';
import { inOneClock } from './ics-clock';
import { icsBlocks, type IcsBlock } from './ics-blocks';
import { localOf, recurrenceDates, rulesOf } from './ics-dates';
import { brokenProperty, oddDate, parseable } from './ics-lines';
import { placeOfLocation } from './ics-place';
import {
  bareContext,
  firstOfTwo,
  fileLimits,
  gathered,
  placed,
  settled,
  type FilePart,
  type ImportedEvent,
  type ReadFile,
  type ReadContext,
} from './import-row';
import { type FileNote } from './file-note';

/** Thrown inside this file only: one event that cannot be read. */
class EventError extends Error {
  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message);
  }
}

/**
 * Reads an iCalendar file, whole: see `icsParts`. UTC and floating times whose place does not tell a zone are put in
 * `zone`.
 */
export function readEventsIcs(text: string, zone: string | null): ReadFile {
  return gathered(icsParts(text, bareContext(zone)));
}

/**
 * Reads the events of an iCalendar file (RFC 5545), each by itself. A recurrence becomes the performances of one
 * record, with the exceptions, extra, moved and cancelled dates it names; a day without a time is a date known to the
 * day. Local times keep their zone by TZID (or by the place that its VTIMEZONE names); UTC and floating times are put
 * in the zone that the calendar names, that of the place, or the one that was chosen. A broken event is told with its
 * line and the rest goes on. A file may hold several calendars. `skip`: events, by their line, that are passed over.
 */
export function* icsParts(
  text: string,
  context: ReadContext,
  skip: (line: number) => boolean = () => false,
): Generator<FilePart> {
  const bare = text.replace(/^\ufeff/, '');
  if (!/^\s{0,1000}BEGIN:VCALENDAR/i.test(bare)) {
    return yield {
      kind: 'refused',
      message:
        'This is no iCalendar file: it does not begin with BEGIN:VCALENDAR. Export it as .ics and read it again.',
    };
  }
  const { blocks, zones, zone } = icsBlocks(bare);
  const known: Zones = { context, whole: isZone(zone) ? zone : '', named: namedZones(zones) };
  const moved = groupBy(
    blocks.filter((block) => block.moves),
    (block) => block.uid,
  );
  const named = new Set(blocks.filter((block) => !block.moves).map((block) => block.uid));
  /** Lines of the events that were read, by their id. */
  const masters = new Map<string, number>();
  for (const [i, block] of blocks.entries()) {
    if (i >= fileLimits.rows)
      return yield {
        kind: 'note',
        line: block.line,
        note: {
          code: 'too-many-rows',
          text: `From line ${block.line} on nothing was read: at most ${fileLimits.rows} events are read of one file. Split it and read the rest.`,
        },
      };
    if (skip(block.line)) continue;
    yield { kind: 'at', line: block.line, place: i, of: blocks.length };
    try {
      if (block.problem !== null) refuse('VEVENT', block.problem);
      if (block.moves) {
        if (!named.has(block.uid))
          refuse('RECURRENCE-ID', 'It changes one date of an event that is not in this file. Export the whole event.');
        continue;
      }
      const first = masters.get(block.uid);
      if (first !== undefined)
        refuse('UID', `It has the same UID as the event of line ${first}. Give each event its own, or take one out.`);
      yield* settled(
        readEvent(
          componentOf(block),
          (moved.get(block.uid) ?? [])
            .slice(0, recordLimits.performances)
            .filter((block) => block.problem === null)
            .map(componentOf),
          block.line,
          known,
        ),
        propertyOf,
      );
      masters.set(block.uid, block.line);
    } catch (error) {
      const field = error instanceof EventError ? error.field : 'VEVENT';
      yield {
        kind: 'broken',
        row: {
          line: block.line,
          field,
          code: `${field.toLowerCase()}-unread`,
          text: error instanceof Error ? sentence(error.message) : 'The event cannot be read. Export it again.',
        },
      };
    }
  }
}

const sentence = (text: string) => (/[.!]$/.test(text) ? text : `The event cannot be read: ${text}.`);

function componentOf(block: IcsBlock): ICAL.Component {
  const parsed = ICAL.parse(
    `BEGIN:VCALENDAR\r\n${parseable(block.text)}${block.text.endsWith('\n') ? '' : '\r\n'}END:VCALENDAR\r\n`,
  ) as unknown[];
  const found = new ICAL.Component(parsed as never).getFirstSubcomponent('vevent');
  return found ?? refuse('VEVENT', 'The event cannot be read. Export it again.');
}

/** The property that a field of the record is read from. */
function propertyOf(path: string): string {
  const [head = ''] = path.split('.');
  if (head === 'title') return 'SUMMARY';
  if (head === 'venue') return 'LOCATION';
  if (head === 'words') return 'DESCRIPTION';
  return head === 'performances' ? 'DTSTART' : 'VEVENT';
}

/** What zone a time is in: those that the calendar and the file name, and what else is known. */
interface Zones {
  context: ReadContext;
  /** The zone of the whole calendar; empty where it says none. */
  whole: string;
  named: ReadonlyMap<string, string>;
}

/** Zones by the names that a file gives them, where its VTIMEZONE says which place is meant (X-LIC-LOCATION). */
function namedZones(tables: readonly string[]): Map<string, string> {
  return new Map(
    tables.flatMap((table): [string, string][] => {
      const value = (name: string) =>
        new RegExp(`^${name}(?:;[^:\\r\\n]{0,200})?:(.{0,200}?)\\r?$`, 'im').exec(table)?.[1]?.trim() ?? '';
      const [name, place] = [value('TZID'), value('X-LIC-LOCATION')];
      return name && place && isZone(place) ? [[name, place]] : [];
    }),
  );
}

function readEvent(component: ICAL.Component, moved: ICAL.Component[], line: number, zones: Zones): ImportedEvent {
  const odd = [component, ...moved].map(oddDate).find((candidate) => candidate !== null);
  if (odd) refuse(odd.field, odd.message);
  const brokenLine = component.getFirstPropertyValue(brokenProperty);
  if (brokenLine !== null)
    refuse('VEVENT', `“${String(brokenLine)}” is no line of an iCalendar file: it has no colon. Export it again.`);
  const text = (name: string) => String(component.getFirstPropertyValue(name) ?? '').trim();
  const uid =
    text('uid') || refuse('UID', 'The event has no UID, so it could not be known again. Export it with UIDs.');
  const waits = isPutOff(component);
  const title =
    text('summary').slice(waits ? putOff.length : 0) ||
    refuse('SUMMARY', 'The event has no title (SUMMARY). Give it one.');
  if (/^cancelled$/i.test(text('status'))) refuse('STATUS', 'The event is cancelled there and was left out.');
  const start =
    component.getFirstProperty('dtstart') ?? refuse('DTSTART', 'The event has no start (DTSTART). Give it one.');
  const notes: FileNote[] = [];
  const location = text('location');
  const isLink = /^https?:\/\//i.test(location) && webAddress.safeParse(location).success;
  const place = isLink ? null : placeOfLocation(location);
  const found = placed(
    zoneOf(start, zones),
    { venue: place?.name ?? '', town: place?.town ?? '', country: place?.country ?? '' },
    zones.context,
    'DTSTART',
  );
  if (found.note) notes.push(found.note);
  const zone = found.zone ?? 'UTC';
  const begins = start.getFirstValue();
  const inUtc = begins instanceof ICAL.Time && begins.zone === ICAL.Timezone.utcTimezone;
  if (begins instanceof ICAL.Time)
    inOneClock(component, moved, {
      start: begins.clone(),
      frame: inUtc ? 'UTC' : zone,
      floating: zone,
      zoneOf: (property) => zoneOf(property, { ...zones, whole: '' }),
      notes,
    });
  const { performances, places } = readPerformances(component, moved, zone, uid, notes);
  const content: RecordContent = {
    ...newRecord('2027-01-01', zone, () => 'x'),
    title,
    stage: isTentative(component) && !waits ? 'pencilled' : 'confirmed',
    ...kindsOf(component, notes),
    performances,
    // An address in place of a venue may be where one joins: it is kept as the one that is never shown.
    online: isLink ? { keep: null, join: location } : null,
    rule: rulesOf(component)[0]?.slice(0, 500) ?? null,
    words: newWords({ full: plainToHtml(text('description').slice(0, 4 * recordLimits.full)) }),
    publicity: { visibility: /^public$/i.test(text('class')) ? 'public' : 'private', announce: null },
  };
  if (content.publicity.visibility === 'public')
    notes.push({
      code: 'entry-unsaid',
      text: 'A calendar does not say how one gets in, or for how much: say it under Tickets.',
    });
  const venue = place === null ? null : { ...place, address: place.address, zone, capacity: null, point: found.point };
  return {
    origin: `ics:${uid}`,
    writtenFrom: null,
    line,
    content,
    venue,
    ...(Object.keys(places).length > 0 ? { places } : {}),
    notes,
    ask: found.ask && { ...found.ask, inUtc },
  };
}

/** What is said of one date alone. */
interface Status {
  turn: Performance['turn'];
  pencilled: boolean;
}

const endsEarly: FileNote = { code: 'end-early', text: 'It ends before it begins there: the end was left out.' };

/** Held, and not confirmed yet (RFC 5545, section 3.8.1.11). */
function isTentative(component: ICAL.Component): boolean {
  return /^tentative$/i.test(String(component.getFirstPropertyValue('status') ?? '').trim());
}

/** Put off without another date: as we write it ourselves, held and said so before its title. */
function isPutOff(component: ICAL.Component): boolean {
  return (
    isTentative(component) &&
    String(component.getFirstPropertyValue('summary') ?? '')
      .trim()
      .startsWith(putOff)
  );
}

function refuse(field: string, message: string): never {
  throw new EventError(field, message);
}

/**
 * The zone that a time says: its TZID, whole or after a prefix of the file's own, or the place that is named for it, or
 * that of its calendar; empty where none is said.
 */
function zoneOf(property: ICAL.Property, { whole, named }: Pick<Zones, 'whole' | 'named'>): string {
  const tzid = property.getFirstParameter('tzid');
  if (!tzid) return whole;
  const tail = /[A-Z][A-Za-z]{1,30}\/[A-Z][A-Za-z_/-]{1,60}$/.exec(tzid.slice(-120))?.[0] ?? '';
  const known = [tzid, named.get(tzid) ?? '', tail].find((candidate) => candidate !== '' && isZone(candidate));
  return (
    known ??
    refuse(
      property.name.toUpperCase(),
      `The zone ${quoted(tzid)} is not in the IANA zone data. Use a zone such as Europe/Dublin.`,
    )
  );
}

function readPerformances(
  component: ICAL.Component,
  moved: ICAL.Component[],
  zone: string,
  uid: string,
  notes: FileNote[],
): { performances: Performance[]; places: Places } {
  const places: Places = {};
  // Its own exceptions are named: else every exception of the calendar, of whatever event, would be laid on it.
  const event = new ICAL.Event(component, { strictExceptions: true, exceptions: moved });
  if (!(event.startDate instanceof ICAL.Time))
    return refuse('DTSTART', 'The start cannot be read. Write it like 20270204T193000.');
  const make = (
    start: ICAL.Time,
    end: ICAL.Time | null,
    recurrence: string,
    { turn, pencilled }: Status = { turn: isPutOff(component) ? 'postponed' : 'none', pencilled: false },
  ): Performance => {
    const at = localOf(start, zone);
    const until = end === null || end.compare(start) <= 0 ? null : localOf(end, zone);
    if (end !== null && end.compare(start) < 0 && !notes.includes(endsEarly)) notes.push(endsEarly);
    const id = `p${fingerprint([uid, recurrence])}`;
    // The end of days is the day after the last (RFC 5545, section 3.6.1).
    const last = start.isDate && until !== null ? addDays(until.date, -1) : (until?.date ?? at.date);
    if (start.isDate)
      return newPerformance(id, at.date, zone, {
        doors: null,
        start: null,
        precision: 'day',
        lastDate: last > at.date ? last : null,
        turn,
        pencilled,
      });
    const days = Math.round((Date.parse(last) - Date.parse(at.date)) / 86_400_000);
    return firstOfTwo(
      newPerformance(id, at.date, zone, {
        doors: null,
        start: at.time,
        end: until?.time ?? null,
        endsNextDay: days === 1,
        lastDate: days > 1 ? last : null,
        repeat: repeatOf(start, zone) ?? (end && repeatOf(end, zone)),
        turn,
        pencilled,
      }),
      notes,
    );
  };
  const recurs = rulesOf(component).length > 0 || component.hasProperty('rdate');
  const performances = recurs
    ? expand(event, zone, notes, (start, end, recurrence, { own, ...status }) => {
        const made = make(start, end, recurrence, status);
        return own === null ? made : withOwn(made, own, component, { places, notes });
      })
    : [make(event.startDate, endOf(event), event.startDate.toString())];
  return { performances, places };
}

/** Places of single dates, by the performance. */
type Places = NonNullable<ImportedEvent['places']>;

/** Longest note on a date, in graphemes. */
const noteChars = 120;

/** A date with the title and the place that its exception says for itself. */
function withOwn(
  made: Performance,
  own: ICAL.Component,
  whole: ICAL.Component,
  { places, notes }: { places: Places; notes: FileNote[] },
): Performance {
  const text = (component: ICAL.Component, name: string) => String(component.getFirstPropertyValue(name) ?? '').trim();
  const titleOf = (component: ICAL.Component) =>
    text(component, 'summary').slice(isPutOff(component) ? putOff.length : 0);
  const [title, place] = [titleOf(own), text(own, 'location')];
  const [usual, there] = [text(whole, 'location'), place].map((words) =>
    /^https?:/i.test(words) ? null : placeOfLocation(words),
  );
  if (there && place !== text(whole, 'location')) {
    // Another room of the same venue needs no venue of its own; a town that is not said is the usual one.
    const venue = there.name === usual?.name ? '' : there.name;
    places[made.id] = { venue, town: there.town || (usual?.town ?? ''), room: there.room, setUp: '' };
  }
  if (title === '' || title === titleOf(whole)) return made;
  const note = cutToFit(title, noteChars);
  if (note !== title)
    notes.push({ code: 'note-cut', text: `The title of ${made.date} was cut to ${noteChars} characters.` });
  return { ...made, note };
}

/** Which of two equal readings a moment in UTC is; `null`: it comes once, or is not said in UTC. */
function repeatOf(time: ICAL.Time, zone: string): Performance['repeat'] {
  return time.zone === ICAL.Timezone.utcTimezone && !time.isDate ? whichOfTwo(time.toUnixTime() * 1000, zone) : null;
}

function endOf(event: ICAL.Event): ICAL.Time | null {
  return event.component.hasProperty('dtend') || event.component.hasProperty('duration') ? event.endDate : null;
}

function expand(
  event: ICAL.Event,
  zone: string,
  notes: FileNote[],
  make: (
    start: ICAL.Time,
    end: ICAL.Time | null,
    recurrence: string,
    status: Status & { own: ICAL.Component | null },
  ) => Performance,
): Performance[] {
  const found = recurrenceDates(event.component, event.startDate, zone);
  if (!found.ok) return refuse('RRULE', found.error);
  notes.push(...found.value.notes);
  return found.value.times.map((at) => {
    const { startDate, endDate, recurrenceId, item } = event.getOccurrenceDetails(at);
    const own = item.component;
    const cancelled = /^cancelled$/i.test(String(own.getFirstPropertyValue('status') ?? ''));
    const turn = cancelled ? 'cancelled' : isPutOff(own) ? 'postponed' : 'none';
    const pencilled = own !== event.component && isTentative(own) && turn === 'none';
    return make(startDate, endOf(item) === null ? null : endDate, recurrenceId.toString(), {
      turn,
      pencilled,
      own: own === event.component ? null : own,
    });
  });
}

/** The kinds of event that a calendar says: those that are known by name, else what its words sound like. */
function kindsOf(
  component: ICAL.Component,
  notes: FileNote[],
): Pick<RecordContent, 'eventType' | 'categories' | 'tags'> {
  const names = component
    .getAllProperties('categories')
    .flatMap((property) => property.getValues().map((value) => String(value).trim()))
    .filter((name) => name !== '');
  const isKind = (name: string) => eventTypes.some((type) => type === name.toLowerCase());
  const [eventType, ...more] = names.filter(isKind).map((name) => name.toLowerCase());
  if (eventType !== undefined)
    return {
      eventType,
      categories: [...new Set(more)].slice(0, mostCategories),
      tags: names.filter((name) => !isKind(name) && name.length <= 40).slice(0, 20),
    };
  return { eventType: kindBySound(names.join(' ').slice(0, 2_000).toLowerCase(), notes), categories: [], tags: [] };
}

function kindBySound(words: string, notes: FileNote[]): RecordContent['eventType'] {
  if (/workshop|making/.test(words)) return 'workshop';
  if (/reading|spoken/.test(words)) return 'reading';
  if (/film|screen/.test(words)) return 'film';
  if (/late|club/.test(words)) return 'club night';
  if (/talk|lecture/.test(words)) return 'talk';
  if (!/concert|music|gig/.test(words))
    notes.push({
      code: 'kind-assumed',
      text: 'The calendar does not say what sort of event it is: it was taken for a concert.',
    });
  return 'concert';
}
