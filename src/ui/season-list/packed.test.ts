import fc from 'fast-check';
import { standings } from '@/core/listing/standing';
import { packRows, unpackRows } from './packed';

test('lines come back as they were packed, whatever is written in them', () => {
  const text = fc.string({ unit: 'binary', maxLength: 20 });
  const row = fc.record({
    id: text,
    code: text,
    date: text,
    time: text,
    past: fc.boolean(),
    title: text,
    under: text,
    room: text,
    town: text,
    stage: text,
    price: text,
    left: text,
    cue: text,
    also: text,
    standings: fc.array(fc.constantFrom(null, ...standings), { maxLength: 20 }),
  });
  fc.assert(fc.property(fc.array(row, { maxLength: 5 }), (rows) => expect(unpackRows(packRows(rows))).toEqual(rows)));
});
