import fc from 'fast-check';
import ICAL from 'ical.js';
import { checkRecord } from './check-record';
import { copyRecord, settleCarried } from './copy-record';
import { longDate, shortDate } from './date-words';
import { readDraft, toDraft } from './draft';
import { facts } from './facts';
import { countGraphemes } from './graphemes';
import { mergeRows, mergeVersions } from './merge';
import { newEntry, newLevel, newOutlet, newPerformance, newPicture, newTickets, newWords } from './new-record';
import { pasteDates } from './paste-dates';
import { precisions, turns, wordLengths, type Performance, type RecordContent } from './record';
import { editBetween, occurrences, planEdit, recurrenceId, type EditScope } from './recurrence';
import { sample, venues } from './testing/samples';
import { buyers, ticketModes, type WindowEnd } from './ticket-schema';
import { priceNow } from './tickets/price-now';
import { houseOf } from './tickets/seats';
import { applyTour, ownFacts, sharedFacts, sharedOf } from './tour';
import { draftShorter, firstSentences } from './words/drafts';
import { cleanPaste } from './words/paste';
import { addDays } from './zones';

// ── Anything that a record may be ────────────────────────────────────────────────────────────────

const word = fc.constantFrom('harp', 'Ánna', '夜', 'night 🎻', 'Q & A', 'a "b"', 'ליל', 'x');
const words = fc.array(word, { minLength: 1, maxLength: 6 }).map((list) => list.join(' '));
const date = fc.integer({ min: 0, max: 900 }).map((n) => addDays('2027-01-01', n));
// Noon to late evening: readings that exist in every zone on every day.
const time = fc.tuple(fc.integer({ min: 12, max: 23 }), fc.constantFrom('00', '15', '30', '59')).map(([h, m]) => `${h}:${m}`);
const zone = fc.constantFrom('Europe/Dublin', 'America/St_Johns', 'Australia/Adelaide', 'Asia/Kolkata', 'America/Vancouver');
const windowEnd: fc.Arbitrary<WindowEnd> = fc.oneof(
  fc.record({ kind: fc.constant('at' as const), date, time }),
  fc.record({ kind: fc.constant('before' as const), amount: fc.integer({ min: 0, max: 90 }), unit: fc.constantFrom('days' as const, 'hours' as const) }),
);

const performance = (n: number): fc.Arbitrary<Performance> =>
  fc.record({ date, zone, start: time, precision: fc.constantFrom(...precisions), turn: fc.constantFrom(...turns), soldOut: fc.boolean(), endHidden: fc.boolean(), note: fc.oneof(fc.constant(''), words), more: fc.boolean() }).map(({ more, ...part }) =>
    newPerformance(`p${n}`, part.date, part.zone, { ...part, doors: null, end: more ? '02:00' : null, endsNextDay: more, link: more ? 'https://tickets.example/e/1' : null, venueId: 'v1', roomId: 'vat' }));

const level = (n: number) =>
  fc.record({ price: fc.integer({ min: 0, max: 20_000 }), buyers: fc.constantFrom(...buyers), quantity: fc.option(fc.integer({ min: 1, max: 500 })), admits: fc.integer({ min: 1, max: 6 }), most: fc.option(fc.integer({ min: 1, max: 9 })), opens: fc.option(windowEnd), closes: fc.option(windowEnd), choose: fc.boolean() })
    .map(({ price, ...part }) => newLevel(`l${n}`, `Level ${n}`, price, part));

const outlet = (n: number) =>
  fc.record({ allocation: fc.option(fc.integer({ min: 0, max: 400 })), link: fc.option(fc.constant('https://box.example/e?x=1')), fee: fc.option(fc.record({ mode: fc.constantFrom('added' as const, 'absorbed' as const), basisPoints: fc.integer({ min: 0, max: 2000 }), fixed: fc.integer({ min: 0, max: 300 }), cap: fc.option(fc.integer({ min: 0, max: 2000 })) })) })
    .map((part) => newOutlet(`o${n}`, `Outlet ${n}`, part));

const several = <T>(make: (n: number) => fc.Arbitrary<T>, most: number, least = 0) =>
  fc.integer({ min: least, max: most }).chain((count) => fc.tuple(...Array.from({ length: count }, (_, n) => make(n))));

