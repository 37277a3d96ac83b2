import { csvParts, readEventsCsv } from './events-csv';
import { readEventsIcs } from './events-ics';
import { moneyWords } from '../base/money';
import { bareContext, gathered, type PlaceFinder, type ReadFile } from './import-row';

const whole = (read: ReadFile) => {
  if (!read.ok) throw new Error(read.message);
  return read;
};
const columns = [
  'title',
  'date',
  'start',
  'venue',
  'town',
  'zone',
  'end',
  'doors',
  'address',
  'country',
  'room',
  'capacity',
  'organiser',
  'subtitle',
  'kind',
  'stage',
  'price',
  'concession',
  'currency',
  'line_up',
  'public',
  'announce',
  'teaser',
  'text',
  'tickets_link',
  'tags',
  'on_sale',
] as const;
const good: Record<string, string> = {
  title: 'Good',
  date: '2027-04-01',
  start: '19:30',
  venue: 'Yard',
  town: 'Marrowby',
  zone: 'Europe/Dublin',
};
const row = (part: Record<string, string>) => columns.map((name) => `"${{ ...good, ...part }[name] ?? ''}"`).join(',');
const long = (n: number) => 'é'.repeat(n);

describe('one bad value costs its own line, and is told by its field', () => {
  test.each<[string, string, string]>([
    ['title', long(301), 'title'],
    ['title', '', 'title'],
    ['subtitle', long(301), 'subtitle'],
    ['venue', long(121), 'venue'],
    ['venue', '', 'venue'],
    ['town', long(121), 'town'],
    ['address', long(201), 'address'],
    ['country', long(81), 'country'],
    ['room', long(121), 'room'],
    ['organiser', long(161), 'organiser'],
    ['line_up', long(161), 'line_up'],
    ['line_up', Array.from({ length: 61 }, (_, i) => `A${i}`).join(';'), 'line_up'],
    ['tags', long(41), 'tags'],
    ['teaser', long(601), 'teaser'],
    ['text', long(60_001), 'text'],
    ['date', '2027-02-30', 'date'],
    ['date', 'soon', 'date'],
    ['date', '1–3 March 2027', 'date'],
    ['start', '7pmish', 'start'],
    ['start', '25:00', 'start'],
    ['start', '19:99', 'start'],
    ['end', 'late', 'end'],
    ['doors', '99', 'doors'],
    ['doors', '20:30', 'doors'],
    ['zone', 'Mars/Olympus', 'zone'],
    ['capacity', 'many', 'capacity'],
    ['capacity', '0', 'capacity'],
    ['kind', 'o'.repeat(41), 'kind'],
    ['kind', 'a;b;c;d;e;f;g;h', 'kind'],
    ['stage', 'maybe', 'stage'],
    ['price', 'lots', 'price'],
    ['price', '5,500 KWD', 'price'],
    ['concession', '-3', 'concession'],
    ['currency', 'XYZ', 'currency'],
    ['public', 'perhaps', 'public'],
    ['announce', 'soon', 'announce'],
    ['announce', '2027-02-30 10:00', 'announce'],
    ['on_sale', '10:00', 'on_sale'],
    ['tickets_link', 'www.example', 'tickets_link'],
    ['tickets_link', `https://x.example/${'a'.repeat(1_990)}`, 'tickets_link'],
  ])('%s: %.30s', (column, value, field) => {
    const read = whole(
      readEventsCsv([columns.join(','), row({ [column]: value }), row({ title: 'After' })].join('\n'), null),
    );
    expect([
      read.broken.map((brokenRow) => [brokenRow.line, brokenRow.field]),
      read.events.map((event) => event.content.title),
    ]).toEqual([[[2, field]], ['After']]);
    expect(read.broken[0]?.text).toMatch(/[.]$/);
  });
  test.each([
    ['title', 300],
    ['venue', 120],
    ['town', 120],
    ['address', 200],
    ['organiser', 160],
  ])('%s: %i graphemes are kept, whatever they are made of', (column, most) => {
    const read = whole(readEventsCsv([columns.join(','), row({ [column]: '👩‍👩‍👧‍👦'.repeat(most) })].join('\n'), null));
    expect([read.broken, read.events.length]).toEqual([[], 1]);
  });
  test('several bad values of a row are all told', () => {
    const read = whole(
      readEventsCsv(
        [columns.join(','), row({ venue: long(121), organiser: long(161), teaser: long(601) })].join('\n'),
        null,
      ),
    );
    expect(read.broken.map((brokenRow) => brokenRow.field).sort()).toEqual(['organiser', 'teaser', 'venue']);
  });
  test.each<[string, string[], string]>([
    ['a title too long', [`SUMMARY:${long(301)}`, 'DTSTART:20270202T180000'], 'SUMMARY'],
    ['a place too long', ['SUMMARY:S', 'DTSTART:20270202T180000', `LOCATION:${long(121)}`], 'LOCATION'],
    ['words too long', ['SUMMARY:S', 'DTSTART:20270202T180000', `DESCRIPTION:${long(60_001)}`], 'DESCRIPTION'],
    ['a time that the clocks skip', ['SUMMARY:S', 'DTSTART;TZID=Europe/Dublin:20270328T013000'], 'DTSTART'],
    [
      'ten thousand rules',
      ['SUMMARY:S', 'DTSTART:20270202T180000', ...Array.from({ length: 11 }, () => 'RRULE:FREQ=DAILY;COUNT=2')],
      'RRULE',
    ],
    [
      'thirty thousand lines',
      ['SUMMARY:S', 'DTSTART:20270202T180000', ...Array.from({ length: 30_000 }, () => 'EXDATE:20270203T180000')],
      'VEVENT',
    ],
    [
      'hours and minutes by the thousand',
      [
        'SUMMARY:S',
        'DTSTART:20270202T180000',
        `RRULE:FREQ=DAILY;COUNT=1000000;BYHOUR=${Array.from({ length: 24 }, (_, i) => i).join(',')};BYMINUTE=${Array.from({ length: 60 }, (_, i) => i).join(',')}`,
      ],
      'RRULE',
    ],
    [
      'a rule whose parts never meet',
      [
        'SUMMARY:S',
        'DTSTART:20270202T180000',
        'RRULE:FREQ=YEARLY;BYMONTHDAY=31;BYMONTH=2;BYDAY=MO,TU,WE,TH,FR,SA,SU;BYSETPOS=366',
      ],
      'RRULE',
    ],
    [
      'an hour of three digits',
      ['SUMMARY:S', 'DTSTART:20270202T180000', 'RRULE:FREQ=DAILY;COUNT=3;BYHOUR=007'],
      'RRULE',
    ],
    [
      'a minute after the last',
      ['SUMMARY:S', 'DTSTART:20270202T180000', 'RRULE:FREQ=DAILY;COUNT=3;BYMINUTE=60'],
      'RRULE',
    ],
  ])('in a calendar: %s', (_, lines, field) => {
    const event = (uid: string, all: string[]) => ['BEGIN:VEVENT', `UID:${uid}`, ...all, 'END:VEVENT'];
    const read = whole(
      readEventsIcs(
        [
          'BEGIN:VCALENDAR',
          ...event('a', lines),
          ...event('b', ['SUMMARY:After', 'DTSTART:20270203T180000']),
          'END:VCALENDAR',
          '',
        ].join('\r\n'),
        'Europe/Dublin',
      ),
    );
    expect([
      read.broken.map((brokenRow) => [brokenRow.line, brokenRow.field]),
      read.events.map((event) => event.content.title),
    ]).toEqual([[[2, field]], ['After']]);
  });
  test('what is said a thousand times is said once', () => {
    const again = Array.from({ length: 2_000 }, () => '1').join(',');
    const read = whole(
      readEventsIcs(
        [
          'BEGIN:VCALENDAR',
          'BEGIN:VEVENT',
          'UID:a',
          'SUMMARY:S',
          'DTSTART:20270202T010100',
          `RRULE:FREQ=DAILY;COUNT=3;BYHOUR=${again};BYMINUTE=${again}`,
          'END:VEVENT',
          'END:VCALENDAR',
          '',
        ].join('\r\n'),
        'Europe/Dublin',
      ),
    );
    expect(
      read.events[0]?.content.performances.map((performance) => `${performance.date} ${performance.start}`),
    ).toEqual(['2027-02-02 01:01', '2027-02-03 01:01', '2027-02-04 01:01']);
  });
});

