import type { RecordId } from '@/core/base/ids';
import type { Doer } from '@/core/people/doer';
import type { RecordContent } from '@/core/record/record';
import { keeper, person } from '@/core/testing/doers';
import { tallowYard } from '@/core/testing/samples';
import { makeVenue } from '@/desk/directory/make-venue';
import { decideErrand } from '@/desk/dispatch/decide-errand';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { recentDispatches } from '@/desk/dispatch/dispatch-view';
import { exportEvents } from '@/desk/files/export-events';
import { pulse } from '@/desk/house/pulse';
import { noteSales } from '@/desk/records/note-sales';
import { recordTitle, recordView } from '@/desk/records/record-view';
import { revisionChanges } from '@/desk/records/revision-changes';
import { saveRecord } from '@/desk/records/save-record';
import { season } from '@/desk/records/season';
import { tourFromRecord } from '@/desk/tours/save-tour';
import { recordAt } from '@/store/records';
import { makeRig } from './rig';

/* People at work on real channels: each with the role that was given, some for a tour or an event alone. */

let rig: Awaited<ReturnType<typeof makeRig>>;
beforeAll(async () => {
  rig = await makeRig(['lectern', 'gatefold']);
});
afterAll(() => rig.end());

const at = (id: RecordId) => {
  const record = recordAt(rig.house.db, id);
  if (!record) throw new Error('no record');
  return record;
};
const save = (doer: Doer, id: RecordId, change: (content: RecordContent) => RecordContent) => {
  const { revision, content } = at(id);
  return saveRecord(rig.house, doer, { id, base: revision, content: change(content), reason: '' });
};
const outlets = (seats: number): RecordContent['tickets']['outlets'] => [
  { id: 'o1', name: 'Desk', channel: null, link: null, allocation: seats, fee: null, trackAs: '' } as never,
];

describe('the box office', () => {
  const office = person('box office');

  test('changes seats of outlets and holds, and nothing else of a record', () => {
    const id = rig.make();
    const tickets = at(id).content.tickets;
    save(keeper, id, (c) => ({ ...c, tickets: { ...c.tickets, outlets: outlets(100) } }));
    expect(save(office, id, (c) => ({ ...c, tickets: { ...c.tickets, outlets: outlets(80) } })).kind).toBe('saved');
    const holds = [{ id: 'h1', name: 'Guests', seats: 12 }];
    expect(save(office, id, (c) => ({ ...c, tickets: { ...c.tickets, holds } })).kind).toBe('saved');
    const before = at(id).revision;
    for (const change of [
      (c: RecordContent) => ({ ...c, title: 'Ours now' }),
      (c: RecordContent) => ({ ...c, tickets: { ...c.tickets, outlets: [] } }),
      (c: RecordContent) => ({ ...c, tickets: { ...c.tickets, levels: [] } }),
      (c: RecordContent) => ({ ...c, tickets: { ...c.tickets, outlets: outlets(70), holds }, subtitle: 'beside' }),
    ])
      expect(() => save(office, id, change)).toThrow(/may not change/);
    expect([at(id).revision, at(id).actor, tickets.levels.length > 0]).toEqual([before, 'the box office', true]);
    expect(() => saveRecord(rig.house, office, { id: null, base: 0, content: rig.content(), reason: '' })).toThrow(
      /writers/,
    );
  });
});

