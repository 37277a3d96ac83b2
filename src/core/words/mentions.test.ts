import { facts } from '../facts/facts';
import type { Currency } from '../base/money';
import { newLevel, newTickets } from '../record/new-record';
import type { Performance } from '../record/record';
import { performance, sample, venues } from '../testing/samples';
import { noEarlier, type Earlier } from './mention';
import { findMentions } from './mentions';

/** Sunday 14 March 2027 in The Vat, doors 19:00, start 19:30, end 22:00, €22; on the 13th, at 20:00, for €18 before. */
const link = 'https://tickets.example/e/1';
const factsOf = (performances: Performance[], part: Parameters<typeof sample>[0] = {}, now = '2027-02-02T10:20Z') => ({
  ...facts(sample({ ...part, performances }), { code: 'X', venues, now: Date.parse(now) }),
  link: { kind: 'known' as const, href: link },
});
const night = performance('p1', '2027-03-14', { doors: '19:00', start: '19:30', end: '22:00' });
const earlier: Earlier = {
  ...noEarlier,
  ...{ dates: ['2027-03-13'], times: ['20:00'], prices: [1800], from: [1800] },
  links: ['https://old.example/e/9'],
};
const found = (text: string, of = factsOf([night]), now = '2027-02-02T10:20Z') =>
  findMentions(text, { facts: of, now: Date.parse(now), earlier, rooms: ['Wick Room', 'The Vat'] });
const told = (text: string, of?: ReturnType<typeof factsOf>) =>
  found(text, of).map((mention) => `${mention.verdict} ${mention.text}`);

test('the days that it takes place are named, of more than three the first two', () => {
  const nights = (n: number) =>
    factsOf(['14', '15', '16', '17'].slice(0, n).map((day) => performance(`p${day}`, `2027-03-${day}`)));
  const says = (n: number) => found('on 28 March', nights(n)).map((mention) => mention.says);
  expect([says(1), says(3), says(4)]).toEqual([
    ['Sunday 14 March 2027'],
    ['Sunday 14 March 2027, Monday 15 March 2027, Tuesday 16 March 2027'],
    ['Sunday 14 March 2027, Monday 15 March 2027 and 2 more'],
  ]);
});

test('a day within several, without a year, is of the year in which they lie', () => {
  const long = factsOf([performance('p1', '2028-03-10', { lastDate: '2028-03-20' })]);
  expect(['10 March', '12 March', '20 March', '21 March'].map((day) => told(`on ${day}`, long))).toEqual([
    ['typed 10 March'],
    ['typed 12 March'],
    ['typed 20 March'],
    ['contradicts 21 March'],
  ]);
});

