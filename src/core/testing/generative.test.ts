import fc from 'fast-check';
import ICAL from 'ical.js';
import { checkRecord } from '../record/check-record';
import { copyRecord, settleCarried } from '../record/copy-record';
import { longDate, shortDate } from '../dates/date-words';
import { readDraft, toDraft } from '../record/draft';
import { facts } from '../facts/facts';
import { countGraphemes, cutToFit, graphemes } from '../base/graphemes';
import { mergeRows, mergeVersions } from '../record/merge';
import { newLevel, newTickets, newWords } from '../record/new-record';
import { pasteDates } from '../dates/paste-dates';
import { wordLengths } from '../record/choices';
import { editBetween, occurrences, planEdit, recurrenceId, type EditScope } from '../recurrence/recurrence';
import { date, level, performance, record, several, time, words } from './any-record';
import { venues } from './samples';
import { priceNow } from '../facts/tickets/price-now';
import { houseOf } from '../facts/tickets/seats';
import { applyTour, ownFacts, sharedFacts, sharedOf } from '../record/tour';
import { draftShorter, firstSentences } from '../words/drafts';
import { cleanPaste } from '../words/paste';
import { addDays } from '../base/zones';

describe('a record of any kind', () => {
  test('passes through the form unharmed', () => {
    fc.assert(
      fc.property(record, (content) => {
        const checked = checkRecord(content, venues);
        if (!checked.ok) throw new Error(JSON.stringify(checked.error));
        expect(readDraft(toDraft(checked.value), venues)).toEqual({ ok: true, value: checked.value });
      }),
    );
  });

  test('has facts in order of time, and says nothing of what is not known', () => {
    fc.assert(
      fc.property(record, (content) => {
        const made = facts(content, { code: 'X', venues, now: Date.parse('2027-06-01T00:00Z') });
        const times = made.performances.map((performance) => performance.at);
        expect(times).toEqual([...times].sort((a, b) => a - b));
        for (const performance of made.performances) {
          if (performance.precision !== 'exact')
            expect([performance.start, performance.end, performance.doors]).toEqual([null, null, null]);
          if (performance.precision === 'exact') expect(performance.start).not.toBeNull();
          expect(performance.over).toBeGreaterThanOrEqual(performance.at);
        }
        if (made.price.kind === 'priced')
          expect([made.price.from <= made.price.to, made.price.words.length > 0]).toEqual([true, true]);
      }),
    );
  });

  test('merges with itself to itself; of two versions, what only one side changed is always there', () => {
    fc.assert(
      fc.property(record, record, (base, other) => {
        expect(mergeRows(base, base, base)).toEqual([]);
        expect(mergeVersions(base, base, other, new Set())).toEqual(other);
        expect(mergeVersions(base, other, base, new Set())).toEqual(other);
        const turned = { ...base, lineUp: [...base.lineUp].reverse(), performances: [...base.performances].reverse() };
        expect(mergeVersions(base, base, turned, new Set())).toEqual(turned);
        expect(mergeVersions(base, turned, base, new Set())).toEqual(turned);
      }),
    );
  });

  test('copied, it is private, has ids of its own, and loses a mark only for what was replaced', () => {
    fc.assert(
      fc.property(record, (content) => {
        let n = 0;
        const copy = copyRecord(content, 'X-1', () => `n${(n += 1)}`);
        const old = new Set(content.performances.map((performance) => performance.id));
        expect([
          copy.publicity.visibility,
          copy.performances.some((performance) => old.has(performance.id)),
          copy.performances.some((performance) => performance.soldOut || performance.turn !== 'none'),
        ]).toEqual(['private', false, false]);
        expect(settleCarried(copy, copy)).toBe(copy);
        const priced = {
          ...copy,
          tickets: { ...copy.tickets, levels: [...copy.tickets.levels, newLevel('new', 'New', 1)] },
        };
        expect(settleCarried(copy, priced).carried).toEqual(copy.carried.filter((candidate) => candidate !== 'levels'));
      }),
    );
  });
});

