import { by, keeper } from '@/core/testing/doers';
import { dispatchView } from '@/desk/dispatch/dispatch-view';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import type { PickedWay } from '@/house/write-errands';
import { toSend } from '@/desk/dispatch/to-send';
import { readNow } from '@/desk/drift/read-now';
import type { RecordId } from '@/core/base/ids';
import { newLevel, newNotice, newOutlet, newTickets } from '@/core/record/new-record';
import { countStale } from '@/runner/tally';
import { listingById } from '@/store/listings';
import { pulseRow } from '@/store/pulse';
import { makeRig, type Rig } from './rig';

/*
 * No lock is left in silence. An event with tickets sold is cancelled: until somebody says what is to become of the
 * sale, nothing of it goes out anywhere; and whoever lets it stand says why, until when, and with a name.
 */

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig();
});
afterAll(() => rig.end());

const gatefoldOf = (id: RecordId) => {
  const found = rig.listings(id).find((listing) => listing.channel === 'gatefold');
  if (!found) throw new Error('no listing');
  return found;
};
const remoteOf = (id: RecordId) => listingById(rig.house.db, gatefoldOf(id).id)?.remote?.id ?? '';
const page = async (id: RecordId, channel: string) =>
  (await fetch(rig.listings(id).find((listing) => listing.channel === channel)?.publicUrl ?? '')).text();
/** An event with two tickets sold, cancelled as a whole. */
const cancelled = async (title: string) => {
  const id = rig.make({ title });
  rig.send();
  await rig.settle();
  await rig.owner('gatefold', gatefoldOf(id), remoteOf(id), { act: 'sell' });
  readNow(rig.house, keeper, id);
  await rig.settle();
  expect(gatefoldOf(id).lock.sold).toBeGreaterThan(0);
  const { performances } = rig.record(id) ?? rig.content();
  rig.save(
    id,
    1,
    rig.content({ title, performances: performances.map((performance) => ({ ...performance, turn: 'cancelled' })) }),
  );
  return id;
};
const decide = (id: RecordId, way: Partial<PickedWay>, listings: readonly string[] = []) =>
  makeDispatch(rig.house, by('Maren'), new Set(listings), {
    seen: 'all',
    ways: { [gatefoldOf(id).id]: { way: 'leave', reason: '', code: '', ...way } },
  });
const held = (id: RecordId) => toSend(rig.house, keeper, [id])[0]?.held.map((heldToSend) => heldToSend.listing) ?? [];

test('cancelled with tickets sold: nothing goes until it is decided; cancelled there, the rest follows, in that order', async () => {
  const id = await cancelled('Cancelled for good');
  const [event] = toSend(rig.house, keeper, [id]);
  expect([event?.errands, event?.locked.map((lockedToSend) => lockedToSend.channel), held(id).length]).toEqual([
    [],
    ['gatefold'],
    2,
  ]);
  expect(rig.send()).toMatchObject({ ok: false });
  // What waits for a decision is counted with what is to send, on every screen.
  await countStale(rig.house);
  expect(pulseRow(rig.house.db).toSend).toBe(1);
  expect(decide(id, { way: 'cancel', reason: 'The roof leaks' })).toMatchObject({
    ok: false,
    error: expect.stringContaining('type the event’s code'),
  });
  const code = event?.code ?? '';
  const made = decide(id, { way: 'cancel', reason: 'The roof leaks', code }, held(id));
  expect(made).toMatchObject({ ok: true, value: { errands: 3 } });
  await rig.settle();
  const view = made.ok && made.value.dispatchId ? dispatchView(rig.house, keeper, made.value.dispatchId) : null;
  const doneAt = (channel: string) =>
    view?.errands.find((errand) => errand.channel === channel)?.receipts.find((receipt) => receipt.outcome === 'done')
      ?.id ?? 0;
  expect(view?.errands.every((errand) => errand.state === 'done')).toBe(true);
  expect(doneAt('gatefold')).toBeLessThan(Math.min(doneAt('lectern'), doneAt('hearthside')));
  expect(rig.standings(id)).toEqual({ 'lectern.0': 'instep', 'gatefold.0': 'instep', 'hearthside.0': 'instep' });
  expect([await page(id, 'gatefold'), await page(id, 'lectern')]).toEqual([
    expect.stringContaining('EventCancelled'),
    expect.stringMatching(/cancelled/i),
  ]);
});

