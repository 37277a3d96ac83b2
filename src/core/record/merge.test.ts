import fc from 'fast-check';
import { mergeRows, mergeVersions } from './merge';
import { performance, sample } from '../testing/samples';

describe('two people and one revision', () => {
  const base = sample({ performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15')] });
  const mine = { ...base, title: 'Mine', words: { ...base.words, teaser: 'same' } };
  const theirs = {
    ...base,
    title: 'Theirs',
    subtitle: 'New',
    words: { ...base.words, teaser: 'same' },
    performances: [performance('p1', '2027-03-14', { start: '20:00' })],
  };
  test('every difference is named with who made it', () => {
    expect(
      mergeRows(base, mine, theirs)
        .map((row) => [row.path, row.changedBy])
        .sort(),
    ).toEqual([
      ['performances.p1.start', 'them'],
      ['performances.p2', 'them'],
      ['subtitle', 'them'],
      ['title', 'both'],
    ]);
  });
  test('what only they changed is taken; where both did, the choice decides', () => {
    const merged = mergeVersions(base, mine, theirs, new Set());
    expect([merged.title, merged.subtitle, merged.performances.length, merged.performances[0]?.start]).toEqual([
      'Mine',
      'New',
      1,
      '20:00',
    ]);
    expect(mergeVersions(base, mine, theirs, new Set(['title']))).toEqual(theirs);
  });
  const bill = (names: string) => ({ lineUp: names.split('').map((id) => ({ id: id.toLowerCase(), name: id })) });
  test.each([
    // base, mine, theirs, who changed the order, merged with mine, merged with theirs
    ['abc', 'abc', 'cab', 'them', 'cab', 'cab'],
    ['abc', 'cab', 'abc', 'me', 'cab', 'cab'],
    ['abc', 'abC', 'cab', 'them', 'Cab', 'Cab'],
    ['abc', 'bac', 'cab', 'both', 'bac', 'cab'],
    ['abc', 'bac', 'bac', null, 'bac', 'bac'],
    ['abc', 'ab', 'cba', 'them', 'ba', 'ba'],
    ['abc', 'axbc', 'cab', 'them', 'caxb', 'caxb'],
    ['abc', 'abc', 'cxab', 'them', 'cxab', 'cxab'],
    ['abc', 'abcx', 'abc', null, 'abcx', 'abcx'],
  ])('the order of a list is a row of its own: %s, mine %s, theirs %s', (from, mine, theirs, who, kept, given) => {
    const versions = [bill(from), bill(mine), bill(theirs)] as const;
    const row = mergeRows(...versions).find((merge) => merge.path === 'lineUp.order');
    expect(row?.changedBy ?? null).toBe(who);
    expect(mergeVersions(...versions, new Set())).toEqual(bill(kept));
    expect(mergeVersions(...versions, new Set(['lineUp.order']))).toEqual(bill(given));
  });
});

const anyRecord = fc.record({
  title: fc.string(),
  words: fc.record({ teaser: fc.string(), full: fc.string() }),
  items: fc.uniqueArray(fc.record({ id: fc.constantFrom('a', 'b', 'c'), start: fc.string() }), {
    selector: (item) => item.id,
    maxLength: 3,
  }),
});
const byId = (item: { items: { id: string }[] }) => ({
  ...item,
  items: [...item.items].sort((a, b) => (a.id < b.id ? -1 : 1)),
});

test('merging: equal versions have no rows; taking all of theirs gives theirs; nobody’s lone change is lost', () => {
  fc.assert(
    fc.property(anyRecord, anyRecord, anyRecord, (base, mine, theirs) => {
      expect(mergeRows(base, mine, structuredClone(mine))).toEqual([]);
      expect(byId(mergeVersions(base, base, theirs, new Set()))).toEqual(byId(theirs));
      expect(byId(mergeVersions(base, mine, base, new Set()))).toEqual(byId(mine));
      const rows = mergeRows(base, mine, theirs);
      const kept = mergeVersions(base, mine, theirs, new Set(rows.map((row) => row.path)));
      // Once theirs are all taken, what still differs from theirs is only what I alone changed.
      expect(mergeRows(base, kept, theirs).every((row) => row.changedBy === 'me')).toBe(true);
    }),
    { numRuns: 1500 },
  );
});
