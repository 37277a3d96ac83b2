import fc from 'fast-check';
import { equalValues } from '@/core/listing/compare';
import { keepTheirsHere, takeTheirs } from '@/core/listing/take-theirs';
import { splitKey, type ShownValue } from '@/core/listing/shown';
import { newLevel, newOutlet, newTickets, newWords } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { record } from '@/core/testing/any-record';
import { performance, sample } from '@/core/testing/samples';
import { kinds } from './kinds-rules';
import { channelOf, plainRow, type Channel } from './channels';
import { surveyOf } from './testing/fixture';

const at = (text: string): ShownValue => ({ kind: 'instant', at: Date.parse(text), zone: 'Europe/Dublin' });
const text = (words: string): ShownValue => ({ kind: 'text', text: words });
const all = kinds.map((kind) => channelOf(plainRow(kind.id)));

/** What a channel's first listing shows of a record, on every kind there is. */
const showing = (channel: Channel) => (content: RecordContent) =>
  surveyOf({ content, channels: all.map((channel) => channel.row) }).listings.find(
    (listing) => listing.channel === channel.row.id,
  )?.proof ?? {};
const context = (id: string) => {
  const channel = all.find((channel) => channel.row.id === id);
  if (!channel) throw new Error(`no kind ${id}`);
  return { rules: channel.rules, part: 0, show: showing(channel) };
};
const take = (content: RecordContent, channel: string, key: string, value: ShownValue | undefined) =>
  takeTheirs(content, key, value, context(channel));

describe('taken at the very place that was shown', () => {
  const long = 'The Very Long Title of an Evening that no Social Page would ever Hold in Full';
  const capped = newTickets({
    levels: [newLevel('s', 'Standard', 2200, { quantity: 300 })],
    outlets: [newOutlet('g', 'Gatefold', { channel: 'gatefold', allocation: 90 })],
  });
  const threeDays = [performance('p1', '2027-03-14', { lastDate: '2027-03-16', end: '18:00' })];
  test.each<[string, Partial<RecordContent>, string, string, ShownValue, (content: RecordContent) => unknown, unknown]>(
    [
      [
        'a start on another day',
        {},
        'lectern',
        'start@p1',
        at('2027-03-15T20:00:00Z'),
        (c) => [c.performances[0]?.date, c.performances[0]?.start],
        ['2027-03-15', '20:00'],
      ],
      [
        'an end after midnight',
        {},
        'lectern',
        'end@p1',
        at('2027-03-15T01:00:00Z'),
        (c) => [c.performances[0]?.end, c.performances[0]?.endsNextDay],
        ['01:00', true],
      ],
      [
        'the end of several days keeps its day',
        { performances: threeDays },
        'lectern',
        'end@p1',
        at('2027-03-16T19:00:00Z'),
        (c) => [c.performances[0]?.lastDate, c.performances[0]?.end],
        ['2027-03-16', '19:00'],
      ],
      [
        'a price, with its name',
        {},
        'gatefold',
        'price@s',
        { kind: 'price', name: 'Full', minor: 2500, currency: 'EUR' },
        (c) => [c.tickets.levels[0]?.name, c.tickets.levels[0]?.price],
        ['Full', 2500],
      ],
      [
        'the short title where that was shown',
        { title: long, shortTitle: 'Short' },
        'hearthside',
        'title',
        text('The Harp'),
        (c) => [c.title, c.shortTitle],
        [long, 'The Harp'],
      ],
      [
        '90 of an allocation that caps 300',
        { tickets: capped },
        'gatefold',
        'quantity@s',
        { kind: 'count', n: 70 },
        (c) => [c.tickets.levels[0]?.quantity, c.tickets.outlets[0]?.allocation],
        [300, 70],
      ],
      [
        'the line where there is no teaser',
        { words: newWords({ line: 'In one line' }) },
        'lectern',
        'teaser',
        text('Theirs'),
        (c) => [c.words.line, c.words.teaser],
        ['Theirs', ''],
      ],
      [
        'an hour that comes twice',
        { performances: [performance('p1', '2027-10-30')] },
        'lectern',
        'start@p1',
        at('2027-10-31T01:30:00Z'),
        (c) => c.performances[0]?.repeat,
        'second',
      ],
    ],
  )('%s', (_, part, channel, key, value, read, expected) => {
    const taken = take(sample(part), channel, key, value);
    expect(taken.ok ? read(taken.value) : taken.error).toEqual(expected);
  });
});

