import fc from 'fast-check';
import { findingsOf } from '../../testing/findings';
import { level } from '../../testing/any-record';
import { performance, sample, venues } from '../../testing/samples';
import { newLevel, newOutlet, newTickets } from '../../record/new-record';
import type { RecordContent } from '../../record/record';
import type { Covers, PriceLevel, Tickets } from '../../record/ticket-schema';
import { facts } from '../facts';
import { houseFor } from '../sale';
import { coverWords } from './passes';
import type { Sold } from './sold';

const now = Date.parse('2027-02-02T10:20Z');
/** Days of March on which it takes place, in the Wick Room, which holds 160. */
const run = (days: readonly number[], tickets: Partial<Tickets>): RecordContent =>
  sample({
    performances: days.map((day) =>
      performance(`p${day}`, `2027-03-${String(day).padStart(2, '0')}`, { roomId: 'wick' }),
    ),
    tickets: newTickets(tickets),
  });
const pass = (name: string, price: number, covers: Covers, part: Partial<PriceLevel> = {}) =>
  newLevel(name.toLowerCase().replace(/ /g, '-'), name, price, { covers, ...part });
const item = newLevel('each', 'Standard', 2500);
const sold = (counts: Record<string, Record<string, number>>): Map<string, Sold> =>
  new Map(Object.entries(counts).map(([id, levels]) => [id, new Map(Object.entries(levels))]));
const priceOf = (content: RecordContent, counts = {}) => {
  const { price } = facts(content, { code: 'X', venues, now, sold: sold(counts) });
  return price.kind === 'unknown' ? '' : price.words;
};

describe('prices in words', () => {
  test.each<[string, number[], Partial<Tickets>, string]>([
    ['a pair of nights', [5, 6], { levels: [item, pass('Both', 4000, { kind: 'all' })] }, '€25 each, €40 for both'],
    [
      'a range, and a pass',
      [5, 6],
      { levels: [item, newLevel('r', 'Reduced', 1600, { buyers: 'concession' }), pass('Both', 4000, { kind: 'all' })] },
      '€16–€25 each, €40 for both',
    ],
    [
      'a course with one sign-up',
      [1, 8, 15, 22, 29, 30],
      { levels: [pass('Course', 12_000, { kind: 'all' })] },
      '€120 for all six',
    ],
    [
      'any three of six',
      [1, 8, 15, 22, 29, 30],
      { levels: [item, pass('Three', 6000, { kind: 'any', n: 3 })] },
      '€25 each, €60 for any three',
    ],
    [
      'named dates go by the name of the level',
      [1, 8, 15],
      { levels: [item, pass('The spring pair', 4000, { kind: 'chosen', ids: ['p1', 'p8'] })] },
      '€25 each, €40 for The spring pair',
    ],
    [
      'the cheapest of two passes that are for the same',
      [5, 6],
      { levels: [item, pass('Both', 4000, { kind: 'all' }), pass('Both early', 3600, { kind: 'all' })] },
      '€25 each, €36 for both',
    ],
    ['a pass for one date alone is a ticket', [5], { levels: [pass('All', 4000, { kind: 'all' })] }, '€40'],
    [
      'members and how they show it',
      [5],
      {
        levels: [newLevel('a', 'Standard', 1000), newLevel('m', 'Members', 500, { buyers: 'members' })],
        membersProof: 'with the card at the door',
      },
      '€10, members €5 (with the card at the door)',
    ],
    [
      'non-members pay more',
      [5],
      {
        levels: [
          newLevel('a', 'Guests', 1000, { buyers: 'non-members' }),
          newLevel('m', 'Members', 500, { buyers: 'members' }),
        ],
      },
      '€10, members €5',
    ],
    ['tax said', [5], { levels: [item], tax: 'included' }, '€25, incl. tax'],
    ['tax that is not known is not said', [5], { levels: [item], tax: 'unsaid' }, '€25'],
    [
      'a pass before its sale opens says when',
      [5, 6],
      { levels: [pass('Both', 4000, { kind: 'all' }, { opens: { kind: 'at', date: '2027-02-05', time: '10:00' } })] },
      '€40 for both, on sale Fri 10:00',
    ],
  ])('%s', (_, days, tickets, words) => expect(priceOf(run(days, tickets))).toBe(words));

  test.each([
    [10, 151, '€25, 9 left'],
    [10, 150, '€25, 10 left'],
    [10, 149, '€25'],
    [10, 160, '€25'],
    [null, 159, '€25'],
  ])('left from %s on, with %i of 160 sold', (showLeft, gone, words) =>
    expect(priceOf(run([5], { levels: [item], showLeft }), { p5: { each: gone } })).toBe(words),
  );

  test('what a pass is good for', () => {
    expect(coverWords({ covers: { kind: 'any', n: 9 }, name: 'x' }, 3)).toBe('all three');
    expect(coverWords({ covers: { kind: 'all' }, name: 'x' }, 14)).toBe('all 14');
  });
});

