import { organiserSchema } from '@/core/record/directory';
import { findingWords } from '@/core/findings/finding-words';
import type { FindingFact } from '@/core/findings/finding';
import { newEntry, newLevel, newOutlet, newPicture, newTickets, newWords } from '@/core/record/new-record';
import { overridable } from '@/core/listing/proof';
import type { RecordContent } from '@/core/record/record';
import { performance, sample, yard } from '@/core/testing/samples';
import { registrationSchema } from '@/core/record/ticket-schema';
import { valueWords } from '@/core/listing/rich-words';
import type { SurveyInput } from './survey-shapes';
import { bareListing, onlyThere, surveyOf } from './testing/fixture';

function survey(part: Partial<RecordContent> = {}, more: Partial<SurveyInput> = {}) {
  const finch = organiserSchema.parse({ id: 'o', name: 'Finch', boilerplate: 'Finch sends quiet music.' });
  return surveyOf({
    content: sample(part),
    organisers: new Map([['o', finch]]),
    channels: onlyThere(['lectern', 'gatefold', 'hearthside']),
    ...more,
  });
}

const listing = (made: ReturnType<typeof survey>, channel: string) =>
  made.listings.find((listing) => listing.channel === channel) ?? fault(channel);
const shown = (made: ReturnType<typeof survey>, channel: string, key: string) =>
  valueWords(listing(made, channel).proof[key]);
const codes = (made: ReturnType<typeof survey>, channel: string) =>
  listing(made, channel).findings.map((finding) => `${finding.weight} ${finding.code}`);

function fault(channel: string): never {
  throw new Error(`no listing on ${channel}`);
}

