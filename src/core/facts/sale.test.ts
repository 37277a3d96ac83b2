import fc from 'fast-check';
import { facts } from './facts';
import { findingWords } from '../findings/finding-words';
import { newLevel, newOutlet, newTickets } from '../record/new-record';
import { contentFindings } from '../listing/content-findings';
import { houseFor } from './sale';
import { performance, sample, venues } from '../testing/samples';
import type { PriceLevel, Tickets } from '../record/ticket-schema';

const now = Date.parse('2027-02-02T10:20Z');
const levels = [newLevel('s', 'Standard', 2200), newLevel('c', 'Concession', 1600, { buyers: 'concession' })];
const nights = ['2027-03-14', '2027-03-15', '2027-03-16'].map((date, i) => performance(`p${i + 1}`, date));

/** Facts of three nights in The Vat (420), with parts replaced; `sold` by performance and level. */
function factsOf(
  part: { nights?: typeof nights; tickets?: Partial<Tickets>; sold?: Record<string, Record<string, number>> } = {},
) {
  const content = sample({ performances: part.nights ?? nights, tickets: newTickets({ levels, ...part.tickets }) });
  const sold = new Map(Object.entries(part.sold ?? {}).map(([id, counts]) => [id, new Map(Object.entries(counts))]));
  return { ...facts(content, { code: 'X', venues, now, sold }), content, sold };
}
const with1 = (part: Partial<(typeof nights)[number]>) =>
  nights.map((night, i) => (i === 0 ? { ...night, ...part } : night));
const all = (part: Partial<(typeof nights)[number]>) => nights.map((night) => ({ ...night, ...part }));
const friday = (date: string) => ({ kind: 'at' as const, date, time: '10:00' });

describe('what the public pays, of several nights', () => {
  test.each<[string, Parameters<typeof factsOf>[0], string, string]>([
    ['all to be had', {}, '€16–€22', 'on sale'],
    [
      'the first is marked sold out: the second is still to be had',
      { nights: with1({ soldOut: true }) },
      '€16–€22',
      'on sale',
    ],
    ['the first is full by its counts', { sold: { p1: { s: 420 } } }, '€16–€22', 'on sale'],
    ['the first is cancelled', { nights: with1({ turn: 'cancelled' }) }, '€16–€22', 'on sale'],
    ['the first is postponed', { nights: with1({ turn: 'postponed' }) }, '€16–€22', 'on sale'],
    ['all are sold out', { nights: all({ soldOut: true }) }, '€16–€22', 'sold out'],
    ['all are full', { sold: { p1: { s: 420 }, p2: { s: 420 }, p3: { s: 400, c: 20 } } }, '€16–€22', 'sold out'],
    ['all are cancelled', { nights: all({ turn: 'cancelled' }) }, '€16–€22', 'cancelled'],
    ['nearly full', { sold: { p1: { s: 390 } } }, '€16–€22', 'low'],
    [
      'the concessions are gone on the first night',
      {
        tickets: { levels: [levels[0] as PriceLevel, { ...(levels[1] as PriceLevel), quantity: 10 }] },
        sold: { p1: { c: 10 } },
      },
      '€22',
      'on sale',
    ],
    [
      'nothing is on sale yet',
      { tickets: { levels: levels.map((level) => ({ ...level, opens: friday('2027-02-05') })) } },
      '€16–€22, on sale Fri 10:00',
      'not yet on sale',
    ],
    [
      'every window has shut',
      { tickets: { levels: levels.map((level) => ({ ...level, closes: friday('2027-02-01') })) } },
      '€16–€22',
      'off sale',
    ],
    ['free entry', { tickets: { mode: 'free entry', levels: [] } }, 'free', 'on sale'],
    ['no price yet', { tickets: { levels: [] } }, 'unknown', 'on sale'],
  ])('%s', (_, part, words, available) => {
    const { price, availability } = factsOf(part);
    expect([price.kind === 'priced' ? price.words : price.kind, availability]).toEqual([words, available]);
  });
});

describe('the house of each night', () => {
  const wick = { roomId: 'wick' };
  test.each<[string, Parameters<typeof factsOf>[0], [string, number, number][]]>([
    ['enough everywhere', {}, []],
    [
      'a smaller room on the third night',
      {
        nights: nights.map((night, i) => (i === 2 ? { ...night, ...wick } : night)),
        tickets: { outlets: [newOutlet('o', 'Box', { allocation: 300 })] },
      },
      [['p3', 140, 0]],
    ],
    ['oversold on the second', { sold: { p2: { s: 421 } } }, [['p2', 0, 1]]],
    ['the next night is not among the others', { sold: { p1: { s: 500 } } }, []],
    [
      'what is over strains nothing any more',
      { nights: [performance('p0', '2027-01-14', wick), ...nights], sold: { p0: { s: 500 } } },
      [],
    ],
    ['free entry has no seats to oversell', { tickets: { mode: 'free entry' }, sold: { p2: { s: 900 } } }, []],
  ])('%s', (_, part, expected) =>
    expect(factsOf(part).strained.map(({ id, house }) => [id, house.over, house.oversold])).toEqual(expected),
  );

  test('a strained night stops the sending, says which, and counts the others', () => {
    const made = factsOf({ sold: { p2: { s: 430 }, p3: { s: 421 } } });
    const found = contentFindings(made, now).find((finding) => finding.code === 'house-strained');
    expect([found?.weight, found && findingWords(found)]).toEqual([
      'stops',
      'On Mon 15 Mar 10 more are sold than the 420 seats there are, and on 1 other dates. Choose a larger room or set-up for it, or give out less.',
    ]);
  });

  test('each is reckoned from its own counts, whichever is asked for, and the strained are just those that are', () => {
    const counts = fc.dictionary(
      fc.constantFrom('p1', 'p2', 'p3'),
      fc.dictionary(fc.constantFrom('s', 'c'), fc.integer({ min: 0, max: 400 })),
    );
    fc.assert(
      fc.property(
        counts,
        fc.array(fc.boolean(), { minLength: 3, maxLength: 3 }),
        fc.integer({ min: 0, max: 450 }),
        (sold, small, allocation) => {
          const made = factsOf({
            sold,
            nights: nights.map((night, i) => ({ ...night, roomId: small[i] ? 'wick' : 'vat' })),
            tickets: { outlets: [newOutlet('o', 'Box', { allocation })] },
          });
          const houses = new Map(
            made.content.performances.map((performance) => [
              performance.id,
              houseFor(made.content, performance, { venues, sold: made.sold }),
            ]),
          );
          for (const [id, house] of houses) {
            const seats = Object.values(sold[id] ?? {}).reduce((a, b) => a + b, 0);
            expect([house.sold, house.capacity]).toEqual([seats, small[Number(id.slice(1)) - 1] ? 160 : 420]);
          }
          const expected = [...houses]
            .filter(([id, house]) => id !== 'p1' && (house.over > 0 || house.oversold > 0))
            .map(([id]) => id);
          expect(made.strained.map((item) => item.id)).toEqual(expected);
          expect(made.house).toEqual(houses.get('p1'));
        },
      ),
      { numRuns: 200 },
    );
  });
});
