import fc from 'fast-check';
import type { Hold } from '../../record/directory';
import { newLevel, newOutlet, newTickets } from '../../record/new-record';
import type { Fee, PriceLevel } from '../../record/ticket-schema';
import type { Currency } from '../../base/money';
import { registrationEnd } from './registering';
import { faceFor, feeIn, feeOn, splitFee } from './fees';
import { bestMove, paceOf } from './moves';
import { priceNow } from './price-now';
import { houseOf, levelOffer } from './seats';
import { neverOpens, saleWindow } from './windows';

const added: Fee = { mode: 'added', basisPoints: 450, fixed: 60, cap: 900 };
const absorbed: Fee = { ...added, mode: 'absorbed' };

describe('what is offered of a level is reckoned once: in whole purchases, within its own limit, its part and the room', () => {
  const pools = [{ id: 'balcony', name: 'Balcony', seats: 40 }];
  test.each<[string, Partial<PriceLevel>, number | null, number | null]>([
    ['the room', {}, 420, 420],
    ['its own limit', { quantity: 50 }, 420, 50],
    ['a limit beyond the room', { quantity: 900 }, 420, 420],
    ['a family of four takes four seats each', { admits: 4 }, 420, 105],
    ['whole families alone', { admits: 4 }, 422, 105],
    ['a part of forty seats', { poolId: 'balcony' }, 420, 40],
    ['families in that part', { poolId: 'balcony', admits: 4 }, 420, 10],
    ['a part greater than the room', { poolId: 'balcony' }, 30, 30],
    ['a room that is not known', {}, null, null],
    ['a part of such a room', { poolId: 'balcony' }, null, 40],
  ])('%s', (_, part, pool, offered) => {
    const level = newLevel('l', 'Level', 2200, part);
    expect(levelOffer(level, { pools }, pool)).toBe(offered);
    // What can be sold while nothing is sold is just that.
    const house = houseOf(newTickets({ levels: [level], pools }), pool, [], new Map(), null);
    expect(house.levels[0]?.sellable).toBe(offered);
  });
});

test('levels of one part share what is left of it, whatever is left elsewhere', () => {
  const pools = [{ id: 'balcony', name: 'Balcony', seats: 40 }];
  const level = (id: string, poolId: string | null) => newLevel(id, id, 2200, { poolId });
  const levels = [level('a', 'balcony'), level('b', 'balcony'), level('c', null)];
  const house = houseOf(newTickets({ levels, pools }), 420, [], new Map([['a', 38]]), null);
  expect(house.levels.map(({ sellable }) => sellable)).toEqual([2, 2, 382]);
});

describe('fees: 4.5 % and 0.60, at most 9.00', () => {
  test.each([
    [2000, added, 150, 2150, 2000],
    [2000, absorbed, 150, 2000, 1850],
    [25000, added, 900, 25900, 25000],
    [0, added, 0, 0, 0],
    [5900, null, 0, 5900, 5900],
  ])('face %i: fee, what the buyer pays, what is kept', (face, fee, amount, buyerPays, net) => {
    expect(splitFee(face, fee, null)).toEqual({ face, fee: amount, buyerPays, net });
  });
  test.each([
    ['buyerPays', 2000, added, { kind: 'exact', split: { face: 1856, fee: 144, buyerPays: 2000, net: 1856 } }],
    [
      'buyerPays',
      1999,
      added,
      {
        kind: 'between',
        below: { face: 1855, fee: 143, buyerPays: 1998, net: 1855 },
        above: { face: 1856, fee: 144, buyerPays: 2000, net: 1856 },
      },
    ],
    ['net', 2000, absorbed, { kind: 'exact', split: { face: 2157, fee: 157, buyerPays: 2157, net: 2000 } }],
  ] as const)('the face for %s = %i', (aim, target, fee, found) =>
    expect(faceFor(aim, target, fee, null)).toEqual(found),
  );
  test.each([
    [2000, added, { fee: 150, buyerPays: 2270, net: 2120 }],
    [2000, absorbed, { fee: 150, buyerPays: 2120, net: 1970 }],
    [2000, null, { fee: 0, buyerPays: 2120, net: 2120 }],
    [0, added, { fee: 0, buyerPays: 0, net: 0 }],
  ])('a service fee of 1.20 on %i is paid on top and kept; on nothing it is nothing', (face, fee, split) => {
    expect(splitFee(face, fee, 120)).toEqual({ face, ...split });
  });
  test('the inverse undoes the fee, or its neighbours enclose the aim', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60_000 }),
        fc.constantFrom('buyerPays' as const, 'net' as const),
        fc.record({
          basisPoints: fc.integer({ min: 0, max: 3000 }),
          fixed: fc.integer({ min: 0, max: 300 }),
          cap: fc.option(fc.integer({ min: 0, max: 2000 })),
          mode: fc.constantFrom('added' as const, 'absorbed' as const),
        }),
        fc.option(fc.integer({ min: 1, max: 400 })),
        (target, aim, fee, service) => {
          const found = faceFor(aim, target, fee, service);
          if (found.kind === 'exact') expect(splitFee(found.split.face, fee, service)[aim]).toBe(target);
          else {
            expect(found.above[aim]).toBeGreaterThan(target);
            if (found.below)
              expect([found.below[aim] < target, found.above.face - found.below.face]).toEqual([true, 1]);
          }
        },
      ),
    );
  });
  test('halves go away from nothing', () =>
    expect([
      feeOn(1100, { basisPoints: 450, fixed: 0, cap: null }),
      feeOn(100, { basisPoints: 50, fixed: 0, cap: null }),
    ]).toEqual([50, 1]));
});

