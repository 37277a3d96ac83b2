import { sectionOf } from '@/core/findings/section-of';
import { recordSchema } from '@/core/record/record';
import { channelOf, plainRow } from './channels';
import { kinds } from './kinds-rules';

/*
 * Whatever is noticed, of a field of a channel or of the record, leads to the section of the form in which it is put
 * right.
 */

test('every field that a kind has leads to a section of the record', () => {
  const fields = new Set(kinds.flatMap((kind) => channelOf(plainRow(kind.id)).rules.rows.map((row) => row.field)));
  expect([...fields].filter((field) => sectionOf([field]) === null)).toEqual([]);
});

test('every part of the record leads to one, but for what it was copied from and words by hand', () => {
  const parts = Object.keys(recordSchema.shape);
  expect(parts.filter((part) => sectionOf([part]) === null)).toEqual(['rule', 'overrides', 'copiedFrom']);
});

test.each([
  [['performances', '0', 'venueId'], 'dates'],
  [['tickets', 'levels', '1', 'price'], 'tickets'],
  [['start@p1'], 'dates'],
  [['link'], 'tickets'],
  [['links', '0', 'label'], 'publicity'],
  [['line-up'], 'line-up'],
  [['line'], 'words'],
  [['carried'], 'top'],
  [['nowhere'], null],
] as const)('%j: %s', (path, section) => expect(sectionOf([...path])).toBe(section));
