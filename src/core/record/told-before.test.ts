import { manyVenues, told, variedRecords } from '../testing/varied';
import { stableText } from '../base/hash';
import { checkRecord } from './check-record';
import { carriedGroup, copyRecord, replacedFacts, settleCarried } from './copy-record';
import { lenientContent, priceText, readDraft, toDraft } from './draft';
import { distanceKm, travelHours } from './geo';
import { mergeRows, mergeVersions } from './merge';
import { marksOfMove, movedTowns } from './other-town';
import { lineUpWords, usualRole } from './roles';
import { slugOf } from './slug';
import { applyTour, ownFacts, sharedOf, tourRoute } from './tour';
import { takeOffPlanned } from './turn-of';

const records = variedRecords(90);
const pairs = records.slice(1).map((after, i) => [records[i] ?? after, after] as const);

/** A value that the schema may refuse, put at a place of the content that goes by a number. */
function spoilt(content: unknown, n: number): unknown {
  const copy = JSON.parse(JSON.stringify(content)) as Record<string, unknown>;
  const places: [Record<string, unknown>, string][] = [];
  const walk = (value: unknown) => {
    if (value === null || typeof value !== 'object') return;
    for (const [key, inner] of Object.entries(value)) {
      places.push([value as Record<string, unknown>, key]);
      walk(inner);
    }
  };
  walk(copy);
  const bad = [
    '',
    'x'.repeat(5000),
    -1,
    0,
    1e9,
    null,
    '2027-02-30',
    '25:00',
    'Mars/Base',
    'javascript:x',
    true,
    [],
    {},
    '\u0000',
  ];
  for (let i = 0; i < 3; i += 1) {
    const [owner, key] = places[(n * 31 + i * 17) % places.length] ?? [copy, 'title'];
    owner[key] = bad[(n + i * 5) % bad.length];
  }
  return copy;
}

test('what is said of good and of spoilt records is what was said', () => {
  expect(
    told(records, (content, n) => [
      checkRecord(content, manyVenues),
      [0, 1, 2, 3].map((i) => checkRecord(spoilt(content, n * 4 + i), manyVenues)),
    ]),
  ).toMatchSnapshot();
});

test('drafts, copies, merges and tours of records are what they were', () => {
  let count = 0;
  const ids = () => `i${(count += 1)}`;
  expect(
    told(pairs, ([before, after], n) => {
      const draft = toDraft(after);
      const mixed = { ...before, title: after.title, tickets: after.tickets };
      const rows = mergeRows(before as never, mixed as never, after as never);
      const take = new Set(rows.filter((_, i) => i % 2 === 0).map((row) => row.path));
      const copy = copyRecord(before, 'TY-9', ids);
      const shared = [sharedOf(before), sharedOf(after)] as const;
      return [
        stableText(readDraft(draft, manyVenues)) === stableText(checkRecord(after, manyVenues)),
        lenientContent({ ...draft, title: '', performances: toDraft(before).performances }, before, manyVenues),
        rows,
        mergeVersions(before, mixed, after, take),
        copy,
        copy.carried.map((key) => carriedGroup(key, copy.tickets.levels)),
        replacedFacts(copy, { ...copy, lineUp: after.lineUp, words: after.words, tickets: after.tickets }),
        settleCarried(copy, { ...copy, pictures: after.pictures }),
        ownFacts(after, shared[0]),
        applyTour(after, shared[0], shared[1]),
        applyTour(before, shared[0], shared[1]),
        takeOffPlanned(before, { ...before, performances: after.performances }, (id) => id === 'n0'),
        movedTowns(before.performances, after.performances, manyVenues),
        marksOfMove(before, { performances: before.performances, carried: [] }, after.performances, manyVenues),
        slugOf(after),
        lineUpWords(after.lineUp),
        ['concert', 'talk', 'film', 'workshop'].map((kind) => usualRole(kind, after.lineUp)),
        [0, 99, 1850, 200_000].map((minor) => priceText(minor + n, after.tickets.currency)),
      ];
    }),
  ).toMatchSnapshot();
});

test('ways between towns are what they were', () => {
  const points = Array.from({ length: 24 }, (_, i) => ({ lat: ((i * 37) % 130) - 60, lon: ((i * 71) % 360) - 180 }));
  const stops = points.map((point, i) => ({
    from: Date.parse('2027-03-01T19:00Z') + i * 50_000_000,
    until: Date.parse('2027-03-01T22:00Z') + i * 50_000_000,
    date: `2027-03-${String((i % 27) + 1).padStart(2, '0')}`,
    point: i % 5 === 4 ? null : point,
  }));
  expect(
    told(points, (point, i) => {
      const to = points[(i * 7 + 3) % points.length] ?? point;
      return [distanceKm(point, to), travelHours(distanceKm(point, to)), tourRoute(stops.slice(0, i))];
    }),
  ).toMatchSnapshot();
});
