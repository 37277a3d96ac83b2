import fc from 'fast-check';
import { compareListing, equalValues, neverSent, settle, type ListingState, type Outcome } from './compare';
import { standingOf } from './standing';
import type { Shown, ShownValue } from './shown';

const text = (words: string): ShownValue => ({ kind: 'text', text: words });
const on: ShownValue = { kind: 'state', is: 'public' };
const shown = (words: string | null): Shown => ({ listed: on, ...(words === null ? {} : { title: text(words) }) });
const sentAt = 1_000_000;
const options = { now: sentAt + 60_000, delayMs: 600_000, dropped: new Set<string>(), lapse: null };

/** The field's outcome for wanted, sent and observed; `previous` is what stood there before the sending. */
function outcome(
  w: string | null,
  s: string | null,
  o: string | null | 'unread',
  more: { previous?: string; late?: boolean; dropped?: boolean } = {},
): Outcome {
  const state: ListingState = {
    ...neverSent,
    sent: shown(s),
    previous: shown(more.previous ?? s),
    observed: o === 'unread' ? null : shown(o),
    sentAt,
    observedAt: o === 'unread' ? null : sentAt + 1,
    lapsesAt: null,
  };
  const rows = compareListing(shown(w), state, {
    ...options,
    now: more.late ? sentAt + 700_000 : options.now,
    dropped: new Set(more.dropped ? ['title'] : []),
  });
  return rows.find((row) => row.key === 'title')?.outcome ?? 'same';
}

test.each<[string, Outcome, Outcome]>([
  ['a a a', outcome('a', 'a', 'a'), 'same'],
  ['b a a', outcome('b', 'a', 'a'), 'to-send'],
  ['a a b', outcome('a', 'a', 'b'), 'drifted'],
  ['b a b', outcome('b', 'a', 'b'), 'already-there'],
  ['b a c', outcome('b', 'a', 'c'), 'at-odds'],
  ['a a – hidden by the channel', outcome('a', 'a', null, { dropped: true }), 'same'],
  ['a a – not read since', outcome('a', 'a', 'unread'), 'not-yet'],
  ['a a – not read, delay passed', outcome('a', 'a', 'unread', { late: true }), 'late'],
  ['a a and the older value within the delay', outcome('a', 'a', 'z', { previous: 'z' }), 'not-yet'],
  ['a a and the older value after it', outcome('a', 'a', 'z', { previous: 'z', late: true }), 'late'],
  ['a a – gone from there', outcome('a', 'a', null), 'drifted'],
  ['b a – not read since', outcome('b', 'a', 'unread'), 'to-send'],
  ['nothing wanted, a sent', outcome(null, 'a', 'a'), 'to-send'],
])('%s', (_, found, expected) => expect(found).toBe(expected));

test('where a person looks again at what was changed, out of sight is not yet, until the usual time is over', () => {
  const seen = { title: { kind: 'text', text: 'a' }, listed: { kind: 'state', is: 'public' } } as const;
  const closed = { listed: { kind: 'state', is: 'closed' } } as const;
  const state = (at: number): ListingState => ({
    ...neverSent,
    ...{ sent: seen, previous: seen, observed: closed, sentAt: at, observedAt: at + 1 },
    sentTimes: { listed: at - 1_000_000_000, title: at },
  });
  const of = (at: number, looks: boolean) =>
    compareListing(seen, state(at), { ...options, looks }).find(({ key }) => key === 'listed')?.outcome;
  const over = options.now - options.delayMs;
  expect([of(sentAt, true), of(sentAt, false)]).toEqual(['not-yet', 'drifted']);
  expect([of(over, true), of(over - 1, true)]).toEqual(['not-yet', 'drifted']);
});

test('once seen as sent, the older value is drift and not delay', () => {
  const state: ListingState = {
    ...neverSent,
    sent: shown('new'),
    previous: shown('old'),
    observed: shown('new'),
    sentAt,
    observedAt: sentAt + 1,
    lapsesAt: null,
  };
  const later = {
    ...state,
    previous: settle(state, shown('new'), null).previous,
    observed: shown('old'),
    observedAt: sentAt + 2,
    lapsesAt: null,
  };
  expect(compareListing(shown('new'), later, options).find((row) => row.key === 'title')?.outcome).toBe('drifted');
});

test('a listing that has gone is compared by that alone', () => {
  const state: ListingState = {
    ...neverSent,
    sent: shown('a'),
    previous: shown('a'),
    observed: { listed: { kind: 'state', is: 'closed' } },
    sentAt,
    observedAt: sentAt + 1,
    lapsesAt: null,
  };
  const rows = compareListing(shown('a'), state, options);
  expect(rows.map((row) => [row.key, row.outcome])).toEqual([['listed', 'drifted']]);
});

const anyValue: fc.Arbitrary<ShownValue> = fc.oneof(
  fc.string().map(text),
  fc.record({ kind: fc.constant('instant' as const), at: fc.integer(), zone: fc.constantFrom('Europe/Dublin', 'UTC') }),
  fc.record({
    kind: fc.constant('price' as const),
    name: fc.string(),
    minor: fc.nat(),
    currency: fc.constantFrom('EUR' as const, 'ISK' as const),
  }),
  fc.boolean().map((value): ShownValue => ({ kind: 'flag', on: value })),
  fc.webUrl().map((href): ShownValue => ({ kind: 'url', href })),
  fc.string().map((html): ShownValue => ({ kind: 'rich', html })),
);
const anyShown = fc
  .dictionary(fc.constantFrom('title', 'body', 'start@p1', 'start@p2', 'price@s', 'link'), anyValue)
  .map((fields): Shown => ({ listed: on, ...fields }));

