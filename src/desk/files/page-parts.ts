import type { eventTypes } from '@/core/record/choices';
import { newVenueSchema } from '@/core/record/directory';
import { isoDate } from '@/core/base/scalars';
import { groupBy } from '@/core/base/group-by';
import { currencies, parsePrice } from '@/core/base/money';
import { sameData } from '@/core/base/same-data';
import { quoted } from '@/core/base/quoted';
import { offsetMinutes, toLocal } from '@/core/base/zones';
import { jsonParts } from '@/core/formats/events-json';
import { placed, type FilePart, type ImportedEvent, type ReadContext } from '@/core/formats/import-row';
import type { FileNote } from '@/core/formats/file-note';
import { readPage, type EventOnPage } from '@/channels/kit/page/read-page';

/**
 * Reads the source of a web page: what it states for programs as events (JSON-LD, else microdata, both schema.org).
 * Events of one name at one place are one event with several dates. What is read is said, with what a page cannot say. `skip`:
 * events, by their number on the page, that are passed over.
 */
export function* pageParts(
  html: string,
  context: ReadContext,
  skip: (line: number) => boolean = () => false,
): Generator<FilePart> {
  const { means, events } = readPage(html, nowhere);
  const own = events.filter(({ name, start }) => name !== '' && start !== '');
  if (own.length === 0)
    return yield {
      kind: 'refused',
      message:
        events.length === 0
          ? 'This page states no event for programs (schema.org, as JSON-LD or microdata). Save the page of the event itself, as “web page, HTML only”, or type it in.'
          : 'The events on this page have no name or no date. Save the page of one event, or type it in.',
    };
  const dated = own.filter(({ start }) => localOf(start, null, []) !== null);
  const groups = [...groupBy(distinct(dated), placeKey).values()];
  yield {
    kind: 'note',
    line: 0,
    note: {
      code: 'page-means',
      text: `Read from the page’s ${means}: pictures and what only stands in its words were not taken. Look at each before it is sent.`,
    },
  };
  const read = groups.map((group, i) => eventOf(group, i + 1, context));
  const file = { nuntiax: 1, events: read.map(({ event }) => event) };
  for (const part of jsonParts(JSON.stringify(file), context, skip)) {
    const of = part.kind === 'event' ? read[part.event.line - 1] : undefined;
    yield part.kind === 'event' && of
      ? { kind: 'event', event: { ...part.event, ...of.more(part.event), notes: [...of.notes, ...part.event.notes] } }
      : part;
  }
  let line = groups.length;
  for (const { name, start } of own.filter((event) => !dated.includes(event)))
    if (!skip((line += 1)))
      yield {
        kind: 'broken',
        row: {
          line,
          field: 'startDate',
          code: 'page-date',
          text: `${quoted(name)} begins at ${quoted(start)}, which is no date that can be read. Type this event in.`,
        },
      };
}

/** Addresses that a saved page leads to within itself lead nowhere any more. */
const nowhere = 'https://page.invalid/';

const folded = (text: string) => text.normalize('NFKC').toLowerCase().replace(/\s+/g, ' ').trim();
const placeKey = ({ name, venue }: EventOnPage) => `${folded(name)}|${folded(venue.name)}|${folded(venue.town)}`;

/** A page may state one date twice, on its own and within a list: the one that says more is taken. */
function distinct(events: readonly EventOnPage[]): EventOnPage[] {
  const moment = ({ start }: EventOnPage) => (/[+-]\d\d:?\d\d$|Z$/i.test(start) ? Date.parse(start) || start : start);
  const length = (event: EventOnPage) => JSON.stringify(event).length;
  return [...groupBy(events, (event) => `${placeKey(event)}|${moment(event)}`).values()].map((same) =>
    same.reduce((best, event) => (length(event) > length(best) ? event : best)),
  );
}

/** Where tickets are to be had, as far as that is on the web. */
const webLinks = ({ links }: Pick<EventOnPage, 'links'>) => [
  ...new Set(links.filter((to) => /^https?:/.test(to) && !to.startsWith(nowhere))),
];

interface ReadEvent {
  /** What no file of events says of one: whence it is, and the street of its venue. */
  more: (event: ImportedEvent) => Pick<ImportedEvent, 'origin' | 'venue'>;
  /** As a file of events in JSON has it: what it holds is held against the same limits. */
  event: Record<string, unknown>;
  /** How it was read. */
  notes: FileNote[];
}

function eventOf(dates: readonly EventOnPage[], line: number, context: ReadContext): ReadEvent {
  const notes: FileNote[] = [];
  const [first] = dates;
  if (!first) throw new RangeError('a group without an event');
  const { name: venue, street, town, country } = first.venue;
  const { zone } = placed('', { venue, town, country }, context, 'zone');
  const links = webLinks(dates.find((date) => webLinks(date).length > 0) ?? first);
  const priced = dates.filter(({ prices }) => prices.length > 0);
  if (venue === '')
    notes.push({ code: 'place-left', text: 'The page names no place for it: choose one, or say that it is online.' });
  if (priced.some(({ prices }) => !sameData(prices, priced[0]?.prices)))
    notes.push({ code: 'price-left', text: 'Its dates have prices of their own: those of the first were taken.' });
  const acts = new Set(dates.flatMap(({ performers }) => performers).filter((name) => name !== ''));
  const event = {
    ref: String(line),
    title: first.name,
    ...typeOf(first, notes),
    ...{ venue, town, country },
    performances: dates.map((date) => {
      const [own] = webLinks(date);
      return {
        ...performanceOf(date, zone, notes),
        ...(own === undefined || links.includes(own) ? {} : { link: own }),
      };
    }),
    lineUp: [...acts].map((name) => ({ name })),
    tickets: {
      ...ticketsOf(priced[0] ?? first, notes),
      outlets: links.map((link) => ({ name: new URL(link).hostname.slice(0, 60), link })),
    },
    words: { full: dates.find(({ about }) => about !== '')?.about ?? '' },
  };
  const address = newVenueSchema.shape.address.safeParse(street);
  if (!address.success)
    notes.push({ code: 'street-left', text: 'Its street was not taken: it is too long. Add it to the venue.' });
  return {
    more: ({ venue: read }) => ({
      origin: `page:${placeKey(first)}`,
      venue: read && { ...read, address: address.data ?? '' },
    }),
    event,
    notes,
  };
}

