import { by } from '@/core/testing/doers';
import { channelIdSchema, listingIdSchema, type RecordId } from '@/core/base/ids';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import { sample } from '@/core/testing/samples';
import { openDatabase, transaction, type Db } from '@/store/database';
import {
  addReceipt,
  claimErrand,
  claimsLeft,
  decidedElsewhere,
  decideErrands,
  errandsWhere,
  freeStaleClaims,
  makeDispatch,
  momentsDue,
  receiptsOf,
  settleErrand,
  wakeErrands,
  wakeMoments,
  type Errand,
  type Settlement,
  type Wish,
} from '@/store/errands';
import { noteGift } from '@/store/gifts';
import { dropLease, leads, takeLease } from '@/store/lease';
import { putListing } from '@/store/listings';
import { makeRecord } from '@/store/records';

let folder: string;
let db: Db;
let recordId: RecordId;
const listings = ['a', 'b', 'c', 'd'].map((id) => listingIdSchema.parse(id));
/** The listing whose link the others await. */
const giver = listingIdSchema.parse('c');
const [lectern, gatefold] = [channelIdSchema.parse('lectern'), channelIdSchema.parse('gatefold')];
const channelOf = (listing: string) => (listing < 'c' ? lectern : gatefold);

beforeEach(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-queue-'));
  db = openDatabase(folder);
  recordId = transaction(db, (tx) => makeRecord(tx, sample(), by('Maren'), 0, '')).id;
  for (const [part, id] of listings.entries())
    putListing(db, { id, recordId, channel: channelOf(id), part, performanceIds: [] });
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true, force: true });
});

let wishes = 0;
const wish = (listing: string, part: Partial<Wish> = {}): Wish => ({
  listing: listingIdSchema.parse(listing),
  record: recordId,
  channel: channelOf(listing),
  op: 'amend',
  changes: [{ key: `k${(wishes += 1)}`, before: null, after: { kind: 'count', n: wishes } }],
  awaits: null,
  notBefore: null,
  deadline: 0,
  gives: false,
  revision: 1,
  ...part,
});
const dispatch = (wanted: Wish[], at = 0) => transaction(db, (tx) => makeDispatch(tx, wanted, 'Maren', at, at));
const all = () => errandsWhere(db, {});
const claim = (channel: string = lectern, now = 0, fence = 1) =>
  claimErrand(db, channelIdSchema.parse(channel), now, fence);
const settle = (errand: Errand, to: Settlement, at = 0) => settleErrand(db, errand, errand.claim, to, at);
const again = (nextTryAt: number, part: object = {}): Settlement => ({
  state: 'waiting',
  nextTryAt,
  costs: true,
  error: null,
  ...part,
});
const no = { kind: 'invalid' as const, message: 'no', field: null };