test('comparing is total and deterministic, and three equal states are in step', () => {
  fc.assert(
    fc.property(anyShown, anyShown, anyShown, fc.boolean(), (w, s, o, read) => {
      const state: ListingState = {
        ...neverSent,
        sent: s,
        previous: o,
        observed: o,
        sentAt,
        observedAt: read ? sentAt + 1 : sentAt - 1,
        lapsesAt: null,
      };
      expect(compareListing(w, state, options)).toEqual(compareListing(w, state, options));
      const still: ListingState = {
        ...neverSent,
        sent: w,
        previous: w,
        observed: w,
        sentAt,
        observedAt: sentAt,
        lapsesAt: null,
      };
      expect(compareListing(w, still, options).every((row) => row.outcome === 'same')).toBe(true);
      expect(
        standingOf({
          wanted: w,
          state: still,
          comparison: compareListing(w, still, options),
          errand: 'none',
          embargoed: false,
          twice: false,
          turnedDown: false,
        }),
      ).toBe('instep');
    }),
    { numRuns: 500 },
  );
});

test.each<[string, ShownValue, ShownValue, boolean]>([
  ['white space', text('a  b\r\nc'), text(' a b\nc '), true],
  ['composed letters', text('café'), text('cafe\u0301'), true],
  ['case is meant', text('A'), text('a'), false],
  [
    'markup by meaning',
    { kind: 'rich', html: '<p><b>a</b></p>' },
    { kind: 'rich', html: '<div><strong>a</strong></div>' },
    true,
  ],
  [
    'addresses',
    { kind: 'url', href: 'HTTPS://Tickets.Example:443/' },
    { kind: 'url', href: 'https://tickets.example' },
    true,
  ],
  [
    'one moment, two zones',
    { kind: 'instant', at: 0, zone: 'UTC' },
    { kind: 'instant', at: 0, zone: 'Europe/Dublin' },
    false,
  ],
  [
    'a zone under its other name',
    { kind: 'instant', at: 0, zone: 'Asia/Calcutta' },
    { kind: 'instant', at: 0, zone: 'Asia/Kolkata' },
    true,
  ],
  [
    'a zone that is not shown',
    { kind: 'instant', at: 0, zone: '' },
    { kind: 'instant', at: 0, zone: 'Asia/Kolkata' },
    true,
  ],
  ['never shown, and taken down', { kind: 'state', is: 'draft' }, { kind: 'state', is: 'closed' }, true],
  ['taken down, and cancelled', { kind: 'state', is: 'cancelled' }, { kind: 'state', is: 'closed' }, false],
  ['kinds', text('1'), { kind: 'count', n: 1 }, false],
])('equal: %s', (_, a, b, equal) => {
  expect(equalValues(a, b)).toBe(equal);
  expect(equalValues(b, a)).toBe(equal);
});

describe('what a reading settles', () => {
  const state = (part: Partial<ListingState>): ListingState => ({
    ...neverSent,
    sentAt,
    observedAt: sentAt + 1,
    ...part,
  });
  const rows = (wanted: Shown, listing: ListingState, now = options.now) =>
    compareListing(wanted, listing, { ...options, now }).map((row) => [row.key, row.outcome, row.late]);

  test('what record and channel agree on without our sending counts as sent', () => {
    const before = state({ sent: shown('a'), previous: shown('a'), observed: shown('b') });
    const { sent } = settle(before, shown('b'), shown('b'));
    expect(sent).toEqual(shown('b'));
    // Later the record goes on: that is to send, not at odds.
    expect(rows(shown('c'), { ...before, sent })).toContainEqual(['title', 'to-send', false]);
  });

  test('an untouched old value with a new wish is to send, however late', () => {
    const listing = state({ sent: shown('b'), previous: shown('a'), observed: shown('a') });
    expect(rows(shown('c'), listing, sentAt + 700_000)).toContainEqual(['title', 'to-send', true]);
    expect(rows(shown('b'), listing, sentAt + 700_000)).toContainEqual(['title', 'late', true]);
  });

  test('a field that was sent after the reading began is not judged by it; the others are', () => {
    const both = (title: string, body: string): Shown => ({ listed: on, title: text(title), body: text(body) });
    const listing = state({
      sent: both('b', 'x'),
      previous: both('a', 'x'),
      observed: both('a', 'theirs'),
      observedAt: sentAt - 5_000,
      sentTimes: { title: sentAt, body: sentAt - 60_000 },
    });
    expect(rows(both('b', 'x'), listing)).toEqual(
      expect.arrayContaining([
        ['title', 'not-yet', false],
        ['body', 'drifted', false],
      ]),
    );
  });

  test('settling twice changes nothing more, and never what was not seen', () => {
    fc.assert(
      fc.property(anyShown, anyShown, anyShown, (wanted, sent, observed) => {
        const listing = state({ sent, previous: sent, observed });
        const first = settle(listing, observed, wanted);
        expect(settle({ ...listing, ...first }, observed, wanted)).toEqual(first);
        for (const [key, value] of Object.entries(first.sent ?? {}))
          expect([sent[key], observed[key]]).toContainEqual(value);
        const rows = compareListing(wanted, { ...listing, ...first }, options);
        expect(rows.filter((row) => row.outcome === 'already-there')).toEqual([]);
      }),
    );
  });
});
