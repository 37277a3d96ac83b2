import { by, keeper, person } from '@/core/testing/doers';
import { performance } from '@/core/testing/samples';
import type { RecordId } from '@/core/base/ids';
import type { ManyEdit } from '@/core/errands/many-edit';
import type { Doer } from '@/core/people/doer';
import { newLevel, newNotice, newOutlet, newTickets } from '@/core/record/new-record';
import { putAway } from '@/desk/records/endings';
import { manyUndoable, manyView, saveMany, undoMany, type ManyPicks } from '@/desk/records/many';
import { readNow } from '@/desk/drift/read-now';
import { errandsWhere } from '@/store/errands';
import { listingById } from '@/store/listings';
import { recordAt } from '@/store/records';
import type { ManyView } from '@/views/many';
import { makeRig, type Rig } from './rig';

/*
 * One edit of many events: what it does is seen as a sum, saved and sent as one, and undone as one.
 */

let rig: Rig;
let ids: RecordId[];
const maren = by('Maren');
beforeAll(async () => {
  rig = await makeRig(['lectern', 'gatefold', 'hearthside', 'murmurline']);
  ids = [14, 15, 16, 17].map((day) =>
    rig.make({
      title: `Night ${day}`,
      performances: [performance('p1', `2027-03-${day}`, { doors: '19:00', start: '19:30', end: '22:00' })],
      tickets: newTickets({
        levels: [newLevel('s', 'Standard', 2200)],
        outlets: [newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 60 })],
      }),
      // One of them says something to followers, which cannot be unsaid.
      ...(day === 17 ? { notices: [newNotice('n1', 'murmurline', { words: '{{ title }}, {{ start }}' })] } : {}),
    }),
  );
  rig.send();
  await rig.settle();
});
afterAll(() => rig.end());

const lookedAt = async (edit: ManyEdit, which = ids, doer: Doer = maren): Promise<ManyView> => {
  let last: unknown;
  for await (const line of manyView(rig.house, doer, { ids: which, edit })) last = line;
  const answer = last as { kind: string; view: ManyView; messages: string[] };
  if (answer.kind !== 'view') throw new Error(answer.messages.join(' '));
  return answer.view;
};
const noPicks: ManyPicks = { out: [], asked: [], corrected: [], ways: {}, seen: true };
const save = (edit: ManyEdit, { seal }: ManyView, picks: Partial<ManyPicks> | null = null, which = ids) =>
  saveMany(rig.house, maren, { ids: which, edit, seal }, picks && { ...noPicks, ...picks });
const starts = () => ids.map((id) => rig.record(id)?.performances[0]?.start);
const revisions = () => ids.map((id) => recordAt(rig.house.db, id)?.revision);
const start = (to: string): ManyEdit => ({ what: 'start', to });

test('what it does is a sum by channel, with what changes of each; looking writes nothing', async () => {
  const before = revisions();
  const view = await lookedAt(start('+30'));
  expect(view.events.map(({ state, facts }) => [state, facts.map(({ label, after }) => `${label} ${after}`)])).toEqual(
    ids.map(() => ['changes', ['doors 19:30', 'start 20:00', 'end 22:30']]),
  );
  expect(view.sum.atOnce.map(({ channel, count }) => [channel, count])).toEqual(
    expect.arrayContaining([
      ['lectern', 4],
      ['gatefold', 4],
    ]),
  );
  expect(view.sum.said).toEqual([{ channel: 'murmurline', mending: 'edit', count: 1 }]);
  expect(revisions()).toEqual(before);
});