describe('not taken, and nothing changed', () => {
  test.each<[string, Partial<RecordContent>, string, string, ShownValue | undefined, string]>([
    ['a performance that is not ours', {}, 'lectern', 'start@gone', at('2027-03-15T20:00:00Z'), 'no-such-part'],
    ['a link', {}, 'lectern', 'link', { kind: 'url', href: 'https://x.example' }, 'not-a-fact-of-the-record'],
    ['a field that there is not', {}, 'lectern', 'mood', text('Glad'), 'not-a-fact-of-the-record'],
    ['what is not shown', {}, 'lectern', 'title', undefined, 'gone-there'],
    ['an end five days later', {}, 'lectern', 'end@p1', at('2027-03-19T01:00:00Z'), 'made-from-others'],
    ['doors on another day', {}, 'lectern', 'doors@p1', at('2027-03-13T19:00:00Z'), 'made-from-others'],
    [
      'an hour into a day',
      { performances: [performance('p1', '2027-03-14', { precision: 'day', start: null })] },
      'lectern',
      'start@p1',
      at('2027-03-14T20:00:00Z'),
      'made-from-others',
    ],
    [
      'plain words into a text with lists',
      { words: newWords({ full: '<ul><li>a</li></ul>' }) },
      'hearthside',
      'body',
      text('All gone'),
      'made-from-others',
    ],
    ['a title that is filled', { title: 'On {{ weekday }}' }, 'lectern', 'title', text('Theirs'), 'made-from-others'],
    [
      'more than the level has',
      {
        tickets: newTickets({
          levels: [newLevel('s', 'S', 1, { quantity: 90 })],
          outlets: [newOutlet('g', 'G', { channel: 'gatefold', allocation: 50 })],
        }),
      },
      'gatefold',
      'quantity@s',
      { kind: 'count', n: 500 },
      'made-from-others',
    ],
  ])('%s', (_, part, channel, key, value, error) =>
    expect(take(sample(part), channel, key, value)).toEqual({ ok: false, error }),
  );
});

test('words by hand take it for their channel alone; where nothing can take it, it is kept there by hand', () => {
  const content = sample({ overrides: [{ channel: 'lectern', field: 'title', value: 'Ours', from: 'Odalys Quarry' }] });
  const taken = (channel: string) => {
    const result = take(content, channel, 'title', text('Theirs'));
    return result.ok && [result.value.title, result.value.overrides[0]?.value];
  };
  expect([taken('lectern'), taken('gatefold')]).toEqual([
    ['Odalys Quarry', 'Theirs'],
    ['Theirs', 'Ours'],
  ]);
  const kept = keepTheirsHere(sample(), 'place', text('The big hall'), context('hearthside'));
  expect(kept?.overrides).toMatchObject([{ channel: 'hearthside', field: 'place', value: 'The big hall' }]);
  expect(keepTheirsHere(sample(), 'start@p1', at('2027-03-15T20:00:00Z'), context('hearthside'))).toBeNull();
});

/** A value such as a channel might show in a field of this kind. */
const anyOf: Record<ShownValue['kind'], fc.Arbitrary<ShownValue>> = {
  text: fc.constantFrom('Theirs', 'a  b', '{{ title }}', '€5', '19:30').map(text),
  refs: fc.constant({ kind: 'refs', refs: ['a', 'b'], any: null, words: '' }),
  file: fc.constant({ kind: 'file', name: 'theirs.pdf', source: null }),
  rich: fc
    .constantFrom('<p>Theirs</p>', '<ul><li>x</li></ul>', '<p>{{ title }}</p>')
    .map((html) => ({ kind: 'rich', html })),
  instant: fc
    .integer({ min: Date.parse('2027-01-01'), max: Date.parse('2028-01-01') })
    .map((ms) => ({ kind: 'instant', at: ms - (ms % 60_000), zone: 'Europe/Dublin' })),
  price: fc.record({
    kind: fc.constant('price' as const),
    name: fc.constantFrom('Full', 'Other'),
    minor: fc.nat({ max: 9_999 }),
    currency: fc.constantFrom('EUR' as const, 'GBP' as const),
  }),
  count: fc.integer({ min: 0, max: 900 }).map((n) => ({ kind: 'count', n })),
  flag: fc.boolean().map((on) => ({ kind: 'flag', on })),
  state: fc.constantFrom('public' as const, 'closed' as const).map((is) => ({ kind: 'state', is })),
  url: fc.constantFrom('https://theirs.example/x').map((href) => ({ kind: 'url', href })),
  awaited: fc.constant({ kind: 'awaited', from: 'x', name: 'x', gift: 'ticket link', track: null }),
  picture: fc.constant({ kind: 'picture', name: 'x.jpg', alt: 'x', source: null }),
};

test.each(all.map((channel) => [channel.row.id, channel] as const))(
  'every row of %s: after a take the proof shows that value, or nothing was taken',
  (_, channel) => {
    let took = 0;
    const show = showing(channel);
    fc.assert(
      fc.property(record, fc.infiniteStream(fc.nat()), (content, picks) => {
        const shown = show(content);
        const keys = [
          ...new Set([
            ...Object.keys(shown),
            ...channel.rules.rows.filter((row) => row.each === 'event').map((row) => row.field),
          ]),
        ];
        for (const key of keys) {
          const row = channel.rules.rows.find((field) => field.field === splitKey(key).field);
          if (!row) continue;
          const pick = picks.next().value as number;
          const [value] = fc.sample(anyOf[row.kind], { numRuns: 1, seed: pick });
          const before = JSON.stringify(content);
          const taken = takeTheirs(content, key, value, { rules: channel.rules, part: 0, show });
          expect(JSON.stringify(content)).toBe(before);
          if (!taken.ok || !value) continue;
          took += 1;
          const now = show(taken.value)[key];
          expect([key, now && equalValues(now, value)]).toEqual([key, true]);
        }
      }),
      { numRuns: 40 },
    );
    if (
      channel.rules.rows.some((row) => (row.sources ?? []).length > 0 && row.each === 'event') &&
      channel.rules.notice === null
    )
      expect(took).toBeGreaterThan(0);
  },
);