/** Kinds of event by their types of schema.org. */
const typeNames: Record<string, (typeof eventTypes)[number]> = {
  ...{ MusicEvent: 'concert', TheaterEvent: 'theatre', ScreeningEvent: 'film', DanceEvent: 'dance' },
  ...{ ComedyEvent: 'comedy', ExhibitionEvent: 'exhibition', VisualArtsEvent: 'exhibition', LiteraryEvent: 'reading' },
  ...{ ChildrensEvent: 'family', EducationEvent: 'talk' },
};

/** Its kind, where its type says one; else it is one of a new record, which is told. */
function typeOf({ types }: EventOnPage, notes: FileNote[]): { eventType?: string } {
  const [eventType] = types.flatMap((type) => typeNames[type] ?? []);
  if (eventType !== undefined) return { eventType };
  notes.push({
    code: 'type-assumed',
    text: 'The page does not say what kind of event it is: it was taken for a concert.',
  });
  return {};
}

/** Prices of one currency, each a level; what cannot be taken is told. */
function ticketsOf({ prices, ...event }: EventOnPage, notes: FileNote[]): Record<string, unknown> {
  const currency = currencies.find((known) => known === prices[0]?.currency);
  const plain = prices.filter((price) => !price.isRange && price.currency === currency);
  const read =
    currency === undefined ? [] : plain.map((price) => ({ ...price, minor: parsePrice(price.amount, currency) }));
  const levels = read.filter(({ minor }) => minor !== null && minor > 0);
  const left = prices.filter((price) => !read.some((taken) => taken.minor !== null && taken.amount === price.amount));
  if (left.length > 0)
    notes.push({
      code: 'price-left',
      text: `Its price ${quoted(left.map(({ amount, currency: of }) => `${amount} ${of}`.trim()).join(', '))} was not taken: add it under Tickets.`,
    });
  if (levels.length === 0)
    return read.some(({ minor }) => minor === 0)
      ? { mode: 'free entry' }
      : webLinks(event).length > 0
        ? { mode: 'ticketed' }
        : {};
  return {
    mode: 'ticketed',
    currency,
    levels: levels.map(({ name, minor }, i) => ({
      name: name || (levels.length === 1 ? 'Ticket' : `Ticket ${i + 1}`),
      price: minor,
    })),
  };
}

function performanceOf({ start, end, doors, status }: EventOnPage, zone: string | null, notes: FileNote[]) {
  const [begins, ends, opens] = [start, end, doors].map((moment) => localOf(moment, zone, notes));
  const nights = begins && ends ? (Date.parse(ends.date) - Date.parse(begins.date)) / 86_400_000 : 0;
  return {
    date: begins?.date ?? start,
    start: begins?.time ?? null,
    ...(opens?.time && opens.date === begins?.date ? { doors: opens.time } : {}),
    ...(ends?.time ? { end: ends.time, endsNextDay: nights === 1 } : {}),
    // What ends in the morning after is one night; later, it is an event of several days.
    ...(ends && (nights > 1 || (nights === 1 && ends.time === null)) ? { lastDate: ends.date } : {}),
    ...(status === 'cancelled' || status === 'postponed' ? { turn: status } : {}),
  };
}

/** A moment as it is written (ISO 8601), on the clock of the zone: with an offset it is reckoned over to that. */
function localOf(moment: string, zone: string | null, notes: FileNote[]): { date: string; time: string | null } | null {
  const found = /^(\d{4}-\d\d-\d\d)(?:[T ](\d\d:\d\d)(?::\d\d(?:\.\d+)?)?\s*(Z|[+-]\d\d:?\d\d)?)?$/i.exec(
    moment.trim(),
  );
  const [, date = '', time, offset] = found ?? [];
  if (!isoDate.safeParse(date).success) return null;
  if (time === undefined) return { date, time: null };
  if (offset === undefined || zone === null) return { date, time };
  const minutes = /^z$/i.test(offset)
    ? 0
    : (offset.startsWith('-') ? -1 : 1) * (Number(offset.slice(1, 3)) * 60 + Number(offset.slice(-2)));
  const at = Date.parse(`${date}T${time}:00Z`) - minutes * 60_000;
  if (Number.isNaN(at)) return { date, time };
  const local = toLocal(at, zone);
  if (offsetMinutes(at, zone) !== minutes)
    notes.push({
      code: 'offset-other',
      text: `${date} ${time}${offset} is ${local.date}, ${local.time} in ${zone}, where it is: that was taken.`,
    });
  return { date: local.date, time: local.time };
}
