import { blockOf } from '@/channels/site-snippet/block';
import { bareContext, type FilePart, type PlaceFinder } from '@/core/formats/import-row';
import { fileParts } from './file-parts';

/* What a saved web page states for programs becomes events, and what it cannot say is told. */

const inDublin: PlaceFinder = ({ town }) =>
  town === 'Marrowby' ? { kind: 'known', zone: 'Europe/Dublin', point: null, by: 'town' } : { kind: 'none' };
const parts = (html: string, name = 'saved.html', context = { ...bareContext(null), find: inDublin }): FilePart[] => [
  ...fileParts(name, Buffer.from(html), context),
];
const page = (...things: object[]) =>
  `<!doctype html><title>x</title>${things
    .map((thing) => `<script type="application/ld+json">${JSON.stringify(thing)}</script>`)
    .join('')}`;
const yard = {
  '@type': 'Place',
  name: 'Tallow Yard',
  address: { '@type': 'PostalAddress', addressLocality: 'Marrowby' },
};
const gig = (more: object = {}) => ({
  ...{ '@type': 'MusicEvent', name: 'Odalys Quarry', startDate: '2027-07-14T20:00:00+01:00', location: yard },
  ...more,
});
const events = (html: string) => parts(html).flatMap((part) => (part.kind === 'event' ? [part.event] : []));
const only = (more: object) => {
  const [event] = events(page(gig(more)));
  if (!event) throw new Error(JSON.stringify(parts(page(gig(more)))));
  return event;
};
const night = (more: object) => only(more).content.performances[0];

test('an event with its place, dates, acts, words, link and prices', () => {
  const event = only({
    endDate: '2027-07-14T22:30:00+01:00',
    doorTime: '2027-07-14T19:30:00+01:00',
    description: 'Songs & water.',
    performer: [{ '@type': 'MusicGroup', name: 'Odalys Quarry' }, { name: 'Quill' }],
    offers: [
      { name: 'Full', price: '18.50', priceCurrency: 'EUR', url: 'https://gate.example/oq' },
      { name: 'Reduced', price: 12, priceCurrency: 'EUR' },
    ],
  });
  const { content, venue } = event;
  expect([event.line, event.ask, venue]).toEqual([
    1,
    null,
    expect.objectContaining({ name: 'Tallow Yard', town: 'Marrowby', zone: 'Europe/Dublin' }),
  ]);
  expect(content).toMatchObject({
    title: 'Odalys Quarry',
    performances: [
      { date: '2027-07-14', doors: '19:30', start: '20:00', end: '22:30', endsNextDay: false, zone: 'Europe/Dublin' },
    ],
    lineUp: [{ name: 'Odalys Quarry' }, { name: 'Quill' }],
    tickets: {
      mode: 'ticketed',
      currency: 'EUR',
      levels: [
        { name: 'Full', price: 1850 },
        { name: 'Reduced', price: 1200 },
      ],
      outlets: [{ name: 'gate.example', link: 'https://gate.example/oq' }],
    },
    words: { full: '<p>Songs &amp; water.</p>' },
  });
});

test.each<[string, object, object]>([
  ['in the offset of its place', {}, { date: '2027-07-14', start: '20:00' }],
  ['in UTC', { startDate: '2027-07-14T23:30:00Z' }, { date: '2027-07-15', start: '00:30' }],
  ['behind UTC, with seconds', { startDate: '2027-07-14T14:00:00.000-0500' }, { date: '2027-07-14', start: '20:00' }],
  ['without an offset', { startDate: '2027-07-14T20:00' }, { date: '2027-07-14', start: '20:00' }],
  ['as a day', { startDate: '2027-07-14' }, { date: '2027-07-14', start: null, precision: 'day' }],
  ['past midnight', { endDate: '2027-07-15T02:00:00+01:00' }, { end: '02:00', endsNextDay: true, lastDate: null }],
  [
    'of several days',
    { endDate: '2027-07-16T18:00:00+01:00' },
    { end: '18:00', endsNextDay: false, lastDate: '2027-07-16' },
  ],
  ['of two days', { startDate: '2027-07-14', endDate: '2027-07-15' }, { lastDate: '2027-07-15' }],
  ['doors on another day are none', { doorTime: '2027-07-13T19:30:00+01:00' }, { doors: null }],
  ['cancelled', { eventStatus: 'https://schema.org/EventCancelled' }, { turn: 'cancelled' }],
  ['postponed', { eventStatus: 'EventPostponed' }, { turn: 'postponed' }],
  ['rescheduled: it is when it says', { eventStatus: 'EventRescheduled' }, { turn: 'none' }],
])('a date %s', (_, more, want) => {
  expect(night(more)).toMatchObject(want);
});

