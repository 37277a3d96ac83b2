import { standings, type Standing } from '@/core/listing/standing';
import { foldColumns } from './fold-columns';

const row = (...list: (Standing | null)[]) => ({ standings: list });
const many = (n: number, at: Record<number, Standing | null>) =>
  row(...Array.from({ length: n }, (_, i) => (i in at ? (at[i] ?? null) : 'instep')));

test('up to sixteen channels each have a column', () => {
  expect(foldColumns(16, [many(16, {})])).toEqual({ shown: Array.from({ length: 16 }, (_, i) => i), folded: [] });
});

test('beyond that, a channel keeps its column as long as anything on it asks for a look', () => {
  const { shown, folded } = foldColumns(17, [many(17, { 3: 'late', 4: null }), many(17, { 3: 'instep', 9: 'due' })]);
  expect([shown, folded.length, folded.includes(4)]).toEqual([[3, 9], 15, true]);
  expect(foldColumns(17, [])).toMatchObject({ shown: [], folded: expect.arrayContaining([16]) });
});

test.each(standings.map((standing) => [standing] as const))('%s', (standing) => {
  const calm = standing === 'instep' || standing === 'withdrawn';
  expect(foldColumns(17, [many(17, { 5: standing })]).shown).toEqual(calm ? [] : [5]);
});
