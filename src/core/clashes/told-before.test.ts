import fc from 'fast-check';
import { told } from '../testing/varied';
import { clashWords, sideWords } from './clash-words';
import { findClashes, type Booking } from './clashes';
import { groupClashes } from './group-clashes';

const begin = Date.parse('2027-03-14T18:00Z');
const hour = 3_600_000;
const points = [{ lat: 53.35, lon: -6.26 }, { lat: 49.28, lon: -123.12 }, { lat: 53.8, lon: -1.55 }, null];
const booking = (n: number): fc.Arbitrary<Booking> =>
  fc
    .record({
      record: fc.integer({ min: 0, max: 4 }),
      pencilled: fc.boolean(),
      from: fc.integer({ min: 0, max: 60 }),
      length: fc.integer({ min: 1, max: 8 }),
      room: fc.option(fc.constantFrom('vat', 'wick'), { freq: 4 }),
      change: fc.constantFrom(0, 1, 3),
      venue: fc.option(fc.constantFrom('v1', 'v2'), { freq: 4 }),
      point: fc.constantFrom(...points),
      acts: fc.subarray(['a', 'b', 'c']),
      tour: fc.option(fc.constant('t1')),
      radius: fc.option(fc.record({ km: fc.constantFrom(50, 600), days: fc.constantFrom(1, 30) })),
      sale: fc.option(
        fc.record({
          opens: fc.option(fc.integer({ min: -90, max: 60 })),
          closes: fc.option(fc.integer({ min: -90, max: 60 })),
        }),
      ),
      awaiting: fc.option(fc.integer({ min: -5, max: 70 })),
    })
    .map((part) => ({
      record: `r${part.record}`,
      code: `TY-${part.record}`,
      title: `Event ${part.record}`,
      performance: `p${n}`,
      zone: part.venue === 'v2' ? 'America/Vancouver' : 'Europe/Dublin',
      pencilled: part.pencilled,
      from: begin + part.from * hour,
      until: begin + (part.from + part.length) * hour,
      start: begin + part.from * hour + hour / 2,
      room: part.room === null ? null : { id: part.room, name: part.room, changeoverMs: part.change * hour },
      venue: part.venue,
      venueName: part.venue ?? '',
      point: part.point,
      artists: part.acts.map((key, i) => ({ key, name: key.toUpperCase(), headliner: i === 0 })),
      tour: part.tour,
      radius: part.radius,
      sales:
        part.sale === null
          ? []
          : [
              {
                level: 'Standard',
                opens: part.sale.opens === null ? null : begin + part.sale.opens * hour,
                closes: part.sale.closes === null ? null : begin + part.sale.closes * hour,
              },
            ],
      awaiting:
        part.awaiting === null ? [] : [{ channel: 'lectern', earliest: begin + part.awaiting * hour, delayMs: hour }],
    }));

test('clashes among bookings of every sort are found, grouped and worded as they were', () => {
  const houses = fc.sample(
    fc.integer({ min: 2, max: 9 }).chain((count) => fc.tuple(...Array.from({ length: count }, (_, n) => booking(n)))),
    { seed: 77, numRuns: 400 },
  );
  expect(
    told(houses, (bookings) => {
      const clashes = findClashes(bookings);
      return [
        clashes,
        groupClashes(clashes),
        clashes.map(clashWords),
        clashes.map(({ a, b }) => [sideWords(a), b && sideWords(b)]),
      ];
    }),
  ).toMatchSnapshot();
});