describe('a day', () => {
  test.each<[string, string[]]>([
    ['Sunday 14 March', ['typed Sunday 14 March']],
    ['Sun., 14 March 2027', ['typed Sun., 14 March 2027']],
    ['the fourteenth of March', ['typed fourteenth of March']],
    ['March 14', ['typed March 14']],
    ['Sunday, March 14', ['typed Sunday, March 14']],
    ['Friday, March 14, 2027', ['contradicts Friday, March 14, 2027']],
    ['March 15 at 19.30', ['contradicts March 15', 'typed 19.30']],
    [
      '14/3, 14.03.2027, 14-03-2027, 2027-03-14',
      ['typed 14/3', 'typed 14.03.2027', 'typed 14-03-2027', 'typed 2027-03-14'],
    ],
    ['Sunday 14th', ['typed Sunday 14th']],
    ['Friday the 14th', ['contradicts Friday the 14th']],
    ['Friday the 12th', ['contradicts Friday the 12th']],
    ['Sunday the 14th of March', ['typed Sunday the 14th of March']],
    ['Friday the 14th of March', ['contradicts Friday the 14th of March']],
    ['Saturday 13 March', ['stale Saturday 13 March']],
    ['15 March', ['contradicts 15 March']],
    ['14–16 March', ['contradicts 14–16 March']],
    ['come on Sunday', ['typed Sunday']],
    ['come on Saturday', ['contradicts Saturday']],
    ['(this Friday)', ['contradicts this Friday']],
    ['on the fifteenth of March 2027', ['contradicts fifteenth of March 2027']],
    ['14-Mar-2027, Sun 14.3., 7.30pm', ['typed 14-Mar-2027', 'typed Sun 14.3', 'typed 7.30pm']],
    ['Sunday 14 March 2026', ['contradicts Sunday 14 March 2026']],
    ['6 weeks before 14 March, two days after Sunday 14 March', ['typed 14 March', 'typed Sunday 14 March']],
    ['rescheduled from Saturday 13 March to Sunday 14 March', ['typed Sunday 14 March']],
    ['Sat 12 & Sun 14 March', ['contradicts Sat 12', 'typed Sun 14 March']],
    ['14, 15 and 16 March', ['typed 14', 'contradicts 15', 'contradicts 16 March']],
    ['Doors at 7, 14 March', ['typed 7', 'typed 14 March']],
    ['a night on 15 March, the evening of 14 March', ['contradicts 15 March', 'typed 14 March']],
    ['Fri, Mar 14', ['contradicts Fri, Mar 14']],
    // Two numbers are a day where they are one of ours, or were; others may be anything.
    ['13/3', ['stale 13/3']],
    ['15/3', []],
    ['Friday, the fourteenth of March', ['contradicts Friday, the fourteenth of March']],
    ['from Sunday 14 March 2027 19:30 to 22:00', ['typed Sunday 14 March 2027', 'typed 19:30', 'typed 22:00']],
  ])('%s', (text, expected) => expect(told(text)).toEqual(expected));

  test.each([
    'moved from Friday 5 March by the flood',
    'postponed from 5 March',
    'originally on 5 March',
    'founded on 3 May 1987',
    'their 2019 album',
    'since 3 May 2025',
    'born 14 March 1980',
    'released on 3 May',
    'last Friday',
    'every Friday',
    'the first Sunday of the month',
    'on Good Friday',
    'Bloody Sunday',
    'the Sunday Times',
    'Sundays',
    'in May the band toured',
    'they may 3 times',
    'march 20 miles',
    '24/7',
    'in 7/8 time',
    'a 3/4 measure',
    'op. 14/3',
    'tonight',
    'tomorrow',
    'in two weeks',
    'it was 13 March',
    'original tickets for 13 March remain valid',
    'previously Saturday 13 March',
    'her new record arrives on 5 March',
    'after the fire of 4 February',
    'on 14 March 1879 he was born',
    'the tour continues: 15 March Leeds, 17 March Ghent',
    'on a Friday the 13th in 1999',
    'open Mon–Sat, 12–6pm',
    'chapter 3.14',
    'version 2.5',
    'ages 7-10',
    'a score of 4-3',
    'call 01 234 5678',
    'May you live',
    'Sat down by the river',
  ])('is none: %s', (text) => expect(told(text)).toEqual([]));

  test('of a run is any of its days; of several days each; of a month known, the month', () => {
    const run = factsOf([night, performance('p2', '2027-03-20')]);
    expect(told('Saturday 20 March, 19:30; 14 and 21 March', run)).toEqual([
      'typed Saturday 20 March',
      'typed 19:30',
      'typed 14',
      'contradicts 21 March',
    ]);
    const days = factsOf([performance('p1', '2027-03-12', { lastDate: '2027-03-14' })]);
    expect(told('Friday 12 to Sunday 14 March, and on 13 March', days)).toEqual([
      'typed Friday 12',
      'typed Sunday 14 March',
      'typed 13 March',
    ]);
    expect(told('12–14 March', days)).toEqual(['typed 12–14 March']);
    const month = factsOf([
      performance('p1', '2027-03-01', { precision: 'month', start: null, doors: null, end: null }),
    ]);
    expect(told('14 March or 3 April', month)).toEqual(['typed 14 March', 'contradicts 3 April']);
    expect(
      told(
        '14 March',
        factsOf([performance('p1', '2027-03-01', { precision: 'open', start: null, doors: null, end: null })]),
      ),
    ).toEqual([]);
  });

  test('a night past midnight ends on the next day, and a day on which it is not may be said to be none', () => {
    const club = factsOf([
      performance('p1', '2027-03-27', { start: '22:00', doors: null, end: '04:00', endsNextDay: true }),
    ]);
    expect(told('27/28 March, until 4am on Sunday; Sat 27 into Sun 28 March', club)).toEqual([
      'typed 27',
      'typed 4am',
      'typed Sat 27',
    ]);
    expect(told('on Sunday 28 March', club)).toEqual(['contradicts Sunday 28 March']);
    const late = factsOf([performance('p1', '2027-03-14', { doors: '23:30', start: '00:15', end: '04:00' })]);
    expect(told('Saturday 13 March, doors 23:30; Sunday 14 March, 00:15; Friday 12 March', late)).toEqual([
      'typed 23:30',
      'typed Sunday 14 March',
      'typed 00:15',
      'contradicts Friday 12 March',
    ]);
    expect(told('no show on 16 March, closed Monday 15 March')).toEqual([]);
    expect(told('not to be missed on 16 March')).toEqual(['contradicts 16 March']);
  });

  test('a token is offered only where it would say that very day', () => {
    const tokensOf = (text: string, part: Partial<Performance>) =>
      found(text, factsOf([performance('p1', '2027-03-12', part)])).map((mention) => mention.token);
    expect(tokensOf('Friday 12 March, 13 March, Friday 12 to Sunday 14 March', { lastDate: '2027-03-14' })).toEqual([
      null,
      null,
      null,
      null,
    ]);
    expect(tokensOf('Friday 12 March', { precision: 'month', start: null, doors: null, end: null })).toEqual([null]);
    expect(tokensOf('Friday 12 March, 12 March', {})).toEqual(['date', 'day']);
  });

  test('of the sale is held against the windows, and against nothing where there are none', () => {
    const at = (opens: string | null) =>
      factsOf([night], {
        tickets: newTickets({
          levels: [
            newLevel('s', 'Standard', 2200, {
              opens: opens === null ? null : { kind: 'at', date: opens, time: '10:00' },
            }),
          ],
        }),
      });
    const text = 'Tickets on sale from Friday 12 February';
    expect([told(text, at(null)), told(text, at('2027-02-12')), told(text, at('2027-02-19'))]).toEqual([
      [],
      ['typed Friday 12 February'],
      ['contradicts Friday 12 February'],
    ]);
    expect(told('Book by 1 March', at(null))).toEqual([]);
  });
});

