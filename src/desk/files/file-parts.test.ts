import { bareContext, fileLimits, gathered } from '@/core/formats/import-row';
import { checkedRecord } from './checked-record';
import { fileParts } from './file-parts';

const table = 'title,date,start,venue\r\nCafé Brûlé,2027-03-14,19:30,Yard\r\n';
const calendar = (category: string) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//x//y//EN',
    'BEGIN:VEVENT',
    'UID:a@x.example',
    'DTSTAMP:20270101T000000Z',
    'DTSTART:20270314T193000',
    'SUMMARY:Café Brûlé',
    ...(category === '' ? [] : [`CATEGORIES:${category}`]),
    'END:VEVENT',
    'END:VCALENDAR',
    '',
  ].join('\r\n');
const read = (name: string, bytes: Buffer) => gathered(fileParts(name, bytes, bareContext('Europe/Dublin')));
const titles = (name: string, bytes: Buffer) => {
  const file = read(name, bytes);
  return file.ok ? [file.events.map((event) => event.content.title), file.broken] : file.message;
};

test.each<[string, Buffer]>([
  ['UTF-8', Buffer.from(table)],
  ['UTF-8 with its mark', Buffer.from(`\ufeff${table}`)],
  ['UTF-16, the low byte first', Buffer.from(`\ufeff${table}`, 'utf16le')],
  ['UTF-16, the high byte first', Buffer.from(`\ufeff${table}`, 'utf16le').swap16()],
  ['windows-1252', Buffer.from(table, 'latin1')],
])('a table in %s is read with its marks', (_, bytes) => {
  expect(titles('x.csv', bytes)).toEqual([['Café Brûlé'], []]);
});

test('an older encoding is told, and only that one', () => {
  const notes = (bytes: Buffer) =>
    [...fileParts('x.csv', bytes, bareContext('UTC'))].filter(
      (part) => part.kind === 'note' && part.note.code === 'encoding',
    ).length;
  expect([notes(Buffer.from(table, 'latin1')), notes(Buffer.from(table))]).toEqual([1, 0]);
});

test.each([
  ['x.txt', calendar('Workshop'), 'workshop'],
  ['x.ics', calendar('Spoken Word'), 'reading'],
  ['x.ics', calendar('Screenings'), 'film'],
  ['x.ics', calendar('Late'), 'club night'],
  ['x.ics', calendar('Club'), 'club night'],
  ['x.ics', calendar('Lecture'), 'talk'],
  ['x.ics', calendar('Gigs'), 'concert'],
  ['x.ics', calendar(''), 'concert'],
])('%s by how it begins or its name, its category read', (name, text, type) => {
  const file = read(name, Buffer.from(text));
  expect(file.ok && file.events.map((event) => event.content.eventType)).toEqual([type]);
});

test('a file beyond what is read is refused whole', () => {
  expect(titles('x.csv', Buffer.alloc(fileLimits.bytes + 1, 32))).toContain('larger than 50 MB');
});

test.each<[string, string, object]>([
  [
    'past midnight',
    '2027-12-31,22:00,04:00',
    { start: '2027-12-31T22:00', end: '2028-01-01T04:00', status: 'confirmed' },
  ],
  ['the same evening', '2027-03-14,19:30,22:00', { start: '2027-03-14T19:30', end: '2027-03-14T22:00' }],
  ['without an end', '2027-03-14,19:30,', { start: '2027-03-14T19:30', end: null, zone: 'Europe/Dublin' }],
  ['known to the month', '2027-05,,', { start: '2027-05', end: null }],
])('what one event would become says its times in full: %s', (_, times, expected) => {
  const file = read('x.csv', Buffer.from(`title,venue,date,start,end\nOne,Yard,${times}\n`));
  if (!file.ok) throw new Error(file.message);
  expect(file.events.map(checkedRecord)).toMatchObject([
    { title: 'One', performances: [expected], entry: expect.any(String) },
  ]);
});
