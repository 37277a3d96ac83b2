import { readFileSync } from 'node:fs';
import path from 'node:path';
import { instantOf } from '../base/zones';
import { readEventsCsv } from './events-csv';
import { readEventsIcs } from './events-ics';
import type { ReadFile } from './import-row';

const whole = (read: ReadFile) => {
  if (!read.ok) throw new Error(read.message);
  return read;
};
const head = 'title,date,start,venue,price,text\n';
const demo = (name: string) => readFileSync(path.join(__dirname, '../../../demo/files', name), 'utf8');

describe('a table of events', () => {
  test('a missing column refuses the file and names it', () => {
    expect(readEventsCsv('title,date,venue\nx,2027-01-01,y\n', 'Europe/Dublin')).toEqual({
      ok: false,
      message: expect.stringMatching(/“start” is missing.*it has: title, date, venue/),
    });
    expect(readEventsCsv('', 'Europe/Dublin').ok).toBe(false);
  });
  test.each([',', ';', '\t'])('cells parted by “%s”, whatever else stands in them', (mark) => {
    const read = whole(
      readEventsCsv(
        `${['title', '"date"', 'start', 'venue', 'line_up'].join(mark)}\n${['Good', '2027-03-01', '19:30', 'Yard', '"A; B, C (support)"'].join(mark)}\n`,
        'Europe/Dublin',
      ),
    );
    expect(read.events[0]?.content.lineUp.map((act) => act.name)).toEqual(['A', 'B, C']);
  });
  test('a broken row is told by its line, and the rest goes in', () => {
    const read = whole(
      readEventsCsv(
        `\ufeff${head}Good,2027-03-01,19:30,Yard,18,"two\nlines, and a comma"\nBad,2027-02-30,19:30,Yard,18,\r\nWorse,2027-03-02,late,Yard,18,\n\nDear,2027-03-03,20:00,Yard,lots,\n,2027-03-03,20:00,Yard,1,\na,b,c,d,e,f,g\nGood,2027-03-01,19:30,Yard,18,\n`,
        'Europe/Dublin',
      ),
    );
    expect(read.events.map((event) => [event.line, event.content.title, event.content.words.full])).toEqual([
      [2, 'Good', '<p>two<br>lines, and a comma</p>'],
    ]);
    expect(read.broken.map((brokenRow) => [brokenRow.line, brokenRow.field])).toEqual([
      [4, 'date'],
      [5, 'start'],
      [7, 'price'],
      [8, 'title'],
      [9, 'row'],
      [10, 'ref'],
    ]);
  });
  test.each<[string, string, string | RegExp]>([
    ['2027-03-14', '2027-03-14 exact', ''],
    ['2027-03', '2027-03-01 month', ''],
    ['March 2027', '2027-03-01 month', ''],
    ['open', '2037-12-31 open', ''],
    ['14/03/2027', '2027-03-14 exact', ''],
    ['14.3.27', '2027-03-14 exact', ''],
    ['Sun 14 March 2027', '2027-03-14 exact', ''],
    ['March 14 2027', '2027-03-14 exact', ''],
    ['3/4/2027', '2027-04-03 exact', '“3/4/2027” was read day first: Saturday 3 April 2027.'],
    ['Friday 14 March 2027', '', /14 March 2027 is a Sunday/],
    ['14 March', '', /is no date/],
    ['14 and 15 March 2027', '', /is 2 dates/],
    ['1–3 March 2027', '', /span of days/],
    ['2027-02-30', '', /is no date/],
    ['14 March 2044', '', /is no date/],
    ['soon', '', /is no date/],
  ])('a date written “%s”', (text, expected, told) => {
    const read = whole(readEventsCsv(`${head}Good,${text},19:30,Yard,18,x\n`, 'Europe/Dublin'));
    const performance = read.events[0]?.content.performances[0];
    expect(performance ? `${performance.date} ${performance.precision}` : '').toBe(expected);
    expect(
      read.broken[0]?.text ??
        read.events[0]?.notes
          .filter((note) => note.code === 'day-first')
          .map((note) => note.text)
          .join() ??
        '',
    ).toEqual(typeof told === 'string' ? told : expect.stringMatching(told));
  });
  test('the same row has the same origin, whatever stands around it', () => {
    const row = 'Good,2027-03-01,19:30,Yard,18,x\n';
    const [alone] = whole(readEventsCsv(head + row, 'Europe/Dublin')).events;
    const [, after] = whole(readEventsCsv(`${head}Other,2027-03-01,19:30,Yard,18,x\n${row}`, 'Europe/Dublin')).events;
    expect(after?.origin).toBe(alone?.origin);
  });
  test('what it says becomes the record', () => {
    const events = whole(readEventsCsv(demo('salt-and-static-tour.csv'), 'Europe/Dublin')).events;
    const at = (ref: string) => events.find((event) => event.origin === `csv:${ref}`);
    expect(at('SS-01')?.content.tickets).toMatchObject({
      mode: 'elsewhere',
      currency: 'ISK',
      levels: [{ price: 5900 }],
    });
    expect(at('SS-03')?.content.lineUp.map((act) => [act.name, act.role])).toEqual([
      ['The Ninefold Choir', 'headliner'],
      ['Odalys Quarry', 'special guest'],
    ]);
    expect(at('SS-11')?.content.performances[0]?.zone).toBe('Australia/Adelaide');
    expect(whole(readEventsCsv(demo('house-season.csv'), 'Europe/Dublin')).broken).toEqual([]);
  });
});