describe('seats', () => {
  const holds: Hold[] = [
    ['house', 6],
    ['guests', 4],
    ['killed', 10],
  ].map(([name, seats]) => ({ id: String(name), name: String(name), seats: Number(seats) }));
  const levels = [
    newLevel('std', 'Standard', 2200),
    newLevel('child', 'Child', 1000, { quantity: 10 }),
    newLevel('vip', 'VIP', 5000, { quantity: 20 }),
    newLevel('fam', 'Family', 6000, { admits: 4 }),
  ];
  const sold = new Map([
    ['std', 60],
    ['child', 10],
    ['vip', 5],
  ]);
  const outlets = [100, 30, 15].map((allocation, i) => newOutlet(`o${i}`, `o${i}`, { allocation }));
  test('the worked house: 65 left, 65 / 0 / 15 / 16 sellable, 5 over', () => {
    const house = houseOf(newTickets({ levels, outlets }), 160, holds, sold, null);
    expect([
      house.pool,
      house.sold,
      house.left,
      house.levels.map((level) => level.sellable),
      house.allocated,
      house.over,
    ]).toEqual([140, 75, 65, [65, 0, 15, 16], 145, 5]);
    // 75 sold, then 15 VIP at 50, then 50 seats at 22 (a family pays 15 a seat).
    expect(house.grossWhenFull).toBe(60 * 2200 + 10 * 1000 + 5 * 5000 + 15 * 5000 + 50 * 2200);
  });
  test('what a part of the house holds is sold once, over all levels of it and by people', () => {
    const tickets = newTickets({
      levels: [
        newLevel('a', 'Balcony', 3000, { poolId: 'b', admits: 2, quantity: 8 }),
        newLevel('c', 'Balcony side', 1000, { poolId: 'b' }),
      ],
      pools: [{ id: 'b', name: 'Balcony', seats: 20 }],
    });
    const full = houseOf(tickets, 420, [], new Map(), null);
    expect([full.grossWhenFull, full.netWhenFull]).toEqual([8 * 3000 + 4 * 1000, 8 * 3000 + 4 * 1000]);
  });
  test('a part of the house has limits of its own; without a capacity nothing is guessed', () => {
    const tickets = newTickets({
      levels: [newLevel('a', 'Balcony', 100, { poolId: 'b' }), newLevel('c', 'Floor', 100)],
      pools: [{ id: 'b', name: 'Balcony', seats: 30 }],
    });
    expect(houseOf(tickets, 100, [], new Map([['a', 28]]), null).levels.map((level) => level.sellable)).toEqual([
      2, 72,
    ]);
    const open = houseOf(tickets, null, [], new Map(), null);
    expect([open.pool, open.left, open.grossWhenFull, open.levels.map((level) => level.sellable)]).toEqual([
      null,
      null,
      null,
      [30, null],
    ]);
  });
  test('selling what is sellable never oversells', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 300 }),
        fc.array(
          fc.record({
            quantity: fc.option(fc.integer({ min: 1, max: 90 })),
            admits: fc.integer({ min: 1, max: 5 }),
            before: fc.integer({ min: 0, max: 20 }),
          }),
          { minLength: 1, maxLength: 5 },
        ),
        (capacity, shape) => {
          const made = shape.map(({ quantity, admits }, i) => newLevel(`l${i}`, 'x', 100, { quantity, admits }));
          const before = new Map(shape.map(({ before: n }, i) => [`l${i}`, n]));
          const house = houseOf(newTickets({ levels: made }), capacity, [], before, null);
          if (house.oversold > 0) return;
          for (const level of house.levels)
            expect(
              houseOf(
                newTickets({ levels: made }),
                capacity,
                [],
                new Map(before).set(level.id, level.sold + (level.sellable ?? 0)),
                null,
              ).oversold,
            ).toBe(0);
        },
      ),
    );
  });
});

