import fc from 'fast-check';
import type { WireCodec } from './channel-rules';
import { equalValues } from './compare';
import type { ShownValue } from './shown';
import {
  amountAt,
  countAt,
  dayFirstAt,
  flagAt,
  htmlAt,
  localAt,
  pictureAt,
  priceAt,
  secondsAt,
  textAt,
  urlAt,
  utcAt,
} from './wire';
import { instantOf, resolveLocal, toLocal, zoneNames } from '../base/zones';

const codecs = {
  text: textAt('k'),
  html: htmlAt('k'),
  url: urlAt('k'),
  count: countAt('k'),
  flag: flagAt('k', 'open', 'shut'),
  utc: utcAt('k', 'zone'),
  local: localAt('k', 'zone'),
  seconds: secondsAt('k', 'zone'),
  dayFirst: dayFirstAt('k', 'at', 'Europe/Dublin'),
  price: priceAt('name', 'k', 'money'),
  amount: amountAt('k', 'money'),
  picture: pictureAt('k'),
} satisfies Record<string, WireCodec>;
const at = (text: string, zone = 'Europe/Dublin'): ShownValue => ({ kind: 'instant', at: Date.parse(text), zone });

describe('what is written, and read back as it was', () => {
  test.each<[keyof typeof codecs, ShownValue, object]>([
    ['text', { kind: 'text', text: 'Odalys\nQuarry' }, { k: 'Odalys\nQuarry' }],
    ['html', { kind: 'rich', html: '<p>a <strong>b</strong></p>' }, { k: '<p>a <strong>b</strong></p>' }],
    ['url', { kind: 'url', href: 'https://a.example/?q=1' }, { k: 'https://a.example/?q=1' }],
    ['dayFirst', at('2027-07-04T19:30:00Z'), { k: '04/07/2027', at: '20:30' }],
    ['dayFirst', at('2027-10-31T01:30:00Z'), { k: '31/10/2027', at: '01:30 B' }],
    ['count', { kind: 'count', n: 0 }, { k: 0 }],
    ['flag', { kind: 'flag', on: true }, { k: 'open' }],
    ['flag', { kind: 'flag', on: false }, { k: 'shut' }],
    ['utc', at('2027-07-04T19:30:00Z'), { k: '2027-07-04T19:30:00Z', zone: 'Europe/Dublin' }],
    ['local', at('2027-07-04T19:30:00Z'), { k: '2027-07-04 20:30', zone: 'Europe/Dublin' }],
    ['local', at('2027-10-31T00:30:00Z'), { k: '2027-10-31 01:30', zone: 'Europe/Dublin' }],
    ['local', at('2027-10-31T01:30:00Z'), { k: '2027-10-31 01:30 (2)', zone: 'Europe/Dublin' }],
    ['seconds', at('2027-07-04T19:30:00Z', 'America/St_Johns'), { k: 1814729400, zone: 'America/St_Johns' }],
    [
      'price',
      { kind: 'price', name: 'Standard', minor: 1850, currency: 'EUR' },
      { name: 'Standard', k: '18.50', money: 'EUR' },
    ],
    [
      'price',
      { kind: 'price', name: 'Standard', minor: 5900, currency: 'ISK' },
      { name: 'Standard', k: '5900', money: 'ISK' },
    ],
    ['amount', { kind: 'price', name: '', minor: 1200, currency: 'EUR' }, { k: '12.00', money: 'EUR' }],
    [
      'picture',
      { kind: 'picture', name: 'a.jpg', alt: 'A harp', source: null },
      { k: { file: 'a.jpg', alt: 'A harp' } },
    ],
  ])('%s', (name, value, wire) => {
    expect(codecs[name].put(value)).toEqual(wire);
    expect(codecs[name].take(JSON.parse(JSON.stringify(wire)) as Record<string, unknown>)).toEqual(value);
  });

  test('every minute, in every zone, by every clock', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...zoneNames()),
        fc.integer({ min: Date.parse('2024-01-01T00:00Z') / 60_000, max: Date.parse('2037-06-01T00:00Z') / 60_000 }),
        fc.constantFrom('utc' as const, 'local' as const, 'seconds' as const),
        (zone, minute, name) => {
          const value: ShownValue = { kind: 'instant', at: minute * 60_000, zone };
          expect(codecs[name].take(codecs[name].put(value))).toEqual(value);
        },
      ),
      { numRuns: 1500 },
    );
  });

  test('every price, in every currency', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 99_999_999 }),
        fc.constantFrom('EUR' as const, 'ISK' as const, 'PLN' as const, 'CAD' as const),
        (minor, currency) => {
          const value: ShownValue = { kind: 'price', name: 'x', minor, currency };
          expect(codecs.price.take(codecs.price.put(value))).toEqual(value);
        },
      ),
    );
  });
});

