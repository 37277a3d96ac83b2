import { mostPasteChars } from './paste-limit';
import { pasteDates, typedDate } from './paste-dates';

test.each<[string, string[]]>([
  ['Thu 18 March 2027 19:30', ['2027-03-18 19:30']],
  ['Thursday, March 18th, 2027 at 7:30pm', ['2027-03-18 19:30']],
  ['2027-03-18, 11:00, 14:00, 16.30', ['2027-03-18 11:00 14:00 16:30']],
  ['2027-03-18T19:30', ['2027-03-18 19:30']],
  ['20270318', ['2027-03-18']],
  ['18.3.2027', ['2027-03-18']],
  ['18.3. 19.30', ['2027-03-18 19:30']],
  ['18.03.27 20h', ['2027-03-18']],
  ['18/03/2027\t19:30\tThe Vat', ['2027-03-18 19:30']],
  ['3/18/2027', ['2027-03-18']],
  ['18-Mar-2027', ['2027-03-18']],
  ['18 March 19.30', ['2027-03-18 19:30']],
  ['18 March, doors 19:00, start 19:30 until 22:00', ['2027-03-18 19:30']],
  ['18 March 19:30–22:00', ['2027-03-18 19:30']],
  ['Sat 20 Feb 11am/2pm/4.30pm', ['2027-02-20 11:00 14:00 16:30']],
  ['18, 19 and 20 March, 8pm', ['2027-03-18 20:00', '2027-03-19 20:00', '2027-03-20 20:00']],
  ['Sat 20 & Sun 21 March', ['2027-03-20', '2027-03-21']],
  ['16 March, 23 March; 2027-03-30', ['2027-03-16', '2027-03-23', '2027-03-30']],
  ['March 14th at 8pm', ['2027-03-14 20:00']],
  ['March 14, 20:00', ['2027-03-14 20:00']],
  ['Sunday, March 14', ['2027-03-14']],
  ['next Tuesday 19:30', ['2027-02-09 19:30']],
  ['Tue 2 Feb', ['2027-02-02']],
  ['14 January', ['2028-01-14']],
  ['1-Apr-27', ['2027-04-01']],
  ['15 March 27', ['2027-03-15']],
  ['Thu 1 Apr 27, 8pm', ['2027-04-01 20:00']],
  ['1 Apr ’28', ['2028-04-01']],
  ["15th of March '27 7.30pm", ['2027-03-15 19:30']],
  ['1.4.27', ['2027-04-01']],
  ['18, 19 and 20 March 27', ['2027-03-18', '2027-03-19', '2027-03-20']],
  ['16 March 23 March', ['2027-03-16', '2027-03-23']],
  ['15 March 27 28 March 27', ['2027-03-15', '2027-03-28']],
  ['2027-04-01T19:30:00', ['2027-04-01 19:30']],
  ['1 Apr 2027 7:30:00 PM', ['2027-04-01 19:30']],
  ['last Friday', ['2027-01-29']],
])('pasted: %s', (line, expected) => {
  const { dates, problems } = pasteDates(`\n${line}\n`, '2027-02-02');
  expect([problems, dates.map((date) => [date.date, ...date.times].join(' '))]).toEqual([[], expected]);
  expect(dates.every((date) => date.line === 2)).toBe(true);
});

test.each([
  ['Friday, March 14', /is a Sunday/],
  ['Friday 18 March 2027', /is a Thursday/],
  ['Sat 20 & Sat 21 March', /21 March 2027 is a Sunday/],
  ['to be announced', /No date/],
  ['31 April 2027', /No date/],
  ['2027-02-30', /“2027-02-30” is no date/],
  ['18 March 2038', /is no date between 1970 and 2037/],
  ['18 March 24:00', /“24:00” is no time of day/],
  ['1–3 March 2027', /span of days/],
  ['1–3 March and 5–7 March 2027', /span of days/],
  ['Fri 12 to Sun 14 March, Fri 19 to Sun 21 March', /“Fri 12 to Sun 14 March” is a span/],
  ['12-14 March, 19-21 March', /span of days/],
  ['last Friday of March 2027', /by its place in a month/],
  ['2027-04-01T19:30:00Z', /a moment in UTC/],
  ['1 Apr 45', /no date between 1970 and 2037/],
])('pasted, and told why not: %s', (line, why) => {
  const { dates, problems } = pasteDates(`5 March\n${line}`, '2027-02-02');
  expect([dates.map((date) => date.date), problems.map((problem) => problem.line)]).toEqual([['2027-03-05'], [2]]);
  expect(problems[0]?.why).toMatch(why);
});

test('a paste too long is refused as a whole', () =>
  expect(pasteDates('x'.repeat(mostPasteChars + 1), '2027-02-02')).toMatchObject({
    dates: [],
    problems: [{ why: expect.stringContaining('Paste fewer lines') }],
  }));

test.each<[string, string | null, string | RegExp]>([
  ['2027-04-04', '2027-03-14', '2027-04-04'],
  ['4.3.2027', '2027-03-14', '2027-03-04'],
  ['4/3/2027', null, '2027-03-04'],
  ['3 April 2027', null, '2027-04-03'],
  ['April 5', '2027-03-14', '2027-04-05'],
  ['Tue 6 Apr', '2027-03-14', '2027-04-06'],
  ['4 Feb', '2027-03-14', '2027-02-04'],
  ['4 Feb', null, '2027-02-04'],
  ['14 Jan', null, '2028-01-14'],
  // Moved on over the turn of the year, and back; a date that is over stays in its year.
  ['9 Jan', '2027-12-28', '2028-01-09'],
  ['28 Dec', '2028-01-09', '2027-12-28'],
  ['12 Jan', '2027-01-30', '2027-01-12'],
  // Reckoned from now, whatever stands in the field.
  ['tomorrow', '2027-09-01', '2027-02-03'],
  ['today', null, '2027-02-02'],
  ['next Saturday', '2027-09-01', /^2027-02-(06|13)$/],
  ['Friday', '2027-09-01', '2027-02-05'],
  ['in two weeks', '2026-01-01', '2027-02-16'],
  ['Fri 6 Apr', '2027-03-14', /is a Tuesday/],
  ['31 April', '2027-03-14', /No date was found/],
  ['soon', null, /No date was found/],
  ['4 and 5 March', null, /several dates/],
  ['2027-02-30', null, /is no date/],
  ['', null, /No date was found\. Write it like 18 March 2027/],
])('typed into a date field: %s (there stands %s)', (text, near, expected) => {
  const read = typedDate(text, near, '2027-02-02');
  const said = read.ok ? read.value : read.error;
  if (expected instanceof RegExp) expect(said).toMatch(expected);
  else expect(said).toBe(expected);
});