describe('tours', () => {
  test('a change reaches every fact that followed, and none that was the date’s own', () => {
    fc.assert(
      fc.property(record, record, record, (date_, before, after) => {
        const [was, is] = [sharedOf(before), sharedOf(after)];
        const change = applyTour(date_, was, is);
        const own = new Set(ownFacts(date_, was));
        expect(change.takes.filter((key) => own.has(key))).toEqual([]);
        expect(change.keeps.filter((key) => !own.has(key))).toEqual([]);
        for (const key of own)
          if (key !== 'onSale')
            expect(sharedFacts[key]?.ofRecord(change.content)).toEqual(sharedFacts[key]?.ofRecord(date_));
        for (const key of change.takes)
          if (key !== 'onSale')
            expect(sharedFacts[key]?.ofRecord(change.content)).toEqual(sharedFacts[key]?.ofTour(is));
        expect(change.content.performances).toBe(date_.performances);
      }),
    );
  });
});

describe('runs', () => {
  const run = several(performance, 12, 1);

  test('an edit touches nothing outside its scope, keeps every id, and says just what it did', () => {
    fc.assert(
      fc.property(
        run,
        fc.nat(),
        fc.constantFrom<EditScope>('this', 'later', 'all'),
        time,
        fc.boolean(),
        (list, pick, scope, start, soldOut) => {
          const target = list[pick % list.length];
          if (!target) return;
          const { performances, touched } = planEdit(
            list,
            target.id,
            scope,
            editBetween(target, { ...target, start, soldOut }),
          );
          expect(performances.map((performance) => performance.id)).toEqual(list.map((performance) => performance.id));
          const said = new Set(touched.filter((candidate) => candidate.changes.length > 0).map((item) => item.id));
          performances.forEach((performance, i) => {
            expect(said.has(performance.id)).toBe(JSON.stringify(performance) !== JSON.stringify(list[i]));
            if (scope === 'this' && performance.id !== target.id) expect(performance).toBe(list[i]);
            const before = list[i];
            if (scope === 'later' && before && `${before.date} ${before.start}` < `${target.date} ${target.start}`)
              expect(performance).toBe(before);
          });
        },
      ),
    );
  });

  // Two implementations of RFC 5545 that know nothing of each other must give the same dates.
  test('a rule gives the dates that another implementation gives', () => {
    const days = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
    const by = fc.oneof(
      fc
        .uniqueArray(fc.constantFrom(...days), { minLength: 1, maxLength: 3 })
        .map((list) => `FREQ=WEEKLY;WKST=MO;BYDAY=${list.join(',')}`),
      fc
        .tuple(fc.constantFrom(1, 2, 3, 4, -1), fc.constantFrom(...days))
        .map(([n, day]) => `FREQ=MONTHLY;BYDAY=${n}${day}`),
      fc.constantFrom(1, 15, 28, 31, -1).map((n) => `FREQ=MONTHLY;BYMONTHDAY=${n}`),
      fc.constant('FREQ=DAILY'),
    );
    fc.assert(
      fc.property(
        by,
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 20 }),
        date,
        (rule, interval, count, from) => {
          const text = `${rule};INTERVAL=${interval};COUNT=${count}`;
          const dates = ICAL.Recur.fromString(`${rule};INTERVAL=${interval}`).iterator(ICAL.Time.fromDateString(from));
          const first = dates.next()?.toString() ?? '';
          // Begin on a date that the rule gives, so that both begin alike.
          const other = ICAL.Recur.fromString(text).iterator(ICAL.Time.fromDateString(first));
          const theirs: string[] = [];
          for (let at = other.next(); at && theirs.length < 60; at = other.next()) theirs.push(at.toString());
          const ours = occurrences({
            rule: text,
            first,
            times: ['20:00'],
            except: [],
            extra: [],
            zone: 'Europe/Dublin',
          });
          const tooFar = theirs.some((candidate) => candidate > '2038');
          expect(ours.ok ? ours.value.map((occurrence) => occurrence.date) : ours.error).toEqual(
            tooFar ? { code: 'rule-too-far', year: 2037 } : theirs,
          );
        },
      ),
      { numRuns: 60 },
    );
  });

  test('exceptions and extra dates: each is left out or there once, in order, at every time of day', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 29 }), { maxLength: 6 }),
        fc.uniqueArray(fc.integer({ min: 30, max: 80 }), { maxLength: 5 }),
        fc.uniqueArray(time, { minLength: 1, maxLength: 3 }),
        (gone, added, times) => {
          const [except, extra] = [
            gone.map((n) => addDays('2027-03-01', n)),
            added.map((n) => addDays('2027-03-01', n)),
          ];
          const made = occurrences({
            rule: 'FREQ=DAILY;COUNT=30',
            first: '2027-03-01',
            times,
            except,
            extra,
            zone: 'Europe/Dublin',
          });
          const all = made.ok ? made.value : [];
          expect(all).toHaveLength((30 - gone.length + added.length) * times.length);
          expect(all.map((occurrence) => `${occurrence.date} ${occurrence.time}`)).toEqual(
            all.map((occurrence) => `${occurrence.date} ${occurrence.time}`).sort(),
          );
          expect(
            all.every(
              (occurrence) =>
                occurrence.id === recurrenceId(occurrence.date, occurrence.time) && !except.includes(occurrence.date),
            ),
          ).toBe(true);
          expect(new Set(all.map((occurrence) => occurrence.id)).size).toBe(all.length);
        },
      ),
    );
  });

  test('a date is read as it was written, in whichever way', () => {
    const ways: ((at: string, clock: string) => string)[] = [
      (at, clock) => `${at} ${clock}`,
      (at, clock) => `${longDate(at)}, ${clock}`,
      (at, clock) => `${shortDate(at, true)} ${clock}`,
      (at) => `${Number(at.slice(8))}/${Number(at.slice(5, 7))}/${at.slice(0, 4)}`,
      (at) => `${at.slice(8)}.${at.slice(5, 7)}.${at.slice(0, 4)}`,
    ];
    fc.assert(
      fc.property(date, time, fc.nat({ max: ways.length - 1 }), (at, clock, way) => {
        const line = ways[way]?.(at, clock) ?? '';
        const { dates, problems } = pasteDates(line, '2027-02-02');
        expect([problems, dates.map((date) => date.date)]).toEqual([[], [at]]);
        if (line.includes(clock)) expect(dates[0]?.times).toEqual([clock]);
      }),
    );
  });
});

