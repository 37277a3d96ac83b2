import fc from 'fast-check';
import type { Change } from '@/core/errands/plan';
import type { Shown, ShownValue } from '@/core/listing/shown';
import type { Listing } from '@/store/listings';
import { amended, fillAwaited, remaining, withChanges } from './sending';

const text = (words: string): ShownValue => ({ kind: 'text', text: words });
const change = (key: string, before: string | null, after: string | null): Change => ({
  key,
  before: before === null ? null : text(before),
  after: after === null ? null : text(after),
});

test('links that were awaited are filled in, and a missing one is named', () => {
  const awaits: Change = {
    key: 'link',
    before: null,
    after: { kind: 'awaited', from: 'gate', track: { name: 'via', value: 'social' } },
  };
  expect(fillAwaited([awaits, change('title', null, 'a')], new Map([['gate', 'https://t.example/']]))).toEqual([
    { ...awaits, after: { kind: 'url', href: 'https://t.example/?via=social' } },
    change('title', null, 'a'),
  ]);
  expect(fillAwaited([awaits], new Map())).toEqual({ missing: 'gate' });
});

test.each<[string, Change[], Record<string, string>, 'conflict' | string[]]>([
  [
    'nothing was done yet: all of it goes',
    [change('a', 'old', 'new'), change('b', 'x', 'y')],
    { a: 'old', b: 'x' },
    ['a', 'b'],
  ],
  ['half was done: the rest goes', [change('a', 'old', 'new'), change('b', 'x', 'y')], { a: 'new', b: 'x' }, ['b']],
  ['all was done: nothing goes', [change('a', 'old', 'new')], { a: 'new' }, []],
  ['somebody else changed it: a conflict', [change('a', 'old', 'new')], { a: 'theirs' }, 'conflict'],
  ['a field that is to go, and has gone', [change('a', 'old', null)], {}, []],
  ['a field that is to come, where there is none', [change('a', null, 'new')], {}, ['a']],
  ['a field that is to go, and is theirs now', [change('a', 'old', null)], { a: 'theirs' }, 'conflict'],
])('what is left to do: %s', (_, changes, shown, expected) => {
  const observed: Shown = Object.fromEntries(Object.entries(shown).map(([key, words]) => [key, text(words)]));
  const rest = remaining(changes, observed);
  expect(rest.kind === 'conflict' ? 'conflict' : rest.changes.map((one) => one.key)).toEqual(expected);
});

const anyShown = fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd'), fc.string().map(text));

test('doing the rest after any part was done gives the whole wish', () => {
  fc.assert(
    fc.property(anyShown, anyShown, fc.array(fc.boolean(), { minLength: 4, maxLength: 4 }), (before, wanted, done) => {
      const changes = ['a', 'b', 'c', 'd']
        .filter((key) => before[key] !== wanted[key])
        .map((key): Change => ({ key, before: before[key] ?? null, after: wanted[key] ?? null }));
      const halfway = withChanges(
        before,
        changes.filter((_, i) => done[i]),
      );
      const rest = remaining(changes, halfway);
      if (rest.kind !== 'send') throw new Error('no conflict was possible');
      expect(withChanges(halfway, rest.changes)).toEqual(withChanges(before, changes));
      expect(remaining(changes, withChanges(halfway, rest.changes))).toEqual({ kind: 'send', changes: [] });
    }),
  );
});

test('an amendment writes what stands there now by the newest knowledge, with the changes over it', () => {
  const listing = (part: Partial<Listing>): Listing => ({
    id: 'l',
    recordId: 'r',
    channel: 'c',
    part: 0,
    performanceIds: [],
    remote: null,
    sentRevision: 1,
    readAt: null,
    readTries: 0,
    previous: null,
    sent: { a: text('sent'), b: text('sent') },
    observed: { a: text('by hand') },
    sentAt: 10,
    observedAt: 20,
    lapsesAt: null,
    ...part,
  });
  expect(amended(listing({}), [change('b', 'sent', 'new')])).toEqual({ a: text('by hand'), b: text('new') });
  expect(amended(listing({ observedAt: 5 }), [change('b', 'sent', 'new')])).toEqual({
    a: text('sent'),
    b: text('new'),
  });
  expect(amended(listing({}), [change('b', 'sent', null)])).toEqual({ a: text('by hand') });
});
