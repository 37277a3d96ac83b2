import { eq } from 'drizzle-orm';
import { by, keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { newNotice } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { postToHolders, sayHolders, untoldHolders } from '@/desk/dispatch/holders';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { toSend } from '@/desk/dispatch/to-send';
import { savePerson } from '@/desk/directory/save-directory';
import { makeVenue } from '@/desk/directory/make-venue';
import { readNow } from '@/desk/drift/read-now';
import type { PickedWay } from '@/house/write-errands';
import { errandsWhere } from '@/store/errands';
import { listingById } from '@/store/listings';
import { untold as untoldRows } from '@/store/untold-schema';
import { tallowYard } from '@/core/testing/samples';
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
  expect(rig.save(id, 1, { ...content, title, ...change(content) }).kind).toBe('saved');
  return id;
};
const later = ({ performances }: RecordContent, start = '20:30') => ({
  performances: performances.map((item) => ({ ...item, start })),
});
const cancelled = (content: RecordContent) => ({
  performances: content.performances.map((item) => ({ ...item, turn: 'cancelled' as const })),
});
const decide = (id: RecordId, way: Partial<PickedWay>, also: readonly string[] = []) =>
  makeDispatch(rig.house, by('Maren'), new Set(also), {
    seen: 'all',
    ways: { [listing(id, 'gatefold').id]: { way: 'leave', reason: '', code: '', ...way } },
  });
/** How it ended for those who bought by the marketplace; `undefined`: nothing was ever noted. */
const decisionOf = (id: RecordId) =>
  rig.house.db
    .select()
    .from(untoldRows)
    .where(eq(untoldRows.listingId, listing(id, 'gatefold').id))
    .get()?.decision;
const untold = () =>
  untoldHolders(rig.house, keeper).holders.map(({ title, sold, what, by: who }) => [title, sold > 0, what, who]);
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

test('the channel’s own step tells them, once it is done; refused, nothing was changed that they would have to know', async () => {
  const id = await changed('By its own step', later);
  await rig.weather('gatefold', { answerCalls: { 'POST /listings/:id/reschedule': { status: 422 } } });
  expect(decide(id, { way: 'reschedule', reason: 'The band is late' }).ok).toBe(true);
  await rig.settle();
  expect([untold(), decisionOf(id)]).toEqual([[], undefined]);
  // Left as it is there after all, and then by its step: that tells what was open, too.
  expect(decide(id, left).ok).toBe(true);
  expect(untold()).toHaveLength(1);
  const content = rig.record(id) ?? rig.content();
  expect(rig.save(id, rig.revision(id), { ...content, ...later(content, '21:00') }).kind).toBe('saved');
  expect(decide(id, { way: 'reschedule', reason: 'The band is late' }).ok).toBe(true);
  expect(untold()).toHaveLength(1);
  await rig.settle();
  expect([untold(), decisionOf(id)]).toEqual([[], 'step']);
});

/** Another venue, with its room. */
function elsewhere(name: string) {
  const other = makeVenue(rig.house, by('Maren'), { ...tallowYard, name });
  if (!other.ok) throw new Error(JSON.stringify(other));
  return { venueId: other.value.venue.id, roomId: other.value.roomId };
}

test('where the post of the same dispatch went first, they know when the change is done', async () => {
  const place = elsewhere('Mill Hall');
  const id = await changed('Post first', ({ performances }) => ({
    performances: performances.map((item) => ({ ...item, ...place })),
    notices: [newNotice('n1', 'murmurline', { words: 'It is in Mill Hall', holders: true })],
  }));
  await rig.weather('gatefold', { slowCalls: { 'PATCH /listings/:id': 3_000 } });
  rig.send([listing(id, 'gatefold').id, listing(id, 'murmurline').id]);
  await rig.settle();
  expect([untold(), decisionOf(id), listing(id, 'gatefold').standing]).toEqual([[], undefined, 'instep']);
});

