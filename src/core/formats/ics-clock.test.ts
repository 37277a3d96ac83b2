import fc from 'fast-check';
import { instantOf, toLocal } from '../base/zones';
import { readEventsIcs } from './events-ics';

const home = 'Europe/Dublin';
const zones = [home, 'America/Halifax', 'Asia/Kolkata', 'Pacific/Auckland', 'UTC'];

/** A calendar of one event, by its lines and those of its exceptions. */
function read(lines: readonly string[], ...exceptions: string[][]) {
  const block = (inside: readonly string[]) => [
    'BEGIN:VEVENT',
    'UID:u1',
    'DTSTAMP:20270101T000000Z',
    ...inside,
    'END:VEVENT',
  ];
  const text = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//y//EN', ...block(lines), ...exceptions.flatMap(block)];
  const file = readEventsIcs([...text, 'END:VCALENDAR', ''].join('\r\n'), home);
  if (!file.ok) throw new Error(file.message);
  const [event] = file.events;
  return {
    broken: file.broken.map(({ field, text: words }) => `${field}: ${words}`),
    notes: event?.notes.map((note) => note.code) ?? [],
    places: event?.places ?? {},
    entry: event?.content.tickets.mode,
    dates: (event?.content.performances ?? []).map((item) => ({
      id: item.id,
      said: [item.date, item.start, item.end, item.turn, item.note].join(' ').trim(),
    })),
  };
}

const said = (made: ReturnType<typeof read>) => made.dates.map((item) => item.said);

/** A property with a time of the home zone, said in a zone. */
function property(name: string, local: string, zone: string): string {
  const [date = '', time = ''] = local.split(' ');
  const at = instantOf({ date, time }, home);
  if (at === null) throw new Error(`${local} does not exist`);
  const there = toLocal(at, zone === 'UTC' ? 'UTC' : zone);
  const stamp = `${there.date.replaceAll('-', '')}T${there.time.replace(':', '')}00`;
  return zone === 'UTC' ? `${name}:${stamp}Z` : `${name};TZID=${zone}:${stamp}`;
}

test('each time is read by its own zone: however the others are said, the dates are the same', () => {
  const zone = fc.constantFrom(...zones);
  fc.assert(
    fc.property(fc.array(zone, { minLength: 7, maxLength: 7 }), (said) => {
      const [end, except, extra, extraToo, named, begins, ends] = said as [string, ...string[]];
      const of = (own: readonly string[]) =>
        read(
          [
            'SUMMARY:Loom',
            property('DTSTART', '2027-03-26 19:30', home),
            property('DTEND', '2027-03-26 22:00', own[0] ?? home),
            'RRULE:FREQ=DAILY;COUNT=4',
            property('EXDATE', '2027-03-27 19:30', own[1] ?? home),
            property('RDATE', '2027-04-02 23:30', own[2] ?? home),
            property('RDATE', '2027-04-03 00:30', own[3] ?? home),
          ],
          [
            'SUMMARY:Loom',
            property('RECURRENCE-ID', '2027-03-28 19:30', own[4] ?? home),
            property('DTSTART', '2027-03-28 20:15', own[5] ?? home),
            property('DTEND', '2027-03-28 23:00', own[6] ?? home),
          ],
        );
      const plain = of([]);
      expect(plain.dates.map((item) => item.said)).toEqual([
        '2027-03-26 19:30 22:00 none',
        '2027-03-28 20:15 23:00 none',
        '2027-03-29 19:30 22:00 none',
        '2027-04-02 23:30 02:00 none',
        '2027-04-03 00:30 03:00 none',
      ]);
      expect(
        of([end, except ?? home, extra ?? home, extraToo ?? home, named ?? home, begins ?? home, ends ?? home]),
      ).toEqual(plain);
    }),
    { numRuns: 60 },
  );
});

const daily = ['SUMMARY:Loom', property('DTSTART', '2027-02-02 18:00', home), 'RRULE:FREQ=DAILY;COUNT=3'];
const cancelled = ['SUMMARY:Loom', 'STATUS:CANCELLED'];
test.each<[string, string[], string[][], string[], string[]]>([
  [
    'an occurrence named by its day alone is the one of that day',
    daily,
    [[...cancelled, 'RECURRENCE-ID;VALUE=DATE:20270203', property('DTSTART', '2027-02-03 18:00', home)]],
    ['2027-02-02 18:00  none', '2027-02-03 18:00  cancelled', '2027-02-04 18:00  none'],
    [],
  ],
  [
    'a cancelled one named in UTC is cancelled',
    daily,
    [[...cancelled, 'RECURRENCE-ID:20270203T180000Z', 'DTSTART:20270203T180000Z']],
    ['2027-02-02 18:00  none', '2027-02-03 18:00  cancelled', '2027-02-04 18:00  none'],
    [],
  ],
  [
    'a start in UTC, with an exception that is said in a zone',
    [
      'SUMMARY:Loom',
      'DTSTART:20270702T180000Z',
      'RRULE:FREQ=DAILY;COUNT=2',
      'EXDATE;TZID=Europe/Dublin:20270702T190000',
    ],
    [],
    ['2027-07-03 19:00  none'],
    [],
  ],
  [
    'an end by day of a start by time is left out, and told',
    ['SUMMARY:Loom', property('DTSTART', '2027-02-02 18:00', home), 'DTEND;VALUE=DATE:20270203'],
    [],
    ['2027-02-02 18:00  none'],
    ['end-by-day'],
  ],
  [
    'an exception with a title of its own has it as its note',
    daily,
    [
      [
        'SUMMARY:Last thread',
        property('RECURRENCE-ID', '2027-02-04 18:00', home),
        property('DTSTART', '2027-02-04 17:00', home),
      ],
    ],
    ['2027-02-02 18:00  none', '2027-02-03 18:00  none', '2027-02-04 17:00  none Last thread'],
    [],
  ],
])('%s', (_, lines, exceptions, dates, notes) => {
  const made = read(lines, ...exceptions);
  expect([said(made), made.broken]).toEqual([dates, []]);
  expect(made.notes).toEqual(expect.arrayContaining(notes));
  expect(made.entry).not.toBe('free entry');
});

test.each<[string, { venue: string; town: string; room: string }]>([
  ['Wick Room\\, Tallow Yard\\, Marrowby', { venue: '', town: 'Marrowby', room: 'Wick Room' }],
  ['Wick Room\\, Tallow Yard', { venue: 'Wick Room', town: 'Tallow Yard', room: '' }],
  ['The Old Ropewalk', { venue: 'The Old Ropewalk', town: 'Marrowby', room: '' }],
])('an exception in another place is there: %s', (location, place) => {
  const made = read(
    [...daily, 'LOCATION:The Vat\\, Tallow Yard\\, Marrowby'],
    [
      'SUMMARY:Loom',
      `LOCATION:${location}`,
      property('RECURRENCE-ID', '2027-02-03 18:00', home),
      property('DTSTART', '2027-02-03 18:00', home),
    ],
  );
  expect(made.places).toEqual({ [made.dates[1]?.id ?? '']: { ...place, setUp: '' } });
});

test('a zone that is not known is told at its own property', () => {
  expect(read([...daily, 'EXDATE;TZID=Mars/Olympus:20270203T180000']).broken).toEqual([
    expect.stringMatching(/^EXDATE: The zone “Mars\/Olympus” is not in the IANA zone data/),
  ]);
});