describe('one errand after another', () => {
  test('a listing is worked on once at a time; the nearest deadline goes first, then what gives, then the oldest', () => {
    dispatch([
      wish('a', { deadline: 9 }),
      wish('b', { deadline: 5 }),
      wish('a', { deadline: 1 }),
      wish('c', { deadline: 5 }),
      wish('d', { deadline: 5, gives: true }),
    ]);
    // The second wish for a waits until the first has ended, however near it is.
    const [b, a] = [claim(), claim()];
    expect([b?.listingId, a?.listingId, claim()]).toEqual(['b', 'a', null]);
    expect([claim('gatefold')?.listingId, claim('gatefold')?.listingId]).toEqual(['d', 'c']);
    if (a) settle(a, { state: 'done' });
    expect(claim()?.listingId).toBe('a');
  });

  test('an older wish that a person tries again waits for the newer one that runs; what takes something back goes first', () => {
    dispatch([wish('a')]);
    const first = claim();
    if (first) settle(first, { state: 'refused', error: no });
    dispatch([wish('a')]);
    const second = claim();
    expect(decideErrands(db, [first?.id ?? 0], 'again', 0)).toBe(1);
    expect(claim()).toBeNull();
    if (second) settle(second, { state: 'done' });
    dispatch([wish('a', { narrows: true, deadline: 99 })]);
    expect(claim()).toMatchObject({ narrows: true });
  });

  test('what waits for a moment or a gift is not ready, costs no try, and is woken by it', () => {
    dispatch([wish('a', { notBefore: 500 }), wish('b', { awaits: 'gatefold' })]);
    expect([claim('lectern', 499), momentsDue(db, 499), momentsDue(db, 500)]).toEqual([null, false, true]);
    expect([wakeMoments(db, 500), claim('lectern', 500)?.listingId]).toEqual([1, 'a']);
    expect(claim('lectern', 500)).toBeNull();
    noteGift(db, { id: giver, recordId, channel: gatefold }, 'ticket link', 'https://t.example/', 1);
    const b = claim('lectern', 500);
    expect([b?.listingId, b?.tries]).toEqual(['b', 1]);
    if (b) settle(b, { state: 'waiting', nextTryAt: 0, costs: false, error: null, awaits: 'gatefold' });
    expect([claim(), all()[1]]).toMatchObject([null, { tries: 0, awaits: 'gatefold', ready: false }]);
    // A save looks at everything anew, in its own transaction.
    wakeErrands(db, recordId);
    expect(claim()?.listingId).toBe('b');
  });

  test('what waits for a decision elsewhere is looked at anew when something comes to await a gift: it may be what gives it', () => {
    dispatch([wish('a'), wish('c')]);
    const waits = { state: 'waiting', nextTryAt: 0, costs: false, error: null } as const;
    const [a, c] = [claim(), claim('gatefold')];
    if (!a || !c) throw new Error('nothing was claimed');
    settle(c, { ...waits, awaits: decidedElsewhere });
    expect(claim('gatefold')).toBeNull();
    settle(a, { ...waits, awaits: 'gatefold' });
    const woken = claim('gatefold');
    expect(woken?.listingId).toBe('c');
    // Two that wait for a decision do not wake each other for ever.
    if (woken) settle(woken, { ...waits, awaits: decidedElsewhere });
    dispatch([wish('b')]);
    const b = claim();
    if (b) settle(b, { ...waits, awaits: decidedElsewhere });
    expect([claim('gatefold'), claim()]).toEqual([null, null]);
    // What comes into the queue and awaits a gift from the beginning does the same.
    dispatch([wish('a', { awaits: 'gatefold' })]);
    expect(claim('gatefold')?.listingId).toBe('c');
  });

  test('only who holds the claim may settle, and only once', () => {
    dispatch([wish('a')]);
    const held = claim();
    if (!held) throw new Error('nothing was claimed');
    expect(settleErrand(db, held, 'another', { state: 'done' }, 1)).toBe(false);
    const busy = { kind: 'again-later' as const, message: 'busy', field: null };
    expect([settle(held, again(900, { error: busy })), settle(held, { state: 'done' })]).toEqual([true, false]);
    expect(all()[0]).toMatchObject({ state: 'waiting', nextTryAt: 900, tries: 1, lastError: busy });
  });

  test('a refusal waits for a person: again from the first try, without the gift, or dropped', () => {
    dispatch([wish('a')]);
    const held = claim();
    if (held) settle(held, { state: 'refused', error: { kind: 'locked', message: 'sold', field: 'start' } });
    expect([claim(), decideErrands(db, [held?.id ?? 0], 'again', 5)]).toEqual([null, 1]);
    const second = claim('lectern', 5);
    expect([second?.listingId, second?.tries]).toEqual(['a', 1]);
    if (second) settle(second, { state: 'refused', error: no });
    expect([decideErrands(db, [second?.id ?? 0], 'without', 6), all()[0]?.without]).toEqual([1, true]);
    expect([decideErrands(db, [second?.id ?? 0], 'drop', 7), decideErrands(db, [second?.id ?? 0], 'again', 8)]).toEqual(
      [1, 0],
    );
  });

  test('receipts stand in order and for good; a dispatch is written whole or not at all', () => {
    const id = dispatch([wish('a')]);
    const errand = all()[0];
    for (const outcome of ['again', 'again', 'done']) addReceipt(db, errand?.id ?? 0, 1, outcome, { n: outcome });
    expect(receiptsOf(db, id).map((receipt) => receipt.outcome)).toEqual(['again', 'again', 'done']);
    expect(() => dispatch([wish('b'), wish('nowhere')])).toThrow(/FOREIGN KEY/);
    expect(all()).toHaveLength(1);
  });
});

