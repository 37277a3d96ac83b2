import { by, keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { newNotice } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { postToHolders, sayHolders, untoldHolders } from '@/desk/dispatch/holders';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { toSend } from '@/desk/dispatch/to-send';
import { readNow } from '@/desk/drift/read-now';
import type { PickedWay } from '@/house/write-errands';
import { listingById } from '@/store/listings';
import { makeRig, type Rig } from './rig';

/*
 * Whoever bought is told by the channel's own step, by a post or letter that goes along, or by nobody: and then it says
 * so until somebody decides.
 */

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(['lectern', 'gatefold', 'murmurline']);
});
afterAll(() => rig.end());

const listing = (id: RecordId, channel: string) => {
  const found = rig.listings(id).find((item) => item.channel === channel);
  if (!found) throw new Error('no listing');
  return found;
};
/** An event with tickets sold at the marketplace, put otherwise. */
const changed = async (title: string, change: (content: RecordContent) => Partial<RecordContent>) => {
  const id = rig.make({ title });
  rig.send();
  await rig.settle();
  const gatefold = listing(id, 'gatefold');
  const remote = listingById(rig.house.db, gatefold.id)?.remote?.id ?? '';
  await rig.owner('gatefold', gatefold, remote, { act: 'sell' });
  readNow(rig.house, keeper, id);
  await rig.settle();
  const content = rig.record(id) ?? rig.content();
  expect(rig.save(id, 1, rig.content({ ...content, title, ...change(content) })).kind).toBe('saved');
  return id;
};
const later = ({ performances }: RecordContent) => ({
  performances: performances.map((item) => ({ ...item, start: '20:30' })),
});
const cancelled = (content: RecordContent) => ({
  performances: content.performances.map((item) => ({ ...item, turn: 'cancelled' as const })),
});
const decide = (id: RecordId, way: Partial<PickedWay>, also: readonly string[] = []) =>
  makeDispatch(rig.house, by('Maren'), new Set(also), {
    seen: 'all',
    ways: { [listing(id, 'gatefold').id]: { way: 'leave', reason: '', code: '', ...way } },
  });
const untold = () =>
  untoldHolders(rig.house, keeper).map(({ title, sold, what, by: who }) => [title, sold > 0, what, who]);
const left = { way: 'leave', reason: 'They are told at the door', until: '2027-03-20' };

test('what stays as it is there, those who bought were not told: it says so until somebody decides', async () => {
  const id = await changed('Left there', later);
  expect(untold()).toEqual([]);
  expect(decide(id, left).ok).toBe(true);
  expect(untold()).toEqual([['Left there', true, ['the start'], 'Maren']]);
  const gatefold = listing(id, 'gatefold').id;
  expect(sayHolders(rig.house, keeper, gatefold, 'told')).toMatchObject({ ok: true });
  expect([untold(), sayHolders(rig.house, keeper, gatefold, 'nobody').ok]).toEqual([[], false]);
});

test('the channel’s own step tells them', async () => {
  const id = await changed('By its own step', later);
  expect(decide(id, { way: 'reschedule', reason: 'The band is late' }).ok).toBe(true);
  expect(untold()).toEqual([]);
});

test('cancelled and left as it is there, they have to know that', async () => {
  const id = await changed('Cancelled', cancelled);
  expect(decide(id, left).ok).toBe(true);
  expect(untold()).toEqual([['Cancelled', true, ['that it is cancelled'], 'Maren']]);
  expect(sayHolders(rig.house, keeper, listing(id, 'gatefold').id, 'nobody').ok).toBe(true);
  expect(untold()).toEqual([]);
});

test('a post that goes along, or later, tells them; it is drafted in words that follow the record', async () => {
  const along = await changed('Told along', (content) => ({
    ...later(content),
    notices: [newNotice('n1', 'murmurline', { words: 'It starts later' })],
  }));
  const post = rig.listings(along).find(({ channel }) => channel === 'murmurline');
  expect(decide(along, left, [post?.id ?? '']).ok).toBe(true);
  expect(untold()).toEqual([]);

  const id = await changed('Told later', later);
  expect(decide(id, left).ok).toBe(true);
  expect(untold()).toHaveLength(1);
  expect(postToHolders(rig.house, keeper, listing(id, 'gatefold').id)).toEqual({ ok: true, value: id });
  const drafted = rig.record(id)?.notices.map(({ words }) => words);
  expect(drafted).toEqual(['{{ title }}, {{ date }}. It starts at {{ start }}. Tickets stay valid.']);
  // Drafted is not sent.
  expect(untold()).toHaveLength(1);
  await rig.settle();
  const [notice] = toSend(rig.house, keeper, [id])[0]?.errands.filter(({ channel }) => channel === 'murmurline') ?? [];
  expect(makeDispatch(rig.house, by('Maren'), new Set([notice?.listing ?? '']), { seen: 'all' }).ok).toBe(true);
  expect(untold()).toEqual([]);
});