test('a moment in another offset is told; in that of its place it is not', () => {
  const told = (startDate: string) =>
    only({ startDate }).notes.flatMap(({ code, text }) => (code === 'offset-other' ? [text] : []));
  expect(told('2027-07-14T21:00:00+02:00')).toEqual([
    '2027-07-14 21:00+02:00 is 2027-07-14, 20:00 in Europe/Dublin, where it is: that was taken.',
  ]);
  expect([told('2027-07-14T20:00:00+01:00'), told('2027-01-14T20:00:00Z')]).toEqual([[], []]);
});

test.each<[string, object, object, RegExp | null]>([
  ['a range', { lowPrice: 10, highPrice: 20, priceCurrency: 'EUR' }, { levels: [] }, /“10 EUR, 20 EUR” was not taken/],
  ['no amount', { price: 'ask', priceCurrency: 'EUR' }, { levels: [] }, /“ask EUR” was not taken/],
  ['no currency', { price: '18' }, { levels: [] }, /“18” was not taken/],
  ['free', { price: '0', priceCurrency: 'EUR' }, { mode: 'free entry', levels: [] }, null],
  [
    'without a name',
    { price: '18', priceCurrency: 'JPY' },
    { currency: 'JPY', levels: [{ name: 'Ticket', price: 18 }] },
    null,
  ],
])('a price: %s', (_, offers, want, told) => {
  const { content, notes } = only({ offers });
  expect(content.tickets).toMatchObject(want);
  const left = notes.filter(({ code }) => code === 'price-left').map(({ text }) => text);
  if (told === null) expect(left).toEqual([]);
  else expect(left).toEqual([expect.stringMatching(told)]);
});

test('of one name at one place it is one event with its dates; what a page states twice is there once', () => {
  const [first, second] = [gig(), gig({ startDate: '2027-07-15T20:00:00+01:00' })];
  const elsewhere = gig({ location: { ...yard, name: 'The Vat' } });
  const read = events(page(first, { '@graph': [first, second] }, elsewhere));
  expect(read.map(({ venue, content }) => [venue?.name, content.performances.map(({ date }) => date)])).toEqual([
    ['Tallow Yard', ['2027-07-14', '2027-07-15']],
    ['The Vat', ['2027-07-14']],
  ]);
  expect(new Set(read.map(({ origin }) => origin)).size).toBe(2);
});

test.each<[string | string[], string, boolean]>([
  ['MusicEvent', 'concert', false],
  ['https://schema.org/TheaterEvent', 'theatre', false],
  [['Event', 'ScreeningEvent'], 'film', false],
  ['Event', 'concert', true],
  ['SportsEvent', 'concert', true],
])('of type %s it is of kind %s', (type, eventType, told) => {
  const { content, notes } = only({ '@type': type });
  expect([content.eventType, notes.some(({ code }) => code === 'type-assumed')]).toEqual([eventType, told]);
});

test('a link that leads nowhere, or is none of the web, is left out', () => {
  const outlets = (...urls: string[]) => only({ offers: urls.map((url) => ({ url })) }).content.tickets.outlets;
  expect(outlets('javascript:alert(1)', '/within', 'https://gate.example/oq')).toMatchObject([
    { name: 'gate.example', link: 'https://gate.example/oq' },
  ]);
  expect(outlets('/within', 'mailto:a@x.example')).toEqual([]);
});

test('its street goes with a place, unless it is longer than one', () => {
  const at = (streetAddress: string) => only({ location: { ...yard, address: { ...yard.address, streetAddress } } });
  const [taken, long] = [at('3 Rope Walk'), at('x'.repeat(201))];
  expect([taken.venue?.address, long.venue?.address]).toEqual(['3 Rope Walk', '']);
  const told = [taken, long].map(({ notes }) => notes.some(({ code }) => code === 'street-left'));
  expect(told).toEqual([false, true]);
});