describe('the price that the public reads', () => {
  const start = Date.parse('2027-03-14T19:30:00Z');
  const now = Date.parse('2027-02-09T12:00:00Z');
  const at = {
    start,
    zone: 'Europe/Dublin',
    zoneNote: '',
    now,
    levels: [],
    fee: added,
    serviceFee: null,
    dates: 1,
    left: null,
  };
  const friday = { kind: 'at' as const, date: '2027-02-12', time: '10:00' };
  test.each<[string, PriceLevel[], object]>([
    ['one price', [newLevel('a', 'a', 2200)], { words: '€22', withFees: 2359 }],
    [
      'a concession makes a range',
      [newLevel('a', 'a', 2200), newLevel('b', 'b', 1600, { buyers: 'concession' })],
      { words: '€16–€22', from: 1600 },
    ],
    [
      'the upper end is the dearest full price',
      [newLevel('a', 'a', 2200), newLevel('b', 'b', 2850), newLevel('c', 'c', 1500, { buyers: 'concession' })],
      { words: '€15–€28.50', from: 1500, to: 2850 },
    ],
    [
      '… of those on sale',
      [
        newLevel('a', 'a', 2200),
        newLevel('b', 'b', 2850, { opens: friday }),
        newLevel('c', 'c', 1500, { buyers: 'concession' }),
      ],
      { words: '€15–€22' },
    ],
    [
      'several full prices and none reduced',
      [newLevel('a', 'a', 2200), newLevel('b', 'b', 2850)],
      { words: 'from €22', to: 2850 },
    ],
    [
      'a reduced price that is none',
      [newLevel('a', 'a', 2200), newLevel('c', 'c', 3000, { buyers: 'concession' })],
      { words: '€22' },
    ],
    [
      'free for some',
      [newLevel('a', 'a', 2200), newLevel('b', 'b', 2850), newLevel('c', 'c', 0, { buyers: 'concession' })],
      { words: 'free to €28.50' },
    ],
    [
      'bundles, group and code prices are not what anyone pays; what members pay is said behind',
      [
        newLevel('a', 'a', 2200),
        newLevel('b', 'b', 4000, { admits: 4 }),
        newLevel('c', 'c', 1200, { buyers: 'members' }),
        newLevel('d', 'd', 900, { buyers: 'code' }),
        newLevel('e', 'e', 800, { buyers: 'group' }),
      ],
      { words: '€22, €40 for 4 people, members €12', from: 2200, to: 2200 },
    ],
    [
      'members, too, once it opens',
      [newLevel('a', 'a', 1000, { opens: friday }), newLevel('c', 'c', 500, { buyers: 'members', opens: friday })],
      { words: '€10, members €5, on sale Fri 10:00' },
    ],
    [
      'members come in free',
      [newLevel('a', 'a', 1000), newLevel('c', 'c', 0, { buyers: 'members' })],
      { words: '€10, members free' },
    ],
    ['for members alone', [newLevel('c', 'c', 500, { buyers: 'members' })], { words: 'members only, €5', from: 500 }],
    ['for those invited alone', [newLevel('c', 'c', 500, { buyers: 'invited' })], { kind: 'unknown' }],
    [
      'an order of two at least is not for one',
      [newLevel('a', 'a', 2200), newLevel('b', 'b', 1500, { least: 2 })],
      { words: '€22' },
    ],
    [
      'nothing yet: what opens first, with its moment',
      [
        newLevel('a', 'a', 2200, { opens: friday }),
        newLevel('b', 'b', 2500, { opens: { ...friday, date: '2027-02-19' } }),
      ],
      { words: '€22, on sale Fri 10:00', opens: Date.parse('2027-02-12T10:00:00Z') },
    ],
    [
      'an early level that is over',
      [
        newLevel('a', 'a', 1500, { closes: { kind: 'at', date: '2027-02-01', time: '10:00' } }),
        newLevel('b', 'b', 2200),
      ],
      { words: '€22' },
    ],
    ['pay what you like', [newLevel('a', 'a', 500, { choose: true })], { words: 'pay what you like, from €5' }],
  ])('%s', (_, levels, expected) => expect(priceNow(newTickets({ levels }), at)).toMatchObject(expected));
  test.each<[string, Parameters<typeof newLevel>[3], string]>([
    ['that can be had', {}, '€22, €60 for 4 people'],
    ['of two', { admits: 2 }, '€22, €60 for 2 people'],
    ['whose window has shut', { closes: { kind: 'before', amount: 300, unit: 'days' } }, '€22'],
    ['that opens later', { opens: { kind: 'before', amount: 1, unit: 'hours' } }, '€22'],
    ['for members', { buyers: 'members' }, '€22'],
  ])('a bundle %s, in the price', (_, part, words) => {
    const levels = [newLevel('s', 's', 2200), newLevel('f', 'f', 6000, { admits: 4, ...part })];
    expect(priceNow(newTickets({ levels }), at)).toMatchObject({ words });
  });
  test.each<[string, PriceLevel[], object]>([
    ['one price', [newLevel('a', 'a', 2200)], { words: '€22, plus €1.50 service fee, incl. tax', withFees: 2509 }],
    [
      'for members alone',
      [newLevel('c', 'c', 500, { buyers: 'members' })],
      { words: 'members only, €5, plus €1.50 service fee' },
    ],
    ['for nothing', [newLevel('a', 'a', 0)], { kind: 'free' }],
  ])('what the house adds is told with it: %s', (_, levels, expected) => {
    const price = priceNow(newTickets({ levels, tax: 'included' }), { ...at, serviceFee: 150 });
    expect(price).toMatchObject(expected);
  });
  test('a level that is sold out is passed over', () => {
    const levels = [newLevel('a', 'a', 1500), newLevel('b', 'b', 2200)];
    expect(priceNow(newTickets({ levels }), { ...at, levels: [{ id: 'a', sold: 9, sellable: 0 }] })).toMatchObject({
      words: '€22',
    });
  });
  test('windows: days before are calendar days, a closing before the opening is found', () => {
    const summer = Date.parse('2027-03-30T19:30:00Z');
    const window = saleWindow(
      { opens: null, closes: { kind: 'before', amount: 3, unit: 'days' } },
      summer,
      'Europe/Dublin',
    );
    expect(window.closes).toBe(Date.parse('2027-03-27T20:30:00Z'));
    // A time that the clocks skip counts from the hour after.
    const skipped = { kind: 'at', date: '2027-03-28', time: '01:30' } as const;
    expect(saleWindow({ opens: skipped, closes: null }, summer, 'Europe/Dublin').opens).toBe(
      Date.parse('2027-03-28T01:30:00Z'),
    );
    expect(
      neverOpens(
        saleWindow({ opens: friday, closes: { kind: 'before', amount: 60, unit: 'days' } }, start, 'Europe/Dublin'),
      ),
    ).toBe(true);
  });
});

