import fc from 'fast-check';
import { cropWindow } from '../pictures/crop';
import { parseTimeOfDay } from '../dates/date-words';
import { countGraphemes, cutToFit } from '../base/graphemes';
import { fingerprint, stableText } from '../base/hash';
import { currencies, moneyWords, parsePrice, toDecimal } from '../base/money';
import { shareOut } from './parts';
import { quoted } from '../base/quoted';
import { answered, boundedWait, calmAccount, cureFor, failed } from '../errands/retry';

describe('money', () => {
  test('every currency of the standard that has a minor unit is there; what is written is read as it was', () => {
    // The engine still has a few that were withdrawn, and units that are no money.
    const withdrawn = ['CUC', 'HRK', 'SLL', 'XDR', 'XSU', 'ZWL'];
    expect(
      Intl.supportedValuesOf('currency').filter((code) => !(currencies as readonly string[]).includes(code)),
    ).toEqual(withdrawn);
    fc.assert(
      fc.property(fc.constantFrom(...currencies), fc.integer({ min: 0, max: 99_999_999 }), (currency, minor) => {
        expect(
          [toDecimal(minor, currency), moneyWords(minor, currency)].map((text) => parsePrice(text, currency)),
        ).toEqual([minor, minor]);
      }),
    );
  });

  test.each([
    ['18', 'EUR', 1800],
    ['18.5', 'EUR', 1850],
    ['18,50', 'EUR', 1850],
    ['€18', 'EUR', 1800],
    [' 1,250.00', 'EUR', 125000],
    ['1.250,50 €', 'EUR', 125050],
    ['1,25.00', 'EUR', null],
    ['1,250.00', 'ISK', null],
    ['12,345,678.90', 'GBP', 1234567890],
    ['1.250', 'EUR', 125000],
    ['5.900', 'ISK', 5900],
    ['5900', 'ISK', 5900],
    ['59.5', 'ISK', null],
    ['eighteen', 'EUR', null],
    ['-3', 'EUR', null],
    ['', 'EUR', null],
    ['18.505', 'EUR', 1850500],
    ['18.5.0', 'EUR', null],
    ['20 EUR', 'EUR', 2000],
    ['EUR 20', 'EUR', 2000],
    ['18.-', 'EUR', 1800],
    ['20 GBP', 'EUR', null],
    ['EUR', 'EUR', null],
    ['1e3', 'EUR', null],
    ['NOK 250', 'NOK', 25000],
    ['250 kr', 'NOK', 25000],
    ['kr. 250,-', 'DKK', 25000],
    ['CHF 25.-', 'CHF', 2500],
    ['Fr. 1’250.50', 'CHF', 125050],
    ['¥3,000', 'JPY', 3000],
    ['3000円', 'JPY', 3000],
    ['30.5', 'JPY', null],
    ['KWD 5.500', 'KWD', 5500],
    ['5.500', 'KWD', 5500],
    ['5,500', 'KWD', null],
    ['1,250.500', 'KWD', 1250500],
    ['5.5', 'KWD', 5500],
    ['0.1234', 'CLF', 1234],
    ['1,00,000', 'INR', 10000000],
    ['$20', 'CAD', 2000],
    ['$20', 'EUR', null],
    ['R$ 45,90', 'BRL', 4590],
    ['9'.repeat(50), 'EUR', null],
    [`18${' '.repeat(200)}`, 'EUR', null],
  ] as const)('“%s” in %s is %s minor units', (text, currency, minor) =>
    expect(parsePrice(text, currency)).toBe(minor),
  );

  test.each([
    [1800, 'EUR', '€18', '18.00'],
    [1850, 'GBP', '£18.50', '18.50'],
    [5900, 'ISK', 'kr 5.900', '5900'],
    [123456700, 'EUR', '€1,234,567', '1234567.00'],
    [25000, 'NOK', 'NOK 250', '250.00'],
    [2550, 'CHF', 'CHF 25.50', '25.50'],
    [3000, 'JPY', '¥3,000', '3000'],
    [5500, 'KWD', 'KWD 5.500', '5.500'],
    [5000, 'KWD', 'KWD 5', '5.000'],
    [1234, 'CLF', 'CLF 0.1234', '0.1234'],
    [7, 'TND', 'TND 0.007', '0.007'],
  ] as const)('%s %s reads %s', (minor, currency, words, decimal) => {
    expect([moneyWords(minor, currency), toDecimal(minor, currency)]).toEqual([words, decimal]);
  });
});

test.each([
  ['19:30', '19:30'],
  ['19.30', '19:30'],
  ['1930', '19:30'],
  ['7pm', '19:00'],
  ['7.30 pm', '19:30'],
  ['12am', '00:00'],
  ['12:15 pm', '12:15'],
  ['9', '09:00'],
  ['19h', '19:00'],
  ['19h30', '19:30'],
  ['Noon', '12:00'],
  ['midnight', '00:00'],
  ['19:00:00', '19:00'],
  ['7:30:00 PM', '19:30'],
  ['07:30:00.000', '07:30'],
  ['7 p.m.', '19:00'],
  ['24:00', null],
  ['19:60', null],
  ['13pm', null],
  ['half seven', null],
  ['', null],
  ['25:00', null],
  ['19:99', null],
  ['19:00:30', null],
  [`19:${'0'.repeat(100)}`, null],
])('time of day “%s”', (text, time) => expect(parseTimeOfDay(text)).toBe(time));

test('a message quotes no more of a text than it can hold', () =>
  expect([quoted('half seven'), quoted('x'.repeat(1_000_000))]).toEqual(['“half seven”', `“${'x'.repeat(60)}…”`]));