describe('what is found where something else belongs is kept, and never taken for a value', () => {
  test.each<[keyof typeof codecs, Record<string, unknown>, string | null]>([
    ['text', {}, null],
    ['text', { k: null }, null],
    ['text', { k: '' }, null],
    ['text', { k: 7 }, '7'],
    ['html', { k: '' }, null],
    ['html', { k: ['a'] }, '["a"]'],
    ['url', { k: '' }, null],
    ['url', { k: false }, 'false'],
    ['count', { k: '12' }, '12'],
    ['count', { k: null }, null],
    ['utc', { k: 'soon', zone: 'UTC' }, 'soon'],
    ['utc', {}, null],
    ['utc', { k: 12 }, '12'],
    ['local', { k: '2027-03-28 01:30', zone: 'Europe/Dublin' }, '2027-03-28 01:30'],
    ['local', { k: '31/12/2027', zone: 'UTC' }, '31/12/2027'],
    ['local', { k: '2027-02-30 19:30', zone: 'UTC' }, '2027-02-30 19:30'],
    ['local', { k: '2027-02-03 99:99', zone: 'UTC' }, '2027-02-03 99:99'],
    ['seconds', { k: '1814729400' }, '1814729400'],
    ['dayFirst', {}, null],
    ['dayFirst', { k: '', at: '' }, null],
    ['dayFirst', { k: '04/07/2027' }, '04/07/2027'],
    ['dayFirst', { k: '', at: '20:30' }, ''],
    ['dayFirst', { k: '04/07/2027', at: 'late' }, 'late'],
    ['dayFirst', { k: '2027-07-04', at: '20:30' }, '2027-07-04'],
    ['dayFirst', { k: '31/02/2027', at: '20:30' }, '31/02/2027 20:30'],
    ['price', { name: 'x', k: 18.5, money: 'EUR' }, '18.5'],
    ['price', { name: 'x', k: '18.505', money: 'EUR' }, '18.505'],
    ['price', { name: 'x', k: '59.5', money: 'ISK' }, '59.5'],
    ['price', { name: 'x', k: '18.50', money: 'XXX' }, '18.50'],
    ['price', {}, null],
    ['picture', { k: 'a.jpg' }, 'a.jpg'],
    ['picture', {}, null],
  ])('%s of %j', (name, wire, found) => {
    const taken = codecs[name].take(wire);
    expect(taken).toEqual(found === null ? null : { kind: 'text', text: found });
  });
  test('a flag that is neither is off; one that is missing is none', () => {
    expect([codecs.flag.take({ k: 'ajar' }), codecs.flag.take({})]).toEqual([{ kind: 'flag', on: false }, null]);
  });
  test('a zone that is none counts as not shown: an instant is an instant', () => {
    const taken = codecs.utc.take({ k: '2027-07-04T19:30:00Z', zone: 'Mars/Olympus' });
    expect([taken, taken && equalValues(taken, at('2027-07-04T19:30:00Z'))]).toEqual([
      at('2027-07-04T19:30:00Z', ''),
      true,
    ]);
  });
  test('a value of another kind cannot be written', () => {
    for (const codec of Object.values(codecs))
      expect(() =>
        codec.put({ kind: 'awaited', from: 'gatefold', name: 'Gatefold', gift: 'ticket link', track: null }),
      ).toThrow(/awaited/);
  });
});

describe('equal by meaning', () => {
  const text = (words: string): ShownValue => ({ kind: 'text', text: words });
  const rich = (html: string): ShownValue => ({ kind: 'rich', html });
  const url = (href: string): ShownValue => ({ kind: 'url', href });
  test.each<[ShownValue, ShownValue, boolean]>([
    [text('a  b'), text('a b'), true],
    [text('é'), text('e\u0301'), true],
    [text('a\r\nb '), text('a\nb'), true],
    [text('a'), text('A'), false],
    [rich('<p>a<b>b</b></p>'), rich('<p>a<strong>b</strong></p>\n'), true],
    [rich('<p>a</p>'), rich('<p>b</p>'), false],
    [url('HTTPS://A.example:443/x'), url('https://a.example/x'), true],
    [url('https://a.example'), url('https://a.example/'), true],
    [url('https://a.example/x'), url('https://a.example/X'), false],
    [url('not a link'), url(' not a link '), true],
    [at('2027-07-04T19:30:00Z'), at('2027-07-04T20:30:00+01:00'), true],
    [at('2027-07-04T19:30:00Z'), at('2027-07-04T19:30:00Z', 'UTC'), false],
    [
      { kind: 'price', name: 'Standard', minor: 1800, currency: 'EUR' },
      { kind: 'price', name: ' Standard', minor: 1800, currency: 'EUR' },
      true,
    ],
    [
      { kind: 'price', name: 'S', minor: 1800, currency: 'EUR' },
      { kind: 'price', name: 'S', minor: 1800, currency: 'GBP' },
      false,
    ],
    [{ kind: 'count', n: 3 }, { kind: 'count', n: 3 }, true],
    [{ kind: 'count', n: 3 }, text('3'), false],
    [{ kind: 'flag', on: true }, { kind: 'flag', on: false }, false],
    [
      { kind: 'picture', name: 'a', alt: 'x', source: null },
      { kind: 'picture', name: 'a', alt: 'y', source: null },
      false,
    ],
  ])('%j and %j', (a, b, same) =>
    expect([equalValues(a, b), equalValues(b, a), equalValues(a, a)]).toEqual([same, same, true]),
  );
});

test('a reading that the clocks skip, or give twice, is written and read as the moment it means', () => {
  for (const zone of [
    'Europe/Dublin',
    'America/St_Johns',
    'Australia/Lord_Howe',
    'Asia/Beirut',
    'Africa/Cairo',
    'Pacific/Chatham',
  ]) {
    for (let day = 0; day < 366; day += 1) {
      const date = new Date(Date.parse('2027-01-01T00:00Z') + day * 86_400_000).toISOString().slice(0, 10);
      for (const time of ['00:00', '00:30', '01:30', '02:15', '02:30', '03:00']) {
        const found = resolveLocal({ date, time }, zone);
        if (found.kind === 'twice')
          for (const moment of [found.first, found.second])
            expect(codecs.local.take(codecs.local.put({ kind: 'instant', at: moment, zone }))).toEqual({
              kind: 'instant',
              at: moment,
              zone,
            });
        if (found.kind === 'skipped') {
          for (const near of [found.before, found.after]) expect(instantOf(near, zone)).not.toBeNull();
          expect(instantOf({ date, time }, zone)).toBeNull();
        }
        if (found.kind === 'once') expect(toLocal(found.instant, zone)).toEqual({ date, time });
      }
    }
  }
});
