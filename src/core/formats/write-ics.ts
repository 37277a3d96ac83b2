import ICAL from 'ical.js';
import { putOff, turnWords, type Facts } from '../facts/facts';
import { whichOfTwo } from '../dates/readings';
import { withoutSecrets } from '../facts/secrets';
import { readMarkup, writePlain } from '../words/markup';
import type { PerformanceFacts } from '../facts/performance-facts';
import { fillTokens } from '../words/tokens';
import { addDays, offsetMinutes, toLocal, zoneChanges, type Instant } from '../base/zones';

/** One event to write: what it says at a revision. */
export interface EventToWrite {
  facts: Facts;
  /** Number of the newest revision, and when it was saved: SEQUENCE and LAST-MODIFIED. */
  revision: number;
  savedAt: Instant;
  /** Documents that anyone may see, with their bytes in base64. */
  attached?: readonly { name: string; type: string; base64: string }[];
  /** Address of the event's page, where it has one. */
  page: string | null;
}

interface Calendar {
  /** What the calendar is called. */
  name: string;
  now: Instant;
  /** The house's name in the ids of events. */
  domain: string;
}

const dayMs = 86_400_000;
// At most 75 octets a line (RFC 5545, section 3.1), the blank before a continued line among them.
ICAL.foldLength = 74;

/**
 * Events as an iCalendar file (RFC 5545): a VEVENT for each performance whose day is known, with an id that stays when
 * it moves, what anyone may see of its documents (ATTACH, section 3.8.1.1), and a VTIMEZONE for each zone, made from
 * the zone data that times are reckoned with. Performances whose day
 * is not known yet are left out.
 */
export function writeEventsIcs(events: readonly EventToWrite[], { name, now, domain }: Calendar): string {
  const calendar = new ICAL.Component(['vcalendar', [], []]);
  put(calendar, 'version', '2.0');
  put(calendar, 'prodid', '-//Nuntiax//Nuntiax//EN');
  put(calendar, 'name', name);
  // A calendar goes to anybody: what is for some alone is in none of its lines.
  const free = events.map((event) => ({ ...event, facts: withoutSecrets(event.facts, event.facts.secrets) }));
  const all = free.flatMap((event) =>
    [...event.facts.performances, ...event.facts.held]
      .filter((performance) => performance.precision === 'exact' || performance.precision === 'day')
      .map((performance) => ({ event, one: performance })),
  );
  const spans = new Map<string, { from: Instant; until: Instant }>();
  for (const { one } of all) {
    const span = spans.get(one.zone) ?? { from: one.at, until: one.at };
    spans.set(one.zone, { from: Math.min(span.from, one.at), until: Math.max(span.until, one.end ?? one.at) });
  }
  for (const [zone, { from, until }] of [...spans].sort(([a], [b]) => (a < b ? -1 : 1)))
    calendar.addSubcomponent(zoneTable(zone, from - 366 * dayMs, until + 366 * dayMs));
  for (const { event, one } of all) calendar.addSubcomponent(vevent(event, one, now, domain));
  return `${calendar.toString()}\r\n`;
}

function put(component: ICAL.Component, name: string, value: string): void {
  component.addPropertyWithValue(name, value);
}

function utc(at: Instant): ICAL.Time {
  return ICAL.Time.fromData({ ...partsOf(new Date(at).toISOString()), isDate: false }, ICAL.Timezone.utcTimezone);
}

function partsOf(text: string) {
  const [, year = 0, month = 1, day = 1, hour = 0, minute = 0] = (
    /^(\d+)-(\d+)-(\d+)T(\d+):(\d+)/.exec(text) ?? []
  ).map(Number);
  return { year, month, day, hour, minute, second: 0 };
}

/** A local reading under its zone's name. */
function local(component: ICAL.Component, name: string, at: Instant, zone: string): void {
  const { date, time } = toLocal(at, zone);
  // A local time that comes twice means the first (RFC 5545, section 3.3.5): the second is said in UTC.
  if (whichOfTwo(at, zone) === 'second') return void component.addPropertyWithValue(name, utc(at));
  const property = new ICAL.Property(name);
  property.setValue(ICAL.Time.fromData({ ...partsOf(`${date}T${time}`), isDate: false }));
  property.setParameter('tzid', zone);
  component.addProperty(property);
}

function day(component: ICAL.Component, name: string, date: string): void {
  component.addPropertyWithValue(name, ICAL.Time.fromDateString(date));
}

