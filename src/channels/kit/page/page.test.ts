import type { Wire } from '@/core/listing/channel-rules';
import { heldAgainst } from './held-against';
import { readPage } from './read-page';

/*
 * Pages of every make about one evening, each with what is to be seen on it: as typed, something else, or nothing for
 * certain.
 */

const zone = 'Europe/Dublin';
const at = (text: string) => `${text}:00Z[${zone}]`;
const typed: Wire = {
  title: 'Harbour Lights',
  line: 'Songs of the quay, and one of the sea.',
  place: 'The Vat, Tallow Yard, 12 Mill Lane, Corry',
  price: '€18 to €22',
  link: 'https://seats.example/e/77?via=board',
  dates: [{ ref: 'p1', start: at('2027-03-14T20:00'), doors: at('2027-03-14T19:00') }],
  shown: 'yes',
};
const before: Wire = { ...typed, dates: [{ ref: 'p1', start: at('2027-03-14T19:30'), doors: at('2027-03-14T19:00') }] };
const held = (html: string, part: Wire = {}, earlier: Wire | null = before) => {
  const page = readPage(html, 'https://board.example/e/7');
  return { means: page.means, ...heldAgainst(page, { wire: { ...typed, ...part }, before: earlier }) };
};
/** What is seen otherwise than it was typed. */
const otherwise = ({ wire }: { wire: Wire }, as: Wire = typed) =>
  Object.fromEntries(
    Object.entries(wire).flatMap(([key, value]) =>
      JSON.stringify(value) === JSON.stringify(as[key]) ? [] : [[key, value]],
    ),
  );
const starts = ({ wire }: { wire: Wire }) => (wire.dates as Wire[]).map((date) => date.start);

const ld = (...events: object[]) =>
  `<!doctype html><title>What is on</title><script type="application/ld+json">${JSON.stringify(events)}</script>`;
const event = (part: object = {}) => ({
  '@context': 'https://schema.org',
  '@type': 'MusicEvent',
  name: 'Harbour Lights',
  startDate: '2027-03-14T20:00:00+00:00',
  doorTime: '2027-03-14T19:00',
  location: {
    '@type': 'Place',
    name: 'Tallow Yard',
    address: { streetAddress: '12 Mill Lane', addressLocality: 'Corry' },
  },
  offers: [
    { '@type': 'Offer', price: '18.00', priceCurrency: 'EUR', url: 'https://www.seats.example/e/77/?via=board' },
    { '@type': 'Offer', price: 22, priceCurrency: 'EUR', url: '/e/7' },
  ],
  description: 'Songs of the quay, and one of the sea.',
  ...part,
});
const marked = (start: string, name = 'Harbour Lights') =>
  `<main itemscope itemtype="http://schema.org/TheaterEvent"><h1 itemprop="name">${name}</h1>
   <time itemprop="startDate" datetime="${start}">tonight</time>
   <div itemprop="location" itemscope itemtype="https://schema.org/Place"><b itemprop="name">Tallow Yard</b></div></main>`;
const prose = (words: string) =>
  `<html><head><title>Board</title><script>var x='25 May'</script></head><body>${words}</body></html>`;