describe('graphemes', () => {
  test.each([
    ['abc', 3],
    ['é', 1],
    ['👩‍👩‍👧‍👦!', 2],
    ['🇮🇪🇫🇷', 2],
    ['שלום', 4],
  ])('%s counts %i', (text, n) => expect(countGraphemes(text)).toBe(n));
  test.each([
    ['It fits.', 20, 'It fits.'],
    ['One sentence here. And a second one that is too long.', 30, 'One sentence here.'],
    ['Letters that were never posted and never read', 30, 'Letters that were never…'],
    ['👩‍👩‍👧‍👦👩‍👩‍👧‍👦👩‍👩‍👧‍👦👩‍👩‍👧‍👦', 3, '👩‍👩‍👧‍👦👩‍👩‍👧‍👦…'],
  ])('“%s” in %i', (text, limit, out) => {
    expect(cutToFit(text, limit)).toBe(out);
    expect(countGraphemes(cutToFit(text, limit))).toBeLessThanOrEqual(limit);
  });
});

test.each([
  [[11, 5], { x: 0, y: 118, w: 3000, h: 1364 }],
  [[1, 1], { x: 1000, y: 0, w: 2000, h: 2000 }],
  [[4, 5], { x: 1300, y: 0, w: 1600, h: 2000 }],
] as const)('crop of 3000×2000 to %j', (ratio, window) => {
  expect(
    cropWindow({ width: 3000, height: 2000 }, { x: 0.7, y: 0.4 }, ratio, { x0: 0.55, x1: 0.95, y0: 0.2, y1: 0.7 }),
  ).toEqual(window);
});

describe('performances over listings that hold four', () => {
  const ids = Array.from({ length: 12 }, (_, i) => `p${i + 1}`);
  const first = shareOut(ids, 4, []);
  test('twelve make three, in date order', () =>
    expect(first.map((part) => part.performanceIds.join())).toEqual(['p1,p2,p3,p4', 'p5,p6,p7,p8', 'p9,p10,p11,p12']));
  test('without the fifth, only its listing changes', () => {
    expect(
      shareOut(
        ids.filter((id) => id !== 'p5'),
        4,
        first,
      ).map((part) => part.performanceIds.join()),
    ).toEqual(['p1,p2,p3,p4', 'p6,p7,p8', 'p9,p10,p11,p12']);
  });
  test('one more goes to the first with room, else to a new one', () => {
    const room = shareOut(
      ids.filter((id) => id !== 'p5'),
      4,
      first,
    );
    expect(
      shareOut([...ids.filter((id) => id !== 'p5'), 'p13'], 4, room).map((part) => part.performanceIds.join()),
    ).toEqual(['p1,p2,p3,p4', 'p6,p7,p8,p13', 'p9,p10,p11,p12']);
    expect(shareOut([...ids, 'p13'], 4, first)[3]).toEqual({ part: 3, performanceIds: ['p13'] });
  });
  test('a listing that is emptied stays, to be taken down', () =>
    expect(shareOut(['p9'], 4, first).map((part) => part.performanceIds.join())).toEqual(['', '', 'p9']));
});

test('equal data has one fingerprint, whatever the order of its keys', () => {
  expect(fingerprint({ a: 1, b: [2, { c: 3, d: undefined }] })).toBe(fingerprint({ b: [2, { c: 3 }], a: 1 }));
  expect(stableText({ b: 1, a: null })).toBe('{"a":null,"b":1}');
  expect(fingerprint('a')).not.toBe(fingerprint('b'));
});

test.each([
  ['again-later', 1, { kind: 'account' }],
  ['unknown-outcome', 9, { kind: 'account' }],
  ['sign-in-again', 1, { kind: 'again', at: 2_000 }],
  ['sign-in-again', 2, { kind: 'again', at: 3_000 }],
  ['sign-in-again', 3, { kind: 'final' }],
  ['stopped', 7, { kind: 'again', at: 1_000 }],
  ...(['locked', 'invalid', 'conflict', 'gone', 'held', 'our-fault', 'not-allowed', 'not-connected'] as const).map(
    (kind) => [kind, 1, { kind: 'final' }] as const,
  ),
] as const)('after %s, try %i', (kind, tries, cure) => expect(cureFor(kind, tries, 1_000)).toEqual(cure));

describe('an account that fails', () => {
  test('waits longer each time, at most five minutes; one good answer ends it', () => {
    let state = calmAccount;
    let now = 0;
    const waits = Array.from({ length: 12 }, () => {
      state = failed(state, now, null);
      const wait = state.blockedUntil - now;
      now = state.blockedUntil;
      return wait / 1000;
    });
    expect(waits).toEqual([1, 2, 4, 8, 16, 32, 64, 128, 256, 300, 300, 300]);
    expect(state.failingSince).toBe(0);
    expect(answered(state)).toBe(calmAccount);
  });

  test('several that fail at once are one failure', () => {
    const first = failed(calmAccount, 1_000, null);
    expect(failed(first, 1_500, null)).toMatchObject({ failures: 1, failingSince: 1_000 });
  });

  test.each([
    [30_000, 30_000],
    [1e12, 86_400_000],
    [-5, 0],
    [null, null],
  ])('a wait of %p that was asked for is kept, and bounded to a day', (asked, kept) => {
    expect(boundedWait(asked)).toBe(kept);
    expect(failed(calmAccount, 0, asked).blockedUntil).toBe(kept ?? 1_000);
  });
});
