import { savedTourSchema } from './tour';
import { recordSchema, savedRecordSchema, type RecordContent } from './record';
import type { Coupon } from './ticket-schema';
import { checkRecord } from './check-record';
import { lenientContent, readDraft, toDraft, type RecordDraft } from './draft';
import { facts, stageOf } from '../facts/facts';
import { lineUpWords } from './roles';
import { fieldOf } from '../findings/finding';
import { findingWords } from '../findings/finding-words';
import { newLevel, newTickets } from './new-record';
import { performance, sample, venues } from '../testing/samples';

const now = Date.parse('2027-02-02T10:20Z');

const draft = (change: (draft: RecordDraft) => void) => {
  const made = structuredClone(toDraft(sample()));
  change(made);
  return made;
};
const coupon = (part: Partial<Coupon> = {}): Coupon => ({
  id: 'c',
  code: 'NEAR',
  off: { kind: 'percent', percent: 10 },
  uses: null,
  from: null,
  until: null,
  levels: [],
  ...part,
});
const first = <T>(items: T[]): T => {
  const [item] = items;
  if (item === undefined) throw new Error('empty');
  return item;
};

describe('what is typed', () => {
  test('a saved record, put in the form and read again, is the same', () => {
    const read = readDraft(toDraft(sample()), venues);
    expect(read).toEqual({ ok: true, value: sample() });
  });

  test.each<[string, (d: RecordDraft) => void, string, RegExp]>([
    ['no title', (d) => (d.title = ' '), 'title', /no title/],
    [
      'end before start',
      (d) => (first(d.performances).end = '19:00'),
      'performances.0.end',
      /lies before the start 19:30.*ends after midnight/,
    ],
    ['doors after start', (d) => (first(d.performances).doors = '20:00'), 'performances.0.doors', /after the start/],
    ['no start', (d) => (first(d.performances).start = ''), 'performances.0.start', /start is missing/],
    [
      'a start that is no time',
      (d) => (first(d.performances).start = 'half seven'),
      'performances.0.start',
      /no time of day/,
    ],
    [
      'a time that the clocks skip',
      (d) => Object.assign(first(d.performances), { date: '2027-03-28', start: '01:30', doors: '', end: '' }),
      'performances.0.start',
      /does not exist.*00:30 or 02:30/,
    ],
    [
      'a time that comes twice',
      (d) => Object.assign(first(d.performances), { date: '2027-10-31', start: '01:30', doors: '', end: '' }),
      'performances.0.start',
      /comes twice/,
    ],
    [
      'an end that comes twice',
      (d) =>
        Object.assign(first(d.performances), {
          date: '2027-10-30',
          start: '22:00',
          doors: '',
          end: '01:30',
          endsNextDay: true,
        }),
      'performances.0.end',
      /01:30 comes twice on 2027-10-31/,
    ],
    [
      'doors that come twice',
      (d) => Object.assign(first(d.performances), { date: '2027-10-31', start: '02:00', doors: '01:30', end: '' }),
      'performances.0.doors',
      /comes twice/,
    ],
    [
      'a price that is no number',
      (d) => (first(d.tickets.levels).price = 'eighteen'),
      'tickets.levels.0.price',
      /“eighteen” is no price in EUR/,
    ],
    [
      'tickets that are no number',
      (d) => (first(d.tickets.levels).quantity = '-4'),
      'tickets.levels.0.quantity',
      /no number of tickets/,
    ],
    [
      'a date after the zone data',
      (d) => (first(d.performances).date = '2044-01-01'),
      'performances.0.date',
      /between 1970 and 2037/,
    ],
    [
      'a venue that is gone',
      (d) => (first(d.performances).venueId = 'gone'),
      'performances.0.venueId',
      /not in the directory/,
    ],
    [
      'another venue’s room',
      (d) => (first(d.performances).roomId = 'gone'),
      'performances.0.roomId',
      /not in that venue/,
    ],
    ['a title of 10,000 characters', (d) => (d.title = 'x'.repeat(10_000)), 'title', /at most 300/],
    [
      'a ticket link that is none',
      (d) => Object.assign(d.tickets, { mode: 'elsewhere', link: 'tickets.example' }),
      'tickets.link',
      /no web address/,
    ],
    ['a name left empty', (d) => (first(d.lineUp).name = ''), 'lineUp.0.name', /name is missing/],
  ])('%s is told at its field', (_, change, field, words) => {
    const read = readDraft(draft(change), venues);
    expect(read.ok).toBe(false);
    const found = read.ok ? undefined : read.error.find((finding) => fieldOf(finding) === field);
    expect(found && findingWords(found)).toMatch(words);
  });

  test('after midnight is no mistake once it is said, and both readings of a double hour can be chosen', () => {
    const late = draft((d) =>
      Object.assign(first(d.performances), {
        date: '2027-03-27',
        doors: '22:00',
        start: '22:00',
        end: '04:00',
        endsNextDay: true,
      }),
    );
    const read = readDraft(late, venues);
    const made = read.ok ? facts(read.value, { code: 'X', venues, now }) : null;
    // The clocks go forward at one: six hours on the wall are five.
    expect(((made?.performances[0]?.end ?? 0) - (made?.performances[0]?.start ?? 0)) / 3_600_000).toBe(5);
    const opens = readDraft(
      draft((d) => Object.assign(first(d.performances), { doors: '23:30', start: '00:15', end: '04:00' })),
      venues,
    );
    expect(opens.ok && facts(opens.value, { code: 'X', venues, now }).performances[0]).toMatchObject({
      date: '2027-03-14',
      doors: Date.parse('2027-03-13T23:30Z'),
      start: Date.parse('2027-03-14T00:15Z'),
    });
    const second = draft((d) =>
      Object.assign(first(d.performances), {
        date: '2027-10-31',
        start: '01:30',
        doors: '',
        end: '',
        repeat: 'second',
      }),
    );
    const chosen = readDraft(second, venues);
    expect(chosen.ok && facts(chosen.value, { code: 'X', venues, now }).performances[0]?.start).toBe(
      Date.parse('2027-10-31T01:30:00Z'),
    );
  });

  test('while one field cannot be read, the proof goes on with the others', () => {
    const half = draft((d) => {
      d.title = 'New title';
      first(d.performances).start = 'half sev';
    });
    const content = lenientContent(half, sample(), venues);
    expect([content.title, content.performances[0]?.start]).toEqual(['New title', '19:30']);
  });

  test('no input is too odd to be answered', () => {
    for (const odd of [
      null,
      7,
      [],
      {},
      { ...sample(), performances: 'x' },
      { ...sample(), performances: Array(3001).fill(performance('p', '2027-01-01')) },
    ]) {
      const checked = checkRecord(odd, venues);
      expect(checked.ok).toBe(false);
      if (!checked.ok)
        expect(checked.error.map(findingWords).every((words) => words.length > 20 && !words.includes('[object'))).toBe(
          true,
        );
    }
  });
});