describe('stated for programs', () => {
  test.each([
    ['as it was typed', ld(event()), {}, 'JSON-LD'],
    [
      'in a graph, among others',
      ld({ '@graph': [event({ name: 'Another Night', startDate: '2027-03-14T21:00Z' }), event()] }),
      {},
      'JSON-LD',
    ],
    [
      'in a list of items',
      ld({ '@type': 'ItemList', itemListElement: [{ '@type': 'ListItem', item: event() }] }),
      {},
      'JSON-LD',
    ],
    ['with more behind its name', ld(event({ name: 'HARBOUR LIGHTS – Tallow Yard' })), {}, 'JSON-LD'],
    ['a time of its clock, without an offset', ld(event({ startDate: '2027-03-14T20:00' })), {}, 'JSON-LD'],
    ['its day alone', ld(event({ startDate: '2027-03-14', doorTime: undefined })), {}, 'JSON-LD'],
    ['as microdata', marked('2027-03-14T20:00'), {}, 'microdata'],
    [
      'broken, and said in the text',
      `<script type="application/ld+json">{"@type":</script><p>Harbour Lights, Sunday 14 March, doors 7pm, 8pm</p>`,
      {},
      'its text',
    ],
    ['by a slip of the pen', ld(event({ name: 'Harbor Lights' })), { title: 'Harbor Lights' }, 'JSON-LD'],
    ['another name, a letter off', ld(event({ name: 'Harbour Nights!' })), { title: 'Harbour Nights!' }, 'JSON-LD'],
    ['another place', ld(event({ location: { name: 'The Old Mint' } })), { place: 'The Old Mint' }, 'JSON-LD'],
    [
      'another price',
      ld(event({ offers: { lowPrice: 20, highPrice: 25, priceCurrency: 'EUR', url: typed.link } })),
      { price: 'EUR 20, EUR 25' },
      'JSON-LD',
    ],
    [
      'tickets elsewhere',
      ld(event({ offers: { price: '18 – 22', url: 'https://other.example/x' } })),
      { link: 'https://other.example/x' },
      'JSON-LD',
    ],
    ['called off', ld(event({ eventStatus: 'https://schema.org/EventCancelled' })), { shown: 'cancelled' }, 'JSON-LD'],
  ])('%s', (_, html, expected, means) => {
    const seen = held(html);
    expect([seen.speaks, seen.means, otherwise(seen)]).toEqual([true, means, expected]);
  });

  test('still as it was before, and as nobody typed it', () => {
    expect(starts(held(ld(event({ startDate: '2027-03-14T19:30:00Z' }))))).toEqual([at('2027-03-14T19:30')]);
    expect(starts(held(ld(event({ startDate: '2027-03-15T20:00:00Z' }))))).toEqual([at('2027-03-15T20:00')]);
    const { wire } = held(ld(event({ doorTime: '2027-03-14T18:30' })));
    expect((wire.dates as Wire[])[0]).toMatchObject({ start: at('2027-03-14T20:00'), doors: at('2027-03-14T18:30') });
  });

  test('of several dates each is its own; one that is not there is not said to be another', () => {
    const dates = ['14', '15', '16'].map((day) => ({ ref: `p${day}`, start: at(`2027-03-${day}T20:00`) }));
    const stated = (...days: string[]) =>
      ld(...days.map((day) => event({ startDate: `2027-03-${day}T20:00Z`, doorTime: '' })));
    expect(starts(held(stated('14', '15', '16'), { dates }))).toEqual(dates.map(({ start }) => start));
    expect(starts(held(stated('14', '15', '18'), { dates }))).toEqual([
      ...dates.slice(0, 2).map(({ start }) => start),
      at('2027-03-18T20:00'),
    ]);
    const few = held(stated('14'), { dates });
    expect([starts(few), few.unsure.includes('starts')]).toEqual([dates.map(({ start }) => start), true]);
  });
});

