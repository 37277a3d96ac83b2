import fc from 'fast-check';
import ICAL from 'ical.js';
import { checkRecord } from '../record/check-record';
import { organiserSchema } from '../record/directory';
import { facts } from '../facts/facts';
import { newEntry, newNotice } from '../record/new-record';
import type { RecordContent } from '../record/record';
import { record, zone } from '../testing/any-record';
import { performance, sample, venues, yard } from '../testing/samples';
import { instantOf, toLocal, zoneChanges, zoneNames } from '../base/zones';
import { readEventsCsv } from './events-csv';
import { readEventsIcs } from './events-ics';
import { readEventsJson } from './events-json';
import { fileNameOf } from './file-name';
import { writeEventsCsv } from './write-csv';
import { writeEventsIcs } from './write-ics';
import { writeEventsJson } from './write-json';

const now = Date.parse('2027-02-02T10:20Z');
const dayMs = 86_400_000;
const factsOf = (content: RecordContent, code = 'OQ-0001') =>
  facts(content, { code, venues, organisers: new Map(), now });
const ics = (contents: RecordContent[]) =>
  writeEventsIcs(
    contents.map((content, i) => ({
      facts: factsOf(content, `OQ-000${i}`),
      revision: 3,
      savedAt: now - dayMs,
      page: null,
    })),
    { name: 'Season', now, domain: 'yard.example' },
  );
const allOf = ({ performances, held }: ReturnType<typeof factsOf>) => [...performances, ...held];
const whole = <T extends { ok: boolean }>(read: T) => {
  if (!read.ok) throw new Error(JSON.stringify(read));
  return read as Extract<T, { ok: true }>;
};
const context = {
  venues,
  artists: new Map(),
  organisers: new Map([['o1', organiserSchema.parse({ id: 'o1', name: 'Lodestar & Finch' })]]),
  wordings: new Map(),
  tours: [{ id: 't1', name: 'Salt', shared: {} as never }],
};

describe('JSON', () => {
  test('whatever a record may be is read back as it was, but for what belongs to one house alone', () => {
    fc.assert(
      fc.property(record, fc.boolean(), (content, more) => {
        const rich: RecordContent = more
          ? {
              ...content,
              organiserId: 'o1',
              tourId: 't1',
              performances: content.performances.map((item) => ({
                ...item,
                was: { date: '2027-03-13', start: '19:30', venueId: 'v1', roomId: 'vat' },
              })),
              notices: [newNotice('n1', 'hearthside-posts', { words: 'Come', pin: true })],
              lineUp: [...content.lineUp, newEntry('zz', 'Who', 'special guest', { setTime: '21:00' })],
            }
          : content;
        const read = whole(
          readEventsJson(writeEventsJson([{ code: 'OQ-0001', writtenFrom: 'h1/r1', content: rich }], context)),
        );
        expect(read.broken).toEqual([]);
        const [event] = read.events;
        // Three times there and back: as after the first.
        let again = event;
        for (let n = 0; n < 2 && again; n += 1)
          [again] = whole(
            readEventsJson(
              writeEventsJson([{ code: 'OQ-0001', writtenFrom: 'h1/r1', content: again.content }], context),
            ),
          ).events;
        const bare = event && { ...event.content, organiserId: null, tourId: null };
        expect(again?.content).toEqual(bare);
        const expected = {
          ...rich,
          organiserId: null,
          tourId: null,
          performances: rich.performances.map((performance) => ({
            ...performance,
            venueId: null,
            roomId: null,
            setUpId: null,
            was: performance.was && { ...performance.was, venueId: null, roomId: null },
          })),
        };
        expect(event?.content).toEqual(expected);
        expect([
          event?.origin,
          event?.organiser,
          event?.tour,
          event?.venue?.name,
          Object.values(event?.places ?? {})[0]?.room,
        ]).toEqual(['json:OQ-0001', more ? 'Lodestar & Finch' : '', more ? 'Salt' : '', 'Tallow Yard', 'The Vat']);
        expect(checkRecord(event?.content, new Map()).ok).toBe(true);
      }),
      { numRuns: 150 },
    );
  });
  test('only what the records use of the directory goes with them', () => {
    const { directory } = whole(
      readEventsJson(
        writeEventsJson([{ code: 'A', writtenFrom: 'h1/r1', content: sample() }], {
          ...context,
          venues: new Map([...venues, ['v2', { ...yard, id: 'v2', name: 'Elsewhere' }]]),
        }),
      ),
    );
    expect([
      directory.venues.map((venue) => [venue.name, venue.rooms.map((room) => room.name)]),
      directory.organisers,
      directory.tours,
    ]).toEqual([[['Tallow Yard', ['The Vat', 'Wick Room']]], [], []]);
  });
});