describe('an iCalendar file', () => {
  test('what is none is refused with a word', () => {
    expect(readEventsIcs('hello', 'Europe/Dublin')).toEqual({
      ok: false,
      message: expect.stringMatching(/no iCalendar file/),
    });
    expect(readEventsIcs('BEGIN:VCALENDAR\nBEGIN:VEVENT\nno colon here', 'Europe/Dublin')).toMatchObject({
      ok: true,
      events: [],
      broken: [{ line: 2, text: expect.stringMatching(/not closed/) }],
    });
  });
  test('twelve Tuesdays with one left out, one added, and the clocks changing in between', () => {
    const [bench] = whole(readEventsIcs(demo('house-diary.ics'), 'Europe/Dublin')).events;
    const dates = bench?.content.performances ?? [];
    expect([
      dates.length,
      dates.some((date) => date.date === '2027-03-16'),
      dates.some((date) => date.date === '2027-03-18'),
      dates.at(-1)?.date,
    ]).toEqual([12, false, true, '2027-04-20']);
    const instants = dates.map((date) =>
      new Date(instantOf({ date: date.date, time: date.start ?? '' }, date.zone) ?? 0).toISOString(),
    );
    expect(instants).toEqual(expect.arrayContaining(['2027-03-23T18:00:00.000Z', '2027-03-30T17:00:00.000Z']));
    expect(new Set(dates.map((date) => date.id)).size).toBe(12);
    expect(bench?.content).toMatchObject({
      title: 'Repair Bench',
      eventType: 'workshop',
      publicity: { visibility: 'public' },
    });
    expect(bench?.venue).toMatchObject({ name: 'Tallow Yard', town: 'Marrowby', room: 'Wick Room' });
  });
  const event = (...lines: string[]) => `BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\n${lines.join('\n')}\nEND:VCALENDAR\n`;
  const one = (...lines: string[]) => ['BEGIN:VEVENT', 'UID:u1', 'SUMMARY:S', ...lines, 'END:VEVENT'];
  test('broken events are told by their line, the rest goes in', () => {
    const read = whole(
      readEventsIcs(
        event(
          ...one('DTSTART;TZID=Mars/Olympus:20270204T193000'),
          ...one('DTSTART:20270204T193000', 'STATUS:CANCELLED'),
          'BEGIN:VEVENT',
          'UID:u2',
          'DTSTART:20270204T193000Z',
          'END:VEVENT',
          ...one('DTSTART:20270704T193000Z'),
        ),
        'Europe/Dublin',
      ),
    );
    expect(read.broken.map(({ line, field }) => [line, field])).toEqual([
      [4, 'DTSTART'],
      [9, 'STATUS'],
      [15, 'SUMMARY'],
    ]);
    expect(read.events[0]?.content.performances[0]).toMatchObject({ date: '2027-07-04', start: '20:30', end: null });
  });
  const first = (...lines: string[]) =>
    whole(readEventsIcs(event(...lines), 'Europe/Dublin')).events[0]?.content.performances.map((p) => [
      p.precision,
      p.date,
      p.lastDate,
      p.start,
      p.end,
      p.endsNextDay,
      p.zone,
      p.turn,
    ]);
  const zone = (id: string, ...more: string[]) => [
    'BEGIN:VTIMEZONE',
    `TZID:${id}`,
    ...more,
    'BEGIN:STANDARD',
    'DTSTART:19701025T020000',
    'TZOFFSETFROM:+0100',
    'TZOFFSETTO:+0000',
    'END:STANDARD',
    'END:VTIMEZONE',
  ];
  test.each<[string, string[], unknown[]]>([
    [
      'a day',
      one('DTSTART;VALUE=DATE:20270204'),
      ['day', '2027-02-04', null, null, null, false, 'Europe/Dublin', 'none'],
    ],
    [
      'a day with its end said',
      one('DTSTART;VALUE=DATE:20270204', 'DTEND;VALUE=DATE:20270205'),
      ['day', '2027-02-04', null, null, null, false, 'Europe/Dublin', 'none'],
    ],
    [
      'three days',
      one('DTSTART;VALUE=DATE:20270204', 'DTEND;VALUE=DATE:20270207'),
      ['day', '2027-02-04', '2027-02-06', null, null, false, 'Europe/Dublin', 'none'],
    ],
    [
      'past midnight',
      one('DTSTART;TZID=Europe/Dublin:20270327T220000', 'DTEND;TZID=Europe/Dublin:20270328T040000'),
      ['exact', '2027-03-27', null, '22:00', '04:00', true, 'Europe/Dublin', 'none'],
    ],
    [
      'from a Friday to a Sunday',
      one('DTSTART;TZID=Europe/Dublin:20270618T170000', 'DTEND;TZID=Europe/Dublin:20270620T230000'),
      ['exact', '2027-06-18', '2027-06-20', '17:00', '23:00', false, 'Europe/Dublin', 'none'],
    ],
    [
      'a length in place of an end',
      one('DTSTART:20270204T193000', 'DURATION:PT2H15M'),
      ['exact', '2027-02-04', null, '19:30', '21:45', false, 'Europe/Dublin', 'none'],
    ],
    [
      'UTC, put in the house’s zone',
      one('DTSTART:20270704T193000Z', 'DTEND:20270704T223000Z'),
      ['exact', '2027-07-04', null, '20:30', '23:30', false, 'Europe/Dublin', 'none'],
    ],
    [
      'a zone by the place that its own table names',
      [
        ...zone('GMT Standard Time', 'X-LIC-LOCATION:Europe/Lisbon'),
        ...one('DTSTART;TZID="GMT Standard Time":20270204T193000'),
      ],
      ['exact', '2027-02-04', null, '19:30', null, false, 'Europe/Lisbon', 'none'],
    ],
    [
      'a zone behind a prefix',
      one('DTSTART;TZID=/calendar.example/20270101/America/St_Johns:20270204T193000'),
      ['exact', '2027-02-04', null, '19:30', null, false, 'America/St_Johns', 'none'],
    ],
    [
      'folded lines, quoted commas, a mark of byte order',
      [
        'BEGIN:VEVENT',
        'UID:u1',
        'SUMMARY:A very long',
        '  title\\, with a comma',
        'DTSTART:20270204T193000',
        'END:VEVENT',
      ],
      ['exact', '2027-02-04', null, '19:30', null, false, 'Europe/Dublin', 'none'],
    ],
  ])('%s', (_, lines, expected) => expect(first(...lines)).toEqual([expected]));

  test('a date that is cancelled stays, and says so; one left out does not; one added does', () => {
    const made = first(
      ...one(
        'DTSTART;TZID=Europe/Dublin:20270202T180000',
        'RRULE:FREQ=WEEKLY;COUNT=4',
        'EXDATE;TZID=Europe/Dublin:20270216T180000',
        'RDATE;TZID=Europe/Dublin:20270218T180000',
      ),
      ...one(
        'RECURRENCE-ID;TZID=Europe/Dublin:20270209T180000',
        'DTSTART;TZID=Europe/Dublin:20270209T180000',
        'STATUS:CANCELLED',
      ),
    );
    expect(made?.map((p) => [p[1], p[7]])).toEqual([
      ['2027-02-02', 'none'],
      ['2027-02-09', 'cancelled'],
      ['2027-02-18', 'none'],
      ['2027-02-23', 'none'],
    ]);
  });

  test('several calendars in one file are all read; a change to an event that is not there is told', () => {
    const read = whole(
      readEventsIcs(
        event(...one('DTSTART:20270204T193000')) +
          event(
            ...one('DTSTART:20270205T193000').map((line) => line.replace('u1', 'u2')),
            ...one('RECURRENCE-ID:20270209T180000', 'DTSTART:20270209T190000').map((line) => line.replace('u1', 'u3')),
          ),
        'Europe/Dublin',
      ),
    );
    expect([read.events.map((found) => found.origin), read.broken.map((row) => [row.line, row.field])]).toEqual([
      ['ics:u1', 'ics:u2'],
      [[18, 'RECURRENCE-ID']],
    ]);
  });
  test('a moved date keeps its place in the run; a rule without end is bounded and says so', () => {
    const moved = event(
      ...one('DTSTART;TZID=Europe/Dublin:20270202T180000', 'RRULE:FREQ=WEEKLY;COUNT=3'),
      ...one('RECURRENCE-ID;TZID=Europe/Dublin:20270209T180000', 'DTSTART;TZID=Europe/Dublin:20270210T190000'),
    );
    expect(
      whole(readEventsIcs(moved, 'Europe/Dublin')).events[0]?.content.performances.map((p) => `${p.date} ${p.start}`),
    ).toEqual(['2027-02-02 18:00', '2027-02-10 19:00', '2027-02-16 18:00']);
    const endless = whole(
      readEventsIcs(event(...one('DTSTART;TZID=Europe/Dublin:20270202T180000', 'RRULE:FREQ=WEEKLY')), 'Europe/Dublin'),
    ).events[0];
    expect([endless?.content.performances.length, endless?.notes.map((note) => note.code)]).toEqual([
      53,
      ['rule-no-end', 'kind-assumed'],
    ]);
  });

  const dublin = (time: string) => `;TZID=Europe/Dublin:${time}`;
  const run = (...lines: string[]) => whole(readEventsIcs(event(...one(...lines)), 'Europe/Dublin'));
  const at = (read: ReturnType<typeof run>) =>
    read.events[0]?.content.performances.map((p) => `${p.date.slice(5)} ${p.start}`.replace(' null', ''));
  test.each<[string, string[], string[]]>([
    [
      'three a day',
      [`DTSTART${dublin('20270216T110000')}`, 'RRULE:FREQ=DAILY;BYHOUR=11,14;BYMINUTE=0,30;COUNT=6'],
      ['02-16 11:00', '02-16 11:30', '02-16 14:00', '02-16 14:30', '02-17 11:00', '02-17 11:30'],
    ],
    [
      'hours before the first are not in it',
      [`DTSTART${dublin('20270216T140000')}`, 'RRULE:FREQ=DAILY;BYHOUR=11,14;COUNT=3'],
      ['02-16 14:00', '02-17 11:00', '02-17 14:00'],
    ],
    [
      'a rule in UTC has the days of UTC',
      ['DTSTART:20270703T233000Z', 'RRULE:FREQ=WEEKLY;BYDAY=SA;COUNT=2'],
      ['07-04 00:30', '07-11 00:30'],
    ],
    [
      'an end in UTC',
      [`DTSTART${dublin('20270701T003000')}`, 'RRULE:FREQ=DAILY;UNTIL=20270702T233000Z'],
      ['07-01 00:30', '07-02 00:30', '07-03 00:30'],
    ],
    [
      'left out by the day alone, and by its moment in UTC',
      [
        `DTSTART${dublin('20270701T200000')}`,
        'RRULE:FREQ=DAILY;COUNT=4',
        'EXDATE;VALUE=DATE:20270702',
        'EXDATE:20270703T190000Z',
      ],
      ['07-01 20:00', '07-04 20:00'],
    ],
    [
      'several left out in one line',
      [
        `DTSTART${dublin('20270701T200000')}`,
        'RRULE:FREQ=DAILY;COUNT=4',
        `EXDATE${dublin('20270701T200000')},20270703T200000`,
      ],
      ['07-02 20:00', '07-04 20:00'],
    ],
    [
      'added: a moment, a period, a day',
      [
        `DTSTART${dublin('20270701T200000')}`,
        `RDATE${dublin('20270703T180000')}`,
        'RDATE;VALUE=PERIOD:20270704T190000Z/PT2H',
        'RDATE;VALUE=DATE:20270706',
      ],
      ['07-01 20:00', '07-03 18:00', '07-04 20:00', '07-06 20:00'],
    ],
    [
      'two rules',
      [`DTSTART${dublin('20270701T200000')}`, 'RRULE:FREQ=DAILY;COUNT=2', 'RRULE:FREQ=WEEKLY;COUNT=2'],
      ['07-01 20:00', '07-02 20:00', '07-08 20:00'],
    ],
    ['whole days', ['DTSTART;VALUE=DATE:20270701', 'RRULE:FREQ=WEEKLY;COUNT=2'], ['07-01', '07-08']],
    [
      'folded, in small letters',
      [`DTSTART${dublin('20270701T200000')}`, 'rrule:freq=weekly;co', ' unt=2'],
      ['07-01 20:00', '07-08 20:00'],
    ],
  ])('a recurrence: %s', (_, lines, expected) => expect(at(run(...lines))).toEqual(expected));

  test('a first date that the rule does not give counts as the first, and is told', () => {
    const read = run(`DTSTART${dublin('20270701T200000')}`, 'RRULE:FREQ=WEEKLY;BYDAY=TU;COUNT=3');
    expect([at(read), read.events[0]?.notes[0]]).toEqual([
      ['07-01 20:00', '07-06 20:00', '07-13 20:00'],
      { code: 'first-not-of-rule', text: expect.stringMatching(/2027-07-01, is not one that its rule gives/) },
    ]);
  });
  test.each([
    ['FREQ=MINUTELY;COUNT=100000', /the times of day stand beside it/],
    ['FREQ=DAILY;COUNT=100000', /more than 3000 dates/],
    ['FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31;UNTIL=20991231', /no date at all/],
    ['FREQ=YEARLY;BYWEEKNO=54;COUNT=2', /BYWEEKNO takes/],
    ['FREQ=BANANA', /FREQ takes/],
    ['FREQ=YEARLY;BYWEEKNO=20', /needs BYDAY/],
  ])('a rule that cannot be read or has no end in sight breaks its event alone: %s', (rule, why) => {
    const read = whole(
      readEventsIcs(
        event(
          ...one('DTSTART:20270202T180000', `RRULE:${rule}`),
          ...one('DTSTART:20270203T180000').map((line) => line.replace('u1', 'u2')),
        ),
        'Europe/Dublin',
      ),
    );
    expect([read.broken.map((row) => [row.line, row.field]), read.events.map((found) => found.origin)]).toEqual([
      [[4, 'RRULE']],
      ['ics:u2'],
    ]);
    expect(read.broken[0]?.text).toMatch(why);
  });
  test.each<[string, string, string[]]>([
    ['no date', 'DTSTART', ['DTSTART:hello']],
    ['the 45th of a 13th month', 'DTSTART', ['DTSTART:20271345T990000']],
    ['a date with dashes', 'DTSTART', ['DTSTART;VALUE=DATE:2027-02-02']],
    ['the year 9999', 'DTSTART', ['DTSTART:99991231T235959']],
    ['an end that is none', 'DTEND', ['DTSTART:20270202T180000', 'DTEND:20270230T200000']],
    [
      'an exception that is none',
      'EXDATE',
      ['DTSTART:20270202T180000', 'RRULE:FREQ=DAILY;COUNT=2', 'EXDATE:20270203T180000,junk'],
    ],
    ['a period that is none', 'RDATE', ['DTSTART:20270202T180000', 'RDATE;VALUE=PERIOD:junk/PT2H']],
    ['a line that is none', 'VEVENT', ['DTSTART:20270202T180000', 'no colon']],
  ])('%s breaks its event alone, and is told at %s', (_, field, lines) => {
    const read = whole(
      readEventsIcs(
        event(...one(...lines), ...one('DTSTART:20270203').map((line) => line.replace('u1', 'u2'))),
        'Europe/Dublin',
      ),
    );
    expect([
      read.broken.map((row) => [row.line, row.field]),
      read.events.map((found) => [found.origin, found.content.performances[0]?.precision]),
    ]).toEqual([[[4, field]], [['ics:u2', 'day']]]);
  });
  test.each<[string, string[], [string | null, string | null, boolean]]>([
    [
      'of the hour that comes twice a file means the first',
      [`DTSTART${dublin('20271031T013000')}`],
      ['01:30', 'first', true],
    ],
    [
      'an end in that hour',
      [`DTSTART${dublin('20271030T220000')}`, `DTEND${dublin('20271031T013000')}`],
      ['22:00', 'first', true],
    ],
    ['said in UTC, it is known which is meant', ['DTSTART:20271031T013000Z'], ['01:30', 'second', false]],
    ['an end said in UTC', ['DTSTART:20271030T210000Z', 'DTEND:20271031T013000Z'], ['22:00', 'second', false]],
    ['any other hour', [`DTSTART${dublin('20271031T023000')}`], ['02:30', null, false]],
  ])('%s', (_, lines, expected) => {
    const [found] = run(...lines).events;
    const performance = found?.content.performances[0];
    expect([performance?.start, performance?.repeat, found?.notes.some((note) => note.code === 'time-twice')]).toEqual(
      expected,
    );
  });
  test('a row in the hour that comes twice is taken as the first, and told', () => {
    const [found] = whole(readEventsCsv(`${head}Late,2027-10-31,01:30,Yard,18,x\n`, 'Europe/Dublin')).events;
    expect([
      found?.content.performances[0]?.repeat,
      found?.notes.find((note) => note.code === 'time-twice')?.text,
    ]).toEqual(['first', expect.stringMatching(/01:30 comes twice on 2027-10-31/)]);
  });
  test('an end before the beginning is left out, and told', () => {
    const [found] = run('DTSTART:20270202T180000', 'DTEND:20270202T170000').events;
    expect([found?.content.performances[0]?.end, found?.notes.map((note) => note.code)]).toEqual([
      null,
      ['zone-unknown', 'end-early', 'kind-assumed'],
    ]);
  });
  test('what is tentative is pencilled: the event, or one date of it', () => {
    const [whole_, dates] = [
      run('DTSTART:20270202T180000', 'STATUS:TENTATIVE'),
      whole(
        readEventsIcs(
          event(
            ...one('DTSTART:20270202T180000', 'RRULE:FREQ=WEEKLY;COUNT=2'),
            ...one('RECURRENCE-ID:20270209T180000', 'DTSTART:20270209T180000', 'STATUS:TENTATIVE'),
          ),
          'Europe/Dublin',
        ),
      ),
    ];
    expect([
      whole_.events[0]?.content.stage,
      dates.events[0]?.content.stage,
      dates.events[0]?.content.performances.map((p) => p.pencilled),
    ]).toEqual(['pencilled', 'confirmed', [false, true]]);
  });
});
