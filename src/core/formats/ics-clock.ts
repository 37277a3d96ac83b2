import ICAL from 'ical.js';
import { instantOf, toLocal, type LocalTime } from '../base/zones';
import type { FileNote } from './file-note';

/** The zone that a property's TZID says; empty where it says none. Throws where it is unknown. */
type ZoneOf = (property: ICAL.Property) => string;

/** What the times of an event are brought to. */
interface Clock {
  /** The start, which all others are to be like. */
  start: ICAL.Time;
  /** The zone of the start: `UTC` where it is said in UTC. */
  frame: string;
  /** The zone of times that say none (RFC 5545, section 3.3.5, form 1). */
  floating: string;
  zoneOf: ZoneOf;
  notes: FileNote[];
}

const flat = (time: ICAL.Time): LocalTime => {
  const pad = (n: number) => String(n).padStart(2, '0');
  return { date: `${time.year}-${pad(time.month)}-${pad(time.day)}`, time: `${pad(time.hour)}:${pad(time.minute)}` };
};

/** A time like `start`, at another reading of its clock. */
export function likeStart(start: ICAL.Time, { date, time }: LocalTime): ICAL.Time {
  const made = start.clone();
  const [year = 1970, month = 1, day = 1] = date.split('-').map(Number);
  const [hour = 0, minute = 0] = time.split(':').map(Number);
  Object.assign(made, { year, month, day, ...(start.isDate ? {} : { hour, minute, second: 0 }) });
  return made;
}

/** A time of a property in the clock of the start; one that does not exist where it is said stays as it is read. */
function brought(time: ICAL.Time, property: ICAL.Property, { start, frame, floating, zoneOf }: Clock): ICAL.Time {
  if (time.isDate || start.isDate) return time;
  const own = time.zone === ICAL.Timezone.utcTimezone ? 'UTC' : zoneOf(property) || floating;
  const said = flat(time);
  const instant = own === frame ? null : instantOf(said, own);
  return likeStart(start, instant === null ? said : toLocal(instant, frame));
}

/** Puts values in place of those of a property, in the clock of the start. */
function put(property: ICAL.Property, values: readonly ICAL.Time[], { start }: Clock): void {
  property.removeParameter('tzid');
  property.resetType(start.isDate || values[0]?.isDate === true ? 'date' : 'date-time');
  if (property.isMultiValue) property.setValues([...values]);
  else if (values[0]) property.setValue(values[0]);
}

const timesOf = (property: ICAL.Property): ICAL.Time[] =>
  property.getValues().flatMap((value): ICAL.Time[] => {
    if (value instanceof ICAL.Time) return [value];
    return value instanceof ICAL.Period && value.start instanceof ICAL.Time ? [value.start] : [];
  });

const endByDay: FileNote = {
  code: 'end-by-day',
  text: 'Its end is a day and its start a time, or the other way round: the end was left out.',
};

/** The end of a component in the clock of the start; one of another sort than its start is left out, and told. */
function bringEnd(component: ICAL.Component, begins: ICAL.Time, clock: Clock): void {
  const property = component.getFirstProperty('dtend');
  const [end] = property ? timesOf(property) : [];
  if (!property || !end) return;
  if (end.isDate === begins.isDate) return put(property, [brought(end, property, clock)], clock);
  component.removeProperty('dtend');
  if (!clock.notes.includes(endByDay)) clock.notes.push(endByDay);
}

/**
 * Brings all times of an event and of its exceptions to the clock of its start, each from the zone that it says itself
 * (RFC 5545, sections 3.2.19, 3.8.2.2, 3.8.4.4, 3.8.5.1, 3.8.5.2): TZID, UTC, or none. What names an occurrence by its
 * day alone means the one of that day. Changes the components.
 */
export function inOneClock(component: ICAL.Component, moved: readonly ICAL.Component[], clock: Clock): void {
  const { start } = clock;
  const first = component.getFirstProperty('dtstart');
  bringEnd(component, start, clock);
  for (const name of ['rdate', 'exdate'])
    for (const property of component.getAllProperties(name))
      put(
        property,
        timesOf(property).map((time) => brought(time, property, clock)),
        clock,
      );
  if (first) put(first, [start.clone()], clock);
  for (const exception of moved) {
    const [id, begins] = [exception.getFirstProperty('recurrence-id'), exception.getFirstProperty('dtstart')];
    const [named] = id ? timesOf(id) : [];
    if (id && named)
      put(
        id,
        [
          named.isDate && !start.isDate
            ? likeStart(start, { ...flat(start), date: flat(named).date })
            : brought(named, id, clock),
        ],
        clock,
      );
    const [at] = begins ? timesOf(begins) : [];
    if (!begins || !at) continue;
    bringEnd(exception, at, clock);
    put(begins, [brought(at, begins, clock)], clock);
  }
}
