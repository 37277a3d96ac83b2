import { facts as makeFacts, turnWords, type Facts } from '../facts/facts';
import { newEntry, newLevel, newTickets, newWords } from '../record/new-record';
import type { RecordContent } from '../record/record';
import { performance, sample, venues } from '../testing/samples';
import { countAs, fitWords } from './fit';
import { writeNotice } from './notice';
import { tokenValues } from './tokens';

const link = 'https://tickets.example/e/a-very-long-address-that-nobody-would-ever-type/12345';

function factsOf(part: Partial<RecordContent> = {}, known = true): Facts {
  const content = sample({
    lineUp: [newEntry('a', 'Odalys Quarry'), newEntry('b', 'Tin Meridian', 'support')],
    words: newWords({ teaser: 'Concert harp, two tape machines and a room that remembers.' }),
    hashtags: ['harp'],
    ...part,
  });
  return {
    ...makeFacts(content, { code: 'X', venues, now: Date.parse('2027-02-02T10:20Z') }),
    link: known ? { kind: 'known', href: link } : { kind: 'none' },
  };
}

const notice = (limit: number, facts = factsOf()) => writeNotice(facts, { limit, linkLength: 18, unit: 'graphemes' });
const textOf = (limit: number, facts = factsOf()) => {
  const fitted = notice(limit, facts);
  return fitted.ok ? fitted.text : `needs ${fitted.needs}`;
};

describe('a short notice', () => {
  test('with room enough says everything, the support act before the date', () => {
    expect(textOf(340)).toBe(
      `Odalys Quarry with Tin Meridian. Sunday 14 March, 19:30, The Vat, Tallow Yard, Marrowby. €22. Concert harp, two tape machines and a room that remembers. ${link} #harp`,
    );
  });

  test('with less room drops what a stranger needs least, and says so', () => {
    const fitted = notice(110);
    expect(fitted).toMatchObject({
      ok: true,
      dropped: expect.arrayContaining([expect.objectContaining({ id: 'line' })]),
    });
    expect(fitWords(fitted)).toMatch(/^dropped: teaser \(\d+ would not fit\)/);
    expect(textOf(110)).toContain('Odalys Quarry');
  });

  test.each([340, 160, 110, 90, 75, 60, 50])(
    'of %i characters it keeps the title, a date and the link, and counts as the channel does',
    (limit) => {
      const fitted = notice(limit);
      if (!fitted.ok) return expect(fitted.needs).toBeGreaterThan(limit);
      expect(fitted.length).toBeLessThanOrEqual(limit);
      expect(countAs(fitted.text, 18, 'graphemes')).toBe(fitted.length);
      expect(fitted.text).toMatch(/^Odalys Quarry/);
      expect(fitted.text).toMatch(/14 Mar/);
      expect(fitted.text).toContain(link);
    },
  );

  test('where not even the needed parts fit, it says how many they take', () => {
    expect(notice(30)).toMatchObject({ ok: false, limit: 30 });
    expect(fitWords(notice(30))).toMatch(/^even its needed parts take \d+ of 30$/);
  });

  test.each<[string, Partial<RecordContent>, string]>([
    [
      'a shorter title, where it is tight',
      { title: 'Letters that were never posted and some that should not have been', shortTitle: 'Letters' },
      'Letters. Sun 14 Mar, 19:30',
    ],
    [
      'a month',
      { performances: [performance('p', '2027-03-14', { precision: 'month', start: null })] },
      'March 2027, date to follow',
    ],
    ['free entry', { tickets: newTickets({ mode: 'free entry' }) }, 'free'],
    [
      'a range of prices',
      {
        tickets: newTickets({ levels: [newLevel('a', 'a', 2200), newLevel('b', 'b', 1600, { buyers: 'concession' })] }),
      },
      '€16–€22',
    ],
  ])('%s', (_, part, words) => expect(textOf(part.shortTitle ? 48 : 340, factsOf(part))).toContain(words));

  test.each<[string, Partial<RecordContent>, string]>([
    [
      'a title that ends by itself',
      { title: 'Who is there?', lineUp: [], words: newWords({}), hashtags: [] },
      'Who is there? Sunday 14 March, 19:30, The Vat, Tallow Yard, Marrowby. €22.',
    ],
    ['a teaser that does not', { words: newWords({ teaser: 'A harp' }), hashtags: [] }, 'Marrowby. €22. A harp.'],
    ['hashtags behind the last sentence', { words: newWords({}) }, 'Marrowby. €22. #harp'],
    ['three dots', { words: newWords({ teaser: 'And then...' }), hashtags: [] }, '€22. And then...'],
  ])('ends its sentences: %s', (_, part, words) =>
    expect(textOf(340, factsOf(part, false)).endsWith(words)).toBe(true),
  );

  test('at exactly its length it is whole, with the stop at the end', () => {
    const facts = factsOf({ words: newWords({}), hashtags: [] }, false);
    const whole = textOf(340, facts);
    expect(whole).toMatch(/€22\.$/);
    expect(textOf(whole.length, facts)).toBe(whole);
    expect(textOf(whole.length - 1, facts)).toBe(whole.slice(0, -1));
  });

  test('without a link none is missing', () => expect(textOf(340, factsOf({}, false))).not.toContain('http'));
});

describe('what is put off without another date', () => {
  const performances = [performance('p', '2027-03-14', { turn: 'postponed', doors: '19:00', end: '22:00' })];
  const facts = factsOf({ performances, words: newWords({}), hashtags: [] }, false);
  test('says no day and no hour in a notice', () =>
    expect(textOf(340, facts)).toBe(
      'Odalys Quarry with Tin Meridian. Date to follow, The Vat, Tallow Yard, Marrowby. €22.',
    ));
  test('nor in tokens', () => {
    const { date, day, weekday, doors, start, end } = tokenValues(facts, facts.performances[0]);
    expect([date, day, weekday, doors, start, end]).toEqual([
      'Date to follow',
      'Date to follow',
      '',
      '',
      'time to follow',
      '',
    ]);
  });
  test('and is told so', () => {
    expect(turnWords(facts.performances)).toBe('Postponed, new date to follow');
    const two = factsOf({ performances: [...performances, performance('q', '2027-03-15')] });
    expect(turnWords(two.performances)).toBe('Postponed: Sunday 14 March');
    const both = factsOf({ performances: [...performances, performance('q', '2027-03-15', { turn: 'postponed' })] });
    expect(turnWords(both.performances)).toBe('Postponed, new date to follow');
  });
});

test.each([
  ['See https://a.example/1 now', null, 27],
  ['See https://a.example/1 now', 18, 26],
  ['https://a.example https://b.example', 5, 11],
  ['no link', 18, 7],
  ['', null, 0],
] as const)('%s counts, with links as %s: %i', (text, linkLength, length) =>
  expect(countAs(text, linkLength, 'graphemes')).toBe(length),
);