function vevent(
  { facts, revision, savedAt, page, attached = [] }: EventToWrite,
  performance: PerformanceFacts,
  now: Instant,
  domain: string,
): ICAL.Component {
  const event = new ICAL.Component('vevent');
  const filled = (text: string, kind: 'plain' | 'rich') => fillTokens(text, facts, performance, kind).text;
  put(event, 'uid', `${facts.code}-${performance.id}@${domain}`);
  event.addPropertyWithValue('dtstamp', utc(now));
  event.addPropertyWithValue('last-modified', utc(savedAt));
  event.addPropertyWithValue('sequence', String(revision - 1));
  if (performance.precision === 'day' || performance.start === null) {
    day(event, 'dtstart', performance.date);
    // The end of days is the day after the last.
    day(event, 'dtend', addDays(performance.lastDate ?? performance.date, 1));
  } else {
    local(event, 'dtstart', performance.start, performance.zone);
    if (performance.end !== null) local(event, 'dtend', performance.end, performance.zone);
  }
  const held = facts.pencilled || performance.pencilled;
  put(event, 'summary', `${performance.turn === 'postponed' && !held ? putOff : ''}${filled(facts.title, 'plain')}`);
  const place = performance.place;
  if (place)
    put(
      event,
      'location',
      [place.room, place.venue, place.town].filter((part) => part !== null && part !== '').join(', '),
    );
  if (place?.point) event.addPropertyWithValue('geo', [place.point.lat, place.point.lon] as never);
  const turn = turnWords([performance]);
  const words = [
    turn,
    performance.note,
    facts.subtitle,
    performance.lineUp === facts.title ? '' : performance.lineUp,
    filled(facts.teaser, 'plain'),
    writePlain(readMarkup(filled(facts.full, 'rich'))),
  ].filter((text) => text !== '');
  if (words.length > 0) put(event, 'description', words.join('\n\n'));
  put(
    event,
    'status',
    performance.turn === 'cancelled'
      ? 'CANCELLED'
      : held || performance.turn === 'postponed'
        ? 'TENTATIVE'
        : 'CONFIRMED',
  );
  put(event, 'class', facts.visibility === 'public' ? 'PUBLIC' : 'PRIVATE');
  const categories = new ICAL.Property('categories');
  categories.setValues([...facts.categories, ...facts.tags]);
  event.addProperty(categories);
  const link = performance.ownLink ?? (facts.link.kind === 'known' ? facts.link.href : page);
  if (link) put(event, 'url', link);
  for (const { name, type, base64 } of attached) {
    const file = new ICAL.Property('attach');
    file.setParameter('fmttype', type);
    file.setParameter('encoding', 'BASE64');
    file.setParameter('x-filename', name);
    file.resetType('binary');
    file.setValue(ICAL.Binary.fromString(base64));
    event.addProperty(file);
  }
  const { organiser } = facts;
  if (organiser !== null && organiser.mail !== '' && organiser.shown.includes('mail')) {
    const by = new ICAL.Property('organizer');
    by.setParameter('cn', organiser.name);
    by.setValue(`mailto:${organiser.mail}`);
    event.addProperty(by);
  }
  return event;
}

const offset = (minutes: number) => ICAL.UtcOffset.fromSeconds(minutes * 60);

/**
 * A zone's table (RFC 5545, section 3.6.5) for a span of time: each change of its clocks is an observance of its own.
 */
function zoneTable(zone: string, from: Instant, until: Instant): ICAL.Component {
  const table = new ICAL.Component('vtimezone');
  put(table, 'tzid', zone);
  const first = offsetMinutes(from, zone);
  const changes = zoneChanges(zone, from, until).filter((change) => change.before !== change.after);
  const usual = Math.min(first, ...changes.map((change) => change.after));
  observance(table, { at: from, before: first, after: first, name: '' }, usual);
  for (const change of changes) observance(table, change, usual);
  return table;
}

function observance(
  table: ICAL.Component,
  { at, before, after, name }: ReturnType<typeof zoneChanges>[number],
  usual: number,
): void {
  const part = new ICAL.Component(after > usual ? 'daylight' : 'standard');
  // The reading at which the change comes, by the clock as it went before.
  part.addPropertyWithValue(
    'dtstart',
    ICAL.Time.fromData({ ...partsOf(new Date(at + before * 60_000).toISOString()), isDate: false }),
  );
  part.addPropertyWithValue('tzoffsetfrom', offset(before));
  part.addPropertyWithValue('tzoffsetto', offset(after));
  if (name !== '') put(part, 'tzname', name);
  table.addSubcomponent(part);
}
