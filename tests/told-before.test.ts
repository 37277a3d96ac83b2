import { by, keeper } from '@/core/testing/doers';
import { told, variedRecords } from '@/core/testing/varied';
import { fingerprint, stableText } from '@/core/base/hash';
import type { RecordContent } from '@/core/record/record';
import { channelsView, channelNames } from '@/desk/channels/channels-view';
import { directoryView, whereUsed } from '@/desk/directory/directory-view';
import { pictureShelf } from '@/desk/directory/picture-shelf';
import { savePerson } from '@/desk/directory/save-directory';
import { dispatchView, recentDispatches } from '@/desk/dispatch/dispatch-view';
import { toSend, whyNothing } from '@/desk/dispatch/to-send';
import { readBackView } from '@/desk/drift/read-back-view';
import { exportEvents } from '@/desk/files/export-events';
import { health } from '@/desk/house/health';
import { seasonClashes } from '@/desk/records/bookings';
import { copyEvent } from '@/desk/records/copy-event';
import { endingsOf } from '@/desk/records/endings';
import { houseWords } from '@/desk/records/house-words';
import { noteSales } from '@/desk/records/note-sales';
import { recordView } from '@/desk/records/record-view';
import { revisionChanges } from '@/desk/records/revision-changes';
import { season } from '@/desk/records/season';
import { tourFromRecord } from '@/desk/tours/save-tour';
import { tourList, tourView } from '@/desk/tours/tours';
import { errandsWhere } from '@/store/errands';
import type { RecordId } from '@/core/base/ids';
import { World } from './scripted/world';

/*
 * What a house tells at its desk, through a walk of saving, sending, edits by hand and time passing: the same as before.
 * What is meant to be told otherwise is written anew with `jest -u`, and read before it is kept.
 */

let made = 0;
jest.mock('@/store/ids', () => ({ freshId: (kind: string) => `${kind}${String((made += 1)).padStart(4, '0')}` }));

const boards = ['plain', 'marks', 'twostep', 'later', 'giver', 'taker'] as const;
const world = new World(boards);
afterAll(() => world.end());

/** A record of the house: in its own rooms, with acts of its directory. */
function ours(content: RecordContent, act: string): RecordContent {
  return {
    ...content,
    organiserId: null,
    tourId: null,
    notices: [],
    pictures: [],
    documents: [],
    overrides: [],
    after: { ...content.after, pictures: { ...content.after.pictures, ids: [] } },
    lineUp: content.lineUp.map((entry, i) => ({ ...entry, artistId: i === 0 ? act : null })),
    performances: content.performances.map((performance) => ({ ...performance, setUpId: null, zone: 'Europe/Dublin' })),
    leftOff: content.title.length % 3 === 0 ? ['plain'] : [],
  };
}

const ids: RecordId[] = [];
/** Everything that the desk tells now, a line for each view. */
function everything(): string[] {
  const { house } = world;
  const some = ids.slice(0, 6);
  const views: [string, unknown][] = [
    ['season', season(house, keeper)],
    ['to send', toSend(house, keeper)],
    ['why nothing', some.map((id) => whyNothing(house, keeper, [id]))],
    ['one to send', some.map((id) => toSend(house, keeper, [id]))],
    ['dispatches', recentDispatches(house, keeper)],
    ['each dispatch', recentDispatches(house, keeper).map(({ id }) => dispatchView(house, keeper, id))],
    ['read-back', readBackView(house, keeper)],
    ['channels', channelsView(house, keeper)],
    ['names', channelNames(house, keeper)],
    ['directory', directoryView(house, keeper)],
    ['used', directoryView(house, keeper).artists.map(({ id }) => whereUsed(house, keeper, 'artist', id))],
    ['pictures', pictureShelf(house, keeper)],
    ['clashes', seasonClashes(house, keeper)],
    ['tours', [tourList(house, keeper), tourList(house, keeper).map(({ id }) => tourView(house, keeper, id))]],
    ['words', houseWords(house)],
    ['health', health(house)],
    ['records', ids.map((id) => recordView(house, keeper, id))],
    ['endings', some.map((id) => endingsOf(house, id))],
    ['changes', some.map((id) => revisionChanges(house, keeper, id, 1))],
    ['files', (['csv', 'ics', 'json'] as const).map((format) => exportEvents(house, keeper, ids, format))],
    ['errands', errandsWhere(house.db, {})],
  ];
  return views.map(([name, view]) => `${name} ${fingerprint(JSON.parse(plain(view)))}`);
}
/** As data, without what is drawn by chance. */
function plain(view: unknown): string {
  const maps = (_: string, value: unknown) =>
    value instanceof Map ? [...value] : value instanceof Set ? [...value] : value;
  return stableText(JSON.parse(JSON.stringify(view ?? null, maps))).replace(/[\w-]{24}\.ics/g, 'key.ics');
}

test('a walk through a house tells at each step what it told', async () => {
  const act = savePerson(world.house, by('Maren'), 'artist', { name: 'Odalys Quarry', words: 'Plays the harp.' });
  if (!act.ok) throw new Error('no act');
  const contents = variedRecords(60).filter((content) => content.eventType !== 'meeting');
  const steps: [string, string[]][] = [];
  const step = (name: string) => steps.push([name, everything()]);
  for (const content of contents.slice(0, 24)) {
    try {
      ids.push(world.make(ours(content, act.value.id)) as RecordId);
    } catch {
      // What the house refuses is told by other tests.
    }
  }
  expect(ids.length).toBeGreaterThan(12);
  step('made');
  for (const [name, call] of [
    ['plain', 'POST /things'],
    ['marks', 'PATCH /things/:id'],
  ] as const)
    world.board(name).fates.push([call, { status: 422 }], [call, 'lose']);
  for (const id of ids.slice(0, 8)) {
    world.recordId = id;
    world.sendAll();
  }
  await world.settle(60);
  step('sent');
  for (const id of ids.slice(0, 8)) {
    world.recordId = id;
    world.save((content) => ({ ...content, title: `${content.title} again`, subtitle: 'changed' }));
  }
  for (const id of ids) {
    const { performances, tickets } = (world.recordId = id) && world.record.content;
    for (const [n, performance] of performances.entries())
      noteSales(world.house, by('Maren'), {
        recordId: id,
        performanceId: performance.id,
        levelId: tickets.levels[0]?.id ?? '',
        outletId: '',
        sold: n * 3,
      });
  }
  step('changed');
  for (const name of ['plain', 'marks'] as const) {
    const [first, second] = world.board(name).things;
    if (first) world.board(name).edit(first.id, { name: 'By hand' });
    if (second) world.board(name).close(second.id);
  }
  world.board('later').answerLots();
  world.house.db.run('UPDATE listings SET read_at = 0 WHERE remote IS NOT NULL');
  await world.settle(60);
  step('read');
  for (const id of ids.slice(0, 4)) {
    world.recordId = id;
    world.sendAll();
    world.save((content) => ({ ...content, publicity: { ...content.publicity, visibility: 'private' } }));
  }
  await world.settle(60);
  const copied = copyEvent(world.house, by('Maren'), ids[0] as RecordId);
  if (copied.ok) ids.push(copied.value);
  tourFromRecord(world.house, by('Maren'), ids[1] as RecordId, 'Wet roads');
  step('private');
  world.pass(40 * 86_400_000);
  await world.settle(40);
  step('later');
  expect(told(steps, ([name, lines]) => [name, ...lines]).length).toBe(6);
  expect(steps.map(([name, lines]) => [name, ...lines].join('\n  '))).toMatchSnapshot();
});