describe('what each channel shows of a record in full', () => {
  test.each<[string, Partial<RecordContent>, string, string, string]>([
    [
      'only the month is known',
      { performances: [performance('p', '2027-03-14', { precision: 'month', start: null })] },
      'lectern',
      'date-note',
      'March 2027, date to follow',
    ],
    [
      'several days',
      { performances: [performance('p', '2027-03-14', { lastDate: '2027-03-16' })] },
      'lectern',
      'date-note',
      '14 March to 16 March 2027',
    ],
    [
      'cancelled',
      { performances: [performance('p', '2027-03-14', { turn: 'cancelled' })] },
      'hearthside',
      'turn',
      'Cancelled',
    ],
    [
      'one night sold out',
      { performances: [performance('a', '2027-03-14', { soldOut: true }), performance('b', '2027-03-15')] },
      'lectern',
      'turn',
      'Sold out: Sunday 14 March',
    ],
    [
      'one of two on a day sold out',
      {
        performances: [
          performance('a', '2027-03-14', { start: '14:00', soldOut: true, doors: null, end: null }),
          performance('b', '2027-03-14'),
        ],
      },
      'lectern',
      'turn',
      'Sold out: Sunday 14 March 14:00',
    ],
    [
      'a relaxed performance',
      { performances: [performance('p', '2027-03-14', { note: 'relaxed performance' })] },
      'lectern',
      'note@p',
      'relaxed performance',
    ],
    [
      'an end that is not shown',
      { performances: [performance('p', '2027-03-14', { endHidden: true })] },
      'lectern',
      'end@p',
      'nothing',
    ],
    [
      'age and access',
      { words: newWords({ teaser: 'x', age: 'Ages 5 and over', access: 'Lift behind the bar.' }) },
      'lectern',
      'good-to-know',
      'Ages 5 and over · Lift behind the bar.',
    ],
    ['the organiser', { organiserId: 'o' }, 'lectern', 'organiser', 'Finch'],
    ['tags', { tags: ['harp', 'tape'] }, 'lectern', 'tags', 'harp, tape'],
    [
      'online, without a venue',
      {
        online: { keep: 'https://room.example/1', join: null },
        performances: [performance('p', '2027-03-14', { venueId: null, roomId: null })],
      },
      'hearthside',
      'place',
      'Online',
    ],
    ['no teaser: the line stands in', { words: newWords({ line: 'A line.' }) }, 'gatefold', 'teaser', 'A line.'],
    [
      'no full text: the short one stands in',
      { words: newWords({ short: 'Short and good.' }) },
      'lectern',
      'body',
      'Short and good.',
    ],
    [
      'tokens from the organiser',
      { organiserId: 'o', words: newWords({ teaser: '{{ organiser }}: {{ about_organiser }}' }) },
      'gatefold',
      'teaser',
      'Finch: Finch sends quiet music.',
    ],
    [
      'tokens in the full text',
      { words: newWords({ full: '<p>On {{ day }}, {{ doors }}</p>' }) },
      'hearthside',
      'body',
      'On 14 March, 19:00',
    ],
    [
      'a title too long, with a shorter one',
      {
        title: 'Letters that were never posted and some that should not have been',
        shortTitle: 'Letters never posted',
      },
      'hearthside',
      'title',
      'Letters never posted',
    ],
    [
      'free entry with a price for some',
      { tickets: newTickets({ levels: [newLevel('a', 'Child', 0), newLevel('b', 'Grown-up', 500)] }) },
      'lectern',
      'price',
      'free to €5',
    ],
    [
      'registration is free',
      { tickets: newTickets({ mode: 'registration', link: 'https://r.example/' }) },
      'lectern',
      'price',
      'free, with registration',
    ],
    [
      'how one registers, until when, what is left',
      {
        tickets: newTickets({
          mode: 'registration',
          registration: registrationSchema.parse({
            contact: 'write to bench@yard.example',
            limit: 24,
            waitingList: true,
            closes: '2027-03-05',
          }),
        }),
      },
      'hearthside',
      'price',
      'free, with registration (write to bench@yard.example) by Fri 5 Mar, 24 places, then a waiting list',
    ],
    [
      'registration that has closed',
      {
        tickets: newTickets({
          mode: 'registration',
          link: 'https://r.example/',
          registration: registrationSchema.parse({ closes: '2027-01-05' }),
        }),
      },
      'lectern',
      'price',
      'free, registration has closed',
    ],
    [
      'a registration page is the link',
      { tickets: newTickets({ mode: 'registration', link: 'https://r.example/' }) },
      'hearthside',
      'link',
      'https://r.example/',
    ],
    [
      'one who is not on this time',
      {
        performances: [performance('p', '2027-03-14', { lineUpOut: ['b'], lineUpExtra: 'the Harbour Nine' })],
        words: newWords({ teaser: 'With {{ line_up }}' }),
      },
      'gatefold',
      'teaser',
      'With Odalys Quarry, also the Harbour Nine',
    ],
  ])('%s', (_, part, channel, key, words) => expect(shown(survey(part), channel, key)).toBe(words));

  test('a level for code holders is hidden and carries its code, its window and the most in one order', () => {
    const level = newLevel('c', 'Presale', 1600, {
      buyers: 'code',
      code: 'WICK',
      most: 4,
      opens: { kind: 'at', date: '2027-02-12', time: '10:00' },
      closes: { kind: 'before', amount: 3, unit: 'days' },
    });
    const { proof } = listing(
      survey({ tickets: newTickets({ levels: [newLevel('s', 'Standard', 2200), level] }) }),
      'gatefold',
    );
    expect([proof['hidden@c'], proof['hidden@s'], proof['code@c'], proof['most@c']]).toEqual([
      { kind: 'flag', on: true },
      undefined,
      { kind: 'text', text: 'WICK' },
      { kind: 'count', n: 4 },
    ]);
    expect([proof['opens@c'], proof['closes@c']]).toEqual([
      { kind: 'instant', at: Date.parse('2027-02-12T10:00Z'), zone: 'Europe/Dublin' },
      { kind: 'instant', at: Date.parse('2027-03-11T19:30Z'), zone: 'Europe/Dublin' },
    ]);
  });

  test('an outlet’s allocation is all that it may sell; a venue’s own id there is its name there', () => {
    const named = new Map([[yard.id, { ...yard, channelIds: { gatefold: 'Yard no. 4' } }]]);
    const made = survey(
      {
        tickets: newTickets({
          levels: [newLevel('s', 'Standard', 2200)],
          outlets: [newOutlet('g', 'Gatefold', { channel: 'gatefold', allocation: 120 })],
        }),
      },
      { venues: named },
    );
    expect([shown(made, 'gatefold', 'quantity@s'), shown(made, 'gatefold', 'place')]).toEqual(['120', 'Yard no. 4']);
  });

  test('what goes out of a level is whole purchases: a family of four, and a part of the room', () => {
    const quantities = (allocation: number | null) => {
      const made = survey({
        tickets: newTickets({
          levels: [newLevel('f', 'Family', 6000, { admits: 4 }), newLevel('b', 'Balcony', 2200, { poolId: 'q' })],
          pools: [{ id: 'q', name: 'Balcony', seats: 40 }],
          outlets: [newOutlet('g', 'Gatefold', { channel: 'gatefold', allocation })],
          holds: [],
        }),
      });
      return ['quantity@f', 'quantity@b'].map((key) => shown(made, 'gatefold', key));
    };
    // The room has 420 seats; of 30 that are given, seven families can be let in.
    expect([quantities(null), quantities(30)]).toEqual([
      ['105', '40'],
      ['7', '30'],
    ]);
  });
});

