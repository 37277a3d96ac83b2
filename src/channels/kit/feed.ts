import ICAL from 'ical.js';
import { z } from 'zod';
import type { Instant } from '@/core/base/zones';
import type { Wire } from '@/core/listing/channel-rules';
import { putOff } from '@/core/facts/facts';
import { sameData } from '@/core/base/same-data';

/** What is kept of an account: entries of the calendar feed that it reads. */
export const feedShelf = 'feed';

/**
 * One entry of a feed: what it says, how often that has changed, and when last; when it was laid there first, and which
 * of its parts the last change changed (none: it was laid there).
 */
const feedEntrySchema = z.object({
  sequence: z.number().int().min(0),
  at: z.number(),
  wire: z.record(z.string(), z.unknown()),
  first: z.number().optional(),
  changed: z.array(z.string()).optional(),
});
export type FeedEntry = z.infer<typeof feedEntrySchema>;

const text = z.string().nullish();
const wireSchema = z.looseObject({
  summary: text,
  description: text,
  location: text,
  categories: text,
  url: text,
  status: text,
  dates: z.array(z.looseObject({ tag: z.string(), dtstart: text, dtend: text, standing: text })).default([]),
});

/**
 * An entry after a change: keys of `wire` over what it said, its number raised, so that whoever reads the feed sees
 * that it changed.
 */
export function changedEntry(before: FeedEntry | null, wire: Wire, at: Instant): FeedEntry {
  // What was taken out is laid there anew.
  const stood = before === null || before.wire.status === 'ABSENT' ? null : before;
  const changed = stood === null ? [] : Object.keys(wire).filter((key) => !sameData(stood.wire[key], wire[key]));
  const first = stood === null ? at : stood.first;
  return {
    sequence: before === null ? 0 : before.sequence + 1,
    at,
    wire: { ...before?.wire, ...wire },
    ...(first === undefined ? {} : { first }),
    changed: changed.length === 0 ? (stood?.changed ?? []) : changed,
  };
}

/** What an entry says, as far as a feed can say it. `null`: it is none that a feed can hold. */
export const wireOfFeed = (wire: Wire) => wireSchema.safeParse(wire).data ?? null;

/**
 * An entry that was taken out: nothing of what it said is kept, and its number goes on, so that it never comes back by
 * itself.
 */
export function emptiedEntry(before: FeedEntry | null, at: Instant): FeedEntry {
  return { sequence: before === null ? 0 : before.sequence + 1, at, wire: { status: 'ABSENT' } };
}

/** A kept entry. `null`: there is none, or it is none. */
export function readEntry(kept: string | null | undefined): FeedEntry | null {
  if (kept == null) return null;
  try {
    return feedEntrySchema.safeParse(JSON.parse(kept)).data ?? null;
  } catch {
    return null;
  }
}

/** What the entry of one date is called: one that is put off keeps its old day (RFC 5545 has no other), and says so. */
export function datedSummary(summary: string, standing: string | null): string {
  const bare = summary.startsWith(putOff) ? summary.slice(putOff.length) : summary;
  if (standing === 'CANCELLED') return bare;
  return standing === 'TENTATIVE' ? `${putOff}${bare}` : summary;
}

/** `2027-03-14T20:00:00Z[Europe/Dublin]` as an instant of iCalendar, in UTC (RFC 5545, section 3.3.5, form 2). */
function utc(stamp: string): ICAL.Time {
  return ICAL.Time.fromJSDate(new Date(stamp.replace(/\[.*$/, '')), true);
}

/**
 * The calendar feed of these entries (RFC 5545): a VEVENT a date, under an id that stays, with the number of its
 * changes (SEQUENCE, section 3.8.7.4), and without alarms. It has no METHOD: it is subscribed to, not answered.
 */
export function feedText(name: string, entries: readonly (FeedEntry & { id: string })[]): string {
  const calendar = new ICAL.Component(['vcalendar', [], []]);
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('prodid', '-//Nuntiax//Nuntiax//EN');
  calendar.addPropertyWithValue('name', name);
  calendar.addPropertyWithValue('x-wr-calname', name);
  for (const { id, sequence, at, wire } of entries) {
    const said = wireOfFeed(wire);
    if (said === null) continue;
    const { dates, summary, description, location, categories, url, status } = said;
    for (const { tag, dtstart, dtend, standing } of dates) {
      if (!dtstart) continue;
      const event = new ICAL.Component('vevent');
      const put = (key: string, value: string | null | undefined) => {
        if (value) event.addPropertyWithValue(key, value);
      };
      put('uid', `${id}-${tag}`);
      event.addPropertyWithValue('dtstamp', ICAL.Time.fromJSDate(new Date(at), true));
      event.addPropertyWithValue('last-modified', ICAL.Time.fromJSDate(new Date(at), true));
      event.addPropertyWithValue('sequence', String(sequence));
      event.addPropertyWithValue('dtstart', utc(dtstart));
      if (dtend) event.addPropertyWithValue('dtend', utc(dtend));
      put('summary', datedSummary(summary ?? '', standing ?? null));
      put('description', description);
      put('location', location);
      put('categories', categories);
      put('url', url);
      put('status', status === 'CONFIRMED' ? (standing ?? status) : (status ?? standing ?? 'CONFIRMED'));
      calendar.addSubcomponent(event);
    }
  }
  return `${calendar.toString()}\r\n`;
}

/**
 * What a feed says of one entry, read as a calendar program reads it: its dates, and what they have in common. Where it
 * has no date of it, it is not in it.
 */
export function readFeed(feed: string, id: string): Wire {
  const calendar = new ICAL.Component(ICAL.parse(feed) as unknown[]);
  const events = calendar.getAllSubcomponents('vevent').filter((event) => textOf(event, 'uid').startsWith(`${id}-`));
  const status = (event: ICAL.Component) => textOf(event, 'status') || 'CONFIRMED';
  const is = (wanted: string) => events.find((event) => status(event) === wanted);
  // The entry speaks by a date that takes place, where there is one.
  const first = is('CONFIRMED') ?? is('TENTATIVE') ?? events[0];
  if (!first) return { status: 'ABSENT' };
  const off = events.every((event) => status(event) === 'CANCELLED');
  const said = (name: string) => {
    const words = textOf(first, name);
    return words === '' ? {} : { [name]: words };
  };
  return {
    ...said('summary'),
    ...said('description'),
    ...said('location'),
    ...said('categories'),
    ...said('url'),
    status: off ? 'CANCELLED' : 'CONFIRMED',
    dates: events.map((event) => ({
      tag: textOf(event, 'uid').slice(id.length + 1),
      ...moment(event, 'dtstart'),
      ...moment(event, 'dtend'),
      ...(off || status(event) === 'CONFIRMED' ? {} : { standing: status(event) }),
    })),
  };
}

function textOf(event: ICAL.Component, name: string): string {
  const value = event.getFirstPropertyValue(name);
  return value === null ? '' : String(value);
}

function moment(event: ICAL.Component, name: 'dtstart' | 'dtend'): Wire {
  const value = event.getFirstPropertyValue(name);
  return value instanceof ICAL.Time ? { [name]: `${value.toJSDate().toISOString().slice(0, 19)}Z` } : {};
}