describe('moving allocation', () => {
  test('21, not 22: the first of the two is empty after 7.25 days', () => {
    expect(
      bestMove([
        { id: 'gatefold', left: 8, perDay: 4 },
        { id: 'pennyseat', left: 25, perDay: 0.5 },
      ]),
    ).toEqual({ from: 'pennyseat', to: 'gatefold', seats: 21, lastsNow: 2, lastsThen: 7.25 });
  });
  test('it is the best of all moves', () => {
    const outlet = fc.record({
      left: fc.integer({ min: 0, max: 60 }),
      perDay: fc.integer({ min: 0, max: 40 }).map((n) => n / 4),
    });
    fc.assert(
      fc.property(outlet, outlet, (a, b) => {
        const lasts = (x: number, y: number) =>
          Math.min(a.perDay ? x / a.perDay : Infinity, b.perDay ? y / b.perDay : Infinity);
        let best = lasts(a.left, b.left);
        for (let n = -a.left; n <= b.left; n += 1) best = Math.max(best, lasts(a.left + n, b.left - n));
        const move = bestMove([
          { id: 'a', ...a },
          { id: 'b', ...b },
        ]);
        expect(move?.lastsThen ?? lasts(a.left, b.left)).toBe(best);
        // What helps nobody is not proposed.
        expect(move === null).toBe(best === lasts(a.left, b.left));
      }),
    );
  });
  test('pace is reckoned over the last week', () => {
    const day = 86_400_000;
    expect(
      paceOf(
        [
          { at: 0, sold: 100 },
          { at: 13 * day, sold: 100 },
          { at: 20 * day, sold: 128 },
        ],
        20 * day,
      ),
    ).toBe(4);
    expect(paceOf([], 5)).toBe(0);
  });
});

test.each<[Currency, number, number]>([
  ['EUR', 60, 900],
  ['ISK', 1, 9],
  ['KWD', 600, 9000],
])('a seller’s own fee of 0.60, at most 9.00, in %s', (currency, fixed, cap) => {
  expect(feeIn({ basisPoints: 450, fixed: 60, cap: 900 }, currency)).toEqual({ basisPoints: 450, fixed, cap });
  expect(feeIn({ basisPoints: 450, fixed: 60, cap: null }, currency).cap).toBeNull();
});

test.each<[string, string | null, string, string | null]>([
  ['the midnight after the last day', '2027-03-05', 'Europe/Dublin', '2027-03-06T00:00:00.000Z'],
  ['there where the event is', '2027-07-05', 'Europe/Lisbon', '2027-07-05T23:00:00.000Z'],
  ['none is named', null, 'UTC', null],
])('registration ends at %s', (_, closes, zone, at) => {
  const end = registrationEnd({ closes }, zone);
  expect(end === null ? null : new Date(end).toISOString()).toBe(at);
});