test('dates of one event: the fuller of two statements, a link of its own, words and prices wherever they are said', () => {
  const bare = gig({ startDate: '2027-07-14T19:00:00Z' });
  const offer = (price: number, url: string) => ({ price, priceCurrency: 'EUR', url: `https://${url}` });
  const full = gig({ offers: [offer(18, 'gate.example/1'), offer(18, 'other.example/1')], description: 'Songs.' });
  const second = gig({ startDate: '2027-07-15T20:00:00+01:00', offers: offer(20, 'gate.example/2') });
  const [event, ...more] = events(page(bare, full, second));
  expect(more).toEqual([]);
  expect(event?.content).toMatchObject({
    performances: [
      { date: '2027-07-14', start: '20:00', link: null },
      { date: '2027-07-15', link: 'https://gate.example/2' },
    ],
    tickets: { outlets: [{ name: 'gate.example' }, { name: 'other.example' }] },
    words: { full: '<p>Songs.</p>' },
  });
  expect(event?.notes.flatMap(({ code, text }) => (code === 'price-left' ? [text] : []))).toEqual([
    'Its dates have prices of their own: those of the first were taken.',
  ]);
  // The first date says neither price nor link: those of the next are the event's.
  const [later] = events(page(gig({ startDate: '2027-07-13T20:00:00+01:00' }), second));
  expect(later?.content).toMatchObject({
    performances: [{ link: null }, { link: null }],
    tickets: { levels: [{ price: 2000 }], outlets: [{ link: 'https://gate.example/2' }] },
  });
  const [other] = events(page(gig(), full));
  expect(other?.notes.map(({ code }) => code)).not.toContain('price-left');
});

test('an event without a place says so', () => {
  const told = (location: unknown) =>
    parts(page(gig({ location })), 'x.html', bareContext('UTC')).flatMap((part) =>
      part.kind === 'event' ? [part.event.notes.some(({ code }) => code === 'place-left')] : [],
    );
  expect([told({ '@type': 'VirtualLocation', name: 'Stream', url: 'https://o.example' }), told('The Vat')]).toEqual([
    [true],
    [false],
  ]);
});

test('what is on no page is asked or refused, and what cannot be kept is told by its field', () => {
  const asked = parts(page(gig({ location: { name: 'Nowhere Hall' } }))).flatMap((part) =>
    part.kind === 'event' ? [part.event.ask] : [],
  );
  expect(asked).toEqual([expect.objectContaining({ field: 'zone', code: 'zone-unknown' })]);
  const refused = (html: string) => parts(html).map((part) => (part.kind === 'refused' ? part.message : part.kind));
  expect(refused('<!doctype html><h1>Tonight 8 pm</h1>')).toEqual([expect.stringContaining('states no event')]);
  expect(refused(page(gig({ startDate: undefined })))).toEqual([expect.stringContaining('no name or no date')]);
  const broken = parts(page(gig(), gig({ startDate: 'soon' }), gig({ startDate: '2027-02-31', name: 'Leap' })));
  expect(broken.flatMap((part) => (part.kind === 'broken' ? [[part.row.line, part.row.text]] : []))).toEqual([
    [2, expect.stringMatching(/^“Odalys Quarry” begins at “soon”/)],
    [3, expect.stringMatching(/^“Leap” begins at “2027-02-31”/)],
  ]);
  // A reading that goes on behind a line passes over what it told before.
  const later = [...fileParts('x.html', Buffer.from(page(gig(), gig({ startDate: 'soon' }))), bareContext('UTC'), 2)];
  expect(later.filter(({ kind }) => kind === 'broken' || kind === 'event')).toEqual([]);
});

test.each([
  ['saved.htm', ''],
  ['page', '\n  '],
  ['page.txt', '\ufeff'],
])('a page is known by its name or by how it begins: %s', (name, before) => {
  expect(parts(`${before}${page(gig())}`, name).some((part) => part.kind === 'event')).toBe(true);
});

test('the block that we write for a page is read as what it was written from', () => {
  const html = blockOf({
    ...{
      title: 'Sheaf & Bell',
      place: 'Tallow Yard, Marrowby',
      link: 'https://gate.example/sb',
      amount: '9.00',
      currency: 'EUR',
    },
    dates: [{ start: '2027-03-28T19:30:00Z[Europe/Dublin]', end: '2027-03-28T21:00:00Z[Europe/Dublin]' }],
  });
  const [event] = [...fileParts('x.html', Buffer.from(html), bareContext('Europe/Dublin'))].flatMap((part) =>
    part.kind === 'event' ? [part.event] : [],
  );
  expect(event?.content).toMatchObject({
    title: 'Sheaf & Bell',
    performances: [{ date: '2027-03-28', start: '20:30', end: '22:00' }],
    tickets: { levels: [{ price: 900 }], outlets: [{ link: 'https://gate.example/sb' }] },
  });
});
