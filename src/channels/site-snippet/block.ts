import { z } from 'zod';
import { longDate } from '@/core/dates/date-words';
import { offsetMinutes, toLocal } from '@/core/base/zones';
import type { Wire } from '@/core/listing/channel-rules';

const text = z
  .string()
  .nullish()
  .transform((value) => value ?? '');
const blockSchema = z.object({
  title: text,
  subtitle: text,
  line: text,
  'line-up': text,
  place: text,
  street: text,
  price: text,
  amount: text,
  currency: text,
  link: text,
  age: text,
  body: text,
  shown: text,
  dates: z
    .array(z.object({ start: text, doors: text, end: text, previous: text, standing: text }))
    .nullish()
    .transform((dates) => dates ?? []),
});
type Block = z.infer<typeof blockSchema>;
type BlockDate = Block['dates'][number];

/**
 * A ready block of HTML for a page: what a person reads, and the same for programs as JSON-LD (schema.org Event, one
 * a date). Pure. Throws where `wire` is none of this kind's.
 */
export function blockOf(wire: Wire): string {
  const block = blockSchema.parse(wire);
  return `${[htmlOf(block), scriptOf(block)].join('\n')}\n`;
}

const escapes: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escaped = (words: string) => words.replace(/[&<>"]/g, (c) => escapes[c] ?? c);

function htmlOf(block: Block): string {
  const { title, subtitle, line, place, street, price, link, age, body, shown, dates } = block;
  const paragraph = (words: string) => (words.trim() === '' ? [] : [`  <p>${escaped(words.trim())}</p>`]);
  return [
    '<article>',
    `  <h2>${escaped(title)}</h2>`,
    ...(shown === 'cancelled' ? ['  <p><strong>Cancelled</strong></p>'] : []),
    ...paragraph(subtitle),
    ...(dates.length === 0 ? [] : ['  <ul>', ...dates.map(dateLine), '  </ul>']),
    ...paragraph([place, street].filter((part) => part !== '').join(', ')),
    ...paragraph(block['line-up']),
    ...paragraph(line),
    ...paragraph(price),
    ...(link === '' || shown === 'cancelled' ? [] : [`  <p><a href="${escaped(link)}">Tickets</a></p>`]),
    ...body.split(/\n{2,}/).flatMap(paragraph),
    ...paragraph(age),
    '</article>',
  ].join('\n');
}

interface LocalMoment {
  date: string;
  time: string;
  /** With its offset (ISO 8601). */
  iso: string;
}

/** Of `2027-03-14T20:00:00Z[Europe/Dublin]`: as its clock reads. `null`: it is none. */
function localOf(moment: string): LocalMoment | null {
  const found = /^([\d:T.-]{16,30}Z)\[([\w/+-]{1,60})\]$/.exec(moment);
  const at = found ? Date.parse(found[1] ?? '') : NaN;
  if (!found || Number.isNaN(at)) return null;
  const zone = found[2] ?? 'UTC';
  const { date, time } = toLocal(at, zone);
  const minutes = offsetMinutes(at, zone);
  const pad = (n: number) => String(n).padStart(2, '0');
  const offset = `${minutes < 0 ? '-' : '+'}${pad(Math.floor(Math.abs(minutes) / 60))}:${pad(Math.abs(minutes) % 60)}`;
  return { date, time, iso: `${date}T${time}:00${offset}` };
}

function dateLine({ start, doors, end, previous, standing }: BlockDate): string {
  const [begins, opens, ends, was] = [localOf(start), localOf(doors), localOf(end), localOf(previous)];
  const words =
    begins === null ? '' : `${longDate(begins.date)}, ${begins.time}${ends === null ? '' : `–${ends.time}`}`;
  const tail = [
    ...(opens === null ? [] : [`doors ${opens.time}`]),
    ...(standing === '' ? [] : [standing]),
    ...(was === null ? [] : [`moved from ${longDate(was.date)}`]),
  ].join(', ');
  const time = begins === null ? '' : `<time datetime="${begins.iso}">${escaped(words)}</time>`;
  return `    <li>${time}${tail === '' ? '' : `, ${escaped(tail)}`}</li>`;
}

/** What befell a date, in schema.org's words (EventStatusType). */
function statusOf({ shown }: Block, { standing, previous }: BlockDate): string {
  if (shown === 'cancelled' || standing === 'cancelled') return 'EventCancelled';
  if (standing === 'postponed') return 'EventPostponed';
  return previous === '' ? 'EventScheduled' : 'EventRescheduled';
}

function eventOf(block: Block, date: BlockDate) {
  const { title, line, body, place, street, link, amount, currency, shown } = block;
  const said = (name: string, value: string) => (value === '' ? {} : { [name]: value });
  const iso = (moment: string) => localOf(moment)?.iso ?? '';
  const online = place === 'Online' && link !== '';
  return {
    '@context': 'https://schema.org',
    '@type': 'Event',
    name: title,
    ...said('startDate', iso(date.start)),
    ...said('endDate', iso(date.end)),
    ...said('doorTime', iso(date.doors)),
    ...said('previousStartDate', iso(date.previous)),
    eventStatus: `https://schema.org/${statusOf(block, date)}`,
    eventAttendanceMode: `https://schema.org/${online ? 'Online' : 'Offline'}EventAttendanceMode`,
    ...(place === ''
      ? {}
      : {
          location: online
            ? { '@type': 'VirtualLocation', url: link }
            : { '@type': 'Place', name: place, address: [street, place].filter((part) => part !== '').join(', ') },
        }),
    ...said('description', line || body.slice(0, 300)),
    ...(block['line-up'] === '' ? {} : { performer: { '@type': 'PerformingGroup', name: block['line-up'] } }),
    ...(link === '' || shown === 'cancelled'
      ? {}
      : {
          offers: {
            '@type': 'Offer',
            url: link,
            ...(amount === '' ? {} : { price: amount, priceCurrency: currency }),
          },
        }),
  };
}

/** Nothing in it ends its element, whatever the words hold. */
function scriptOf(block: Block): string {
  const none: BlockDate = { start: '', doors: '', end: '', previous: '', standing: '' };
  const events = (block.dates.length === 0 ? [none] : block.dates).map((date) => eventOf(block, date));
  const data = JSON.stringify(events.length === 1 ? events[0] : events, null, 2).replaceAll('<', '\\u003c');
  return `<script type="application/ld+json">\n${data}\n</script>`;
}
