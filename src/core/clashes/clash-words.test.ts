import { clashWords } from './clash-words';
import type { Clash } from './clashes';

const side = { record: 'r', code: 'EV-1', title: 'One', performance: 'p', at: 0, zone: 'UTC' };
const overlap = (minutes: number): Clash => ({
  code: 'room-overlap',
  weight: 'stops',
  a: side,
  b: side,
  room: 'The Vat',
  minutes,
});

test.each([
  [1, '1 minutes'],
  [119, '119 minutes'],
  [120, '2 hours'],
  [150, '2.5 hours'],
  [602, '10 hours'],
  [1442, '24 hours'],
  [97, '97 minutes'],
])('an overlap of %d minutes is told as %s', (minutes, words) => {
  expect(clashWords(overlap(minutes))).toBe(
    `Both are in The Vat for ${words}. Move one of them, or give it another room.`,
  );
});

test.each<[string | null, string]>([
  [null, 'neither says in which room'],
  ['The Vat', 'one of them says no room; the other is in The Vat'],
])('two in one venue, of which one is in %s', (room, words) => {
  const clash: Clash = { code: 'venue-overlap', weight: 'warns', a: side, b: side, venue: 'Yard', room, minutes: 30 };
  expect(clashWords(clash)).toContain(words);
});