describe('what the zone of a row is', () => {
  const find: PlaceFinder = ({ town, venue }) => {
    if (venue === 'Known Hall') return { kind: 'known', zone: 'Europe/Dublin', point: null, by: 'venue' };
    if (town === 'Chicago')
      return { kind: 'known', zone: 'America/Chicago', point: { lat: 41.85, lon: -87.65 }, by: 'town' };
    return town === 'Springfield'
      ? {
          kind: 'several',
          choices: [{ label: 'Springfield, IL', zone: 'America/Chicago', point: { lat: 39.8, lon: -89.6 } }],
        }
      : { kind: 'none' };
  };
  const read = (line: string, zone: string | null) => {
    const found = gathered(csvParts([`title,date,start,venue,town,zone\n${line}\n`], { ...bareContext(zone), find }));
    const [event] = whole(found).events;
    return [
      event?.ask?.code ?? null,
      event?.ask === null ? event.content.performances[0]?.zone : null,
      event?.venue?.point?.lat ?? null,
      event?.notes.filter((note) => /zone|town/.test(note.code)).map((note) => note.code),
    ];
  };
  test.each<[string, string | null, unknown[]]>([
    ['A,2027-04-01,19:30,Hall,Chicago,', 'Europe/Dublin', [null, 'America/Chicago', 41.85, ['zone-by-town']]],
    ['A,2027-04-01,19:30,Hall,Chicago,America/Chicago', null, [null, 'America/Chicago', 41.85, []]],
    ['A,2027-04-01,19:30,Hall,Chicago,Europe/Paris', null, [null, 'Europe/Paris', null, []]],
    ['A,2027-04-01,19:30,Known Hall,,', null, [null, 'Europe/Dublin', null, []]],
    ['A,2027-04-01,19:30,Hall,Springfield,', 'Europe/Dublin', ['town-several', null, null, []]],
    ['A,2027-04-01,19:30,Hall,Nowhere,', null, ['town-unknown', null, null, []]],
    ['A,2027-04-01,19:30,Hall,Nowhere,', 'Europe/Dublin', [null, 'Europe/Dublin', null, ['town-unknown']]],
    ['A,2027-04-01,19:30,Hall,,', null, ['zone-unknown', null, null, []]],
  ])('%s, chosen: %s', (line, zone, expected) => expect(read(line, zone)).toEqual(expected));

  test.each<[string, string, unknown]>([
    ['2027-04-01T19:30:00', '', ['2027-04-01', '19:30']],
    ['2027-04-01T00:00:00', '19:30', ['2027-04-01', '19:30']],
    ['2027-04-01', '1899-12-30T19:30:00', ['2027-04-01', '19:30']],
    ['2027-04-01T18:30:00Z', '', ['2027-04-01', '19:30']],
    ['2027-04-01T23:30:00+00:00', '', ['2027-04-02', '00:30']],
    ['1-Apr-27', '7:30:00 PM', ['2027-04-01', '19:30']],
    ['15 March 27', '19:00:00', ['2027-03-15', '19:00']],
    ['1 Apr ’28', '19:30', ['2028-04-01', '19:30']],
    ['2027-04-01', '2027-04-02T19:30:00', 'start'],
    ['2027-04-01T19:30:17', '', 'date'],
  ])('a date cell %s with a start %s', (date, start, expected) => {
    const found = whole(
      gathered(csvParts([`title,date,start,venue,zone\nA,${date},${start},Hall,Europe/Dublin\n`], bareContext(null))),
    );
    const performance = found.events[0]?.content.performances[0];
    expect(performance ? [performance.date, performance.start] : found.broken[0]?.field).toEqual(expected);
  });

  test.each<[string, string, string]>([
    ['20', 'Ireland', '€20'],
    ['20', 'USA', '$20'],
    ['£20', '', '£20'],
    ['CHF 25', 'Germany', 'CHF 25'],
    ['250', 'Norway', 'NOK 250'],
    ['3000', 'Japan', '¥3,000'],
    ['5.500', 'Kuwait', 'KWD 5.500'],
    ['20', '', '€20'],
  ])('a price %s in %s', (price, country, words) => {
    const found = whole(
      gathered(
        csvParts(
          [`title,date,start,venue,zone,country,price\nA,2027-04-01,19:30,Hall,UTC,${country},${price}\n`],
          bareContext(null),
        ),
      ),
    );
    const { tickets } = found.events[0]?.content ?? {};
    expect(tickets && moneyWords(tickets.levels[0]?.price ?? 0, tickets.currency)).toBe(words);
  });
});

test.each([
  ['', 1],
  [',event_type', 0],
  [',kind', 0],
])('that each is a concert is said once where no column tells: %j', (column, notes) => {
  const cell = column === '' ? '' : ',reading';
  const lines = [`title,date,start,venue${column}`, `A,2027-10-30,19:30,Hall${cell}`, `B,2027-10-31,19:30,Hall${cell}`];
  const said = [...csvParts([`${lines.join('\n')}\n`], bareContext('Europe/Dublin'))];
  expect(said.filter((part) => part.kind === 'note' && part.note.code === 'kind-assumed')).toHaveLength(notes);
});