const record: fc.Arbitrary<RecordContent> = fc
  .record({
    title: words, shortTitle: fc.oneof(fc.constant(''), words), subtitle: fc.oneof(fc.constant(''), words), tags: fc.uniqueArray(words, { maxLength: 3 }),
    performances: several(performance, 6, 1), levels: several(level, 4), outlets: several(outlet, 3), mode: fc.constantFrom(...ticketModes), currency: fc.constantFrom('EUR' as const, 'ISK' as const, 'GBP' as const),
    teaser: fc.oneof(fc.constant(''), words), line: fc.oneof(fc.constant(''), words), lineUp: several((n) => words.map((name) => newEntry(`a${n}`, name.slice(0, 60), n === 0 ? 'headliner' : 'support')), 4),
    pictures: several((n) => fc.record({ x: fc.double({ min: 0, max: 1, noNaN: true }), y: fc.double({ min: 0, max: 1, noNaN: true }) }).map((focal) => newPicture({ id: String(n).repeat(64), width: 1000 + n * 700, height: 900 }, { focal })), 3),
    radius: fc.option(fc.record({ km: fc.integer({ min: 1, max: 500 }), days: fc.integer({ min: 1, max: 90 }) })),
  })
  .map(({ levels, outlets, mode, currency, teaser, line, ...part }) =>
    sample({
      ...part,
      tickets: newTickets({ mode, currency, levels: levels.map((one) => ({ ...one, most: one.most !== null && one.most < one.least ? null : one.most })), outlets }),
      words: newWords({ teaser, line, full: '<p>One sentence. And another one.</p>' }),
    }));

describe('a record of any kind', () => {
  test('passes through the form unharmed', () => {
    fc.assert(fc.property(record, (content) => {
      const checked = checkRecord(content, venues);
      if (!checked.ok) throw new Error(JSON.stringify(checked.error));
      expect(readDraft(toDraft(checked.value), venues)).toEqual({ ok: true, value: checked.value });
    }));
  });

  test('has facts in order of time, and says nothing of what is not known', () => {
    fc.assert(fc.property(record, (content) => {
      const made = facts(content, { code: 'X', venues, now: Date.parse('2027-06-01T00:00Z') });
      const times = made.performances.map((one) => one.at);
      expect(times).toEqual([...times].sort((a, b) => a - b));
      for (const one of made.performances) {
        if (one.precision !== 'exact') expect([one.start, one.end, one.doors]).toEqual([null, null, null]);
        if (one.precision === 'exact') expect(one.start).not.toBeNull();
        expect(one.over).toBeGreaterThanOrEqual(one.at);
      }
      if (made.price.kind === 'priced') expect([made.price.from <= made.price.to, made.price.words.length > 0]).toEqual([true, true]);
    }));
  });

  test('merges with itself to itself; of two versions, what only one side changed is always there', () => {
    fc.assert(fc.property(record, record, (base, other) => {
      expect(mergeRows(base, base, base)).toEqual([]);
      expect(mergeVersions(base, base, other, new Set())).toEqual(other);
      expect(mergeVersions(base, other, base, new Set())).toEqual(other);
    }));
  });

  test('copied, it is private, has ids of its own, and loses a mark only for what was replaced', () => {
    fc.assert(fc.property(record, (content) => {
      let n = 0;
      const copy = copyRecord(content, 'X-1', () => `n${(n += 1)}`);
      const old = new Set(content.performances.map((one) => one.id));
      expect([copy.publicity.visibility, copy.performances.some((one) => old.has(one.id)), copy.performances.some((one) => one.soldOut || one.turn !== 'none')]).toEqual(['private', false, false]);
      expect(settleCarried(copy, copy)).toBe(copy);
      const priced = { ...copy, tickets: { ...copy.tickets, levels: [...copy.tickets.levels, newLevel('new', 'New', 1)] } };
      expect(settleCarried(copy, priced).carried).toEqual(copy.carried.filter((one) => one !== 'prices'));
    }));
  });
});