test('saved as one, and undone as one: each is as it was, in a revision of its own', async () => {
  const [was, edit] = [starts(), start('20:15')];
  const saved = save(edit, await lookedAt(edit));
  if (saved.kind !== 'done') throw new Error(JSON.stringify(saved));
  expect([starts(), revisions()]).toEqual([ids.map(() => '20:15'), ids.map(() => 2)]);
  expect(manyUndoable(rig.house, maren)).toMatchObject({ id: saved.id, events: 4, why: null, words: 'start 20:15' });
  // It is the doer's own, and nobody else's.
  expect(manyUndoable(rig.house, { ...maren, id: 'p-other' })).toBeNull();
  expect(undoMany(rig.house, maren, saved.id)).toEqual({ kind: 'done', events: 4 });
  expect([starts(), revisions()]).toEqual([was, ids.map(() => 3)]);
  expect(manyUndoable(rig.house, maren)).toBeNull();
  expect(undoMany(rig.house, maren, saved.id)).toMatchObject({ kind: 'stopped' });
});

test('what was changed by somebody since stands in the way, and then nothing is undone', async () => {
  const edit = start('20:20');
  const saved = save(edit, await lookedAt(edit));
  if (saved.kind !== 'done') throw new Error(JSON.stringify(saved));
  const [first] = ids;
  const content = first && rig.record(first);
  if (!first || !content) throw new Error('no record');
  rig.save(first, 4, { ...content, subtitle: 'Late' }, 'Idris');
  const code = recordAt(rig.house.db, first)?.code ?? '';
  expect(undoMany(rig.house, maren, saved.id)).toEqual({
    kind: 'stopped',
    messages: [expect.stringContaining(`${code} changed since`), 'Nothing was undone.'],
  });
  expect(starts()).toEqual(ids.map(() => '20:20'));
});

test('it is sent as one, each channel with all of them, but for what was taken out; then it cannot be undone', async () => {
  const edit = start('20:40');
  const saved = save(edit, await lookedAt(edit), { out: ['hearthside'] });
  if (saved.kind !== 'done' || saved.dispatchId === null) throw new Error(JSON.stringify(saved));
  const { dispatchId } = saved;
  await rig.settle();
  const sent = errandsWhere(rig.house.db, {}).filter((errand) => errand.dispatchId === dispatchId);
  expect([...new Set(sent.map(({ state }) => state))]).toEqual(['done']);
  expect([...new Set(sent.map(({ channel }) => channel))].toSorted()).toEqual(['gatefold', 'lectern', 'murmurline']);
  // The one post that was out already is edited where it stands.
  expect(sent).toHaveLength(9);
  expect(rig.listings(ids[0] as RecordId).find(({ channel }) => channel === 'hearthside')?.standing).toBe('due');
  expect(undoMany(rig.house, maren, saved.id)).toMatchObject({
    kind: 'stopped',
    messages: [expect.stringContaining('went out already'), 'Nothing was undone.'],
  });
});

test('what stops one of them saves none; what it is not for is passed over', async () => {
  const before = revisions();
  const late = await lookedAt(start('+300'));
  expect(late.events.map(({ state }) => state)).toEqual(ids.map(() => 'stopped'));
  expect(save(start('+300'), late)).toMatchObject({
    kind: 'stopped',
    messages: expect.arrayContaining([expect.stringContaining('another day')]),
  });
  const gone = rig.make({ title: 'Gone' });
  putAway(rig.house, keeper, gone);
  const which = [...ids, gone];
  const mixed = await lookedAt(start('19:45'), which);
  expect(mixed.events.at(-1)).toMatchObject({ state: 'stopped', why: 'It was put away.' });
  expect(save(start('19:45'), mixed, null, which)).toMatchObject({ kind: 'stopped' });
  const nowhere = await lookedAt({ what: 'post', channel: 'nowhere', text: 'Tonight' });
  expect(nowhere.events.map(({ why }) => why)).toEqual(ids.map(() => 'There is no such channel any more.'));
  const same = await lookedAt(start('20:40'));
  expect(same.events.map(({ state }) => state)).toEqual(ids.map(() => 'same'));
  expect(save(start('20:40'), same)).toMatchObject({ kind: 'stopped', messages: ['They all say so already.'] });
  expect(revisions()).toEqual(before);
});