describe('iCalendar', () => {
  test('every performance whose day is known is read back at its moments, in its zone, with its place', () => {
    fc.assert(
      fc.property(record, (content) => {
        const known = allOf(factsOf(content)).filter(
          (performance) => performance.precision === 'exact' || performance.precision === 'day',
        );
        const { events, broken } = whole(readEventsIcs(ics([content]), 'UTC'));
        // What is cancelled is written as cancelled, and a reader leaves it out.
        const standing = known.filter((performance) => performance.turn !== 'cancelled');
        expect(broken.map((row) => row.field)).toEqual(
          known.filter((performance) => performance.turn === 'cancelled').map(() => 'STATUS'),
        );
        expect(
          events.map(({ content: back, venue }) => {
            const performance = back.performances[0];
            const at = (date: string, time: string | null) =>
              time === null ? null : instantOf({ date, time }, performance?.zone ?? 'UTC');
            return [
              back.title,
              back.stage,
              performance?.turn,
              performance?.precision,
              performance &&
                (performance.precision === 'day' ? performance.date : at(performance.date, performance.start)),
              venue?.room,
              venue?.name,
              venue?.town,
            ];
          }),
        ).toEqual(
          standing.map((performance) => [
            content.title.trim(),
            performance.pencilled ? 'pencilled' : 'confirmed',
            // What is put off comes back so; what else befell it is words in a calendar.
            performance.turn === 'postponed' && !performance.pencilled ? 'postponed' : 'none',
            performance.precision,
            performance.precision === 'day' ? performance.date : performance.start,
            'The Vat',
            'Tallow Yard',
            'Marrowby',
          ]),
        );
      }),
      { numRuns: 150 },
    );
  });

  test('the zone tables say what the zone data says: another implementation reckons every reading with them alike', () => {
    fc.assert(
      fc.property(
        fc.oneof(zone, fc.constantFrom(...zoneNames())),
        fc.integer({ min: 0, max: 3650 }),
        fc.integer({ min: 0, max: 95 }),
        (name, day, quarter) => {
          const date = new Date(Date.parse('2025-01-01T00:00Z') + day * dayMs).toISOString().slice(0, 10);
          const time = `${String(Math.floor(quarter / 4)).padStart(2, '0')}:${String((quarter % 4) * 15).padStart(2, '0')}`;
          const at = instantOf({ date, time }, name);
          if (at === null) return;
          const text = ics([
            sample({ performances: [performance('p1', date, { zone: name, start: time, doors: null, end: null })] }),
          ]);
          const calendar = new ICAL.Component(ICAL.parse(text) as never);
          const table = calendar.getAllSubcomponents('vtimezone')[0];
          const start = calendar.getFirstSubcomponent('vevent')?.getFirstPropertyValue('dtstart') as ICAL.Time;
          expect(String(table?.getFirstPropertyValue('tzid'))).toBe(name);
          const reckoned =
            ICAL.Time.fromData(
              {
                year: start.year,
                month: start.month,
                day: start.day,
                hour: start.hour,
                minute: start.minute,
                second: 0,
                isDate: false,
              },
              new ICAL.Timezone(table as ICAL.Component),
            ).toUnixTime() * 1000;
          // Of two equal readings the file cannot say which is meant (RFC 5545, section 3.3.5: the first).
          expect(toLocal(reckoned, name)).toEqual({ date, time });
          if (zoneChanges(name, at - 2 * dayMs, at + 2 * dayMs).every((change) => change.before === change.after))
            expect(reckoned).toBe(at);
        },
      ),
      { numRuns: 300 },
    );
  });

  test('lines are folded and ended as they must be; ids stay when a performance moves, and the sequence tells of it', () => {
    const text = ics([
      sample({
        title: 'A title, with; marks \\ and 夜'.repeat(4),
        performances: [performance('p1', '2027-03-14'), performance('p2', '2027-06-14', { turn: 'cancelled' })],
      }),
    ]);
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
    expect(text.replaceAll('\r\n', '')).not.toMatch(/[\r\n]/);
    expect(text.match(/^UID:.*|^SEQUENCE:.*|^STATUS:.*/gm)?.map((line) => line.trim())).toEqual([
      'UID:OQ-0000-p1@yard.example',
      'SEQUENCE:2',
      'STATUS:CONFIRMED',
      'UID:OQ-0000-p2@yard.example',
      'SEQUENCE:2',
      'STATUS:CANCELLED',
    ]);
    expect(text).not.toContain('METHOD');
    const moved = ics([sample({ performances: [performance('p1', '2027-04-01')] })]);
    expect(moved).toContain('UID:OQ-0000-p1@yard.example');
    expect(ics([])).toMatch(/^BEGIN:VCALENDAR\r\n[\s\S]*END:VCALENDAR\r\n$/);
  });
});

