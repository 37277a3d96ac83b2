import type { RecordContent, Venue } from '../record';

/** A venue in Marrowby with two rooms, for tests. */
export const yard: Venue = {
  id: 'v1', name: 'Tallow Yard', address: '9 Wicker Lane', town: 'Marrowby', country: 'Ireland', zone: 'Europe/Dublin',
  rooms: [{ id: 'vat', name: 'The Vat', capacity: 420 }, { id: 'wick', name: 'Wick Room', capacity: 160 }],
};
export const venues = new Map([[yard.id, yard]]);

/** A whole public record with one performance, with parts replaced. */
export function sample(part: Partial<RecordContent> = {}): RecordContent {
  return {
    title: 'Odalys Quarry',
    subtitle: 'Harp and tape',
    kind: 'concert',
    stage: 'confirmed',
    performances: [performance('p1', '2027-03-14')],
    lineUp: [{ id: 'a', name: 'Odalys Quarry', role: 'headliner' }, { id: 'b', name: 'Tin Meridian', role: 'support' }],
    tickets: { mode: 'ticketed', currency: 'EUR', link: null, levels: [{ id: 's', name: 'Standard', price: 2200, concession: false, quantity: null }] },
    words: { teaser: 'Concert harp, two tape machines.', full: '<p>An evening between <strong>folk song</strong> and slow electronics.</p><ul><li>harp</li><li>tape</li></ul>' },
    pictures: [{ pictureId: 'ab'.repeat(32), width: 3000, height: 2000, alt: 'A harp', credit: 'us', focal: { x: 0.5, y: 0.5 } }],
    publicity: { visibility: 'public', announce: null },
    leftOff: [],
    ...part,
  };
}

/** A performance in the Vat at 19:30, with parts replaced. */
export function performance(id: string, date: string, part: Partial<RecordContent['performances'][number]> = {}): RecordContent['performances'][number] {
  return { id, date, doors: '19:00', start: '19:30', end: '22:00', endsNextDay: false, repeat: null, zone: 'Europe/Dublin', venueId: 'v1', roomId: 'vat', ...part };
}