describe('what may not go, and what is worth a look', () => {
  const fees = { mode: 'added' as const, basisPoints: 450, fixed: 60, cap: 900 };
  test.each<[string, Partial<RecordContent>, string, string]>([
    [
      'a month is not enough',
      { performances: [performance('p', '2027-03-14', { precision: 'month', start: null })] },
      'hearthside',
      'stops date-imprecise',
    ],
    ['something is carried over', { carried: ['dates'], copiedFrom: 'X' }, 'lectern', 'stops carried-over'],
    [
      'no description of the picture',
      { pictures: [newPicture({ id: 'ab'.repeat(32), width: 3000, height: 2000 }, { credit: 'us' })] },
      'lectern',
      'stops alt-empty',
    ],
    [
      'no credit',
      { pictures: [newPicture({ id: 'ab'.repeat(32), width: 3000, height: 2000 }, { alt: 'x' })] },
      'gatefold',
      'stops credit-empty',
    ],
    [
      'the part to hold whole is cut',
      {
        pictures: [
          newPicture(
            { id: 'ab'.repeat(32), width: 3000, height: 2000 },
            { alt: 'x', credit: 'x', keep: { x0: 0, y0: 0, x1: 1, y1: 1 } },
          ),
        ],
      },
      'hearthside',
      'warns picture-cuts',
    ],
    [
      'too many given to outlets',
      {
        tickets: newTickets({
          levels: [newLevel('s', 's', 1)],
          outlets: [newOutlet('a', 'a', { allocation: 400 }), newOutlet('b', 'b', { allocation: 25 })],
        }),
      },
      'lectern',
      'stops over-allocated',
    ],
    [
      'a sale that closes before it opens',
      {
        tickets: newTickets({
          levels: [
            newLevel('s', 's', 1, {
              opens: { kind: 'at', date: '2027-03-10', time: '10:00' },
              closes: { kind: 'at', date: '2027-03-09', time: '10:00' },
            }),
          ],
        }),
      },
      'gatefold',
      'stops sale-never-open',
    ],
    [
      'a sale that opens after the start',
      {
        tickets: newTickets({
          levels: [newLevel('s', 's', 1, { opens: { kind: 'at', date: '2027-03-15', time: '10:00' } })],
        }),
      },
      'gatefold',
      'stops sale-after-start',
    ],
    [
      'a sale that opens at the very start',
      {
        tickets: newTickets({
          levels: [newLevel('s', 's', 1, { opens: { kind: 'before', amount: 0, unit: 'hours' } })],
        }),
      },
      'gatefold',
      'stops sale-after-start',
    ],
    [
      'a code level without a code',
      { tickets: newTickets({ levels: [newLevel('s', 's', 1, { buyers: 'code' })] }) },
      'gatefold',
      'stops code-empty',
    ],
    [
      'a bundle larger than its part of the house',
      {
        tickets: newTickets({
          levels: [newLevel('s', 's', 1), newLevel('f', 'Coach', 1, { admits: 40, poolId: 'q' })],
          pools: [{ id: 'q', name: 'Box', seats: 12 }],
          outlets: [newOutlet('g', 'g', { fee: fees })],
        }),
      },
      'gatefold',
      'warns level-unbuyable',
    ],
    ['an unknown token', { words: newWords({ teaser: '{{ nobody }}' }) }, 'lectern', 'stops token-unknown'],
    [
      'a token for which there is nothing yet',
      { words: newWords({ teaser: 'By {{ organiser }}' }) },
      'lectern',
      'warns token-empty',
    ],
    ['a token that is not closed', { words: newWords({ teaser: '{{ date' }) }, 'lectern', 'stops token-broken'],
    [
      'an unknown token in words by hand',
      { overrides: [{ channel: 'lectern', field: 'title', value: 'On {{ dat }}', from: 'Odalys Quarry' }] },
      'lectern',
      'stops token-unknown',
    ],
    [
      'a draft nobody has looked at',
      { words: newWords({ teaser: 'x', drafted: ['teaser'] }) },
      'lectern',
      'warns drafted',
    ],
  ])('%s', (_, part, channel, code) => expect(codes(survey(part), channel)).toContain(code));

  test('a line-up that does not fit drops the last support act, and says what it would have needed', () => {
    const lineUp = [
      newEntry('a', 'Odalys Quarry'),
      ...Array.from({ length: 12 }, (_, i) => newEntry(`s${i}`, `The ${'Very '.repeat(2)}Long Name ${i}`, 'support')),
    ];
    const made = survey({ lineUp });
    const { text } = listing(made, 'hearthside').proof['line-up'] as { text: string };
    expect(text.length).toBeLessThanOrEqual(160);
    expect(text).toMatch(/^Odalys Quarry, The Very Very Long Name 0/);
    expect(listing(made, 'hearthside').findings.find((finding) => finding.code === 'shown-fitted')).toMatchObject({
      how: expect.stringMatching(/dropped: .*would not fit/),
    });
  });

  test.each([
    [
      'unlisted: only where a link alone leads',
      { publicity: { visibility: 'unlisted' as const, announce: null } },
      [null, 'unplaced', null],
    ],
    [
      'sold at the door alone: no marketplace',
      { tickets: newTickets({ levels: [newLevel('s', 's', 1)], outlets: [newOutlet('d', 'Door')] }) },
      ['unplaced', null, 'unplaced'],
    ],
    [
      'cancelled: nothing is sold any more',
      { performances: [performance('p', '2027-03-14', { turn: 'cancelled' as const })] },
      ['unplaced', null, 'unplaced'],
    ],
    [
      'one of two is cancelled: the other is sold',
      {
        performances: [performance('p', '2027-03-14', { turn: 'cancelled' as const }), performance('q', '2027-03-15')],
      },
      ['unplaced', 'unplaced', 'unplaced'],
    ],
  ])('%s', (_, part, standings) => expect(survey(part).listings.map((listing) => listing.standing)).toEqual(standings));
});