describe('tours', () => {
  test('a change reaches every fact that followed, and none that was the date’s own', () => {
    fc.assert(fc.property(record, record, record, (date_, before, after) => {
      const [was, is] = [sharedOf(before), sharedOf(after)];
      const change = applyTour(date_, was, is);
      const own = new Set(ownFacts(date_, was));
      expect(change.takes.filter((key) => own.has(key))).toEqual([]);
      expect(change.keeps.filter((key) => !own.has(key))).toEqual([]);
      for (const key of own) if (key !== 'onSale') expect(sharedFacts[key]?.ofRecord(change.content)).toEqual(sharedFacts[key]?.ofRecord(date_));
      for (const key of change.takes) if (key !== 'onSale') expect(sharedFacts[key]?.ofRecord(change.content)).toEqual(sharedFacts[key]?.ofTour(is));
      expect(change.content.performances).toBe(date_.performances);
    }));
  });
});

describe('runs', () => {
  const run = several(performance, 12, 1);

  test('an edit touches nothing outside its scope, keeps every id, and says just what it did', () => {
    fc.assert(fc.property(run, fc.nat(), fc.constantFrom<EditScope>('this', 'later', 'all'), time, fc.boolean(), (list, pick, scope, start, soldOut) => {
      const target = list[pick % list.length];
      if (!target) return;
      const { performances, touched } = planEdit(list, target.id, scope, editBetween(target, { ...target, start, soldOut }));
      expect(performances.map((one) => one.id)).toEqual(list.map((one) => one.id));
      const said = new Set(touched.filter((one) => one.changes.length > 0).map((one) => one.id));
      performances.forEach((one, i) => {
        expect(said.has(one.id)).toBe(JSON.stringify(one) !== JSON.stringify(list[i]));
        if (scope === 'this' && one.id !== target.id) expect(one).toBe(list[i]);
        const before = list[i];
        if (scope === 'later' && before && `${before.date} ${before.start}` < `${target.date} ${target.start}`) expect(one).toBe(before);
      });
    }));
  });

  // Two implementations of RFC 5545 that know nothing of each other must give the same dates.
  test('a rule gives the dates that another implementation gives', () => {
    const days = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
    const by = fc.oneof(
      fc.uniqueArray(fc.constantFrom(...days), { minLength: 1, maxLength: 3 }).map((list) => `FREQ=WEEKLY;WKST=MO;BYDAY=${list.join(',')}`),
      fc.tuple(fc.constantFrom(1, 2, 3, 4, -1), fc.constantFrom(...days)).map(([n, day]) => `FREQ=MONTHLY;BYDAY=${n}${day}`),
      fc.constantFrom(1, 15, 28, 31, -1).map((n) => `FREQ=MONTHLY;BYMONTHDAY=${n}`),
      fc.constant('FREQ=DAILY'),
    );
    fc.assert(fc.property(by, fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 20 }), date, (rule, interval, count, from) => {
      const text = `${rule};INTERVAL=${interval};COUNT=${count}`;
      const dates = ICAL.Recur.fromString(`${rule};INTERVAL=${interval}`).iterator(ICAL.Time.fromDateString(from));
      const first = dates.next()?.toString() ?? '';
      // Begin on a date that the rule gives, so that both begin alike.
      const other = ICAL.Recur.fromString(text).iterator(ICAL.Time.fromDateString(first));
      const theirs: string[] = [];
      for (let at = other.next(); at && theirs.length < 60; at = other.next()) theirs.push(at.toString());
      const ours = occurrences({ rule: text, first, times: ['20:00'], except: [], extra: [], zone: 'Europe/Dublin' });
      expect(ours.ok ? ours.value.map((one) => one.date) : ours.error).toEqual(theirs);
    }), { numRuns: 60 });
  });

  test('exceptions and extra dates: each is left out or there once, in order, at every time of day', () => {
    fc.assert(fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 29 }), { maxLength: 6 }), fc.uniqueArray(fc.integer({ min: 30, max: 80 }), { maxLength: 5 }), fc.uniqueArray(time, { minLength: 1, maxLength: 3 }), (gone, added, times) => {
      const [except, extra] = [gone.map((n) => addDays('2027-03-01', n)), added.map((n) => addDays('2027-03-01', n))];
      const made = occurrences({ rule: 'FREQ=DAILY;COUNT=30', first: '2027-03-01', times, except, extra, zone: 'Europe/Dublin' });
      const all = made.ok ? made.value : [];
      expect(all).toHaveLength((30 - gone.length + added.length) * times.length);
      expect(all.map((one) => `${one.date} ${one.time}`)).toEqual(all.map((one) => `${one.date} ${one.time}`).sort());
      expect(all.every((one) => one.id === recurrenceId(one.date, one.time) && !except.includes(one.date))).toBe(true);
      expect(new Set(all.map((one) => one.id)).size).toBe(all.length);
    }));
  });

  test('a date is read as it was written, in whichever way', () => {
    const ways: ((at: string, clock: string) => string)[] = [
      (at, clock) => `${at} ${clock}`,
      (at, clock) => `${longDate(at)}, ${clock}`,
      (at, clock) => `${shortDate(at, true)} ${clock}`,
      (at) => `${Number(at.slice(8))}/${Number(at.slice(5, 7))}/${at.slice(0, 4)}`,
      (at) => `${at.slice(8)}.${at.slice(5, 7)}.${at.slice(0, 4)}`,
    ];
    fc.assert(fc.property(date, time, fc.nat({ max: ways.length - 1 }), (at, clock, way) => {
      const line = ways[way]?.(at, clock) ?? '';
      const { dates, problems } = pasteDates(line, '2027-02-02');
      expect([problems, dates.map((one) => one.date)]).toEqual([[], [at]]);
      if (line.includes(clock)) expect(dates[0]?.times).toEqual([clock]);
    }));
  });
});

