import fc from 'fast-check';
import { told } from '../testing/varied';
import { date, time, zone } from '../testing/any-record';
import {
  dateParts,
  knownDayWords,
  longDate,
  momentWords,
  parseTimeOfDay,
  shortDate,
  spanWords,
  zonePlace,
} from './date-words';
import { pasteDates, typedDate } from './paste-dates';
import { doorsDate, readingsOf, readingTwice, whichOfTwo } from './readings';
import { seriesWords } from './series-words';
import { usualDoors } from './usual-doors';

const piece = fc.constantFrom(
  'Sun',
  'Sunday',
  'Fri',
  'next Tuesday',
  '14 March',
  '14th March',
  'March 14th',
  '14/3',
  '3/14',
  '14.03.',
  '14.03.2027',
  '2027-03-14',
  '14-Mar-27',
  '18, 19 and 20 March',
  '20 & 21 March',
  '12–14 March',
  '2027',
  '27',
  '’28',
  '19:30',
  '7.30pm',
  '8pm',
  '20h',
  '19.30–22:00',
  '24:00',
  'doors 19:00',
  'until 22:00',
  'at',
  'The Vat',
  'Leeds',
  ',',
  ';',
  '\t',
  '\n',
  'tbc',
  '2027-02-30',
  'the second Friday',
  '2pm/4.30pm',
);
const line = fc.array(piece, { minLength: 1, maxLength: 6 }).map((list) => list.join(' '));

test('pasted and typed dates are read as they were', () => {
  expect(
    told(fc.sample(line, { seed: 41, numRuns: 1500 }), (text) => [
      pasteDates(text, '2027-02-02'),
      typedDate(text, null, '2027-02-02'),
      typedDate(text, '2027-12-20', '2027-02-02'),
      parseTimeOfDay(text.split(' ')[0] ?? ''),
    ]),
  ).toMatchSnapshot();
});

test('days, moments, spans and readings are worded as they were', () => {
  const drawn = fc.sample(fc.tuple(date, time, zone, fc.integer({ min: 0, max: 40_000_000_000 }), fc.nat({ max: 5 })), {
    seed: 42,
    numRuns: 300,
  });
  expect(
    told(drawn, ([day, clock, at, ms, n]) => {
      const timed = {
        date: day,
        lastDate: n === 0 ? '2029-09-01' : null,
        endsNextDay: n === 1,
        doors: n === 2 ? null : '00:30',
        start: clock,
        end: n === 3 ? null : '01:45',
        zone: at,
      };
      const instant = Date.parse(`${day}T${clock}Z`);
      return [
        dateParts(day),
        longDate(day),
        shortDate(day),
        shortDate(day, true),
        spanWords(ms),
        spanWords(ms % 7_200_000),
        momentWords(instant, at),
        zonePlace(at),
        (['open', 'month', 'day', 'exact'] as const).flatMap((precision) =>
          [true, false].map((year) =>
            knownDayWords(
              { date: day, precision, lastDate: timed.lastDate, turn: n === 4 ? 'postponed' : 'none' } as never,
              year,
            ),
          ),
        ),
        doorsDate(timed),
        readingsOf(timed),
        readingTwice({ ...timed, date: '2027-10-31', start: '01:30', zone: 'Europe/Dublin' }),
        whichOfTwo(Date.parse('2027-10-31T00:30Z') + (ms % 7_200_000), 'Europe/Dublin'),
        usualDoors(clock, n * 25),
      ];
    }),
  ).toMatchSnapshot();
});

test('series are put into a line as they were', () => {
  const series = Array.from({ length: 120 }, (_, i) =>
    Array.from({ length: (i % 14) + 1 }, (_, k) => ({
      date: new Date(
        Date.parse('2027-02-02') + 86_400_000 * (k * ((i % 4) * 7 || 3) + (i % 5 === 4 && k === 2 ? 1 : 0)),
      )
        .toISOString()
        .slice(0, 10),
      time: i % 6 === 5 && k === 1 ? '20:00' : '19:45',
      off: i % 7 === 6 && k === 3,
    })),
  );
  expect(
    told(series, (dates) => ['2027-01-01', '2027-03-01'].map((today) => seriesWords(dates, today))),
  ).toMatchSnapshot();
});
