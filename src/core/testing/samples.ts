import { venueSchema, type Venue } from '../record/directory';
import {
  newEntry,
  newLevel,
  newOutlet,
  newPerformance,
  newPicture,
  newRecord,
  newTickets,
  newWords,
} from '../record/new-record';
import type { Performance, RecordContent } from '../record/record';

/** A venue in Marrowby with two rooms, for tests. */
export const yard: Venue = venueSchema.parse({
  id: 'v1',
  name: 'Tallow Yard',
  address: '9 Wicker Lane',
  town: 'Marrowby',
  country: 'Ireland',
  zone: 'Europe/Dublin',
  point: { lat: 53.35, lon: -6.26 },
  rooms: [
    { id: 'vat', name: 'The Vat', capacity: 420 },
    { id: 'wick', name: 'Wick Room', capacity: 160 },
  ],
});
export const venues = new Map([[yard.id, yard]]);

/**
 * A record of whatever sort a kind takes: online for the room, given out to the box offices that want an allocation.
 */
export function suited(kind: string, content: RecordContent): RecordContent {
  if (kind === 'vestibule') return { ...content, online: { keep: null, join: null } };
  if (kind === 'postbag')
    return { ...content, notices: content.notices.map((notice) => ({ ...notice, segment: 'members' })) };
  if (kind !== 'pennyseat') return content;
  const outlets = [newOutlet('o1', 'Pennyseat', { channel: kind, allocation: 30 })];
  const here = { zone: 'Europe/Dublin', venueId: 'v1', roomId: 'vat' };
  return {
    ...content,
    performances: content.performances.map((performance) => ({ ...performance, ...here })),
    tickets: { ...content.tickets, mode: 'ticketed', outlets },
  };
}

/** The venues, with the codes that some channels know them by. */
export const codedVenues = new Map([[yard.id, { ...yard, channelIds: { pennyseat: 'TYVAT' } }]]);

/** A whole public record with one performance, with parts replaced. */
export function sample(part: Partial<RecordContent> = {}): RecordContent {
  return {
    ...newRecord('2027-03-14', 'Europe/Dublin', () => 'p1'),
    title: 'Odalys Quarry',
    subtitle: 'Harp and tape',
    performances: [performance('p1', '2027-03-14')],
    lineUp: [newEntry('a', 'Odalys Quarry'), newEntry('b', 'Tin Meridian', 'support')],
    tickets: newTickets({ levels: [newLevel('s', 'Standard', 2200)] }),
    words: newWords({
      teaser: 'Concert harp, two tape machines.',
      full: '<p>An evening between <strong>folk song</strong> and slow electronics.</p><ul><li>harp</li><li>tape</li></ul>',
    }),
    pictures: [newPicture({ id: 'ab'.repeat(32), width: 3000, height: 2000 }, { alt: 'A harp', credit: 'us' })],
    publicity: { visibility: 'public', announce: null },
    ...part,
  };
}

/** A performance in the Vat at 19:30, with parts replaced. */
export function performance(id: string, date: string, part: Partial<Performance> = {}): Performance {
  return newPerformance(id, date, 'Europe/Dublin', { end: '22:00', venueId: 'v1', roomId: 'vat', ...part });
}

/** A venue with a room, as it is made. */
export const tallowYard = {
  name: 'Tallow Yard',
  address: '9 Wicker Lane',
  town: 'Marrowby',
  country: 'Ireland',
  zone: 'Europe/Dublin',
  room: 'The Vat',
  capacity: 420,
};
