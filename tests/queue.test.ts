import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import type { PlannedErrand } from '@/core/errands/plan';
import { sample } from '@/core/testing/samples';
import { openDatabase, whole, type Db } from '@/store/database';
import {
  addReceipt,
  claimErrand,
  decideErrands,
  dependentsOf,
  errandsWhere,
  freeStaleClaims,
  makeDispatch,
  receiptsOf,
  settleErrand,
  type Errand,
} from '@/store/errands';
import { putListing } from '@/store/listings';
import { makeRecord } from '@/store/records';

let folder: string;
let db: Db;
let recordId: string;
const listings = ['a', 'b', 'c', 'd'];
const channelOf = (listing: string) => (listing < 'c' ? 'lectern' : 'gatefold');

beforeEach(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-queue-'));
  db = openDatabase(folder);
  recordId = whole(db, (tx) => makeRecord(tx, sample(), 'Maren', 0, '')).id;
  for (const [part, id] of listings.entries())
    putListing(db, { id, recordId, channel: channelOf(id), part, performanceIds: [] });
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true, force: true });
});

let wishes = 0;
const errand = (
  listing: string,
  needs: string[] = [],
  notBefore: number | null = null,
): PlannedErrand & { revision: number } => ({
  listing,
  record: recordId,
  channel: channelOf(listing),
  op: 'amend',
  changes: [{ key: `k${(wishes += 1)}`, before: null, after: { kind: 'count', n: wishes } }],
  needs,
  notBefore,
  requests: 1,
  ground: [null, null],
  revision: 1,
});
const dispatch = (wanted: ReturnType<typeof errand>[], at = 0) =>
  whole(db, (tx) => makeDispatch(tx, wanted, 'Maren', at));
const all = () => errandsWhere(db, {});
const claim = (now = 0, busy: string[] = []) => claimErrand(db, now, busy);
const settle = (one: Errand, to: Parameters<typeof settleErrand>[3], at = 0) =>
  settleErrand(db, one.id, one.claim, to, at);

describe('one errand after another', () => {
  test('what another gives is waited for; a listing is worked on once at a time; the order is that of the dispatch', () => {
    dispatch([errand('a'), errand('c', ['a']), errand('b')]);
    dispatch([errand('a')]);
    const first = claim();
    expect(first?.listingId).toBe('a');
    // c needs a; the second wish for a waits until the first has ended; b is free.
    const second = claim();
    expect([second?.listingId, claim()]).toEqual(['b', null]);
    if (first) settle(first, { state: 'done' });
    expect([claim()?.listingId, claim()?.listingId, claim()]).toEqual(['c', 'a', null]);
  });

  test('a busy channel is passed over; what is not due yet waits for its moment', () => {
    dispatch([errand('a'), errand('c', [], 500)]);
    expect([claim(0, ['lectern']), claim(499, ['lectern']), claim(500, ['lectern'])?.listingId]).toEqual([
      null,
      null,
      'c',
    ]);
    expect(claim()?.tries).toBe(1);
  });

  test('only who holds the claim may settle, and only once', () => {
    dispatch([errand('a')]);
    const held = claim();
    if (!held) throw new Error('nothing was claimed');
    expect(settleErrand(db, held.id, 'another', { state: 'done' }, 1)).toBe(false);
    expect([
      settle(held, {
        state: 'waiting',
        nextTryAt: 900,
        doubtful: true,
        error: { kind: 'again-later', message: 'busy', field: null },
      }),
      settle(held, { state: 'done' }),
    ]).toEqual([true, false]);
    expect(all()[0]).toMatchObject({
      state: 'waiting',
      nextTryAt: 900,
      doubtful: true,
      tries: 1,
      lastError: { kind: 'again-later', message: 'busy' },
    });
  });

  test('a refusal holds up what needs it, until a person tries again or drops it', () => {
    dispatch([errand('a'), errand('c', ['a'])]);
    const held = claim();
    if (held) settle(held, { state: 'refused', error: { kind: 'locked', message: 'sold', field: 'start' } });
    expect([claim(), dependentsOf(db, [held?.id ?? 0])]).toEqual([null, [all()[1]?.id]]);
    expect(decideErrands(db, [held?.id ?? 0], 'again', 5)).toBe(1);
    const again = claim(5);
    // Part of it may have been carried out: the channel is asked first.
    expect([again?.listingId, again?.doubtful, again?.tries]).toEqual(['a', true, 2]);
    if (again) settle(again, { state: 'refused', error: { kind: 'locked', message: 'sold', field: null } });
    expect([decideErrands(db, [again?.id ?? 0], 'drop', 6), claim(6)?.listingId]).toEqual([1, 'c']);
    expect(decideErrands(db, [again?.id ?? 0], 'again', 7)).toBe(0);
  });

  test('receipts stand in order and for good; the same wish is not queued twice under one dispatch', () => {
    const id = dispatch([errand('a')]);
    const one = all()[0];
    for (const outcome of ['again', 'again', 'done']) addReceipt(db, one?.id ?? 0, 1, outcome, { n: outcome });
    expect(receiptsOf(db, id).map((receipt) => receipt.outcome)).toEqual(['again', 'again', 'done']);
    expect(() => whole(db, (tx) => makeDispatch(tx, [{ ...errand('b'), listing: 'nowhere' }], 'Maren', 0))).toThrow(
      /FOREIGN KEY/,
    );
    expect(all()).toHaveLength(1);
  });
});