describe('a time', () => {
  test.each<[string, string[]]>([
    ['doors 7pm, music 7.30 pm', ['typed 7pm', 'typed 7.30 pm']],
    ['doors at 7 p.m.', ['typed 7 p.m.']],
    ['doors 6.30pm', ['contradicts 6.30pm']],
    ['starts 8.15pm', ['contradicts 8.15pm']],
    ['starts 8pm', ['stale 8pm']],
    ['from 7.30pm to 10pm', ['typed 7.30pm', 'typed 10pm']],
    ['doors: 19.00', ['typed 19.00']],
    ['until 23:00', ['contradicts 23:00']],
    ['19h30, or 1930 hrs', ['typed 19h30', 'typed 1930 hrs']],
    ['half past seven', ['typed half past seven']],
    ['at seven o’clock', ['typed seven o’clock']],
    ['Sunday 14 March at 8pm', ['typed Sunday 14 March', 'stale 8pm']],
    ['Sunday 14 March, 7-11pm', ['typed Sunday 14 March', 'typed 7', 'contradicts 11pm']],
    ['19:30 – 22:00', ['typed 19:30', 'typed 22:00']],
    ['19.30h on Sunday 14 March', ['typed 19.30h', 'typed Sunday 14 March']],
    ['starts at midnight, ends at noon', ['contradicts midnight', 'contradicts noon']],
    ['doors 7, over by ten', ['typed 7', 'typed ten']],
    ['7pm doors, 8.30pm show; 10.30pm finish', ['typed 7pm', 'contradicts 8.30pm', 'contradicts 10.30pm']],
    ['7pm/7.30pm. Ends around 10pm.', ['typed 7pm', 'typed 7.30pm', 'typed 10pm']],
    ['Friday 19 March at 8pm', ['contradicts Friday 19 March', 'stale 8pm']],
    ['Saturday 13 March, 6pm – 10pm', ['stale Saturday 13 March', 'contradicts 6pm', 'typed 10pm']],
    ['Friday the 14th at 6pm', ['contradicts Friday the 14th', 'contradicts 6pm']],
    ['{{ date }} at 8pm; 6.15pm on {{ day }}', ['stale 8pm', 'contradicts 6.15pm']],
    ['{{ weekday }}s are for baking; {{ date }}, half past seven', ['typed half past seven']],
    ['{{ date }}, {{ start }} to 11pm, {{ start }}–10pm', ['contradicts 11pm', 'typed 10pm']],
    ['{{ date }}. Our box office is open from 10am. {{ title }} 21:15', []],
    ['On sale Friday 19 March at 10am; moved from Friday 19 March, 8pm', []],
    ['The band played here on 3 May 2019 at 8pm', []],
    ['box office 10am–6pm, last entry 8pm', []],
    ['at 21 she left; at 45 rpm; at 7 tables', []],
    ['The bar opens at 6', []],
    ['curfew 23:00', []],
    ['12 songs in 24 hours, at 45 rpm', []],
    ['at 21 she left home', []],
  ])('%s', (text, expected) => expect(told(text)).toEqual(expected));
});

