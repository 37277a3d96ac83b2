import { changedEntry, emptiedEntry, feedText, readEntry, readFeed } from './feed';

/* A feed is written and read back: each entry by its own dates, whatever stands beside it. */

const entry = (wire: object) => changedEntry(null, wire as never, Date.parse('2027-02-02T10:00Z'));
const night = (tag: string, day: string, part: object = {}) => ({
  ...{ tag, dtstart: `2027-03-${day}T19:30:00Z[Europe/Dublin]`, dtend: `2027-03-${day}T22:00:00Z[Europe/Dublin]` },
  ...part,
});
const read = (wire: object) => ({
  ...wire,
  dates: (wire as { dates: { dtstart: string; dtend?: string }[] }).dates.map((date) => ({
    ...date,
    dtstart: date.dtstart.replace(/\[.*$/, ''),
    ...(date.dtend === undefined ? {} : { dtend: date.dtend.replace(/\[.*$/, '') }),
  })),
});

const wires = {
  plain: {
    ...{ summary: 'Odalys Quarry; live, “at last”', description: 'Two\nlines, and a \\ in them', location: 'The Vat' },
    ...{ categories: 'concert', url: 'https://gate.example/oq', status: 'CONFIRMED', dates: [night('p1', '14')] },
  },
  'one of two is cancelled': {
    ...{ summary: 'Two', status: 'CONFIRMED' },
    dates: [night('p1', '14', { standing: 'CANCELLED' }), night('p2', '15')],
  },
  'put off': {
    ...{ summary: 'Three', status: 'CONFIRMED' },
    dates: [night('p1', '14', { standing: 'TENTATIVE' }), night('p2', '15')],
  },
  'all of it is cancelled': {
    ...{ summary: 'Four', status: 'CANCELLED' },
    dates: [night('p1', '14'), night('p2', '15')],
  },
};

test('what is written is read back, of each entry alone', () => {
  const all = Object.entries(wires).map(([id, wire]) => ({ ...entry(wire), id }));
  const text = feedText('House', all);
  for (const [id, wire] of Object.entries(wires)) expect([id, readFeed(text, id)]).toEqual([id, read(wire)]);
  expect(readFeed(text, 'pla')).toEqual({ status: 'ABSENT' });
  expect(text).not.toMatch(/VALARM|METHOD/);
});

test('every change raises the number, and what was taken out keeps nothing but that', () => {
  const first = entry(wires.plain);
  const second = changedEntry(first, { summary: 'Other' }, 5);
  const gone = emptiedEntry(second, 6);
  expect([first.sequence, second.sequence, gone]).toEqual([0, 1, { sequence: 2, at: 6, wire: { status: 'ABSENT' } }]);
  expect([second.wire.summary, second.wire.location]).toEqual(['Other', 'The Vat']);
  expect(changedEntry(gone, { summary: 'Back' }, 7).sequence).toBe(3);
  expect([readEntry(null), readEntry('{'), readEntry('{"sequence":-1}'), readEntry(JSON.stringify(gone))]).toEqual([
    null,
    null,
    null,
    gone,
  ]);
});