describe('words by hand', () => {
  const override = { channel: 'lectern', field: 'title', value: 'Harp tonight: {{ weekday }}', from: 'Odalys Quarry' };
  test('stand on their channel alone, filled like other words, with what lies beneath', () => {
    const made = survey({ overrides: [override] });
    expect([
      shown(made, 'lectern', 'title'),
      shown(made, 'gatefold', 'title'),
      listing(made, 'lectern').beneath,
    ]).toEqual(['Harp tonight: Sunday', 'Odalys Quarry', { title: 'Odalys Quarry' }]);
    expect(codes(made, 'lectern')).toContain('notes override');
  });
  test('speak of the next night, like other words', () => {
    const made = survey({
      overrides: [override],
      performances: [performance('a', '2027-01-30'), performance('b', '2027-03-15')],
    });
    expect(shown(made, 'lectern', 'title')).toBe('Harp tonight: Monday');
  });
  test('say so when the record has moved on beneath them', () => {
    const made = survey({ title: 'Odalys Quarry and friends', overrides: [override] });
    expect(listing(made, 'lectern').findings).toContainEqual({
      path: ['title'],
      weight: 'warns',
      code: 'override-behind',
      from: 'Odalys Quarry',
      now: 'Odalys Quarry and friends',
    });
  });
  test('rich words are held by meaning', () => {
    const body = listing(survey(), 'lectern').proof.body;
    const made = survey({
      overrides: [{ channel: 'lectern', field: 'body', value: '<p>By <b>hand</b></p>', from: `${overridable(body)} ` }],
    });
    expect([shown(made, 'lectern', 'body'), codes(made, 'lectern')]).toEqual([
      'By hand',
      expect.arrayContaining(['notes override']),
    ]);
  });
});