describe('facts', () => {
  const made = (part = {}) => facts(sample(part), { code: 'X', venues, now });
  test.each([
    [[{ price: 2200 }], '€22'],
    [[{ price: 2200 }, { price: 1600, buyers: 'concession' as const }], '€16–€22'],
    [[{ price: 2200 }, { price: 3000 }], 'from €22'],
  ])('price in words', (levels, words) => {
    const full = levels.map((level, i) => newLevel(`l${i}`, 'x', level.price, level));
    expect(made({ tickets: { ...sample().tickets, levels: full } }).price).toMatchObject({ kind: 'priced', words });
  });
  test('unknown stays unknown', () => {
    const bare = made({
      tickets: { ...sample().tickets, levels: [] },
      pictures: [],
      performances: [performance('p1', '2027-03-14', { venueId: null, roomId: null, doors: null, end: null })],
    });
    expect([
      bare.price.kind,
      bare.pictures,
      bare.performances[0]?.place,
      bare.performances[0]?.end,
      bare.link.kind,
    ]).toEqual(['unknown', [], null, null, 'none']);
  });
  test('the line-up in billing order', () => {
    const bill = (...names: [string, 'headliner' | 'support' | 'special guest'][]) =>
      lineUpWords(names.map(([name, role], i) => ({ id: String(i), name, role })));
    expect(bill(['X', 'headliner'], ['Y', 'support'], ['Z', 'special guest'])).toBe('X with Y and special guest Z');
    expect(bill(['Y', 'support'])).toBe('Y');
  });
  test('the stage follows from cues and the clock', () => {
    const at = (text: string) => Date.parse(text);
    expect(stageOf(made(), at('2027-02-01T00:00Z'))).toBe('announced');
    expect(
      stageOf(
        made({
          publicity: { visibility: 'public', announce: { date: '2027-02-04', time: '09:00', zone: 'Europe/Dublin' } },
        }),
        at('2027-02-04T08:59Z'),
      ),
    ).toBe('confirmed');
    expect(stageOf(made(), at('2027-03-14T22:00:01Z'))).toBe('played');
  });
});

test('an online address of an older revision is kept as the one that is never public; a later one says both', () => {
  const read = (online: unknown) => recordSchema.parse({ ...sample(), online }).online;
  expect([
    read({ link: 'https://room.example/1' }),
    read({ link: null }),
    read(null),
    read({ keep: 'https://room.example/k', join: null }),
  ]).toEqual([
    { keep: null, join: 'https://room.example/1' },
    { keep: null, join: null },
    null,
    { keep: 'https://room.example/k', join: null },
  ]);
});

