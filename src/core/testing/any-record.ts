import fc from 'fast-check';
import { newEntry, newLevel, newOutlet, newPerformance, newPicture, newTickets, newWords } from '../record/new-record';
import { precisions, turns, type Performance, type RecordContent } from '../record/record';
import { buyers, ticketModes, type WindowEnd } from '../record/ticket-schema';
import { addDays } from '../base/zones';
import { sample } from './samples';

const word = fc.constantFrom('harp', 'Ánna', '夜', 'night 🎻', 'Q & A', 'a "b"', 'ליל', 'x');
/** A few words, in scripts of several directions. */
export const words = fc.array(word, { minLength: 1, maxLength: 6 }).map((list) => list.join(' '));
/** A day within two and a half years of the scenario. */
export const date = fc.integer({ min: 0, max: 900 }).map((n) => addDays('2027-01-01', n));
/** A time of day that exists in every zone on every day. */
export const time = fc
  .tuple(fc.integer({ min: 12, max: 23 }), fc.constantFrom('00', '15', '30', '59'))
  .map(([h, m]) => `${h}:${m}`);
/** A zone among those with half hours, without changes, and with new ones. */
export const zone = fc.constantFrom(
  'Europe/Dublin',
  'America/St_Johns',
  'Australia/Adelaide',
  'Asia/Kolkata',
  'America/Vancouver',
);
/** One end of a sale window. */
export const windowEnd: fc.Arbitrary<WindowEnd> = fc.oneof(
  fc.record({ kind: fc.constant('at' as const), date, time }),
  fc.record({
    kind: fc.constant('before' as const),
    amount: fc.integer({ min: 0, max: 90 }),
    unit: fc.constantFrom('days' as const, 'hours' as const),
  }),
);

/** Any performance, by its number. */
export const performance = (n: number): fc.Arbitrary<Performance> =>
  fc
    .record({
      date,
      zone,
      start: time,
      precision: fc.constantFrom(...precisions),
      turn: fc.constantFrom(...turns),
      soldOut: fc.boolean(),
      pencilled: fc.nat({ max: 4 }).map((n) => n === 0),
      endHidden: fc.boolean(),
      note: fc.oneof(fc.constant(''), words),
      more: fc.boolean(),
    })
    .map(({ more, ...part }) =>
      newPerformance(`p${n}`, part.date, part.zone, {
        ...part,
        doors: null,
        end: more ? '00:45' : null,
        endsNextDay: more,
        link: more ? 'https://tickets.example/e/1' : null,
        venueId: 'v1',
        roomId: 'vat',
      }),
    );

/** Any price level, by its number. */
export const level = (n: number) =>
  fc
    .record({
      price: fc.integer({ min: 0, max: 20_000 }),
      buyers: fc.constantFrom(...buyers),
      quantity: fc.option(fc.integer({ min: 1, max: 500 })),
      admits: fc.integer({ min: 1, max: 6 }),
      most: fc.option(fc.integer({ min: 1, max: 9 })),
      opens: fc.option(windowEnd),
      closes: fc.option(windowEnd),
      choose: fc.boolean(),
    })
    .map(({ price, ...part }) => newLevel(`l${n}`, `Level ${n}`, price, part));

/** Any outlet, by its number. */
export const outlet = (n: number) =>
  fc
    .record({
      allocation: fc.option(fc.integer({ min: 0, max: 400 })),
      link: fc.option(fc.constant('https://box.example/e?x=1')),
      fee: fc.option(
        fc.record({
          mode: fc.constantFrom('added' as const, 'absorbed' as const),
          basisPoints: fc.integer({ min: 0, max: 2000 }),
          fixed: fc.integer({ min: 0, max: 300 }),
          cap: fc.option(fc.integer({ min: 0, max: 2000 })),
        }),
      ),
    })
    .map((part) => newOutlet(`o${n}`, `Outlet ${n}`, part));

/** A list of up to `most` parts, each made by its number. */
export const several = <T>(make: (n: number) => fc.Arbitrary<T>, most: number, least = 0) =>
  fc.integer({ min: least, max: most }).chain((count) => fc.tuple(...Array.from({ length: count }, (_, n) => make(n))));

/** Anything that a record may be. */
export const record: fc.Arbitrary<RecordContent> = fc
  .record({
    title: words,
    shortTitle: fc.oneof(fc.constant(''), words),
    subtitle: fc.oneof(fc.constant(''), words),
    tags: fc.uniqueArray(
      words.map((tag) => tag.slice(0, 40).trim()),
      { maxLength: 3 },
    ),
    performances: several(performance, 6, 1),
    levels: several(level, 4),
    outlets: several(outlet, 3),
    mode: fc.constantFrom(...ticketModes),
    currency: fc.constantFrom('EUR' as const, 'ISK' as const, 'GBP' as const),
    teaser: fc.oneof(fc.constant(''), words),
    line: fc.oneof(fc.constant(''), words),
    lineUp: several(
      (n) => words.map((name) => newEntry(`a${n}`, name.slice(0, 60), n === 0 ? 'headliner' : 'support')),
      4,
    ),
    pictures: several(
      (n) =>
        fc
          .record({ x: fc.double({ min: 0, max: 1, noNaN: true }), y: fc.double({ min: 0, max: 1, noNaN: true }) })
          .map((focal) => newPicture({ id: String(n).repeat(64), width: 1000 + n * 700, height: 900 }, { focal })),
      3,
    ),
    radius: fc.option(fc.record({ km: fc.integer({ min: 1, max: 500 }), days: fc.integer({ min: 1, max: 90 }) })),
  })
  .map(({ levels, outlets, mode, currency, teaser, line, ...part }) =>
    sample({
      ...part,
      tickets: newTickets({
        mode,
        currency,
        levels: levels.map((one) => ({ ...one, most: one.most !== null && one.most < one.least ? null : one.most })),
        outlets,
      }),
      words: newWords({ teaser, line, full: '<p>One sentence. And another one.</p>' }),
    }),
  );
