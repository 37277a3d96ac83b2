import { checkRecord } from '../record/check-record';
import { readEventsCsv } from './events-csv';
import { readEventsJson } from './events-json';

const event = (part: object = {}) => ({
  ref: 'A',
  title: 'Harp Night',
  zone: 'Europe/Dublin',
  performances: [{ date: '2027-03-14', start: '20:00' }],
  ...part,
});
const read = (events: unknown, more: object = {}) => readEventsJson(JSON.stringify({ nuntiax: 1, events, ...more }));
const whole = (events: unknown[]) => {
  const found = read(events);
  if (!found.ok) throw new Error(found.message);
  return found;
};

describe('a JSON file of events', () => {
  test('what is left out has its usual value, and the event is fit to be kept', () => {
    const [importedEvent] = whole([event()]).events;
    expect(importedEvent?.origin).toBe('json:A');
    expect(importedEvent?.content).toMatchObject({
      eventType: 'concert',
      stage: 'confirmed',
      performances: [{ id: '20270314T2000', precision: 'exact', doors: null, end: null, turn: 'none' }],
      publicity: { visibility: 'private', announce: null },
      tickets: { mode: 'ticketed', levels: [], outlets: [] },
    });
    expect(checkRecord(importedEvent?.content, new Map()).ok).toBe(true);
  });

  test.each<[string, object, object]>([
    [
      'a day without a time',
      { performances: [{ date: '2027-03-14', start: null }] },
      { performances: [{ precision: 'day', start: null }] },
    ],
    [
      'an end past midnight',
      { performances: [{ date: '2027-03-14', start: '22:00', end: '04:00' }] },
      { performances: [{ endsNextDay: true }] },
    ],
    [
      'several days',
      { performances: [{ date: '2027-03-14', lastDate: '2027-03-16', start: '17:00', end: '11:00' }] },
      { performances: [{ endsNextDay: false, lastDate: '2027-03-16' }] },
    ],
    [
      'levels without ids',
      {
        tickets: {
          levels: [
            { name: 'Standard', price: 1500 },
            { name: 'Family', price: 4000, admits: 4 },
          ],
        },
      },
      { tickets: { levels: [{ buyers: 'anyone', admits: 1 }, { admits: 4 }] } },
    ],
    [
      'plain text becomes paragraphs',
      { words: { full: 'One.\n\nTwo.' } },
      { words: { full: '<p>One.</p><p>Two.</p>' } },
    ],
    [
      'HTML is cleaned',
      { words: { full: '<p>One<script>x</script></p><table><tr><td>two</td></tr></table>' } },
      { words: { full: '<p>One</p><p>two</p>' } },
    ],
    [
      'a line-up by names',
      {
        lineUp: [
          { name: 'X', role: 'headliner' },
          { name: 'Y', role: 'support' },
        ],
      },
      {
        lineUp: [
          { name: 'X', artistId: null },
          { name: 'Y', setTime: null },
        ],
      },
    ],
  ])('%s', (_, part, expected) => {
    const [importedEvent] = whole([event(part)]).events;
    expect(importedEvent?.content).toMatchObject(expected);
    expect(checkRecord(importedEvent?.content, new Map())).toMatchObject({ ok: true });
  });

  test('the places of single performances are kept apart from the event’s', () => {
    const performances = [
      { date: '2027-03-14', start: '20:00' },
      { date: '2027-03-15', start: '20:00', venue: 'Other Hall', town: 'Port', room: 'Loft' },
      { date: '2027-03-16', start: '20:00', setUp: 'standing' },
    ];
    const [importedEvent] = whole([
      event({ venue: 'Yard', town: 'Marrowby', room: 'Vat', setUp: 'seated', performances }),
    ]).events;
    expect(importedEvent?.venue).toMatchObject({ name: 'Yard', town: 'Marrowby', room: 'Vat' });
    expect(importedEvent?.places).toEqual({
      '20270315T2000': { venue: 'Other Hall', town: 'Port', room: 'Loft', setUp: '' },
      '20270316T2000': { venue: '', town: '', room: '', setUp: 'standing' },
    });
  });

  test.each<[string, unknown, string]>([
    ['no reference', { ...event(), ref: '' }, 'ref'],
    ['no title', { ...event(), title: undefined }, 'title'],
    ['no performance', event({ performances: [] }), 'performances'],
    ['a zone that is none', event({ zone: 'Mars/Olympus' }), 'zone'],
    ['no event at all', 7, 'event'],
  ])('%s: told with its number in the list, and the others go on', (_, broken, field) => {
    const found = whole([event(), broken]);
    expect(found.events).toHaveLength(1);
    expect(found.broken).toEqual([
      { line: 2, field, code: 'event-unread', text: expect.stringContaining('event number 2') },
    ]);
  });

  test.each<[string, string]>([
    ['', 'no JSON'],
    ['[]', 'no file of events'],
    ['{"nuntiax":3,"events":[]}', 'no file of events'],
  ])('%s', (text, words) =>
    expect(readEventsJson(text)).toMatchObject({ ok: false, message: expect.stringContaining(words) }),
  );

  test('an entry of the directory that cannot be kept costs itself alone, and is told at its field', () => {
    const found = read([event()], {
      organisers: [{ name: '' }, { name: 'Finch' }],
      wordings: [{ name: 'x', text: '' }],
      venues: [
        { name: 'v'.repeat(121), town: 'M', zone: 'Europe/Dublin' },
        { name: 'Yard', town: 'M', zone: 'Mars/Olympus' },
      ],
      tours: 7,
    });
    if (!found.ok) throw new Error(found.message);
    expect(found.broken.map((row) => row.field)).toEqual([
      'venues.0.name',
      'venues.1.zone',
      'organisers.0.name',
      'wordings.0.text',
      'tours',
    ]);
    expect([
      found.directory.organisers.map((organiser) => organiser.name),
      found.events.map((event) => event.content.title),
    ]).toEqual([['Finch'], ['Harp Night']]);
  });

  test('what has the reference of another is told, and the first stays', () => {
    expect(whole([event(), event({ title: 'Another' })])).toMatchObject({
      events: [{ content: { title: 'Harp Night' } }],
      broken: [{ line: 2, field: 'ref' }],
    });
  });
});

