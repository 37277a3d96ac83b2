import { plainRow } from '@/channels/channels';
import { surveyOf } from '@/channels/testing/fixture';
import { performance, sample } from '@/core/testing/samples';
import { writeListing } from '@/core/listing/listing-codec';
import type { RecordContent } from '@/core/record/record';
import type { Wire } from '@/core/listing/channel-rules';
import { heldAgainst } from '../kit/page/held-against';
import { readPage } from '../kit/page/read-page';
import { blockOf } from './block';

/*
 * A block is held against the reader of pages: pasted whole, it says what was sent, to people and to programs; an older
 * one is seen.
 */

const wireOf = (part: Partial<RecordContent> = {}): Wire => {
  const { listings } = surveyOf({ content: sample(part), channels: [plainRow('site-snippet')] });
  const [listing] = listings;
  if (!listing) throw new Error('no listing');
  return writeListing(listing.rules, listing.wanted);
};
const evening = (part: object = {}) => performance('p1', '2027-03-14', part);
const page = (...blocks: Wire[]) =>
  readPage(`<html><body><h1>Partner</h1>${blocks.map(blockOf).join('<hr>')}</body></html>`, 'https://partner.example/');
const dataOf = (wire: Wire) =>
  JSON.parse(/<script[^>]*>([\s\S]*)<\/script>/.exec(blockOf(wire))?.[1] ?? '') as Record<string, unknown>;

const cases: [string, Partial<RecordContent>, Record<string, unknown>][] = [
  ['as planned', {}, { '@type': 'Event', eventStatus: 'https://schema.org/EventScheduled' }],
  ['put off', { performances: [evening({ turn: 'postponed' })] }, { eventStatus: 'https://schema.org/EventPostponed' }],
  [
    'moved to another day',
    {
      performances: [
        evening({ turn: 'rescheduled', was: { date: '2027-03-02', start: '19:00', venueId: null, roomId: null } }),
      ],
    },
    { eventStatus: 'https://schema.org/EventRescheduled', previousStartDate: '2027-03-02T19:00:00+00:00' },
  ],
  ['in summer time', { performances: [performance('p1', '2027-06-14')] }, { startDate: '2027-06-14T19:30:00+01:00' }],
];

test.each(cases)('%s: said to programs, and read back as it was sent', (_, part, said) => {
  const wire = wireOf(part);
  expect(dataOf(wire)).toMatchObject(said);
  const held = heldAgainst(page(wire), { wire, before: null });
  expect([held.speaks, held.unsure, held.wire]).toEqual([true, [], wire]);
});

test('called off: all that stood there stays, and says so', () => {
  const before = wireOf();
  const wire = { ...before, shown: 'cancelled' };
  expect(dataOf(wire)).toMatchObject({ eventStatus: 'https://schema.org/EventCancelled', name: before.title });
  expect(dataOf(wire).offers).toBeUndefined();
  expect(heldAgainst(page(wire), { wire, before }).wire).toEqual(wire);
  expect(heldAgainst(page(before), { wire, before }).wire.shown).toBe('yes');
});

test('several dates are an event each; one that is called off among them is seen, and so is the block of before', () => {
  const dates = [14, 15, 16].map((day) => performance(`p${day}`, `2027-03-${day}`));
  const before = wireOf({ performances: dates });
  const off = wireOf({
    performances: dates.map((date, i) => (i === 1 ? { ...date, turn: 'cancelled' as const } : date)),
  });
  expect(dataOf(off)).toHaveLength(3);
  expect(heldAgainst(page(off), { wire: off, before }).wire).toEqual(off);
  const standing = ({ dates }: Wire) => (dates as Wire[]).map((date) => date.standing ?? '');
  expect(standing(heldAgainst(page(before), { wire: off, before }).wire)).toEqual(['', '', '']);
  expect(standing(heldAgainst(page(off), { wire: before, before: null }).wire)).toEqual(['', 'cancelled', '']);
  // Beside other events it is still its own.
  const other = wireOf({ title: 'Somebody Else', performances: [performance('x', '2027-03-14', { start: '22:00' })] });
  expect(heldAgainst(page(other, off), { wire: off, before }).wire).toEqual(off);
  const later = wireOf({ performances: dates.map((date) => ({ ...date, start: '20:45' })) });
  expect(heldAgainst(page(before), { wire: later, before }).wire.dates).toMatchObject(before.dates as Wire[]);
});

test('nothing that a record says ends the block, its script or its marks', () => {
  const title = '</script><script>alert(1)</script> & "quotes" <b>';
  const wire = wireOf({ title });
  const block = blockOf(wire);
  expect([block.match(/<script/g)?.length, block.match(/<\/script>/g)?.length, block.includes('<b>')]).toEqual([
    1,
    1,
    false,
  ]);
  expect(dataOf(wire).name).toBe(title);
  expect(() => blockOf({ dates: 'tomorrow' })).toThrow(/dates/);
});
