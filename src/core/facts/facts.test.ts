import { distanceKm, travelHours } from '../record/geo';
import { facts, stageOf, turnWords, type FactsContext } from './facts';
import { newEntry, newLevel, newPicture, newTickets, newWords } from '../record/new-record';
import { nextOf } from './performance-facts';
import { lineUpWords } from '../record/roles';
import type { Performance, RecordContent } from '../record/record';
import { slugOf } from '../record/slug';
import { performance, sample, venues } from '../testing/samples';
import { noticeParts } from '../words/notice';
import { tokenValues } from '../words/tokens';

const now = Date.parse('2027-02-02T10:20Z');
const link = 'https://tickets.example/e/1';
const made = (part: Partial<RecordContent> = {}, at = now) => ({
  ...facts(sample(part), { code: 'OQ-0001', venues, now: at }),
  link: { kind: 'known' as const, href: link },
});
const nights = (...parts: Partial<Performance>[]) => ({
  performances: parts.map((part, i) => performance(`p${i}`, `2027-03-${String(14 + i)}`, part)),
});
const opens = (date: string) =>
  newTickets({ levels: [newLevel('s', 'Standard', 2200, { opens: { kind: 'at', date, time: '10:00' } })] });

describe('the stage', () => {
  test.each<[string, Partial<RecordContent>, string, string | null]>([
    ['pencilled', { stage: 'pencilled' }, 'pencilled', null],
    ['one night more that is only held', nights({}, { pencilled: true }), 'on sale', null],
    ['nothing but nights that are held', nights({ pencilled: true }, { pencilled: true }), 'pencilled', null],
    ['confirmed and private', { publicity: { visibility: 'private', announce: null } }, 'confirmed', null],
    [
      'confirmed and found by its link alone',
      { publicity: { visibility: 'unlisted', announce: null } },
      'confirmed',
      null,
    ],
    [
      'before its announce moment',
      { publicity: { visibility: 'public', announce: { date: '2027-02-02', time: '10:21', zone: 'Europe/Dublin' } } },
      'confirmed',
      null,
    ],
    [
      'at its announce moment',
      {
        publicity: { visibility: 'public', announce: { date: '2027-02-02', time: '10:20', zone: 'Europe/Dublin' } },
        tickets: opens('2027-02-12'),
      },
      'announced',
      null,
    ],
    ['announced, and not on sale yet', { tickets: opens('2027-02-12') }, 'announced', null],
    ['on sale', {}, 'on sale', null],
    ['on sale from this very moment', { tickets: opens('2027-02-12') }, 'on sale', '2027-02-12T10:00Z'],
    ['one night of two sold out', nights({ soldOut: true }, {}), 'on sale', null],
    ['both sold out', nights({ soldOut: true }, { soldOut: true }), 'sold out', null],
    ['what is left is sold out', nights({ turn: 'cancelled' }, { soldOut: true }), 'sold out', null],
    ['one night cancelled', nights({ turn: 'cancelled' }, {}), 'on sale', null],
    ['all cancelled', nights({ turn: 'cancelled' }, { turn: 'cancelled' }), 'cancelled', null],
    ['all postponed', nights({ turn: 'postponed' }), 'postponed', null],
    ['over to the minute', {}, 'on sale', '2027-03-14T22:00:00Z'],
    ['over', {}, 'played', '2027-03-14T22:00:01Z'],
    ['cancelled, and over', nights({ turn: 'cancelled' }), 'cancelled', '2027-05-01T00:00Z'],
  ])('%s', (_, part, stage, at) => {
    const moment = at === null ? now : Date.parse(at);
    expect(stageOf(made(part, moment), moment)).toBe(stage);
  });
});

test('sold out by its seats: the only night that is left is; the next of two is not', () => {
  const tickets = newTickets({ levels: [newLevel('s', 'Standard', 2200)], total: 10 });
  const of = (...parts: Partial<Performance>[]) => {
    const sold = new Map([['p0', new Map([['s', 10]])]]);
    const said = facts(sample({ ...nights(...parts), tickets }), { code: '', venues, now, sold });
    return stageOf({ ...said, link: { kind: 'known', href: link } }, now);
  };
  expect([of({}), of({}, {}), of({}, { turn: 'cancelled' })]).toEqual(['sold out', 'on sale', 'sold out']);
});

