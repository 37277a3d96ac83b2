import { facts } from '../facts/facts';
import { newEntry } from '../record/new-record';
import { sample, venues } from '../testing/samples';
import { holdsOf } from './part-of-house';

const said = facts(
  sample({
    eventType: 'talk',
    categories: ['concert'],
    tourId: 't1',
    lineUp: [newEntry('a', 'Odalys Quarry', 'headline')],
  }),
  { code: 'OQ-0001', venues, now: Date.parse('2027-02-02T10:00Z') },
);

test.each<[string, boolean]>([
  ['house', true],
  ['venue:v1', true],
  ['venue:v2', false],
  ['room:v1|vat', true],
  ['room:v1|wick', false],
  ['act:odalys quarry', true],
  ['act:Quill', false],
  ['tour:t1', true],
  ['tour:t2', false],
  ['type:talk', true],
  ['type:concert', true],
  ['type:film', false],
  // What is no part of a house holds nothing.
  ['', false],
  ['act:', false],
  ['venue', false],
  ['town:Marrowby', false],
])('%s holds it: %s', (part, holds) => {
  expect(holdsOf(part)(said)).toBe(holds);
});
