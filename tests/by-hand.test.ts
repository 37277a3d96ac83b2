import { by, keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { performance } from '@/core/testing/samples';
import { connectChannel } from '@/desk/channels/connect-channel';
import { handSheet, handTasks, sayHandDone, sayHandFailed, setHandRules } from '@/desk/dispatch/by-hand';
import { allChannels } from '@/store/channels';
import { errandsWhere } from '@/store/errands';
import { makeRig, type Rig } from './rig';

/*
 * A place that a person fills in: what is sent becomes a task with a sheet in the place's own order; who does it says so,
 * and only then it counts as standing there.
 */

let rig: Rig;
const place = 'by-hand';
beforeAll(async () => {
  rig = await makeRig([]);
  const made = await connectChannel(
    rig.house,
    keeper,
    { kind: place },
    {
      ...{ address: '', credentials: {}, name: 'The Noticeboard', shortName: 'Board' },
    },
  );
  if (!made.ok) throw new Error(JSON.stringify(made.error));
});
afterAll(() => rig.end());

const doer = by('Maren');
const listing = (id: RecordId) => rig.listings(id).find(({ channel }) => channel === place);
const taskOf = (id: RecordId) => handTasks(rig.house, doer).find(({ recordId }) => recordId === id);
const sheetOf = (id: RecordId) => handSheet(rig.house, doer, taskOf(id)?.errand ?? 0);
const sent = async (title: string, part: Parameters<Rig['make']>[0] = {}) => {
  const id = rig.make({ title, ...part });
  expect(rig.send().ok).toBe(true);
  await rig.settle();
  return id;
};
const changed = async (id: RecordId, part: Parameters<Rig['content']>[0]) => {
  const content = rig.record(id) ?? rig.content();
  expect(rig.save(id, rig.revision(id), { ...content, ...part }).kind).toBe('saved');
  rig.send();
  await rig.settle();
};
const done = async (id: RecordId, address = '') => {
  const answer = sayHandDone(rig.house, doer, taskOf(id)?.errand ?? 0, { address });
  await rig.settle();
  return answer;
};

test('what the clock alone changes makes nobody type anew, unless that is wanted', () => {
  expect(allChannels(rig.house.db).find(({ id }) => id === place)?.standingLeave).toBe(false);
});

test('what is sent is a task, in the place’s own order; done with a name and an address it stands there', async () => {
  const id = await sent('On the Board');
  expect([listing(id)?.standing, listing(id)?.publicUrl]).toEqual(['underway', null]);
  const sheet = sheetOf(id);
  expect(sheet?.fields.map(({ label }) => label).slice(0, 3)).toEqual(['Title', 'Starts', 'Place']);
  expect(sheet?.fields[0]).toMatchObject({ limit: 80, lines: [{ text: 'On the Board', before: '' }] });
  expect(sheet).toMatchObject({ does: 'New listing', channelName: 'The Noticeboard', stop: null, changed: false });
  // A week before it begins.
  expect(sheet?.due).toBe(Date.parse('2027-03-07T19:30:00Z'));
  expect(await done(id, 'ftp://nowhere')).toMatchObject({
    ok: false,
    error: { address: expect.any(String) as string },
  });
  expect(taskOf(id)).toBeDefined();
  expect((await done(id, 'https://board.example/7')).ok).toBe(true);
  expect([taskOf(id), listing(id)?.standing, listing(id)?.publicUrl]).toEqual([
    undefined,
    'instep',
    'https://board.example/7',
  ]);
  // It is done once.
  expect(sayHandDone(rig.house, doer, sheet?.errand ?? 0, { address: '' }).ok).toBe(false);
});

test('a change is a task of what is another alone; called off is a task of its own', async () => {
  const id = await sent('Changed');
  await done(id);
  const content = rig.record(id) ?? rig.content();
  await changed(id, { performances: content.performances.map((item) => ({ ...item, start: '20:30' })) });
  const sheet = sheetOf(id);
  expect(sheet?.fields.map(({ label }) => label)).toEqual(['Starts']);
  const [line] = sheet?.fields[0]?.lines ?? [];
  expect([line?.text, line?.before]).toEqual([expect.stringContaining('20:30'), expect.stringContaining('19:30')]);
  await done(id);
  expect(listing(id)?.standing).toBe('instep');
  const later = rig.record(id) ?? rig.content();
  rig.save(id, rig.revision(id), {
    ...later,
    performances: later.performances.map((item) => ({ ...item, turn: 'cancelled' })),
  });
  rig.send();
  await rig.settle();
  expect(sheetOf(id)).toMatchObject({ does: 'Cancel', stop: null });
  await done(id);
  expect(listing(id)?.state.sent?.listed).toEqual({ kind: 'state', is: 'cancelled' });
});

test('made private while the task is open: it is not to be done, and what was done all the same is taken off again', async () => {
  const id = await sent('Private Meanwhile');
  const content = rig.record(id) ?? rig.content();
  rig.save(id, 1, { ...content, publicity: { visibility: 'private', announce: null } });
  expect(sheetOf(id)?.stop).toMatch(/may not be seen/);
  // Whoever had typed it already says so.
  await done(id);
  expect(taskOf(id)).toMatchObject({ does: 'Take down', stop: null });
  await done(id);
  expect([taskOf(id), listing(id)?.state.sent?.listed]).toEqual([undefined, { kind: 'state', is: 'closed' }]);
});

test('what could not be done asks a person, with the word; tried again it is a task again', async () => {
  const id = await sent('Not Taken');
  const task = taskOf(id)?.errand ?? 0;
  expect(sayHandFailed(rig.house, doer, task, ' ')).toMatchObject({ ok: false });
  expect(sayHandFailed(rig.house, doer, task, 'the board is full').ok).toBe(true);
  await rig.settle();
  const [refused] = errandsWhere(rig.house.db, { recordId: id, states: ['refused'] });
  expect([listing(id)?.standing, refused?.lastError?.message]).toEqual([
    'refused',
    'Maren could not do it: the board is full',
  ]);
  rig.again(refused?.id ?? 0);
  await rig.settle();
  expect(taskOf(id)?.does).toBe('New listing');
  expect((await done(id)).ok).toBe(true);
  expect(listing(id)?.standing).toBe('instep');
});

test('what it asks for is set on screen: order, names, limits, days; what is odd is named', async () => {
  const keep = (rules: object) => setHandRules(rig.house, keeper, place, rules);
  const fields = [
    { field: 'start', label: 'When', limit: null },
    { field: 'title', label: 'Headline', limit: 12 },
  ];
  expect(keep({ fields: [...fields, fields[0]], leadDays: 3, where: '' })).toMatchObject({
    ok: false,
    error: { fields: 'A field stands there twice.' },
  });
  expect(keep({ fields: fields.slice(0, 1), leadDays: 3, where: '' })).toMatchObject({
    ok: false,
    error: { fields: 'The title is always needed.' },
  });
  expect(keep({ fields: [{ ...fields[1], limit: 0 }], leadDays: 3, where: '' })).toMatchObject({
    ok: false,
    error: { 'fields.0.limit': 'A limit is 1 or more.' },
  });
  expect(keep({ fields, leadDays: 400, where: '' })).toMatchObject({
    ok: false,
    error: { leadDays: expect.any(String) as string },
  });
  expect(keep({ fields, leadDays: 3, where: 'https://board.example/form' }).ok).toBe(true);
  const id = await sent('A Title Beyond Twelve', { performances: [performance('p1', '2027-03-20')] });
  const sheet = sheetOf(id);
  expect(sheet?.fields.map(({ label, limit }) => [label, limit])).toEqual([
    ['When', null],
    ['Headline', 12],
  ]);
  expect(sheet?.fields[1]?.lines[0]?.text.length).toBeLessThanOrEqual(12);
  expect([sheet?.due, sheet?.where]).toEqual([Date.parse('2027-03-17T19:30:00Z'), 'https://board.example/form']);
  expect(setHandRules(rig.house, keeper, 'nowhere', { fields, leadDays: 3, where: '' }).ok).toBe(false);
});