describe('who works the queue', () => {
  const take = (boot: string, now: number) =>
    transaction(db, (tx) => takeLease(tx, boot, now, 6_000, now), { quiet: true });

  test('one leads, whatever their process ids; who takes over has the next fence, and the one before leads no more', () => {
    expect([take('one', 0)?.fence, take('two', 100), take('one', 5_000)?.fence]).toEqual([1, null, 1]);
    expect([take('two', 11_500)?.fence, leads(db, 'one', 1), leads(db, 'two', 2)]).toEqual([2, false, true]);
    expect([take('one', 12_000), leads(db, 'two', 1)]).toEqual([null, false]);
    dropLease(db, 'two');
    expect(take('one', 12_001)?.fence).toBe(3);
  });

  test('a claim of an earlier time of leading is freed by the next; one that is worked on is not', () => {
    dispatch([wish('a'), wish('b')]);
    const [a, b] = [claim('lectern', 0, 1), claim('lectern', 0, 1)];
    expect(claimsLeft(db, [a?.id ?? 0, b?.id ?? 0])).toBe(false);
    expect([claimsLeft(db, [a?.id ?? 0]), freeStaleClaims(db, 2, 0, [a?.id ?? 0])]).toEqual([true, 1]);
    expect(claim('lectern', 0, 2)?.listingId).toBe('b');
  });

  test('the monotonic clock is kept with the lease', () => {
    take('one', 5_000);
    expect(transaction(db, (tx) => takeLease(tx, 'one', 6_000, 6_000, 1), { quiet: true })?.monotonic).toBe(5_000);
  });
});

/** One thing that may happen to the queue. */
type Step =
  | { do: 'dispatch'; wanted: { listing: string; later: number | null; awaits: boolean; deadline: number }[] }
  | { do: 'claim'; channel: string }
  | { do: 'end'; which: number; how: 'done' | 'dropped' | 'refused' | 'again' | 'moment'; later: number }
  | { do: 'decide'; which: number; verdict: 'again' | 'drop' | 'without' }
  | { do: 'crash' }
  | { do: 'gift' }
  | { do: 'save' }
  | { do: 'pass'; ms: number };

const listing = fc.constantFrom(...listings);
const later = fc.integer({ min: 0, max: 300 });
const wanted = fc.record({ listing, later: fc.option(later), awaits: fc.boolean(), deadline: fc.nat({ max: 5 }) });
const step: fc.Arbitrary<Step> = fc.oneof(
  {
    arbitrary: fc.record({
      do: fc.constant('dispatch' as const),
      wanted: fc.array(wanted, { minLength: 1, maxLength: 4 }),
    }),
    weight: 2,
  },
  {
    arbitrary: fc.record({ do: fc.constant('claim' as const), channel: fc.constantFrom('lectern', 'gatefold') }),
    weight: 6,
  },
  {
    arbitrary: fc.record({
      do: fc.constant('end' as const),
      which: fc.nat(),
      how: fc.constantFrom(
        'done' as const,
        'dropped' as const,
        'refused' as const,
        'again' as const,
        'moment' as const,
      ),
      later,
    }),
    weight: 5,
  },
  {
    arbitrary: fc.record({
      do: fc.constant('decide' as const),
      which: fc.nat(),
      verdict: fc.constantFrom('again' as const, 'drop' as const, 'without' as const),
    }),
    weight: 2,
  },
  { arbitrary: fc.constantFrom({ do: 'crash' as const }, { do: 'gift' as const }, { do: 'save' as const }), weight: 2 },
  { arbitrary: fc.record({ do: fc.constant('pass' as const), ms: fc.integer({ min: 1, max: 400 }) }), weight: 3 },
);