describe('as a person reads it', () => {
  const whole =
    'Harbour Lights <td>Sunday 14 March 2027<td>Doors 7pm, music 8pm. The Vat, Tallow Yard, 12 Mill Lane, Corry. €18 / €22. <a href="https://seats.example/e/77?via=board">Tickets</a> Songs of the quay, and one of the sea';
  test('everything is found, whatever marks it', () => {
    const seen = held(prose(whole));
    expect([otherwise(seen), seen.unsure, seen.means]).toEqual([{}, [], 'its text']);
    expect(held(`<meta property="og:title" content="Harbour Lights">${whole}`).means).toBe('Open Graph');
  });

  test.each([
    ['the old time', 'Harbour Lights, 14 March, doors 7pm, 7.30pm', [at('2027-03-14T19:30')]],
    ['one other time', 'Harbour Lights, 14 March at 20:30', [at('2027-03-14T20:30')]],
    ['the doors alone', 'Harbour Lights, 14 March at 7pm', [at('2027-03-14T20:00')]],
    ['several times, none of them ours', 'Harbour Lights, 14 March, 3pm and 9pm', [at('2027-03-14T20:00')]],
    ['the time of another night', 'Harbour Lights, 15 March at 9pm', [at('2027-03-14T20:00')]],
    ['no day at all', 'Harbour Lights, soon', [at('2027-03-14T20:00')]],
  ])('%s', (_, words, expected) => expect(starts(held(prose(`<p>${words}`)))).toEqual(expected));

  test('what is not said is not otherwise: it is unsure', () => {
    const seen = held(prose('<h1>Harbour Lights</h1><p>Sun 14 March, 20:00'));
    expect([otherwise(seen), seen.unsure]).toEqual([{}, ['short text', 'place', 'price', 'link to tickets', 'doors']]);
    // Words that stand there as they were are.
    const changed = held(
      prose('Harbour Lights: an old line'),
      { line: 'A new line' },
      { ...before, line: 'An old line.' },
    );
    expect(changed.wire.line).toBe('An old line.');
    expect(held(prose('Harbour Lights €15'), {}, { ...before, price: '€15' }).wire.price).toBe('€15');
  });

  test('a page of something else, or of nothing, is no word against it', () => {
    for (const html of [
      '',
      '<p>Page under construction',
      ld(event({ name: 'Somebody Else' })),
      prose('The harbour by night. Lights out.'),
    ])
      expect(held(html)).toMatchObject({ speaks: false, wire: typed, unsure: [] });
  });

  test.each([
    ['taken down, and still there', 'no', 'Harbour Lights, 14 March', 'yes'],
    ['taken down, and said to be called off', 'no', ld(event({ eventStatus: 'EventCancelled' })), 'cancelled'],
    ['taken down, and gone', 'no', 'Other things', 'no'],
    ['called off, and said to be', 'cancelled', 'CANCELLED: Harbour Lights', 'cancelled'],
    ['called off, and not a word of it', 'cancelled', 'Harbour Lights, 14 March 8pm', 'yes'],
    [
      'called off, and stated as planned',
      'cancelled',
      `${ld(event({ eventStatus: 'https://schema.org/EventScheduled' }))}cancelled`,
      'yes',
    ],
  ])('%s', (_, shown, html, seen) => expect(held(html, { shown }).wire.shown).toBe(seen));
});

test('what comes behind elements that lie too deep is left out; what stands before them, or as deep beside each other, is read', () => {
  const stated = ld(event());
  const text = (html: string) => readPage(html, 'https://board.example/e/7').text;
  const nest = (n: number, within: string) => `${'<b>'.repeat(n)}${within}${'</b>'.repeat(n)}`;
  expect(readPage(`${stated}${'<div>'.repeat(300_000)}`, 'https://board.example/e/7').events).toHaveLength(1);
  expect(readPage(`${'<div>'.repeat(300_000)}${stated}`, 'https://board.example/e/7').events).toEqual([]);
  // The text of a page is read to a depth of its own; elements are counted out again where they end.
  const often = `${nest(300, 'in')}<br>`.repeat(5);
  expect(text(`${often}<p>out</p>`)).toMatch(/^(in\n){5}out$/);
});

test('monsters are read to their end', () => {
  const deep = `${'<div>'.repeat(300_000)}Harbour Lights`;
  let nested: object = event();
  for (let i = 0; i < 200; i += 1) nested = { '@graph': [nested] };
  const odd = [
    deep,
    ld(nested),
    '\u0000'.repeat(1000),
    '<'.repeat(50_000),
    ld({ '@type': ['Event', 7], name: { name: 3 }, offers: [null, 4], location: [[]] }),
    `${'14 March 8pm '.repeat(20_000)}`,
  ];
  for (const html of odd) {
    const { wire } = held(html);
    expect(Object.keys(wire).sort()).toEqual(Object.keys(typed).sort());
  }
});
