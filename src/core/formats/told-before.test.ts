import { facts } from '../facts/facts';
import { manyOrganisers, manyVenues, told, variedRecords } from '../testing/varied';
import { readEventsCsv } from './events-csv';
import { readEventsIcs } from './events-ics';
import { readEventsJson } from './events-json';
import { writeEventsCsv } from './write-csv';
import { writeEventsIcs } from './write-ics';
import { writeEventsJson } from './write-json';

const now = Date.parse('2027-02-02T10:20Z');
const written = variedRecords(120).map((content, i) => ({
  writtenFrom: `h/r${i}`,
  code: `TY-${i}`,
  content,
  facts: facts(content, { code: `TY-${i}`, venues: manyVenues, organisers: manyOrganisers, now }),
  revision: (i % 5) + 1,
  savedAt: now - i * 3_600_000,
  page: i % 3 === 0 ? `https://yard.example/e/${i}` : null,
  attached: i % 4 === 0 ? [{ name: 'a.pdf', type: 'application/pdf', base64: 'JVBERg==' }] : [],
}));
const directory = {
  venues: manyVenues,
  artists: new Map(),
  organisers: manyOrganisers,
  wordings: new Map(),
  tours: [],
};

test('a hundred and twenty records are written into files, and read out of them, as they were', () => {
  expect(
    told(written, (record) => {
      const [csv, json] = [writeEventsCsv([record]), writeEventsJson([record], directory)];
      const ics = writeEventsIcs([record], { name: 'House', now, domain: 'h.nuntiax' });
      return [csv, ics, json, readEventsCsv(csv, 'Europe/Dublin'), readEventsIcs(ics, null), readEventsJson(json)];
    }),
  ).toMatchSnapshot();
});

/** Cells that people write, well and badly. */
const columns = [
  'title',
  'date',
  'start',
  'end',
  'doors',
  'venue',
  'town',
  'zone',
  'public',
  'price',
  'concession',
  'status',
  'teaser',
  'line_up',
  'tickets_link',
];
const cells: Record<string, readonly string[]> = {
  title: ['Harp', '"A, b"', '', '=SUM(1)', 'x'.repeat(300)],
  date: ['2027-03-14', '14/03/2027', '14 March 2027', '3/14/2027', 'soon', ''],
  start: ['19:30', '7.30pm', '25:00', '', '19h'],
  end: ['22:00', '01:00', '', 'late'],
  doors: ['19:00', '', '7pm'],
  venue: ['Tallow Yard', 'Tallow Yard, The Vat', 'Cedar Hall', ''],
  town: ['Marrowby', 'Vancouver', ''],
  zone: ['', 'Europe/Dublin', 'Mars/Base'],
  public: ['yes', 'no', 'unlisted', 'maybe', ''],
  price: ['18', '€18', '18.50', 'free', '18-22', 'lots', ''],
  concession: ['', '15', 'x'],
  status: ['', 'cancelled', 'postponed', 'sold out', 'gone'],
  teaser: ['', 'Words; with, commas', '"Two\nlines"'],
  line_up: ['', 'Odalys Quarry; Tin Meridian', 'A + B'],
  tickets_link: ['', 'https://t.example/1', 'nowhere'],
};

test('tables that are written badly are told as they were', () => {
  const rows = Array.from({ length: 400 }, (_, i) =>
    columns.map((column, n) => {
      const list = cells[column] ?? [''];
      return list[(i * (n + 3) + Math.floor(i / (n + 2))) % list.length] ?? '';
    }),
  );
  expect(
    told(
      Array.from({ length: 80 }, (_, i) => rows.slice(i * 5, i * 5 + 5)),
      (five, i) => {
        const by = i % 3 === 1 ? ';' : i % 3 === 2 ? '\t' : ',';
        const text = [columns, ...five].map((row) => row.join(by)).join(i % 2 === 0 ? '\n' : '\r\n');
        return readEventsCsv(text, i % 2 === 0 ? 'Europe/Dublin' : null);
      },
    ),
  ).toMatchSnapshot();
});

const properties = {
  start: [
    'DTSTART:20270314T193000Z',
    'DTSTART;TZID=Europe/Dublin:20270314T193000',
    'DTSTART;VALUE=DATE:20270314',
    'DTSTART:20270314T193000',
    'DTSTART:nonsense',
  ],
  end: [
    '',
    'DTEND:20270314T220000Z',
    'DTEND;TZID=America/Vancouver:20270314T150000',
    'DURATION:PT2H30M',
    'DTEND;VALUE=DATE:20270316',
  ],
  rule: [
    '',
    'RRULE:FREQ=WEEKLY;COUNT=4',
    'RRULE:FREQ=MONTHLY;BYDAY=2SU;COUNT=3',
    'RRULE:FREQ=DAILY;UNTIL=20270317T000000Z',
    'RRULE:FREQ=HOURLY',
    'RRULE:FREQ=YEARLY;BYMONTH=3;COUNT=2',
  ],
  except: ['', 'EXDATE:20270321T193000Z', 'EXDATE;TZID=Europe/Dublin:20270321T193000', 'EXDATE;VALUE=DATE:20270321'],
  extra: ['', 'RDATE:20270401T190000Z', 'RDATE;VALUE=DATE:20270402'],
  status: ['', 'STATUS:CANCELLED', 'STATUS:TENTATIVE', 'STATUS:CONFIRMED'],
  place: ['', 'LOCATION:The Vat\\, Tallow Yard\\, Marrowby', 'LOCATION:Cedar Hall', 'LOCATION:https://on.example'],
  words: ['', 'DESCRIPTION:Two lines\\nand more\\, with commas', 'X-ALT-DESC;FMTTYPE=text/html:<p>Rich</p>'],
  title: ['SUMMARY:Harp', 'SUMMARY:', 'SUMMARY:A\\; B'],
  class: ['', 'CLASS:PRIVATE', 'CATEGORIES:concert,harp', 'URL:https://yard.example/e'],
};

test('calendars of every sort are read as they were', () => {
  const names = Object.keys(properties) as (keyof typeof properties)[];
  const events = Array.from({ length: 240 }, (_, i) => [
    'BEGIN:VEVENT',
    `UID:u${i}`,
    ...names.map(
      (name, n) => properties[name][(i * (n + 2) + Math.floor(i / (n + 3))) % properties[name].length] ?? '',
    ),
    'END:VEVENT',
    ...(i % 6 === 0
      ? [
          'BEGIN:VEVENT',
          `UID:u${i}`,
          'RECURRENCE-ID:20270321T193000Z',
          'SUMMARY:Set apart',
          'DTSTART:20270322T200000Z',
          'END:VEVENT',
        ]
      : []),
  ]);
  expect(
    told(events, (lines, i) =>
      readEventsIcs(
        ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//y//EN', ...lines, 'END:VCALENDAR']
          .filter((line) => line !== '')
          .join('\r\n'),
        i % 2 === 0 ? 'Europe/Dublin' : null,
      ),
    ),
  ).toMatchSnapshot();
});