test('a night that is only held is told to nobody, and keeps its place beside the others', () => {
  const of = (...parts: Partial<Performance>[]) => {
    const { performances, held, pencilled } = made(nights(...parts));
    return [performances.length, held.map((performance) => performance.date), pencilled];
  };
  expect([of({}, { pencilled: true }), of({ pencilled: true }, { pencilled: true }), of({}, {})]).toEqual([
    [1, ['2027-03-15'], false],
    [2, [], true],
    [2, [], false],
  ]);
});

test.each<[string, Partial<Performance>[], string]>([
  ['nothing', [{}, {}], ''],
  ['all alike', [{ turn: 'cancelled' }, { turn: 'cancelled' }], 'Cancelled'],
  ['one of two', [{ turn: 'moved' }, {}], 'New place: Sunday 14 March'],
  [
    'each its own',
    [{ turn: 'rescheduled' }, { soldOut: true }, { turn: 'postponed' }],
    'New date: Sunday 14 March; Sold out: Monday 15 March; Postponed: Tuesday 16 March',
  ],
  ['a turn before a mark', [{ turn: 'cancelled', soldOut: true }], 'Cancelled'],
])('what befell it: %s', (_, parts, words) => expect(turnWords(made(nights(...parts)).performances)).toBe(words));

test.each<[string, [string, 'headliner' | 'support' | 'special guest'][], string]>([
  ['nobody', [], ''],
  ['one', [['X', 'headliner']], 'X'],
  [
    'two heads',
    [
      ['X', 'headliner'],
      ['Y', 'headliner'],
    ],
    'X and Y',
  ],
  [
    'three heads, two supports and a guest',
    [
      ['A', 'headliner'],
      ['B', 'headliner'],
      ['C', 'headliner'],
      ['D', 'support'],
      ['E', 'support'],
      ['F', 'special guest'],
    ],
    'A, B and C with D, E and special guest F',
  ],
  [
    'supports alone',
    [
      ['D', 'support'],
      ['E', 'support'],
    ],
    'D and E',
  ],
])('the line-up in words: %s', (_, names, words) =>
  expect(lineUpWords(names.map(([name, role]) => ({ name, role })))).toBe(words),
);

describe('performances', () => {
  test('each has the line-up of its night, in order of time, with the next one found by the clock', () => {
    const lineUp = [newEntry('a', 'Odalys Quarry'), newEntry('b', 'Tin Meridian', 'support')];
    const { performances } = made({
      lineUp,
      ...nights(
        { lineUpOut: ['b'] },
        { lineUpExtra: 'the Harbour Nine' },
        { lineUpOut: ['a', 'b'], lineUpExtra: 'nobody you know' },
      ),
    });
    expect(performances.map((performance) => performance.lineUp)).toEqual([
      'Odalys Quarry',
      'Odalys Quarry with Tin Meridian, also the Harbour Nine',
      'nobody you know',
    ]);
    const at = (text: string) => nextOf(performances, Date.parse(text))?.id;
    expect([
      at('2027-01-01T00:00Z'),
      at('2027-03-14T21:59Z'),
      at('2027-03-14T22:01Z'),
      at('2027-09-01T00:00Z'),
    ]).toEqual(['p0', 'p0', 'p1', 'p2']);
  });
  test.each<[string, Partial<Performance>, [number | null, number | null]]>([
    ['of known end', {}, [2.5, 2.5]],
    ['of unknown end: three hours are assumed, and not shown', { end: null }, [null, 3]],
    ['whose end is hidden', { endHidden: true }, [null, 2.5]],
    ['past midnight', { end: '01:00', endsNextDay: true }, [5.5, 5.5]],
    ['through the night that loses an hour', { date: '2027-03-27', end: '04:30', endsNextDay: true }, [8, 8]],
    ['through the night that gains one', { date: '2027-10-30', end: '04:30', endsNextDay: true }, [10, 10]],
    ['over three days', { lastDate: '2027-03-16' }, [50.5, 50.5]],
  ])('one %s', (_, part, [shown, over]) => {
    const [performanceFacts] = made({ performances: [performance('p0', '2027-03-14', part)] }).performances;
    const hours = (to: number | null | undefined) =>
      to === null || to === undefined || !performanceFacts?.start ? null : (to - performanceFacts.start) / 3_600_000;
    expect([hours(performanceFacts?.end), hours(performanceFacts?.over)]).toEqual([shown, over]);
  });
  test('one at a time that does not exist has no facts; the others have', () => {
    expect(
      made({
        performances: [
          performance('p0', '2027-03-28', { start: '01:30', doors: null, end: null }),
          performance('p1', '2027-03-29'),
        ],
      }).performances.map((performance) => performance.id),
    ).toEqual(['p1']);
  });
});