test('the marketplace says no: nothing else goes out, until a person lets it', async () => {
  const id = await cancelled('Refused there');
  await rig.weather('gatefold', { answerCalls: { 'POST /listings/:id/cancel': { status: 422 } } });
  const code = toSend(rig.house, keeper, [id])[0]?.code ?? '';
  const made = decide(id, { way: 'cancel', reason: 'x', code }, held(id));
  expect(made.ok).toBe(true);
  await rig.settle(15);
  const states = () =>
    made.ok && made.value.dispatchId
      ? dispatchView(rig.house, keeper, made.value.dispatchId)?.errands.map((errand) => [
          errand.channel,
          errand.state,
          errand.waits?.for,
        ])
      : [];
  expect(states()?.sort()).toEqual([
    ['gatefold', 'refused', undefined],
    ['hearthside', 'waiting', 'decision'],
    ['lectern', 'waiting', 'decision'],
  ]);
  expect(await page(id, 'lectern')).not.toMatch(/cancelled/i);
});

test('left as it is there: with a reason, a day and a name; told wherever the event is; and it asks again', async () => {
  const id = await cancelled('Left as it is');
  expect(decide(id, {})).toMatchObject({ ok: false, error: expect.stringContaining('say why') });
  expect(decide(id, { reason: 'They refund by hand' })).toMatchObject({
    ok: false,
    error: expect.stringContaining('until which day'),
  });
  const made = decide(id, { reason: 'They refund by hand', until: '2027-02-20' }, held(id));
  expect(made).toMatchObject({ ok: true, value: { errands: 2 } });
  await rig.settle();
  const view = made.ok && made.value.dispatchId ? dispatchView(rig.house, keeper, made.value.dispatchId) : null;
  expect(view?.stays).toEqual([
    expect.objectContaining({ channelName: 'Gatefold', why: expect.stringMatching(/by Maren: They refund by hand/) }),
  ]);
  expect(gatefoldOf(id)).toMatchObject({ steps: { locked: [] }, left: ['listed'] });
  expect(toSend(rig.house, keeper, [id])[0]?.locked ?? []).toEqual([]);
  // The day is over: it is asked again, and holds up what there is to send.
  await rig.pass(19 * 86_400_000);
  expect(gatefoldOf(id).steps.locked.map((change) => change.key)).toEqual(['listed']);
});

test.each([['with it'], ['before it was locked']])(
  'a letter is put right by a link that is still to come: who gives it, sent %s, does not wait for the letter',
  async (sent) => {
    const own = await makeRig(['gatefold', 'gatefold-2', 'postbag']);
    try {
      const notices = [newNotice('n1', 'postbag', { words: 'Come: {{ title }}', segment: 'members' })];
      const outlets = ['gatefold', 'gatefold-2'].map((name) =>
        newOutlet(name, name, { channel: name, allocation: 30 }),
      );
      const tickets = newTickets({ levels: [newLevel('s', 'Standard', 2200)], outlets });
      const parts = { title: 'Sold elsewhere now', notices, tickets };
      const id = own.make({ ...parts, leftOff: ['gatefold-2'] });
      const letter = own.listings(id).find((listing) => listing.channel === 'postbag')?.id ?? '';
      own.send();
      own.send([letter]);
      await own.settle();
      if (sent === 'before it was locked') {
        own.save(id, 1, own.content(parts));
        own.send();
      }
      own.save(id, own.revision(id), own.content({ ...parts, leftOff: ['gatefold'] }));
      // What is queued waits for somebody to decide on the letter.
      const early = sent === 'before it was locked';
      if (early) await own.settle(8);
      const ways = { [letter]: { way: 'correct' as const, reason: 'Another seller', code: '' } };
      const made = makeDispatch(own.house, by('Maren'), early ? new Set([letter]) : null, { seen: 'all', ways });
      expect(made).toMatchObject({ ok: true });
      for (let batch = 0; batch < 4; batch += 1) {
        await own.settle();
        await own.pass(6 * 3_600_000);
      }
      expect(own.standings(id)).toMatchObject({ 'gatefold-2.0': 'instep' });
      expect(own.listings(id).filter((listing) => listing.errand !== 'none')).toEqual([]);
    } finally {
      await own.end();
    }
  },
);