describe('whoever is let in for a tour or an event alone', () => {
  let mine: RecordId;
  let other: RecordId;
  let guest: Doer;
  beforeAll(() => {
    [mine, other] = [rig.make({ title: 'The date of the tour' }), rig.make({ title: 'Nobody’s business' })];
    const tour = tourFromRecord(rig.house, keeper, mine, 'Wet roads');
    guest = person('writer', { only: { tours: [tour.ok ? tour.value : ''], records: [] } });
  });

  test('sees that, and nothing else: not in the season, by no address, in no number', async () => {
    const { house } = rig;
    expect(season(house, guest).rows.map((row) => row.title)).toEqual(['The date of the tour']);
    expect(season(house, keeper).rows.length).toBeGreaterThan(1);
    expect([
      recordView(house, guest, other),
      recordTitle(house, guest, other),
      revisionChanges(house, guest, other, 1),
    ]).toEqual([null, null, null]);
    expect(recordView(house, guest, mine)).toMatchObject({ content: { title: 'The date of the tour' }, clashes: [] });
    expect(recordView(house, keeper, mine)?.clashes.length).toBeGreaterThan(0);
    expect(await pulse(house, guest)).toMatchObject({ toSend: 0, asks: 0, clashes: 0, silent: [] });
    expect((await pulse(house, keeper)).toSend).toBeGreaterThan(0);
    // Of the directory no more than the event uses.
    makeVenue(house, keeper, { ...tallowYard, name: 'The other yard' });
    const told = recordView(house, guest, mine);
    expect([told?.venues.map(({ name }) => name), told?.tours.length]).toEqual([['Tallow Yard'], 1]);
    expect(recordView(house, keeper, mine)?.venues.length).toBeGreaterThan(1);
    // By an event of its own, too.
    const one = person('reader', { only: { tours: [], records: [other] } });
    expect(season(house, one).rows.map((row) => row.id)).toEqual([other]);
  });

  test('corrects it, and leaves how public it is, where it is told and whose it is', () => {
    expect(save(guest, mine, (c) => ({ ...c, subtitle: 'Doors at seven' })).kind).toBe('saved');
    for (const change of [
      (c: RecordContent) => ({ ...c, publicity: { ...c.publicity, visibility: 'private' as const } }),
      (c: RecordContent) => ({ ...c, leftOff: ['lectern'] }),
      (c: RecordContent) => ({ ...c, tourId: null }),
    ])
      expect(() => save(guest, mine, change)).toThrow(/for the house to say/);
    expect(() => save(guest, other, (c) => ({ ...c, subtitle: 'Mine' }))).toThrow(/no such event for you/);
    expect(at(other).actor).toBe('Maren');
  });

  test('counts what he sold, there alone; sends nothing and takes nothing out', () => {
    const { house } = rig;
    save(keeper, mine, (c) => ({ ...c, tickets: { ...c.tickets, outlets: outlets(50) } }));
    const levelId = at(mine).content.tickets.levels[0]?.id ?? '';
    const counted = (recordId: RecordId) =>
      noteSales(house, guest, { recordId, performanceId: 'p1', levelId, outletId: 'o1', sold: 7 });
    expect(counted(mine).ok).toBe(true);
    expect(() => counted(other)).toThrow(/no such event for you/);
    expect(recordView(house, keeper, mine)?.sales[0]).toMatchObject({ sold: 7 });
    expect(() => makeDispatch(house, guest, null)).toThrow(/for some events alone|may not/);
    expect(() => exportEvents(house, guest, [mine], 'csv')).toThrow(/may/);
  });
});

test('what a writer saved stands to send, with the name; what was sent before goes on without it', async () => {
  const { house } = rig;
  const id = rig.make({ title: 'By a writer' });
  const listings = rig.listings(id).map((listing) => listing.id);
  await rig.settle(20);
  save(person('writer', { name: 'Wes' }), id, (c) => ({ ...c, title: 'By Wes' }));
  expect(() => makeDispatch(house, person('writer', { name: 'Wes' }), new Set(listings), { seen: 'all' })).toThrow(
    /senders and keepers may/,
  );
  expect(recordView(house, keeper, id)?.log[0]).toMatchObject({ actor: 'Wes' });
  expect(makeDispatch(house, person('sender', { name: 'Sia' }), new Set(listings), { seen: 'all' }).ok).toBe(true);
  expect(recentDispatches(house, keeper)[0]?.actor).toBe('Sia');
  await rig.settle(20);
  // The history says who sent it, beside who saved it.
  exportEvents(house, person('reader', { name: 'Idris' }), [id], 'csv');
  const deeds = recordView(house, keeper, id)?.deeds.map(({ doer, words }) => `${doer}: ${words}`);
  expect(deeds).toEqual([
    expect.stringMatching(/^Idris: took \S+ out as csv$/),
    expect.stringMatching(/^Sia: sent \d+ errands?$/),
  ]);
  expect(() => decideErrand(house, person('writer'), 1, 'drop')).toThrow(/senders/);
});