describe('which ticket link goes where', () => {
  const outlets = [
    newOutlet('d', 'Door'),
    newOutlet('g', 'Gatefold', { channel: 'gatefold', trackAs: 'src' }),
    newOutlet('b', 'Box office', { link: 'https://box.example/' }),
  ];
  const given = bareListing('gatefold', 0, { performanceIds: ['p1'], link: 'https://g.example/e/1' });
  const links = (part: Partial<RecordContent>, more: Partial<SurveyInput> = {}) =>
    survey({ tickets: newTickets({ levels: [newLevel('s', 's', 1)], outlets }), ...part }, more).links.map((link) =>
      link.choice?.link.kind === 'known' ? link.choice.link.href : (link.choice?.link.kind ?? null),
    );
  test('awaited, then given, each with its own mark; the marketplace itself links on', () => {
    expect(links({})).toEqual(['awaited', 'https://box.example/?via=gatefold', 'awaited']);
    expect(links({}, { listings: [given] })).toEqual([
      'https://g.example/e/1?src=lectern',
      'https://box.example/?via=gatefold',
      'https://g.example/e/1?src=hearthside',
    ]);
  });
  test('where the marketplace is left off, the next outlet is linked', () =>
    expect(links({ leftOff: ['gatefold'] })).toEqual([
      'https://box.example/?via=lectern',
      'https://box.example/?via=gatefold',
      'https://box.example/?via=hearthside',
    ]));
  test('a performance with a link of its own is sold there', () => {
    const made = survey({
      performances: [performance('p', '2027-03-14', { link: 'https://own.example/x' })],
      tickets: newTickets({ levels: [newLevel('s', 's', 1)], outlets }),
    });
    expect(shown(made, 'hearthside', 'link')).toBe('https://own.example/x?via=hearthside');
  });
});

test('every finding has words with a way out, whatever its evidence', () => {
  const evidence = {
    text: 'x',
    length: 9,
    limit: 5,
    start: '20:00',
    end: '19:00',
    doors: '21:00',
    time: '01:30',
    date: '2027-03-28',
    zone: 'Europe/Dublin',
    before: '00:30',
    after: '02:30',
    currency: 'EUR',
    count: 9,
    detail: 'd',
    label: 'l',
    ratio: '3:2',
    have: 1,
    need: 2,
    kept: 40,
    eventType: 'concert',
    from: 'gatefold',
    until: 0,
    facts: ['prices'],
    over: 5,
    allocated: 145,
    pool: 140,
    level: 'VIP',
    least: 3,
    most: 2,
    token: 'x',
    now: 'n',
    how: 'h',
    known: 'March',
    px: 4,
    lengths: ['line'],
    what: 'number',
  };
  const every: FindingFact['code'][] = [
    'title-empty',
    'text-too-long',
    'date-malformed',
    'time-malformed',
    'start-empty',
    'end-before-start',
    'doors-after-start',
    'time-skipped',
    'time-twice',
    'zone-unknown',
    'venue-unknown',
    'room-unknown',
    'name-empty',
    'price-malformed',
    'quantity-malformed',
    'link-malformed',
    'too-many',
    'value-refused',
    'shown-shorter',
    'needed-empty',
    'price-none',
    'venue-none',
    'picture-none',
    'picture-small',
    'picture-shape',
    'alt-empty',
    'category-unmapped',
    'link-awaited',
    'not-public',
    'pencilled',
    'embargoed',
    'all-past',
    'not-connected',
    'performances-none',
    'carried-over',
    'over-allocated',
    'oversold',
    'sale-never-open',
    'sale-after-start',
    'level-unbuyable',
    'code-empty',
    'order-impossible',
    'token-broken',
    'token-unknown',
    'token-empty',
    'override-behind',
    'date-imprecise',
    'picture-cuts',
    'picture-portrait',
    'credit-empty',
    'last-before-first',
    'set-up-unknown',
    'fee-malformed',
    'number-malformed',
  ];
  for (const code of every) {
    const words = findingWords({ field: 'f', weight: 'stops', code, ...evidence } as never);
    expect([code, words.length > 20, /undefined|\[object|NaN/.test(words), words.endsWith('.')]).toEqual([
      code,
      true,
      false,
      true,
    ]);
  }
});