test.each<[string, string | undefined, string]>([
  ['Adelaide', 'Europe/Dublin', 'Adelaide time'],
  ['Dublin', 'Europe/Dublin', ''],
  ['Dublin', 'Eire', ''],
  ['Dublin', undefined, ''],
  ['Lisbon', 'Europe/Dublin', 'Lisbon time'],
])('in public words, a time in %s of a house in %s is said with: %s', (town, houseZone, note) => {
  const zone = { Adelaide: 'Australia/Adelaide', Dublin: 'Europe/Dublin', Lisbon: 'Europe/Lisbon' }[town] ?? '';
  const three = ['2027-03-16', '2027-03-23', '2027-03-30'].map((date, i) => performance(`s${i}`, date, { zone }));
  const of = (performances: Performance[]) => ({
    ...facts(sample({ performances, tickets: opens('2027-02-12') }), { code: 'X', venues, now, houseZone }),
    link: { kind: 'none' as const },
  });
  const one = of([performance('p', '2027-03-14', { zone })]);
  const series = of(three);
  const said = note === '' ? '' : ` ${note}`;
  expect([
    tokenValues(one, one.performances[0]).zone,
    noticeParts(one).find((part) => part.id === 'date')?.variants[0]?.text,
    one.price.kind === 'priced' && one.price.words,
    tokenValues(one, one.performances[0]).sale,
    series.series,
  ]).toEqual([
    note,
    `Sunday 14 March, 19:30${said}`,
    `€22, on sale Fri 12 Feb 10:00${said}`,
    `on sale Fri 12 Feb 10:00${said}`,
    `Tuesdays 19:30 from 16 March until 30 March${said}`,
  ]);
  // The same performance in another house: nothing is kept of the first.
  const content = sample({ performances: [performance('p', '2027-03-14', { zone })] });
  const noteIn = (house?: string) =>
    facts(content, { code: 'X', venues, now, ...(house ? { houseZone: house } : {}) }).performances[0]?.zoneNote;
  expect([noteIn(zone), noteIn('Asia/Tokyo'), noteIn()]).toEqual(['', expect.stringMatching(/ time$/), '']);
});

test.each<[string, Parameters<typeof performance>[2], string]>([
  ['as they are', {}, 'Tuesdays 19:30 from 16 March until 30 March'],
  ['one in another zone', { zone: 'Asia/Tokyo' }, ''],
  ['one of several days', { lastDate: '2027-03-24' }, ''],
  ['one without an hour', { precision: 'day', start: null }, ''],
])('a series is one line only where all of them are alike: %s', (_, odd, line) => {
  const dates = ['2027-03-16', '2027-03-23', '2027-03-30'];
  const performances = dates.map((date, i) =>
    performance(`s${i}`, date, { doors: null, end: null, ...(i === 1 ? odd : {}) }),
  );
  expect(made({ performances }).series).toBe(line);
});