test('what an older program wrote is read as it was meant: one hashtag, and questions that only registration asked', () => {
  const {
    hashtags: _,
    tickets,
    ...rest
  } = sample({ tickets: newTickets({ mode: 'registration', link: 'https://x.example/' }) });
  const { questions: _q, ...sold } = tickets;
  const ask = { id: 'q', ask: 'What is broken?', answer: 'text', needed: true };
  const { eventType, ...untyped } = rest;
  const old = {
    ...untyped,
    kind: 'reading',
    hashtag: 'Harp',
    tickets: { ...sold, registration: { ...tickets.registration, questions: [ask] } },
  };
  const read = savedRecordSchema.parse(old);
  expect([eventType, read.eventType, read.hashtags, read.tickets.questions]).toEqual([
    'concert',
    'reading',
    ['Harp'],
    [{ ...ask, choices: [], of: 'buyer', consent: '' }],
  ]);
  expect(savedRecordSchema.parse(read)).toEqual(read);
  // What no record says says nothing: for everyone, one date a ticket, no tax.
  const bare = savedRecordSchema.parse({
    ...rest,
    tickets: {
      mode: 'ticketed',
      currency: 'EUR',
      levels: [{ id: 'l', name: 'A', price: 1, quantity: null }],
      link: null,
    },
  });
  expect([bare.audience, bare.tickets.levels[0]?.covers, bare.tickets.tax, bare.after.recording.shown]).toEqual([
    { who: 'everyone' },
    { kind: 'one' },
    'unsaid',
    false,
  ]);
});

test.each<[string, Partial<RecordContent>, string, string]>([
  [
    'a pass for a date that is gone',
    { tickets: newTickets({ levels: [newLevel('a', 'A', 1, { covers: { kind: 'chosen', ids: ['p1', 'gone'] } })] }) },
    'tickets.levels.0.covers',
    'covers-gone',
  ],
  [
    'any five of two',
    {
      performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15')],
      tickets: newTickets({ levels: [newLevel('a', 'A', 1, { covers: { kind: 'any', n: 5 } })] }),
    },
    'tickets.levels.0.covers',
    'covers-many',
  ],
  [
    'least beyond the most in one order',
    { tickets: newTickets({ mostPerOrder: 2, levels: [newLevel('a', 'A', 1, { least: 4 })] }) },
    'tickets.mostPerOrder',
    'order-impossible',
  ],
  [
    'a coupon that ends before it begins',
    { tickets: newTickets({ coupons: [coupon({ from: '2027-03-02', until: '2027-03-01' })] }) },
    'tickets.coupons.0.until',
    'coupon-never',
  ],
  [
    'one code twice',
    { tickets: newTickets({ coupons: [coupon(), coupon({ id: 'd', code: 'near' })] }) },
    'tickets.coupons.1.code',
    'coupon-twice',
  ],
  [
    'a coupon for a level that is gone',
    { tickets: newTickets({ coupons: [coupon({ levels: ['gone'] })] }) },
    'tickets.coupons.0.levels',
    'part-gone',
  ],
  ['an entry that leads to a link that is gone', { leadsAway: 'k' }, 'leadsAway', 'part-gone'],
  [
    'a list without choices',
    {
      tickets: newTickets({
        questions: [{ id: 'q', ask: 'Which?', answer: 'one of', choices: [], needed: false, of: 'buyer', consent: '' }],
      }),
    },
    'tickets.questions.0.choices',
    'choices-none',
  ],
  [
    'a consent to nothing',
    {
      tickets: newTickets({
        questions: [{ id: 'q', ask: 'Yes?', answer: 'consent', choices: [], needed: false, of: 'buyer', consent: ' ' }],
      }),
    },
    'tickets.questions.0.consent',
    'consent-empty',
  ],
  ['a group without a name', { audience: { who: 'group', name: '' } }, 'audience.name', 'name-empty'],
  [
    'a link to no address',
    { links: [{ id: 'k', use: 'more', label: '', to: { kind: 'address', href: 'x' }, newWindow: false }] },
    'links.0.to.href',
    'link-malformed',
  ],
])('%s forbids saving, at its field', (_, part, field, code) => {
  const checked = checkRecord(sample(part), venues);
  expect(checked.ok ? [] : checked.error.map((finding) => [fieldOf(finding), finding.code])).toContainEqual([
    field,
    code,
  ]);
});

test('a tour that an older program wrote says its kind of event by another name', () => {
  const { title, subtitle, lineUp, tags, words, pictures } = sample();
  const shared = { title, subtitle, lineUp, tags, words, pictures, announce: null, onSale: null };
  expect(savedTourSchema.parse({ ...shared, kind: 'reading' }).eventType).toBe('reading');
  expect(savedTourSchema.parse({ ...shared, eventType: 'talk' }).eventType).toBe('talk');
});