test('whatever happens, in whatever order: no listing is worked on twice at a time, no claim is for nothing, and in the end all is settled', () => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
      for (const table of ['receipts', 'errands', 'dispatches', 'gifts']) db.run(`DELETE FROM ${table}`);
      let now = 0;
      let fence = 1;
      const held = new Map<number, Errand>();
      const take = (channel: string) => {
        wakeMoments(db, now);
        const before = new Map(all().map((errand) => [errand.id, errand]));
        const got = claim(channel, now, fence);
        if (got === null) return null;
        const was = before.get(got.id);
        expect([was?.state, was?.ready, (was?.nextTryAt ?? Infinity) <= now, got.channel]).toEqual([
          'waiting',
          true,
          true,
          channel,
        ]);
        // Of a listing nothing else is under way, however old; and of those that could go, the oldest goes.
        for (const other of before.values())
          if (other.listingId === got.listingId && other.id !== got.id) {
            expect(['running', 'lodged']).not.toContain(other.state);
            if (other.id < got.id) expect([other.state, other.ready]).not.toEqual(['waiting', true]);
          }
        held.set(got.id, got);
        return got;
      };
      const end = (errand: Errand, how: 'done' | 'dropped' | 'refused' | 'again' | 'moment', wait: number) => {
        const tries = all().find((candidate) => candidate.id === errand.id)?.tries ?? 0;
        const to: Settlement =
          how === 'again'
            ? again(now + wait)
            : how === 'moment'
              ? again(now, { costs: false, notBefore: now + wait })
              : how === 'refused'
                ? { state: how, error: no }
                : { state: how };
        expect(settle(errand, to, now)).toBe(true);
        held.delete(errand.id);
        // Waiting costs no try; everything else does.
        expect(all().find((candidate) => candidate.id === errand.id)?.tries).toBe(how === 'moment' ? tries - 1 : tries);
      };
      for (const at of steps) {
        if (at.do === 'dispatch')
          dispatch(
            at.wanted
              .filter((candidate, i) => at.wanted.findIndex((other) => other.listing === candidate.listing) === i)
              .map((item) =>
                wish(item.listing, {
                  notBefore: item.later === null ? null : now + item.later,
                  awaits: item.awaits && item.listing < 'c' ? 'gatefold' : null,
                  deadline: item.deadline,
                }),
              ),
            now,
          );
        else if (at.do === 'claim') take(at.channel);
        else if (at.do === 'pass') now += at.ms;
        else if (at.do === 'save') wakeErrands(db, recordId);
        else if (at.do === 'gift')
          noteGift(db, { id: giver, recordId, channel: gatefold }, 'ticket link', 'https://t.example/', now);
        else if (at.do === 'decide') {
          const some = all();
          if (some.length > 0) decideErrands(db, [some[at.which % some.length]?.id ?? 0], at.verdict, now);
        } else if (at.do === 'crash') {
          fence += 1;
          expect(freeStaleClaims(db, fence, now)).toBe(held.size);
          for (const id of held.keys())
            expect(all().find((errand) => errand.id === id)).toMatchObject({ state: 'waiting', claim: null });
          held.clear();
        } else {
          const open = [...held.values()];
          const errand = open[at.which % Math.max(1, open.length)];
          if (errand) end(errand, at.how, at.later);
        }
        const running = all().filter((errand) => errand.state === 'running');
        expect(new Set(running.map((errand) => errand.listingId)).size).toBe(running.length);
        expect(running.map((errand) => errand.id).sort()).toEqual([...held.keys()].sort());
      }
      // The gift comes, a person drops what was refused; then everything that is left can be carried out, and nothing
      // waits for ever.
      for (const errand of [...held.values()]) end(errand, 'done', 0);
      noteGift(db, { id: giver, recordId, channel: gatefold }, 'ticket link', 'https://t.example/', now);
      const refused = all()
        .filter((errand) => errand.state === 'refused')
        .map((errand) => errand.id);
      decideErrands(db, refused, 'drop', now);
      now += 100_000;
      for (const channel of ['lectern', 'gatefold'])
        for (let got = take(channel); got !== null; got = take(channel)) end(got, 'done', 0);
      expect(
        all()
          .filter((errand) => errand.state !== 'done' && errand.state !== 'dropped')
          .map((errand) => [errand.state, errand.awaits, errand.notBefore]),
      ).toEqual([]);
    }),
    { numRuns: 60 },
  );
});