test('what changed since it was looked at is looked at again', async () => {
  const edit: ManyEdit = { what: 'subtitle', to: 'Late shows' };
  const view = await lookedAt(edit);
  const [, second] = ids;
  const content = second && rig.record(second);
  if (!second || !content) throw new Error('no record');
  rig.save(second, recordAt(rig.house.db, second)?.revision ?? 0, { ...content, tags: ['late'] }, 'Idris');
  const before = revisions();
  expect(save(edit, view)).toEqual({ kind: 'other' });
  expect(revisions()).toEqual(before);
});

test('a seal is of one edit; what nobody remembers having looked at is reckoned anew', async () => {
  const edit: ManyEdit = { what: 'note', to: 'Doors by the yard' };
  const view = await lookedAt(edit);
  const before = revisions();
  expect(save({ what: 'note', to: 'Doors by the quay' }, view)).toEqual({ kind: 'other' });
  expect(save(edit, view, null, ids.slice(1))).toEqual({ kind: 'other' });
  expect(save(edit, { ...view, seal: 'x' })).toEqual({ kind: 'other' });
  expect(revisions()).toEqual(before);
  // As it is in another process.
  (globalThis as { nuntiaxLookedAt?: Map<string, unknown> }).nuntiaxLookedAt?.clear();
  expect(save(edit, view)).toMatchObject({ kind: 'done', events: ids.length });
});

test('what is locked is decided by one word for all of it, and what cannot be taken back by typing how many', async () => {
  for (const id of ids.slice(0, 2)) {
    const there = rig.listings(id).find(({ channel }) => channel === 'gatefold');
    if (!there) throw new Error('no listing');
    await rig.owner('gatefold', there, listingById(rig.house.db, there.id)?.remote?.id ?? '', { act: 'sell' });
    readNow(rig.house, keeper, id);
  }
  await rig.settle();
  const edit: ManyEdit = { what: 'cancel', place: null, why: '', tickets: 'returned', until: null, by: '', post: null };
  const view = await lookedAt(edit);
  const before = revisions();
  const locked = view.sum.locked.filter(({ channel }) => channel === 'gatefold');
  expect(locked.reduce((sum, { sold }) => sum + sold, 0)).toBe(2);
  expect(view.sum.holders.reduce((sum, { sold }) => sum + sold, 0)).toBe(2);
  expect(save(edit, view, {})).toMatchObject({
    kind: 'stopped',
    messages: [expect.stringContaining('Pick a way'), expect.any(String)],
  });
  const ways = (code: string) =>
    Object.fromEntries(
      view.sum.locked.map(({ key, listings }) => [
        key,
        { way: 'cancel', reason: 'The house is flooded', code: code || String(listings.length) },
      ]),
    );
  expect(save(edit, view, { ways: ways('99') })).toMatchObject({
    kind: 'stopped',
    messages: [expect.stringContaining('type'), expect.any(String)],
  });
  expect(revisions()).toEqual(before);
  const saved = save(edit, view, { ways: ways('') });
  if (saved.kind !== 'done') throw new Error(JSON.stringify(saved));
  await rig.settle();
  for (const id of ids) expect(rig.listings(id).find(({ channel }) => channel === 'gatefold')?.standing).toBe('instep');
});

test('whoever may not write or send is told so', async () => {
  const view = await lookedAt({ what: 'subtitle', to: 'x' });
  await expect(lookedAt({ what: 'subtitle', to: 'x' }, ids, person('reader'))).rejects.toThrow(/may/);
  const wish = { ids, edit: { what: 'subtitle' as const, to: 'x' }, seal: view.seal };
  expect(() => saveMany(rig.house, person('reader'), wish, null)).toThrow(/may/);
  expect(() => saveMany(rig.house, person('writer'), wish, noPicks)).toThrow(/may/);
});