describe('seats and prices', () => {
  test('the price is one that the public could pay, and no level is sold beyond the house', () => {
    fc.assert(fc.property(several(level, 5, 1), fc.integer({ min: 0, max: 400 }), date, (levels, capacity, on) => {
      const tickets = newTickets({ levels });
      const house = houseOf(tickets, capacity, [], new Map(), null);
      for (const one of house.levels) expect(one.sellable === null || (one.sellable >= 0 && one.sellable <= capacity)).toBe(true);
      if (house.grossWhenFull !== null) expect(house.netWhenFull).toBe(house.grossWhenFull);
      const now = Date.parse(`${on}T12:00:00Z`);
      const price = priceNow(tickets, { start: now + 86_400_000 * 30, zone: 'Europe/Dublin', now, levels: house.levels, fee: null });
      if (price.kind !== 'priced') return;
      expect(levels.some((one) => one.price === price.from)).toBe(true);
      if (price.opens !== null) expect(price.opens).toBeGreaterThan(now);
    }));
  });
});

describe('words', () => {
  test('a draft fits, and all of it stands in the longer text', () => {
    const sentence = fc.array(fc.constantFrom('harp', 'tape', 'a', 'long', 'evening', 'of', 'quiet'), { minLength: 1, maxLength: 14 }).map((list) => `${list.join(' ')}.`);
    fc.assert(fc.property(fc.array(sentence, { minLength: 1, maxLength: 12 }), fc.constantFrom('line' as const, 'teaser' as const, 'short' as const), (sentences, length) => {
      const text = sentences.join(' ');
      const made = draftShorter(newWords({ full: `<p>${text}</p>` }), length);
      expect(countGraphemes(made?.text ?? '')).toBeLessThanOrEqual(wordLengths[length]);
      expect(text.startsWith((made?.text ?? '?').replace(/…$/, ''))).toBe(true);
      expect(firstSentences(text, 10_000)).toBe(text);
    }));
  });

  test('a cleaned paste holds nothing but the record’s set, and cleaning it again changes nothing', () => {
    const tag = fc.constantFrom('p', 'div', 'b', 'em', 'h1', 'ul', 'li', 'table', 'tr', 'td', 'a href="https://a.example"', 'a href="javascript:x"', 'img src="data:x"', 'span style="color:red"', 'script', 'blockquote', 'br');
    const piece = fc.oneof(tag.map((one) => `<${one}>`), tag.map((one) => `</${one.split(' ')[0]}>`), words);
    fc.assert(fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => {
      const pasted = cleanPaste(pieces.join(''));
      if (!pasted.ok) throw new Error(pasted.error);
      const tags = [...pasted.value.html.matchAll(/<\/?([a-z0-9]+)/g)].map((one) => one[1] ?? '');
      expect(tags.filter((one) => !['p', 'strong', 'em', 'a', 'h3', 'ul', 'ol', 'li', 'blockquote', 'br'].includes(one))).toEqual([]);
      expect(pasted.value.html).not.toMatch(/javascript:|data:|style=|on\w+=/);
      expect(cleanPaste(pasted.value.html)).toEqual({ ok: true, value: { html: pasted.value.html, dropped: [], broken: [] } });
    }));
  });
});
