import { z } from 'zod';
import { longDate } from '@/core/dates/date-words';
import type { Wire } from '@/core/listing/channel-rules';
import { escapeHtml } from '@/core/words/escape-html';
import { localMoment } from '../kit/local-moment';

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

function htmlOf(block: Block): string {
  const { title, subtitle, line, place, street, price, link, age, body, shown, dates } = block;
  const paragraph = (words: string) => (words.trim() === '' ? [] : [`  <p>${escapeHtml(words.trim())}</p>`]);
  return [
    '<article>',
    `  <h2>${escapeHtml(title)}</h2>`,
    ...(shown === 'cancelled' ? ['  <p><strong>Cancelled</strong></p>'] : []),
    ...paragraph(subtitle),
    ...(dates.length === 0 ? [] : ['  <ul>', ...dates.map(dateLine), '  </ul>']),
    ...paragraph([place, street].filter((part) => part !== '').join(', ')),
    ...paragraph(block['line-up']),
    ...paragraph(line),
    ...paragraph(price),
    ...(link === '' || shown === 'cancelled' ? [] : [`  <p><a href="${escapeHtml(link)}">Tickets</a></p>`]),
    ...body.split(/\n{2,}/).flatMap(paragraph),
    ...paragraph(age),
    '</article>',
  ].join('\n');
}

function dateLine({ start, doors, end, previous, standing }: BlockDate): string {
  const [begins, opens, ends, was] = [localMoment(start), localMoment(doors), localMoment(end), localMoment(previous)];
  const words =
    begins === null ? '' : `${longDate(begins.date)}, ${begins.time}${ends === null ? '' : `–${ends.time}`}`;
  const tail = [
    ...(opens === null ? [] : [`doors ${opens.time}`]),
    ...(standing === '' ? [] : [standing]),
    ...(was === null ? [] : [`moved from ${longDate(was.date)}`]),
  ].join(', ');
  const time = begins === null ? '' : `<time datetime="${begins.iso}">${escapeHtml(words)}</time>`;
  return `    <li>${time}${tail === '' ? '' : `, ${escapeHtml(tail)}`}</li>`;
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
  const iso = (moment: string) => localMoment(moment)?.iso ?? '';
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
