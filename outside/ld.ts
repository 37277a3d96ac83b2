import { raw } from 'hono/html';
import { stamp } from './page';

/** What an event's page says of it in schema.org's words. */
export interface EventData {
  name: string;
  url: string;
  dates: readonly { start: number; end?: number | null | undefined }[];
  place?: string | null | undefined;
  online?: boolean;
  offer?: string | null | undefined;
  cancelled?: boolean;
  image?: string | null | undefined;
  about?: string | null | undefined;
  by?: string | null | undefined;
}

/** JSON-LD (schema.org Event) as a script element: one event a date. Nothing in it ends the element. */
export function eventLd({ name, url, dates, place, online, offer, cancelled, image, about, by }: EventData) {
  const where = online
    ? { '@type': 'VirtualLocation', url }
    : place
      ? { '@type': 'Place', name: place, address: place }
      : undefined;
  const events = dates.map(({ start, end }) => ({
    '@context': 'https://schema.org',
    '@type': 'Event',
    name,
    url,
    startDate: stamp(start),
    ...(end ? { endDate: stamp(end) } : {}),
    eventStatus: `https://schema.org/Event${cancelled ? 'Cancelled' : 'Scheduled'}`,
    eventAttendanceMode: `https://schema.org/${online ? 'Online' : 'Offline'}EventAttendanceMode`,
    ...(where ? { location: where } : {}),
    ...(offer ? { offers: { '@type': 'Offer', url: offer } } : {}),
    ...(image ? { image } : {}),
    ...(about ? { description: about } : {}),
    ...(by ? { organizer: { '@type': 'Organization', name: by } } : {}),
  }));
  return asLd(events.length === 1 ? events[0] : events);
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