test('another place goes by a plain change, which tells nobody: it says so once it stands there', async () => {
  const place = elsewhere('Quay Hall');
  const id = await changed('Moved', ({ performances }) => ({
    performances: performances.map((item) => ({ ...item, ...place })),
  }));
  rig.send([listing(id, 'gatefold').id]);
  expect([untold(), decisionOf(id)]).toEqual([[], undefined]);
  await rig.settle();
  expect(untold()).toEqual([['Moved', true, ['the place'], 'Maren']]);
  expect(sayHolders(rig.house, keeper, listing(id, 'gatefold').id, 'told').ok).toBe(true);
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
    notices: [newNotice('n1', 'murmurline', { words: 'It starts later', holders: true })],
  }));
  const post = rig.listings(along).find(({ channel }) => channel === 'murmurline');
  expect(decide(along, left, [post?.id ?? '']).ok).toBe(true);
  // Under way it may be refused: nobody is asked meanwhile, and nothing is decided.
  expect([untold(), decisionOf(along)]).toEqual([[], null]);
  await rig.settle();
  expect([untold(), decisionOf(along)]).toEqual([[], 'post']);

  const id = await changed('Told later', later);
  expect(decide(id, left).ok).toBe(true);
  expect(untold()).toHaveLength(1);
  const draft = (account: string, wording: string | null = null) =>
    postToHolders(rig.house, keeper, listing(id, 'gatefold').id, { account, wording });
  expect([draft('lectern').ok, draft('nowhere').ok, draft('murmurline', 'gone').ok]).toEqual([false, false, false]);
  expect(draft('murmurline')).toEqual({ ok: true, value: id });
  const drafted = rig.record(id)?.notices.map(({ words, holders, channel }) => [words, holders, channel]);
  expect(drafted).toEqual([
    ['{{ title }}, {{ date }}. It starts at {{ start }}. Tickets stay valid.', true, 'murmurline'],
  ]);
  // Drafted is not sent.
  expect(untold()).toHaveLength(1);
  await rig.settle();
  const [notice] = toSend(rig.house, keeper, [id])[0]?.errands.filter(({ channel }) => channel === 'murmurline') ?? [];
  expect(makeDispatch(rig.house, by('Maren'), new Set([notice?.listing ?? '']), { seen: 'all' }).ok).toBe(true);
  expect(untold()).toHaveLength(1);
  await rig.settle();
  expect([untold(), decisionOf(id)]).toEqual([[], 'post']);
});

test('a post that goes along and is refused has told nobody: it says so, until it goes after all', async () => {
  const id = await changed('Post refused', (content) => ({
    ...later(content),
    notices: [newNotice('n1', 'murmurline', { words: 'It starts later', holders: true })],
  }));
  await rig.weather('murmurline', { answerCalls: { 'POST /notes': { status: 422 } } });
  expect(decide(id, left, [listing(id, 'murmurline').id]).ok).toBe(true);
  expect(untold()).toEqual([]);
  await rig.settle();
  expect(untold()).toEqual([['Post refused', true, ['the start'], 'Maren']]);
  const [refused] = errandsWhere(rig.house.db, { recordId: id, states: ['refused'] });
  rig.again(refused?.id ?? 0);
  expect(untold()).toEqual([]);
  await rig.settle();
  expect([untold(), decisionOf(id)]).toEqual([[], 'post']);
});

test('a post about something else tells those who bought nothing; a wording of the house can, and on a chosen account', async () => {
  const id = await changed('Another post', (content) => ({
    ...later(content),
    notices: [newNotice('n1', 'murmurline', { words: 'Two days to go' })],
  }));
  expect(decide(id, left, [listing(id, 'murmurline').id]).ok).toBe(true);
  // Nobody waits for what would tell them nothing.
  expect(untold()).toHaveLength(1);
  await rig.settle();
  expect(untold()).toEqual([['Another post', true, ['the start'], 'Maren']]);
  const words = { id: 'w1', name: 'For those who bought', text: 'Dear guests: {{ start }}, not earlier.' };
  expect(savePerson(rig.house, keeper, 'wording', words)).toMatchObject({ ok: true });
  const { accounts, wordings } = untoldHolders(rig.house, keeper);
  expect(accounts).toEqual([{ id: 'murmurline', name: expect.any(String), letter: false }]);
  const draft = { account: 'murmurline', wording: wordings[0]?.id ?? '' };
  expect(postToHolders(rig.house, keeper, listing(id, 'gatefold').id, draft).ok).toBe(true);
  expect(rig.record(id)?.notices.at(-1)).toMatchObject({ words: words.text, holders: true });
  expect(sayHolders(rig.house, keeper, listing(id, 'gatefold').id, 'nobody').ok).toBe(true);
});