test('a token stands for just what it replaces, and for nothing where several times are true', () => {
  const turned = (text: string, of = factsOf([night])) =>
    found(text, of).reduceRight(
      (words, mention) =>
        mention.token === null ? words : `${words.slice(0, mention.from)}{${mention.token}}${words.slice(mention.to)}`,
      text,
    );
  expect(turned('Doors at 7, Sunday 14 March at 8pm – 10pm, from just €22')).toBe(
    'Doors at {doors}, {date} at {start} – {end}, {price}',
  );
  const three = factsOf(
    ['11:00', '14:00', '16:30'].map((start, i) =>
      performance(`p${i}`, '2027-02-20', { start, doors: null, end: null }),
    ),
  );
  expect(told('Saturday 20 February at 11:00, 14:00 and 17:00; at 14:00', three)).toEqual([
    'typed Saturday 20 February',
    'typed 11:00',
    'typed 14:00',
    'contradicts 17:00',
    'typed 14:00',
  ]);
  expect(turned('Saturday 20 February, 14:00', three)).toBe('Saturday 20 February, 14:00');
});

test.each<[Currency, string, string[]]>([
  ['NOK', 'NOK 250 at the door, 250 kr before', ['NOK 250', '250 kr']],
  ['CHF', 'Fr. 250 or chf 250', ['Fr. 250', 'chf 250']],
  ['JPY', '¥250', ['¥250']],
  ['KWD', 'KWD 0.250', ['KWD 0.250']],
  ['EUR', 'All 250 seats; try 250 steps; top 250; cup 250', []],
])('in %s: %s', (currency, text, found) => {
  const minor = currency === 'JPY' || currency === 'KWD' ? 250 : 25_000;
  const made = facts(sample({ tickets: newTickets({ currency, levels: [newLevel('s', 'Standard', minor)] }) }), {
    code: 'X',
    venues,
    now: Date.parse('2027-02-02T10:20Z'),
  });
  expect(
    findMentions(text, { facts: made, now: Date.parse('2027-02-02T10:20Z'), earlier: noEarlier, rooms: [] }).map(
      (mention) => [mention.kind, mention.text, mention.verdict],
    ),
  ).toEqual(found.map((text) => ['price', text, 'typed']));
});