describe('seats over levels and dates, in a room of 160', () => {
  const both = pass('Both', 4000, { kind: 'all' });
  const pair = pass('Pair', 4000, { kind: 'chosen', ids: ['p5', 'p6'] });
  const two = pass('Two', 4000, { kind: 'any', n: 2 });
  test.each<[string, PriceLevel[], object, string, number, (number | null)[]]>([
    // sales, the date looked at, seats left there, and what may still be sold of each level
    ['one of a date alone', [item, both], { p5: { each: 100 } }, 'p6', 160, [160, 60]],
    ['a pass takes a seat from every date', [item, both], { p5: { both: 30 } }, 'p7', 130, [130, 130]],
    ['wherever it was counted', [item, both], { p5: { both: 10 }, p7: { both: 20 } }, 'p6', 130, [130, 130]],
    [
      'the fullest date decides what is left of it',
      [item, both],
      { p5: { each: 150 }, p6: { both: 4 } },
      'p6',
      156,
      [156, 6],
    ],
    ['named dates: the third is untouched', [item, pair], { p5: { pair: 50 } }, 'p7', 160, [160, 110]],
    ['named dates: those that are named are not', [item, pair], { p5: { pair: 50 } }, 'p6', 110, [110, 110]],
    ['any two: counted where the buyer went', [item, two], { p5: { two: 60 }, p6: { two: 60 } }, 'p5', 100, [100, 100]],
    ['any two: two dates with a seat suffice', [item, two], { p5: { each: 160 } }, 'p5', 0, [0, 160]],
    [
      'any two: one date with a seat does not',
      [item, two],
      { p5: { each: 160 }, p6: { each: 160 } },
      'p7',
      160,
      [160, 0],
    ],
    ['one guest for each purchase', [item, { ...both, admits: 2 }], { p5: { both: 10 } }, 'p6', 140, [140, 70]],
  ])('%s', (_, levels, counts, on, left, sellable) => {
    const content = run([5, 6, 7], { levels });
    const performance = content.performances.find((p) => p.id === on);
    const house = houseFor(content, performance, { venues, sold: sold(counts as never) });
    expect([house.left, house.levels.map((level) => level.sellable)]).toEqual([left, sellable]);
  });

  test('however passes and tickets are sold, no date ever holds more than the room, as long as what is sellable is sold', () => {
    fc.assert(
      fc.property(
        fc.array(level(0), { minLength: 1, maxLength: 4 }),
        fc.array(fc.tuple(fc.nat({ max: 3 }), fc.nat({ max: 2 }), fc.integer({ min: 1, max: 60 })), { maxLength: 14 }),
        (made, orders) => {
          const levels = made.map((level, i) => ({ ...level, id: `l${i}`, opens: null, closes: null, poolId: null }));
          const content = run([5, 6, 7], { levels });
          const counts = new Map<string, Map<string, number>>();
          const houseOn = (id: string) =>
            houseFor(
              content,
              content.performances.find((p) => p.id === id),
              { venues, sold: new Map(counts) },
            );
          for (const [l, p, wished] of orders) {
            const bought = levels[l % levels.length];
            const [id = ''] = [['p5', 'p6', 'p7'][p]];
            // One for any two dates is counted on the dates that the buyer chose: a ticket of each of them.
            if (!bought || bought.covers.kind === 'any') continue;
            const room = houseOn(id).levels.find((level) => level.id === bought.id)?.sellable ?? 0;
            const at = counts.get(id) ?? new Map<string, number>();
            counts.set(id, at.set(bought.id, (at.get(bought.id) ?? 0) + Math.min(wished, room)));
          }
          for (const id of ['p5', 'p6', 'p7'])
            expect([id, houseOn(id).oversold, (houseOn(id).left ?? 0) >= 0]).toEqual([id, 0, true]);
        },
      ),
    );
  });

  test('one registration for a whole course is one guest, on whichever date it was counted', () => {
    const tickets = newTickets({ mode: 'registration', link: 'https://x.example/' });
    const content = run([1, 8, 15], {
      ...tickets,
      registration: { ...tickets.registration, limit: 12, onceForAll: true },
    });
    expect(priceOf(content, { p1: { registration: 4 }, p8: { registration: 5 } })).toBe(
      'free, one registration for all three, 3 of 12 places left',
    );
  });
});

