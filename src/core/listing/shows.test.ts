import { nextVisit, seenBy, takenBy, type Shows } from './shows';

/* The scenario's morning is Tue 2 Feb 2027, 10:20 in Dublin, which is UTC then. */

const hourMs = 3_600_000;
const at = (text: string) => Date.parse(text);
const told = (text: string) => takenBy(at(text));
const batch: Shows = { when: 'next batch', everyMs: hourMs };
const visit: Shows = {
  when: 'next visit',
  hours: [0, 6, 12, 18],
  zone: 'Europe/Dublin',
  looksAt: ['start', 'place'],
  looksMs: 22 * hourMs,
  looksWithinMs: 24 * hourMs,
};
const after: Shows = { when: 'after', fromMs: 20 * hourMs, toMs: 40 * hourMs };
const iso = (by: { earliest: number; asRule: number; atLatest: number }) =>
  [by.earliest, by.asRule, by.atLatest].map((moment) => new Date(moment).toISOString().slice(0, 16));

test.each<[string, Shows, string, string[], string[]]>([
  ['at once', { when: 'at once' }, '2027-02-02T10:20Z', ['start'], ['02-02T10:20', '02-02T10:21', '02-02T10:35']],
  ['the hourly batch', batch, '2027-02-02T10:20Z', ['start'], ['02-02T11:00', '02-02T11:00', '02-02T12:00']],
  ['a batch that may just be missed', batch, '2027-02-02T10:55Z', [], ['02-02T11:00', '02-02T11:00', '02-02T13:00']],
  ['laid in on the hour: the next one', batch, '2027-02-02T11:00Z', [], ['02-02T12:00', '02-02T12:00', '02-02T13:00']],
  ['a visit, of words', visit, '2027-02-02T10:20Z', ['title'], ['02-02T12:00', '02-02T12:00', '02-02T12:00']],
  ['a visit, and a person looks', visit, '2027-02-02T10:20Z', ['start'], ['02-02T12:00', '02-03T10:00', '02-03T12:00']],
  [
    'a visit in summer is by its own clock',
    visit,
    '2027-07-02T10:20Z',
    [],
    ['07-02T11:00', '07-02T11:00', '07-02T11:00'],
  ],
  ['what mirrors', after, '2027-02-02T10:20Z', ['start'], ['02-03T06:20', '02-04T02:21', '02-04T02:30']],
])('%s', (_, shows, from, fields, expected) => {
  const delayMs = 5 * 60_000;
  expect(iso(seenBy({ shows, delayMs }, told(from), fields))).toEqual(expected.map((moment) => `2027-${moment}`));
});

test('what goes behind a step takes longer; what was measured slower is foretold so, and never quicker than it goes', () => {
  const shows: Shows = { when: 'at once' };
  const from = at('2027-02-02T10:20Z');
  expect(takenBy(from, 1).asRule - takenBy(from).asRule).toBe(60_000);
  const usual = (ms: number) => seenBy({ shows, delayMs: 0 }, takenBy(from), [], ms).asRule - from;
  expect([usual(0), usual(240_000)]).toEqual([60_000, 240_000]);
});

test('a visit on the days when the clocks change is by the hours of that day', () => {
  const hours = [0, 6, 12, 18];
  const next = (text: string) => new Date(nextVisit(at(text), hours, 'Europe/Dublin')).toISOString();
  expect(next('2027-03-28T00:00Z')).toBe('2027-03-28T05:00:00.000Z');
  expect(next('2027-10-31T00:30Z')).toBe('2027-10-31T06:00:00.000Z');
  // A moment of a visit is followed by the one after it.
  expect(next('2027-02-02T18:00Z')).toBe('2027-02-03T00:00:00.000Z');
});
