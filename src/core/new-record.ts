import type { RecordContent } from './record';

/** A record to start from: private, one performance on `date`, everything else open. */
export function newRecord(date: string, zone: string, ids: () => string): RecordContent {
  return {
    title: 'Untitled event',
    subtitle: '',
    kind: 'concert',
    stage: 'confirmed',
    performances: [
      { id: ids(), date, doors: '19:00', start: '19:30', end: null, endsNextDay: false, repeat: null, zone, venueId: null, roomId: null },
    ],
    lineUp: [],
    tickets: { mode: 'ticketed', currency: 'EUR', levels: [], link: null },
    words: { teaser: '', full: '' },
    pictures: [],
    publicity: { visibility: 'private', announce: null },
    leftOff: [],
  };
}