describe('a table of events', () => {
  const table = (head: string, row: string) => readEventsCsv(`${head}\n${row}\n`, 'Europe/Dublin', 'Tour Title');
  const first = (head: string, row: string) => {
    const found = table(head, row);
    return found.ok ? (found.events[0] ?? found.broken[0]) : found.message;
  };
  test.each<[string, string, string, object]>([
    [
      'only the month is known',
      'date,start,venue',
      '2027-03,,Yard',
      { content: { performances: [{ precision: 'month', date: '2027-03-01', start: null }] } },
    ],
    [
      'nothing is known of the date',
      'date,start,venue',
      'open,,Yard',
      { content: { performances: [{ precision: 'open', start: null }] } },
    ],
    [
      'the day, and not the hour',
      'date,start,venue',
      '2027-03-14,,Yard',
      { content: { performances: [{ precision: 'day', start: null }] } },
    ],
    [
      'the title of the tour stands in',
      'date,start,venue',
      '2027-03-14,20:00,Yard',
      { content: { title: 'Tour Title' } },
    ],
    [
      'one on-sale for all levels',
      'date,start,venue,price,concession,on_sale',
      '2027-03-14,20:00,Yard,20,15,2027-02-12 10:00',
      {
        content: {
          tickets: {
            levels: [
              { opens: { kind: 'at', date: '2027-02-12', time: '10:00' } },
              { opens: { time: '10:00' }, buyers: 'concession' },
            ],
          },
        },
      },
    ],
    [
      'an on-sale that is no moment',
      'date,start,venue,price,on_sale',
      '2027-03-14,20:00,Yard,20,soon',
      { line: 2, field: 'on_sale' },
    ],
    [
      'tags and the organiser',
      'date,start,venue,tags,organiser',
      '2027-03-14,20:00,Yard,harp; tape,Finch',
      { organiser: 'Finch', content: { tags: ['harp', 'tape'] } },
    ],
    ['a date that is none', 'date,start,venue', '2027-02-30,20:00,Yard', { line: 2, field: 'date' }],
  ])('%s', (_, head, row, expected) => expect(first(head, row)).toMatchObject(expected));
});
