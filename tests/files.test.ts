import { by, keeper } from '@/core/testing/doers';
import { unsavedRecord, type RecordId } from '@/core/base/ids';
import { exportEvents, exportFormats } from '@/desk/files/export-events';
import { importEvents } from '@/desk/files/import-events';
import { season } from '@/desk/records/season';
import { inView, matches } from '@/ui/season-list/narrow';
import { newEntry, newLevel, newTickets, newWords } from '@/core/record/new-record';
import { performance } from '@/core/testing/samples';
import { allVenues } from '@/store/venues';
import { recordAt } from '@/store/records';
import { makeRig, type Rig } from './rig';

let rig: Rig;
let other: Rig;
let ids: RecordId[];
beforeAll(async () => {
  [rig, other] = await Promise.all([makeRig(), makeRig()]);
  ids = [
    rig.make(),
    rig.make({
      title: 'The Long Run',
      lineUp: [newEntry('a', 'Pocket Observatory'), newEntry('b', 'A; B', 'support')],
      performances: [
        performance('p1', '2027-03-16', { doors: null, start: '11:00', end: '11:50' }),
        performance('p2', '2027-03-16', { doors: null, start: '13:30', end: '14:20', note: 'relaxed' }),
        performance('p3', '2027-03-17', { turn: 'cancelled' }),
      ],
      tickets: newTickets({
        levels: [
          newLevel('s', 'Standard', 800),
          newLevel('c', 'Child', 500, { buyers: 'concession' }),
          newLevel('f', 'Family', 2200, { admits: 4 }),
        ],
      }),
      words: newWords({ teaser: 'On {{ date }}', full: '<p>Two <strong>hands</strong>, one lamp.</p>' }),
    }),
    rig.make({ title: 'Past it', performances: [performance('p1', '2027-01-14')] }),
  ];
});
afterAll(() => Promise.all([rig.end(), other.end()]));

const file = (format: (typeof exportFormats)[number], which = ids) => exportEvents(rig.house, keeper, which, format);
const read = (into: Rig, format: (typeof exportFormats)[number], which = ids) => {
  const { name, text } = file(format, which);
  const report = importEvents(into.house, by('Maren'), name, text, 'Europe/Dublin');
  if (!report.ok) throw new Error(report.error);
  return report.value;
};

test('a file says what it is, and is named after what is in it', () => {
  expect(exportFormats.map((format) => [file(format).name, file(format).type.split(';')[0]])).toEqual([
    ['season-2-february-2027.csv', 'text/csv'],
    ['season-2-february-2027.ics', 'text/calendar'],
    ['season-2-february-2027.json', 'application/json'],
  ]);
  expect(file('json', ids.slice(1, 2)).name).toBe('the-long-run-2-february-2027.json');
  expect(file('csv', [unsavedRecord]).text.trim().split('\r\n')).toHaveLength(1);
});

test.each(['json', 'csv'] as const)(
  'read again in the house it was written in, a %s file makes nothing twice',
  (format) => {
    const { made, known, broken } = read(rig, format);
    expect([made, new Set(known.map((readRow) => readRow.id)), broken]).toEqual([[], new Set(ids), []]);
  },
);

test('in another house a JSON file makes the same events, in the venue of that name', () => {
  const { made, broken } = read(other, 'json');
  expect([made.map((readRow) => readRow.title), broken]).toEqual([['Odalys Quarry', 'The Long Run', 'Past it'], []]);
  const ours = recordAt(rig.house.db, ids[1] ?? unsavedRecord)?.content;
  const theirs = recordAt(other.house.db, made[1]?.id ?? unsavedRecord)?.content;
  const yard = [...allVenues(other.house.db).values()].find((venue) => venue.name === 'Tallow Yard');
  expect(
    theirs?.performances.map(({ venueId, roomId, ...performance }) => [
      venueId === yard?.id,
      yard?.rooms.some((room) => room.id === roomId),
      performance,
    ]),
  ).toEqual(ours?.performances.map(({ venueId: _v, roomId: _r, ...performance }) => [true, true, performance]));
  expect([theirs?.tickets, theirs?.words, theirs?.lineUp.map((act) => act.name)]).toEqual([
    ours?.tickets,
    ours?.words,
    ['Pocket Observatory', 'A; B'],
  ]);
  expect(read(other, 'json').made).toEqual([]);
});

test('a calendar file becomes events again, each performance its own; what is cancelled is left out and said', () => {
  const { made, broken } = read(other, 'ics', ids.slice(1, 2));
  expect([
    made.map((readRow) =>
      recordAt(other.house.db, readRow.id)?.content.performances.map((p) => [p.date, p.start, p.end]),
    ),
    broken.map((row) => row.field),
  ]).toEqual([[[['2027-03-16', '11:00', '11:50']], [['2027-03-16', '13:30', '14:20']]], ['STATUS']]);
  // The house keeps one name in the ids of its events.
  const uids = (text: string) => text.match(/^UID:.*$/gm);
  expect(uids(file('ics').text)).toEqual(uids(file('ics').text));
});

test('what the list shows is what is written: by view, by words, in its order', () => {
  const rows = season(rig.house, keeper).rows;
  const shown = (view: Parameters<typeof inView>[1], find: string) =>
    rows.filter((row) => inView(row, view) && matches(row, find)).map((row) => row.title);
  expect([
    shown('upcoming', ''),
    shown('past', ''),
    shown('upcoming', 'vat LONG'),
    shown('upcoming', 'long wick'),
    shown('asking', ''),
  ]).toEqual([['Odalys Quarry', 'The Long Run'], ['Past it'], ['The Long Run'], [], []]);
});

test('what a saved page shows is here already where two of title, day and place agree; else it is made, once', () => {
  const event = (name: string, day: string, place: string) => ({
    ...{ '@type': 'MusicEvent', name, startDate: `${day}T19:30:00+00:00`, location: { name: place } },
  });
  const take = (...events: object[]) => {
    const html = `<!doctype html><script type="application/ld+json">${JSON.stringify(events)}</script>`;
    const report = importEvents(rig.house, by('Maren'), 'season.html', html, 'Europe/Dublin');
    if (!report.ok) throw new Error(report.error);
    const { made, known } = report.value;
    return { made: made.map(({ title }) => title), known: known.map(({ id }) => id) };
  };
  // By hand on the 14th, at no place; the same title on another day and at a place is another event.
  const [here] = [rig.make({ title: 'Read Off A Page' })];
  expect(take(event('READ  off a page', '2027-03-14', 'The Salt Vat'))).toEqual({ made: [], known: [here] });
  const twice = [
    event('Read Off A Page', '2027-09-14', 'The Salt Vat'),
    event('Unheard Of', '2027-09-15', 'The Salt Vat'),
  ];
  expect(take(...twice)).toEqual({ made: ['Read Off A Page', 'Unheard Of'], known: [] });
  expect(take(...twice).made).toEqual([]);
  // Changed here since, and read again as it was taken.
  const [, made] = take(...twice).known;
  const content = made === undefined ? undefined : rig.record(made);
  if (!made || !content) throw new Error('it is not here');
  rig.save(made, 1, { ...content, title: 'Heard Of' });
  expect(take(...twice).made).toEqual([]);
});
