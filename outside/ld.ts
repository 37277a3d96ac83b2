import type { Context } from 'hono';
import { raw } from 'hono/html';
import ICAL from 'ical.js';
import { stamp } from './page';

/** One date: when it is, and what befell it, if anything did. */
interface DateData {
  start: number;
  end?: number | null | undefined;
  befell?: 'cancelled' | 'postponed' | null;
}

/** What an event's page says of it in schema.org's words. */
export interface EventData {
  name: string;
  url: string;
  dates: readonly DateData[];
  place?: string | null | undefined;
  online?: boolean;
  offer?: string | null | undefined;
  /** Prices, where it sells itself. */
  prices?: readonly { name: string; price: string; currency: string }[];
  cancelled?: boolean;
  image?: string | null | undefined;
  about?: string | null | undefined;
  by?: string | null | undefined;
}

/** JSON-LD (schema.org Event) as a script element: one event a date. Nothing in it ends the element. */
export function eventLd({
  name,
  url,
  dates,
  place,
  online,
  offer,
  prices = [],
  cancelled,
  image,
  about,
  by,
}: EventData) {
  const where = online
    ? { '@type': 'VirtualLocation', url }
    : place
      ? { '@type': 'Place', name: place, address: place }
      : undefined;
  const offers = prices.map((price) => ({
    '@type': 'Offer',
    name: price.name,
    price: price.price,
    priceCurrency: price.currency,
    url: offer ?? url,
  }));
  // What has no date yet is an event all the same.
  const item: readonly (Omit<DateData, 'start'> & { start: number | null })[] =
    dates.length === 0 ? [{ start: null }] : dates;
  const events = item.map(({ start, end, befell }) => ({
    '@context': 'https://schema.org',
    '@type': 'Event',
    name,
    url,
    ...(start === null ? {} : { startDate: stamp(start) }),
    ...(end ? { endDate: stamp(end) } : {}),
    eventStatus: `https://schema.org/Event${cancelled || befell === 'cancelled' ? 'Cancelled' : befell === 'postponed' ? 'Postponed' : 'Scheduled'}`,
    eventAttendanceMode: `https://schema.org/${online ? 'Online' : 'Offline'}EventAttendanceMode`,
    ...(where ? { location: where } : {}),
    ...(offers.length > 0 ? { offers } : offer ? { offers: { '@type': 'Offer', url: offer } } : {}),
    ...(image ? { image } : {}),
    ...(about ? { description: about } : {}),
    ...(by ? { organizer: { '@type': 'Organization', name: by } } : {}),
  }));
  return asLd(events.length === 1 ? events[0] : events);
}

/** The same as a calendar file (RFC 5545): an entry for each date. */
export function asCalendar(c: Context, { name, url, dates, place, about, cancelled }: EventData): Response {
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('prodid', '-//Outside//Dates//EN');
  dates.forEach(({ start, end, befell }, i) => {
    const entry = new ICAL.Component('vevent');
    const moment = (at: number) => ICAL.Time.fromJSDate(new Date(at), true);
    entry.addPropertyWithValue('uid', `${i}@${url.replace(/^https?:\/\//, '')}`);
    entry.addPropertyWithValue('dtstamp', moment(start));
    entry.addPropertyWithValue('dtstart', moment(start));
    if (end) entry.addPropertyWithValue('dtend', moment(end));
    entry.addPropertyWithValue('summary', befell === 'postponed' ? `Postponed: ${name}` : name);
    entry.addPropertyWithValue('url', url);
    if (place) entry.addPropertyWithValue('location', place);
    if (about) entry.addPropertyWithValue('description', about);
    entry.addPropertyWithValue(
      'status',
      cancelled || befell === 'cancelled' ? 'CANCELLED' : befell === 'postponed' ? 'TENTATIVE' : 'CONFIRMED',
    );
    calendar.addSubcomponent(entry);
  });
  return c.body(`${calendar.toString()}\r\n`, 200, { 'content-type': 'text/calendar; charset=utf-8' });
}

/** A short post (schema.org SocialMediaPosting). */
export function postLd({
  text,
  url,
  at,
  by,
  image,
}: {
  text: string;
  url: string;
  at: number;
  by: string;
  image?: string | null;
}) {
  return asLd({
    '@context': 'https://schema.org',
    '@type': 'SocialMediaPosting',
    articleBody: text,
    url,
    datePublished: stamp(at),
    author: { '@type': 'Organization', name: by },
    ...(image ? { image } : {}),
  });
}

function asLd(data: unknown) {
  return raw(`<script type="application/ld+json">${JSON.stringify(data).replaceAll('<', '\\u003c')}</script>`);
}
