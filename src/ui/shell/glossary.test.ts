import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { glossary, lookUp } from './glossary';

/** All text of the record's form, where the folds have their names. */
const form = readdirSync('src/ui/record', { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.tsx'))
  .map((file) => readFileSync(path.join('src/ui/record', file), 'utf8'))
  .join('\n');
const places = readdirSync('src/app', { encoding: 'utf8' });

test('every word leads to a fold, a section or a screen that is there', () => {
  for (const { word, where } of glossary) {
    if ('href' in where) expect([word, places]).toEqual([word, expect.arrayContaining([where.href.slice(1)])]);
    else {
      expect([word, where.section === 'top' || form.includes(`id="${where.section}"`)]).toEqual([word, true]);
      if (where.fold !== undefined) expect([word, form.includes(where.fold)]).toEqual([word, true]);
    }
  }
  expect(new Set(glossary.map(({ word }) => word)).size).toBe(glossary.length);
});

test.each([
  ['age', 'age guidance'],
  ['CANCEL', 'cancel'],
  ['coup', 'coupon'],
  ['embargo', 'announce moment'],
  ['wheelchair', 'access'],
  ['discount', 'coupon'],
  ['newsletter', 'letter'],
  [' archive ', 'put away'],
  ['stairs', 'access'],
])('%s finds %s first', (typed, word) => expect(lookUp(typed)[0]?.word).toBe(word));

test('nothing typed finds everything, what is none finds nothing', () => {
  expect([lookUp(' ').length, lookUp('zzz').length]).toEqual([glossary.length, 0]);
});