describe('CSV', () => {
  test('each performance is a row, read back with its day, its times, its place and its price', () => {
    fc.assert(
      fc.property(record, (content) => {
        const made = factsOf(content);
        const { events, broken } = whole(
          readEventsCsv(writeEventsCsv([{ code: 'OQ-0001', writtenFrom: 'h1/r1', content, facts: made }]), 'UTC'),
        );
        expect(broken).toEqual([]);
        expect(
          events.map(({ content: back }) => [
            back.title,
            back.performances[0]?.precision,
            back.performances[0]?.start ?? null,
            back.performances[0]?.zone,
            back.eventType,
            back.stage,
            back.performances[0]?.turn,
            back.performances[0]?.soldOut,
          ]),
        ).toEqual(
          allOf(made).map((performance) => [
            content.title.trim(),
            performance.precision,
            performance.start === null ? null : toLocal(performance.start, performance.zone).time,
            performance.zone,
            content.eventType,
            performance.pencilled ? 'pencilled' : 'confirmed',
            performance.turn,
            performance.soldOut,
          ]),
        );
        for (const [i, performance] of allOf(made).entries())
          if (performance.precision === 'exact' || performance.precision === 'day')
            expect(events[i]?.content.performances[0]?.date).toBe(performance.date);
      }),
      { numRuns: 150 },
    );
  });
  test('a cell that a spreadsheet would reckon with is only text', () => {
    const content = sample({
      title: '=HYPERLINK("https://x.example")',
      subtitle: '+1',
      words: { ...sample().words, teaser: 'a "quoted", text\nover lines' },
    });
    const text = writeEventsCsv([{ code: 'A', writtenFrom: 'h1/r1', content, facts: factsOf(content) }]);
    expect(text).toContain(`"'=HYPERLINK(""https://x.example"")"`);
    expect(text.split('\r\n')[0]).toMatch(/^ref,title,date,start,venue,/);
    expect(whole(readEventsCsv(text, 'UTC')).events[0]?.content.words.teaser).toBe('a "quoted", text\nover lines');
  });
  test.each([
    ['The Ninefold Choir: Salt & Static', 'the-ninefold-choir-salt-static-2-february-2027.csv'],
    ['夜', '夜-2-february-2027.csv'],
    ['///', 'events-2-february-2027.csv'],
  ])('a file of “%s” is called %s', (title, name) => expect(fileNameOf(title, '2027-02-02', 'csv')).toBe(name));
});

test('a document goes into a calendar once, with its type and name, and comes out byte for byte', () => {
  const base64 = btoa('%PDF-1.4 a list');
  const attached = [{ name: 'Reading list', type: 'application/pdf', base64 }];
  const text = writeEventsIcs([{ facts: factsOf(sample()), revision: 1, savedAt: now, page: null, attached }], {
    name: 'Season',
    now,
    domain: 'yard.example',
  }).replace(/\r\n[ \t]/g, '');
  const [line = ''] = /^ATTACH[^\r]*/m.exec(text) ?? [];
  const [head = '', body] = line.split(':');
  expect([head.split(';').sort(), body]).toEqual([
    ['ATTACH', 'ENCODING=BASE64', 'FMTTYPE=application/pdf', 'VALUE=BINARY', 'X-FILENAME=Reading list'],
    base64,
  ]);
});
