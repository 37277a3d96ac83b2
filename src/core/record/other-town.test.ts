import { performance, sample, yard } from '../testing/samples';
import { newLevel, newOutlet, newTickets } from './new-record';
import { settleCarried } from './copy-record';
import { marksOfMove, movedTowns } from './other-town';
import type { RecordContent } from './record';

const venues = new Map(
  [
    yard,
    { ...yard, id: 'v2', name: 'The Barn', town: ' marrowby' },
    { ...yard, id: 'v3', name: 'Voss Hall', town: 'Ghent', country: 'Belgium' },
    { ...yard, id: 'v4', name: 'Hythe', town: 'Marrowby', country: 'Canada' },
  ].map((venue) => [venue.id, venue]),
);
const base = sample({
  organiserId: 'o1',
  performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15', { venueId: null, roomId: null })],
  tickets: newTickets({
    link: 'https://sold.example/1',
    levels: [newLevel('s', 'Standard', 2200)],
    outlets: [newOutlet('b', 'Box office', { allocation: 40 })],
  }),
});
const at = (content: RecordContent, ...places: (string | null)[]) =>
  content.performances.map((date, i) => ({ ...date, venueId: places[i] ?? null }));
const asked = (saved: RecordContent, ...places: (string | null)[]) =>
  marksOfMove(saved, saved, at(saved, ...places), venues);
const all = ['town.ticket-links', 'town.promoter', 'town.prices', 'town.currency', 'town.allocations'];

test.each<[string, (string | null)[], string[]]>([
  ['it stays', ['v1', null], []],
  ['another venue of the town', ['v2', null], []],
  ['another town', ['v3', null], all],
  ['a town of the same name elsewhere', ['v4', null], all],
  ['no venue any more', [null, null], []],
  ['the first venue of a date is no move', ['v1', 'v3'], []],
  ['a venue that nobody knows', ['v9', null], []],
])('%s: what of the old town is asked about', (_, places, facts) => expect(asked(base, ...places)).toEqual(facts));

test('only what there is is asked about', () => {
  const bare = { ...base, organiserId: null, tickets: newTickets({ mode: 'free entry' }) };
  expect(asked(bare, 'v3', null)).toEqual([]);
  expect(asked({ ...base, organiserId: null }, 'v3', null)).toEqual(all.filter((fact) => fact !== 'town.promoter'));
});

test('what was answered stays answered; moved on it is asked again, moved back not any more; a copy’s marks stay', () => {
  const saved = { ...base, carried: ['teaser'] };
  const there = { ...saved, performances: at(saved, 'v3', null), carried: ['teaser', 'town.prices'] };
  const later = there.performances.map((date) => ({ ...date, note: 'late' }));
  expect(marksOfMove(saved, there, later, venues)).toEqual(['teaser', 'town.prices']);
  expect(marksOfMove(saved, there, at(saved, 'v4', null), venues)).toEqual(['teaser', ...all]);
  expect(marksOfMove(saved, there, at(saved, 'v1', null), venues)).toEqual(['teaser']);
  // Saved with a question open, and typed on: it stays open.
  const open = { ...base, carried: ['town.prices'] };
  expect(asked(open, 'v1', null)).toEqual(['town.prices']);
  expect(movedTowns(base.performances, at(base, 'v3', null), venues)).toEqual([['p1', 'Marrowby', 'Ghent']]);
});

test('what is put right in the same breath has lost its mark when it is saved', () => {
  const moved = { ...base, performances: at(base, 'v3', null), carried: asked(base, 'v3', null) as string[] };
  const right = { ...moved, tickets: { ...moved.tickets, link: 'https://sold.example/2', currency: 'USD' as const } };
  expect(settleCarried(base, right).carried).toEqual(['town.promoter', 'town.prices', 'town.allocations']);
});