describe('seats and prices', () => {
  test('the price is one that the public could pay, and no level is sold beyond the house', () => {
    fc.assert(
      fc.property(several(level, 5, 1), fc.integer({ min: 0, max: 400 }), date, (levels, capacity, on) => {
        const tickets = newTickets({ levels });
        const house = houseOf(tickets, capacity, [], new Map(), null);
        for (const level of house.levels)
          expect(level.sellable === null || (level.sellable >= 0 && level.sellable <= capacity)).toBe(true);
        if (house.grossWhenFull !== null) expect(house.netWhenFull).toBe(house.grossWhenFull);
        const now = Date.parse(`${on}T12:00:00Z`);
        const price = priceNow(tickets, {
          start: now + 86_400_000 * 30,
          zone: 'Europe/Dublin',
          zoneNote: '',
          now,
          levels: house.levels,
          fee: null,
          serviceFee: null,
          dates: 1,
          left: house.left,
        });
        if (price.kind !== 'priced') return;
        expect(levels.some((level) => level.price === price.from)).toBe(true);
        if (price.opens !== null) expect(price.opens).toBeGreaterThan(now);
      }),
    );
  });
});

describe('words', () => {
  test('a draft fits, and all of it stands in the longer text', () => {
    const sentence = fc
      .array(fc.constantFrom('harp', 'tape', 'a', 'long', 'evening', 'of', 'quiet'), { minLength: 1, maxLength: 14 })
      .map((list) => `${list.join(' ')}.`);
    fc.assert(
      fc.property(
        fc.array(sentence, { minLength: 1, maxLength: 12 }),
        fc.constantFrom('line' as const, 'teaser' as const, 'short' as const),
        (sentences, length) => {
          const text = sentences.join(' ');
          const made = draftShorter(newWords({ full: `<p>${text}</p>` }), length);
          expect(countGraphemes(made?.text ?? '')).toBeLessThanOrEqual(wordLengths[length]);
          expect(text.startsWith((made?.text ?? '?').replace(/…$/, ''))).toBe(true);
          expect(firstSentences(text, 10_000)).toBe(text);
        },
      ),
    );
  });

  test('graphemes are those of the standard, however long the text and wherever it is divided', () => {
    const whole = (text: string) =>
      Array.from(new Intl.Segmenter('en', { granularity: 'grapheme' }).segment(text), (part) => part.segment);
    const unit = fc.constantFrom(
      'a',
      ' ',
      '1',
      '\n',
      '\r',
      '\r\n',
      'é',
      'e\u0301',
      '\u0301',
      '€',
      '–',
      '©',
      '™',
      '\u200d',
      '\ufe0f',
      '👩',
      '👩‍👩‍👧‍👦',
      '👍🏽',
      '🇮',
      '🇪',
      '\u0600',
      'ש',
      'שָׁ',
      'कि',
      '각',
      'ᄀ',
      'ᅡ',
      '中',
      'か',
      '\u3099',
      '\ud83d',
      '\udc69',
      '\u00ad',
      '\t',
    );
    const stretch = fc
      .tuple(unit, fc.oneof(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 200, max: 700 })))
      .map(([text, times]) => text.repeat(times));
    fc.assert(
      fc.property(
        fc
          .array(fc.oneof({ weight: 6, arbitrary: unit }, { weight: 1, arbitrary: stretch }), { maxLength: 60 })
          .map((parts) => parts.join('')),
        fc.integer({ min: 1, max: 900 }),
        (text, limit) => {
          const expected = whole(text);
          expect([...graphemes(text)]).toEqual(expected);
          expect(countGraphemes(text)).toBe(expected.length);
          expect(countGraphemes(cutToFit(text, limit))).toBeLessThanOrEqual(Math.min(limit, expected.length));
        },
      ),
      { numRuns: 400 },
    );
  });

  test('a cleaned paste holds nothing but the record’s set, and cleaning it again changes nothing', () => {
    const tag = fc.constantFrom(
      'p',
      'div',
      'b',
      'em',
      'h1',
      'ul',
      'li',
      'table',
      'tr',
      'td',
      'a href="https://a.example"',
      'a href="javascript:x"',
      'img src="data:x"',
      'span style="color:red"',
      'script',
      'blockquote',
      'br',
    );
    const piece = fc.oneof(
      tag.map((text) => `<${text}>`),
      tag.map((text) => `</${text.split(' ')[0]}>`),
      words,
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => {
        const pasted = cleanPaste(pieces.join(''));
        if (!pasted.ok) throw new Error(pasted.error);
        const tags = [...pasted.value.html.matchAll(/<\/?([a-z0-9]+)/g)].map((match) => match[1] ?? '');
        expect(
          tags.filter((tag) => !['p', 'strong', 'em', 'a', 'h3', 'ul', 'ol', 'li', 'blockquote', 'br'].includes(tag)),
        ).toEqual([]);
        expect(pasted.value.html).not.toMatch(/javascript:|data:|style=|on\w+=/);
        expect(cleanPaste(pasted.value.html)).toEqual({
          ok: true,
          value: { html: pasted.value.html, dropped: [], broken: [] },
        });
      }),
    );
  });
});