test('every token says what the record says, and nothing where it says nothing', () => {
  const full = made({ words: newWords({ age: '18 and over' }), hashtags: ['Harp'] });
  expect(tokenValues(full, full.performances[0])).toMatchObject({
    title: 'Odalys Quarry',
    date: 'Sunday 14 March 2027',
    day: '14 March',
    weekday: 'Sunday',
    doors: '19:00',
    start: '19:30',
    end: '22:00',
    venue: 'Tallow Yard',
    room: 'The Vat',
    town: 'Marrowby',
    price: '€22',
    link,
    age: '18 and over',
    hashtag: '#Harp',
    series: '',
    line_up: 'Odalys Quarry with Tin Meridian',
    headliner: 'Odalys Quarry',
  });
  const month = made({
    performances: [
      performance('p0', '2027-05-01', {
        precision: 'month',
        start: null,
        doors: null,
        end: null,
        venueId: null,
        roomId: null,
      }),
    ],
  });
  expect(tokenValues(month, month.performances[0])).toMatchObject({
    date: 'May 2027, date to follow',
    day: 'May 2027, date to follow',
    weekday: '',
    start: '',
    venue: '',
    hashtag: '',
    series: '',
  });
  expect(tokenValues(full, undefined)).toMatchObject({ title: 'Odalys Quarry', date: '', start: '', room: '' });
});

test('a notice says no more than is known, and needs only what a stranger must know', () => {
  const parts = (facts: ReturnType<typeof made>) =>
    noticeParts(facts).map((part) => [part.id, part.required, part.variants[0]?.text]);
  expect(parts(made({ hashtags: ['Harp'] }))).toEqual([
    ['title', true, 'Odalys Quarry'],
    ['support', false, 'with Tin Meridian'],
    ['date', true, 'Sunday 14 March, 19:30'],
    ['place', false, 'The Vat, Tallow Yard, Marrowby'],
    ['price', false, '€22'],
    ['line', false, 'Concert harp, two tape machines'],
    ['link', true, link],
    ['hashtag', false, '#Harp'],
  ]);
  const bare = {
    ...made({
      lineUp: [],
      words: newWords(),
      tickets: newTickets({ levels: [] }),
      performances: [
        performance('p0', '2027-05-01', {
          precision: 'open',
          start: null,
          doors: null,
          end: null,
          venueId: null,
          roomId: null,
        }),
      ],
    }),
    link: { kind: 'none' as const },
  };
  expect(noticeParts(bare).map((part) => part.id)).toEqual(['title', 'date']);
  expect(noticeParts(made(), { withLink: false }).some((part) => part.id === 'link')).toBe(false);
});

test.each<[string, string, string]>([
  ['The Ninefold Choir: Salt & Static', '2027-03-14', 'the-ninefold-choir-salt-static-2027'],
  ['Ánna Ó Dálaigh', '2028-01-01', 'anna-o-dalaigh-2028'],
  ['夜の harp', '2027-03-14', '夜の-harp-2027'],
  ['!!!', '2027-03-14', 'event-2027'],
  ['x'.repeat(90), '2027-03-14', `${'x'.repeat(60)}-2027`],
])('the address of “%s”', (title, date, slug) =>
  expect(slugOf(sample({ title, performances: [performance('p', date)] }))).toBe(slug),
);

test('the address of an event whose date is open has no year', () => {
  expect(slugOf(sample({ performances: [performance('p', '2037-12-31', { precision: 'open' })] }))).toBe(
    'odalys-quarry',
  );
});

test.each<[string, string, string | null, string | null, (string | null)[]]>([
  ['within the evening', '20:00', '20:30', '21:15', ['03-14T20:30', '03-14T21:15']],
  ['before it begins', '20:00', '18:00', '18:45', ['03-14T18:00', '03-14T18:45']],
  ['over midnight', '20:00', '23:30', '00:30', ['03-14T23:30', '03-15T00:30']],
  ['after midnight', '20:00', '01:00', '02:00', ['03-15T01:00', '03-15T02:00']],
  ['early, of a morning', '09:00', '05:00', '06:00', ['03-14T05:00', '03-14T06:00']],
  ['of no length', '20:00', '20:30', '20:30', ['03-14T20:30', '03-14T20:30']],
  ['until a time alone', '20:00', null, '22:00', [null, '03-14T22:00']],
  ['at no time', '20:00', null, null, [null, null]],
])('a part of the programme %s', (_, begins, start, end, moments) => {
  const part = { id: 'g', title: 'A part', names: '', role: '', room: '', performanceId: null, start, end };
  const [first] = made({
    performances: [performance('p1', '2027-03-14', { start: begins, doors: null, end: null, zone: 'UTC' })],
    programme: [part],
  }).programme;
  const told = (at: number | null | undefined) => (at == null ? null : new Date(at).toISOString().slice(5, 16));
  expect([told(first?.start), told(first?.end)]).toEqual(moments);
});