describe('a price', () => {
  test.each<[string, string[]]>([
    ['€22, 22 euros, 22,00 €, EUR 22', ['typed €22', 'typed 22 euros', 'typed 22,00 €', 'typed EUR 22']],
    ['tickets from €18', ['stale from €18']],
    ['tickets cost 20 euro', ['contradicts 20 euro']],
    ['a €5,000 grant, and €500 in prizes', []],
    ['a pint for €4', []],
    ['the roof fund raised €41,000', []],
    ['£22', []],
    ['free entry', ['contradicts free entry']],
    ['free entry for carers; under 12s free entry', []],
  ])('%s', (text, expected) => expect(told(text)).toEqual(expected));
  test('of a free event is free', () => {
    const free = factsOf([night], { tickets: newTickets({ mode: 'free entry' }) });
    expect(told('Free entry. A pint is €4.', free)).toEqual(['typed Free entry']);
  });
  test.each<[string, ReturnType<typeof newTickets>, string[]]>([
    [
      'Free entry. A ticket is €22.',
      newTickets({ levels: [newLevel('s', 's', 2200), newLevel('c', 'c', 0, { buyers: 'concession' })] }),
      ['typed €22'],
    ],
    ['free entry', newTickets({ levels: [newLevel('s', 's', 0, { choose: true })] }), []],
    [
      '€22, and €1.50 on each',
      newTickets({ levels: [newLevel('s', 's', 2200)], serviceFee: 150 }),
      ['typed €22', 'typed €1.50'],
    ],
    ['€22, and €1.50 on each', newTickets({ levels: [newLevel('s', 's', 2200)] }), ['typed €22', 'contradicts €1.50']],
  ])('%s, where some come in for nothing or something is added', (text, tickets, expected) =>
    expect(told(text, factsOf([night], { tickets }))).toEqual(expected),
  );
  test.each([
    ['14 February 2028', ['contradicts 14 February 2028']],
    ['14 December 2028', []],
    ['14 February 2029', []],
  ])(
    '%s in the words of an event on 14 February 2027: the year alone is wrong, or it is another day',
    (text, expected) => expect(told(text, factsOf([performance('p1', '2027-02-14')]))).toEqual(expected),
  );
});

test.each<[string, string[]]>([
  ['in the Wick Room, not in The Vat', ['contradicts Wick Room', 'typed The Vat']],
  ['The Vatican, a vat of dye', []],
  [`${link}?via=x and https://tickets.example/e/2`, [`typed ${link}?via=x`, 'contradicts https://tickets.example/e/2']],
  [
    'see www.tickets.example/e/1, or tickets.example/e/2',
    ['typed www.tickets.example/e/1', 'contradicts tickets.example/e/2'],
  ],
  ['https://band.example/14/3', []],
  // Where tickets were before; and another page of that place, which was never where they are.
  ['https://old.example/e/9, old.example/e/8', ['stale https://old.example/e/9', 'contradicts old.example/e/8']],
])('a place or link: %s', (text, expected) => expect(told(text)).toEqual(expected));

test('tokens are no typed facts, and a mark never holds the bracket around it', () => {
  expect(told('On {{ date }} at {{ start }}, {{ price }}')).toEqual([]);
  expect(told('(Sunday 14 March), (€22)')).toEqual(['typed Sunday 14 March', 'typed €22']);
});

test.each(['at 7 ', '7-', '          ', '14.03.', '€5 ', '14, 15 and 16 March ', 'two weeks before ', 'x'])(
  'sixty thousand characters of “%s” are answered, with places that lie in the text',
  (piece) => {
    const text = piece.repeat(60_000 / piece.length);
    const all = found(text);
    expect(all.length).toBeLessThanOrEqual(200);
    for (const mention of all) expect(text.slice(mention.from, mention.to)).toBe(mention.text);
  },
);

test('of a text that is searched at one go no day is cut in two', () => {
  for (const length of [900, 1_500, 2_500, 2_980])
    expect(told(`${'x'.repeat(length)} 14 March`)).toEqual(['typed 14 March']);
});