/** One thing that may happen to the queue. */
type Step =
  | { do: 'dispatch'; wanted: { listing: string; needs: string | null; later: number }[] }
  | { do: 'claim'; busy: string[] }
  | { do: 'end'; which: number; how: 'done' | 'dropped' | 'refused' | 'waiting'; later: number }
  | { do: 'decide'; which: number; verdict: 'again' | 'drop' }
  | { do: 'crash' }
  | { do: 'pass'; ms: number };

const listing = fc.constantFrom(...listings);
const later = fc.integer({ min: 0, max: 300 });
const step: fc.Arbitrary<Step> = fc.oneof(
  {
    arbitrary: fc.record({
      do: fc.constant('dispatch' as const),
      wanted: fc.array(fc.record({ listing, needs: fc.option(listing), later }), { minLength: 1, maxLength: 4 }),
    }),
    weight: 2,
  },
  {
    arbitrary: fc.record({
      do: fc.constant('claim' as const),
      busy: fc.constantFrom<string[]>([], ['lectern'], ['gatefold']),
    }),
    weight: 6,
  },
  {
    arbitrary: fc.record({
      do: fc.constant('end' as const),
      which: fc.nat(),
      how: fc.constantFrom('done' as const, 'dropped' as const, 'refused' as const, 'waiting' as const),
      later,
    }),
    weight: 5,
  },
  {
    arbitrary: fc.record({
      do: fc.constant('decide' as const),
      which: fc.nat(),
      verdict: fc.constantFrom('again' as const, 'drop' as const),
    }),
    weight: 2,
  },
  { arbitrary: fc.constant({ do: 'crash' as const }), weight: 1 },
  { arbitrary: fc.record({ do: fc.constant('pass' as const), ms: fc.integer({ min: 1, max: 400 }) }), weight: 3 },
);

test('whatever happens, in whatever order: no listing is worked on twice at a time, no claim is for nothing, and in the end all is settled', () => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
      db.run('DELETE FROM receipts');
      db.run('DELETE FROM errands');
      db.run('DELETE FROM dispatches');
      let now = 0;
      const held = new Map<number, Errand>();
      const claims = new Map<number, number>();
      const take = (busy: string[]) => {
        const before = new Map(all().map((one) => [one.id, one]));
        const got = claim(now, busy);
        if (got === null) return null;
        const was = before.get(got.id);
        expect([was?.state, (was?.nextTryAt ?? Infinity) <= now, busy.includes(got.channel)]).toEqual([
          'waiting',
          true,
          false,
        ]);
        for (const need of got.needs) expect(['done', 'dropped', undefined]).toContain(before.get(need)?.state);
        for (const other of before.values())
          if (other.listingId === got.listingId && other.id < got.id)
            expect(['done', 'dropped', 'refused']).toContain(other.state);
        held.set(got.id, got);
        claims.set(got.id, (claims.get(got.id) ?? 0) + 1);
        return got;
      };
      const end = (one: Errand, how: 'done' | 'dropped' | 'refused' | 'waiting', wait: number) => {
        const error = { kind: 'invalid' as const, message: 'no', field: null };
        const to =
          how === 'waiting'
            ? { state: how, nextTryAt: now + wait, doubtful: false, error: null }
            : how === 'refused'
              ? { state: how, error }
              : { state: how };
        expect(settle(one, to, now)).toBe(true);
        held.delete(one.id);
      };
      for (const at of steps) {
        if (at.do === 'dispatch')
          dispatch(
            at.wanted
              .filter((one, i) => at.wanted.findIndex((other) => other.listing === one.listing) === i)
              .map((one) =>
                errand(
                  one.listing,
                  one.needs === null || one.needs === one.listing ? [] : [one.needs],
                  now + one.later,
                ),
              ),
            now,
          );
        else if (at.do === 'claim') take(at.busy);
        else if (at.do === 'pass') now += at.ms;
        else if (at.do === 'decide') {
          const some = all();
          if (some.length > 0) decideErrands(db, [some[at.which % some.length]?.id ?? 0], at.verdict, now);
        } else if (at.do === 'crash') {
          expect(freeStaleClaims(db, now)).toBe(held.size);
          for (const id of held.keys())
            expect(all().find((one) => one.id === id)).toMatchObject({ state: 'waiting', doubtful: true, claim: null });
          held.clear();
        } else {
          const open = [...held.values()];
          const one = open[at.which % Math.max(1, open.length)];
          if (one) end(one, at.how, at.later);
        }
        const running = all().filter((one) => one.state === 'running');
        expect(new Set(running.map((one) => one.listingId)).size).toBe(running.length);
        expect(running.map((one) => one.id).sort()).toEqual([...held.keys()].sort());
        for (const one of all()) expect(one.tries).toBe(claims.get(one.id) ?? 0);
      }
      // A person drops what was refused; then everything that is left can be carried out, and nothing waits for ever.
      for (const one of [...held.values()]) end(one, 'done', 0);
      decideErrands(
        db,
        all()
          .filter((one) => one.state === 'refused')
          .map((one) => one.id),
        'drop',
        now,
      );
      now += 100_000;
      for (let got = take([]); got !== null; got = take([])) end(got, 'done', 0);
      expect(all().filter((one) => one.state !== 'done' && one.state !== 'dropped')).toEqual([]);
    }),
    { numRuns: 60 },
  );
}, 120_000);