describe('sums held against each other', () => {
  const inWick = (tickets: Partial<Tickets>) => findingsOf(run([5], tickets), now);
  test.each<[string, Partial<Tickets>, string[]]>([
    [
      'full 50, reduced 50, room 50',
      { levels: [newLevel('a', 'A', 10, { quantity: 50 }), newLevel('b', 'B', 5, { quantity: 50 })], total: 50 },
      [],
    ],
    ['a total beyond the room', { levels: [item], total: 200 }, ['warns total-over 200 160']],
    [
      'levels of a part beyond it',
      {
        levels: [
          newLevel('a', 'A', 10, { quantity: 30, poolId: 'q' }),
          newLevel('b', 'B', 5, { quantity: 20, admits: 2, poolId: 'q' }),
        ],
        pools: [{ id: 'q', name: 'Balcony', seats: 60 }],
      },
      ['warns level-over-part 70 60'],
    ],
    [
      'outlets with more than all levels sell',
      { levels: [newLevel('a', 'A', 10, { quantity: 80 })], outlets: [newOutlet('o', 'O', { allocation: 100 })] },
      ['warns levels-below-allocated 80 100'],
    ],
    [
      'outlets beyond the total',
      { levels: [item], total: 100, outlets: [newOutlet('o', 'O', { allocation: 120 })] },
      ['stops over-allocated 20 120'],
    ],
    [
      'parts beyond the total',
      { levels: [item], total: 100, pools: [{ id: 'q', name: 'Q', seats: 120 }] },
      ['stops parts-over 120 100'],
    ],
  ])('%s', (_, tickets, said) => expect(inWick(tickets)).toEqual(said));

  test('booking closes for every level that says nothing else, in calendar days', () => {
    const content = run([14], {
      levels: [item, newLevel('d', 'Door', 2800, { closes: { kind: 'before', amount: 0, unit: 'hours' } })],
      closes: { kind: 'before', amount: 3, unit: 'days' },
    });
    const { levels, bookingCloses } = facts(content, { code: 'X', venues, now });
    expect([levels.map((level) => level.closes), bookingCloses]).toEqual([
      [Date.parse('2027-03-11T19:30:00Z'), Date.parse('2027-03-14T19:30:00Z')],
      Date.parse('2027-03-11T19:30:00Z'),
    ]);
  });

  test('a pass counts in the takings of one date with its share', () => {
    const content = run([5, 6], { levels: [pass('Both', 4000, { kind: 'all' }, { quantity: 10 })] });
    expect(houseFor(content, content.performances[0], { venues }).grossWhenFull).toBe(20_000);
  });
  test('of a service fee that a pass bears once, each of its dates has its share', () => {
    // Ten seats at 60.00 for three nights, and 1.50 on each: 20.00 and 0.50 for a night, kept in full.
    const content = run([1, 8, 15], {
      levels: [pass('All', 6000, { kind: 'all' }, { quantity: 10 })],
      total: 10,
      serviceFee: 150,
    });
    const { grossWhenFull, netWhenFull } = houseFor(content, content.performances[0], { venues });
    expect([grossWhenFull, netWhenFull]).toEqual([20_000, 20_500]);
  });
});

test.each<[string, object, string]>([
  ['a date that is marked as sold out ends the pass for it', { soldOut: true }, '€25'],
  ['one that was cancelled, too', { turn: 'cancelled' }, '€25'],
  ['as planned', {}, '€25 each, €40 for both'],
])('%s', (_, part, words) => {
  const content = run([5, 6], { levels: [item, pass('Both', 4000, { kind: 'all' })] });
  const performances = content.performances.map((performance, i) =>
    i === 0 ? { ...performance, ...part } : performance,
  );
  expect(priceOf({ ...content, performances })).toBe(words);
});
