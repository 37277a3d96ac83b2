import { readFileSync } from 'node:fs';
import path from 'node:path';
import { instantOf } from '../zones';
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
    expect(readEventsCsv('title,date,venue\nx,2027-01-01,y\n', 'Europe/Dublin')).toEqual({ ok: false, message: expect.stringMatching(/“start” is missing.*it has: title, date, venue/) });
    expect(readEventsCsv('', 'Europe/Dublin').ok).toBe(false);
  });
  test('a broken row is told by its line, and the rest goes in', () => {
    const read = whole(readEventsCsv(`\ufeff${head}Good,2027-03-01,19:30,Yard,18,"two\nlines, and a comma"\nBad,2027-02-30,19:30,Yard,18,\r\nWorse,2027-03-02,late,Yard,18,\n\nDear,2027-03-03,20:00,Yard,lots,\n,2027-03-03,20:00,Yard,1,\na,b,c,d,e,f,g\nGood,2027-03-01,19:30,Yard,18,\n`, 'Europe/Dublin'));
    expect(read.events.map((one) => [one.line, one.content.title, one.content.words.full])).toEqual([[2, 'Good', '<p>two<br>lines, and a comma</p>']]);
    expect(read.broken.map((one) => [one.line, one.field])).toEqual([[4, 'date'], [5, 'start'], [7, 'price'], [8, 'title'], [9, 'row'], [10, 'ref']]);
  });
  test('the same row has the same origin, whatever stands around it', () => {
    const row = 'Good,2027-03-01,19:30,Yard,18,x\n';
    const [alone] = whole(readEventsCsv(head + row, 'Europe/Dublin')).events;
    const [, after] = whole(readEventsCsv(`${head}Other,2027-03-01,19:30,Yard,18,x\n${row}`, 'Europe/Dublin')).events;
    expect(after?.origin).toBe(alone?.origin);
  });
  test('what it says becomes the record', () => {
    const events = whole(readEventsCsv(demo('salt-and-static-tour.csv'), 'Europe/Dublin')).events;
    const at = (ref: string) => events.find((one) => one.origin === `csv:${ref}`);
    expect(at('SS-01')?.content.tickets).toMatchObject({ mode: 'elsewhere', currency: 'ISK', levels: [{ price: 5900 }] });
    expect(at('SS-03')?.content.lineUp.map((one) => [one.name, one.role])).toEqual([['The Ninefold Choir', 'headliner'], ['Odalys Quarry', 'special guest']]);
    expect(at('SS-11')?.content.performances[0]?.zone).toBe('Australia/Adelaide');
    expect(whole(readEventsCsv(demo('house-season.csv'), 'Europe/Dublin')).broken).toEqual([]);
  });
});

describe('an iCalendar file', () => {
  test('what is none is refused with a word', () => {
    expect(readEventsIcs('hello', 'Europe/Dublin')).toEqual({ ok: false, message: expect.stringMatching(/no iCalendar file/) });
    expect(readEventsIcs('BEGIN:VCALENDAR\nBEGIN:VEVENT\nno colon here', 'Europe/Dublin')).toMatchObject({ ok: false, message: expect.stringMatching(/broken/) });
  });
  test('twelve Tuesdays with one left out, one added, and the clocks changing in between', () => {
    const [bench] = whole(readEventsIcs(demo('house-diary.ics'), 'Europe/Dublin')).events;
    const dates = bench?.content.performances ?? [];
    expect([dates.length, dates.some((one) => one.date === '2027-03-16'), dates.some((one) => one.date === '2027-03-18'), dates.at(-1)?.date]).toEqual([12, false, true, '2027-04-20']);
    const instants = dates.map((one) => new Date(instantOf({ date: one.date, time: one.start ?? '' }, one.zone) ?? 0).toISOString());
    expect(instants).toEqual(expect.arrayContaining(['2027-03-23T18:00:00.000Z', '2027-03-30T17:00:00.000Z']));
    expect(new Set(dates.map((one) => one.id)).size).toBe(12);
    expect(bench?.content).toMatchObject({ title: 'Repair Bench', kind: 'workshop', publicity: { visibility: 'public' } });
    expect(bench?.venue).toMatchObject({ name: 'Tallow Yard', town: 'Marrowby', room: 'Wick Room' });
  });
  const event = (...lines: string[]) => `BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\n${lines.join('\n')}\nEND:VCALENDAR\n`;
  const one = (...lines: string[]) => ['BEGIN:VEVENT', 'UID:u1', 'SUMMARY:S', ...lines, 'END:VEVENT'];
  test('broken events are told by their line, the rest goes in', () => {
    const read = whole(readEventsIcs(event(...one('DTSTART;TZID=Mars/Olympus:20270204T193000'), ...one('DTSTART;VALUE=DATE:20270204'), 'BEGIN:VEVENT', 'UID:u2', 'DTSTART:20270204T193000Z', 'END:VEVENT', ...one('DTSTART:20270704T193000Z')), 'Europe/Dublin'));
    expect(read.broken.map(({ line, field }) => [line, field])).toEqual([[4, 'DTSTART'], [9, 'DTSTART'], [14, 'SUMMARY']]);
    expect(read.events[0]?.content.performances[0]).toMatchObject({ date: '2027-07-04', start: '20:30', end: null });
  });
  test('a moved date keeps its place in the run; a rule without end is bounded and says so; a huge one is refused', () => {
    const moved = event(...one('DTSTART;TZID=Europe/Dublin:20270202T180000', 'RRULE:FREQ=WEEKLY;COUNT=3'), ...one('RECURRENCE-ID;TZID=Europe/Dublin:20270209T180000', 'DTSTART;TZID=Europe/Dublin:20270210T190000'));
    expect(whole(readEventsIcs(moved, 'Europe/Dublin')).events[0]?.content.performances.map((p) => `${p.date} ${p.start}`)).toEqual(['2027-02-02 18:00', '2027-02-10 19:00', '2027-02-16 18:00']);
    const endless = whole(readEventsIcs(event(...one('DTSTART;TZID=Europe/Dublin:20270202T180000', 'RRULE:FREQ=WEEKLY')), 'Europe/Dublin')).events[0];
    expect([endless?.content.performances.length, endless?.notes]).toEqual([53, [expect.stringMatching(/no end/)]]);
    const huge = whole(readEventsIcs(event(...one('DTSTART;TZID=Europe/Dublin:20270202T180000', 'RRULE:FREQ=MINUTELY;COUNT=100000')), 'Europe/Dublin'));
    expect(huge.broken[0]?.message).toMatch(/more than 3000 dates/);
  });
});