test('half way round the earth, by its mean radius (IUGG)', () =>
  expect(distanceKm({ lat: 0, lon: 0 }, { lat: 0, lon: 180 })).toBeCloseTo(Math.PI * 6371.0088, 3));

test.each<[string, [number, number], [number, number], number, number]>([
  ['Dublin to Leeds', [53.35, -6.26], [53.8, -1.55], 315, 4.5],
  ['Reykjavík to Galway', [64.15, -21.94], [53.27, -9.06], 1420, 5.9],
  ['one place', [1, 1], [1, 1], 0, 0],
  ['across the date line', [-17, 179.5], [-17, -179.5], 106, 1.5],
  ['the far side of the earth', [0, 0], [0, 180], 20015, 30.7],
])('%s: kilometres and hours', (_, [a, b], [c, d], km, hours) => {
  const far = distanceKm({ lat: a, lon: b }, { lat: c, lon: d });
  expect([
    Math.abs(far - km) <= Math.max(2, km * 0.01),
    Math.round(travelHours(far) * 10) / 10,
    distanceKm({ lat: c, lon: d }, { lat: a, lon: b }),
  ]).toEqual([true, hours, far]);
});

test('the same record and clock give the same facts, and the record is left as it was', () => {
  const content = sample({ pictures: [newPicture({ id: 'ab'.repeat(32), width: 900, height: 900 })] });
  const before = JSON.stringify(content);
  const [item, two] = [
    facts(content, { code: 'X', venues, now }),
    facts(structuredClone(content), { code: 'X', venues, now }),
  ];
  expect([JSON.stringify(item), JSON.stringify(content)]).toEqual([JSON.stringify(two), before]);
});

test('a picture that ends before the last day is told, and the house’s logo with it', () => {
  const [used, logo] = ['ab', 'cd'].map((id) => newPicture({ id: id.repeat(32), width: 900, height: 900 }));
  if (!used || !logo) throw new Error('no pictures');
  const ends = (until: string) =>
    facts(
      sample({ pictures: [used], performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-20')] }),
      {
        code: 'X',
        venues,
        now,
        aboutUs: { mail: '', map: '', logo },
        pictureEnds: new Map([used, logo].map(({ pictureId }, i) => [pictureId, { name: `n${i}`, until }])),
      },
    ).pictureEnds.map(({ name }) => name);
  expect([ends('2027-03-19'), ends('2027-03-20')]).toEqual([['n0', 'n1'], []]);
});

describe('what was made before is used where it still holds, and nowhere else', () => {
  const context: FactsContext = { code: 'X', venues, now, houseZone: 'Europe/Dublin' };
  const [yard] = venues.values();
  const content = sample({
    ...nights({}, { precision: 'month' }, { venueId: null, roomId: null }),
    lineUp: [newEntry('a', 'Odalys Quarry', 'headline')],
  });
  test.each<[string, Partial<FactsContext>, Partial<RecordContent>]>([
    [
      'another directory',
      { venues: new Map(yard ? [[yard.id, { ...yard, town: 'Saltwick', zone: 'Europe/Lisbon' }]] : []) },
      {},
    ],
    ['another zone of the house', { houseZone: 'America/Halifax' }, {}],
    ['other words of the house', { follow: { date: 'the day comes', place: 'somewhere' } }, {}],
    ['other words of the record', {}, { toFollow: { date: 'soon', place: 'here or there' } }],
    ['another line-up', {}, { lineUp: [newEntry('a', 'Ninefold Choir', 'headline')] }],
    ['sales since', { sold: new Map([['p0', new Map([['standard', 3]])]]) }, {}],
    ['a later moment', { now: now + 90 * 86_400_000 }, {}],
  ])('%s', (_, other, changed) => {
    facts(content, context);
    const [next, with_] = [
      { ...content, ...changed },
      { ...context, ...other },
    ];
    expect(facts(next, with_)).toEqual(facts(structuredClone(next), with_));
    expect(facts(content, context)).toEqual(facts(structuredClone(content), context));
  });
});
