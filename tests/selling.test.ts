import { by, keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { newLevel, newOutlet, newTickets } from '@/core/record/new-record';
import { saveVenue } from '@/desk/directory/save-directory';
import { tryPurchase } from '@/desk/records/try-purchase';
import { ticksOf } from '@/store/sheets';
import { soldCounts, sourcesOf } from '@/store/sales';
import { allVenues } from '@/store/venues';
import { takeCall } from '@/desk/channels/take-call';
import { makeRig, type Rig } from './rig';

/*
 * Tickets are sold outside while the clock runs. The marketplace calls, signed; what a call names is read by our own
 * door. One that is lost is caught up by reading, one that comes twice counts once, a forged or an old one is refused.
 */

const hourMs = 3_600_000;
let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(['gatefold', 'pennyseat', 'vestibule']);
  const venue = allVenues(rig.house.db).get(rig.venueId);
  if (!venue) throw new Error('no venue');
  saveVenue(rig.house, keeper, venue.id, { ...venue, channelIds: { pennyseat: 'TYVAT' } });
});
afterAll(() => rig.end());

const counted = (id: RecordId, outlet: string) =>
  soldCounts(rig.house.db, id)
    .filter((count) => count.outlet === outlet)
    .reduce((sum, count) => sum + count.sold, 0);
/** Sells this many at the marketplace by hand, and lets the call, if one comes, have its effect. */
async function sell(id: RecordId, times: number) {
  const remote = rig.listings(id).find((listing) => listing.channel === 'gatefold');
  for (let n = 0; n < times; n += 1)
    await rig.owner('gatefold', remote as never, remote?.publicUrl?.split('/').pop() ?? '', {
      act: 'sell',
      name: 'Selling',
      summary: '',
      starts: '2027-03-14 19:30',
    });
  await new Promise((resolve) => setTimeout(resolve, 200));
  await rig.settle();
}

test('a sale is called out and counted at once; lost, it is caught up; doubled, it counts once; forged, it is refused', async () => {
  const id = rig.make({
    title: 'Selling',
    tickets: newTickets({
      levels: [newLevel('s', 'Standard', 2200)],
      outlets: [newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 60 })],
    }),
  });
  rig.send();
  await rig.settle();
  await sell(id, 2);
  expect([counted(id, 'gatefold'), rig.calls.map((call) => call.status)]).toEqual([2, [202, 202]]);

  await rig.weather('gatefold', { hooks: 'lost' });
  await sell(id, 1);
  expect(counted(id, 'gatefold')).toBe(2);
  await rig.pass(5 * hourMs);
  await rig.settle();
  expect(counted(id, 'gatefold')).toBe(3);

  await rig.weather('gatefold', { hooks: 'doubled' });
  await sell(id, 1);
  expect([counted(id, 'gatefold'), rig.calls.length]).toEqual([4, 4]);

  await rig.weather('gatefold', { hooks: 'forged' });
  await sell(id, 1);
  expect([counted(id, 'gatefold'), rig.calls[4]?.status]).toEqual([4, 401]);
  await rig.weather('gatefold', { hooks: 'fine' });

  // A true call, said again when it is old; a true signature over another body; no address of ours.
  const [item] = rig.calls;
  const key = item?.url.split('/').pop() ?? '';
  await rig.pass(10 * 60_000);
  expect(takeCall(rig.house, key, item?.signature ?? '', item?.body ?? '')).toBe('refused');
  expect(takeCall(rig.house, key, rig.calls[3]?.signature ?? '', '{"reference":"x"}')).toBe('refused');
  expect(takeCall(rig.house, 'nobody-knows-this', item?.signature ?? '', item?.body ?? '')).toBe('unknown');
});

test('a purchase is tried before the sale: what the buyer pays, hour and letter against the facts; it counts and locks nothing', async () => {
  const fee = { mode: 'added' as const, basisPoints: 450, fixed: 60, cap: 900 };
  const tickets = (price: number) =>
    newTickets({
      levels: [newLevel('s', 'Standard', price)],
      outlets: [newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 60, fee })],
    });
  const id = rig.make({ title: 'Tried First', tickets: tickets(2000) });
  expect(await tryPurchase(rig.house, by('Maren'), { recordId: id, channel: 'gatefold' })).toMatchObject({
    ok: false,
    error: expect.stringContaining('does not stand on Gatefold yet'),
  });
  rig.send();
  await rig.settle();
  const tried = await tryPurchase(rig.house, by('Maren'), { recordId: id, channel: 'gatefold' });
  expect(tried.ok && tried.value.map((check) => [check.what, check.is, check.right])).toEqual([
    ['the buyer pays', '€21.50', true],
    ['it starts', 'Sun 14 Mar 2027, 19:30 Dublin', true],
    ['the letter names it', expect.stringContaining('Sunday 14 March 2027, 19:30'), true],
  ]);
  expect(ticksOf(rig.house.db, id)).toMatchObject([{ line: 'try gatefold', by: 'Maren' }]);
  await rig.pass(5 * hourMs);
  await rig.settle();
  expect([counted(id, 'gatefold'), rig.listings(id)[0]?.steps.locked]).toEqual([0, []]);
  // Somebody changed the hour there by hand: the trial says so.
  const remote = rig.listings(id).find((listing) => listing.channel === 'gatefold');
  await rig.owner('gatefold', remote as never, remote?.publicUrl?.split('/').pop() ?? '', {
    act: 'save',
    name: 'Tried First',
    summary: '',
    starts: '2027-03-14 20:30',
  });
  const again = await tryPurchase(rig.house, by('Maren'), { recordId: id, channel: 'gatefold' });
  expect(again.ok && again.value.filter((check) => !check.right).map((check) => check.what)).toEqual(['it starts']);
});

test('three outlets sell while the clock runs: each count is theirs by their own word, and nothing is sold beyond what there is', async () => {
  const id = rig.make({
    title: 'Three Outlets',
    online: { keep: null, join: null },
    tickets: newTickets({
      // Two levels without a bound of their own: what each outlet was given is the most that it sells.
      levels: [newLevel('s', 'Standard', 2200), newLevel('r', 'Reduced', 1500)],
      outlets: [
        newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 30 }),
        newOutlet('o2', 'Pennyseat', { channel: 'pennyseat', allocation: 20 }),
      ],
    }),
  });
  rig.send();
  await rig.settle();
  await rig.pass(2 * hourMs);
  await rig.settle();
  for (const name of ['gatefold', 'pennyseat', 'vestibule']) await rig.weather(name, { salesPerHour: 40, seed: 7 });
  for (let hour = 0; hour < 6; hour += 1) {
    await rig.pass(hourMs);
    await rig.settle();
  }
  expect([counted(id, 'gatefold'), counted(id, 'pennyseat')]).toEqual([30, 20]);
  // By where they came from, too: all of them, and nobody twice; who registered takes no seat of the sale.
  const from = (channel: string) => sourcesOf(rig.house.db, id).filter((source) => source.channel === channel);
  const all = (channel: string) => from(channel).reduce((sum, count) => sum + count.n, 0);
  expect([all('gatefold'), all('vestibule'), from('gatefold').length > 1]).toEqual([
    30,
    counted(id, 'vestibule'),
    true,
  ]);
  expect(rig.facts(id).house.sold).toBe(50);
  // Somebody follows the link on the website, and buys elsewhere than there is any left: nothing is counted.
  const link = rig.listings(id).find((listing) => listing.channel === 'gatefold')?.publicUrl ?? '';
  expect((await fetch(`${link}?via=lectern`, { method: 'POST' })).status).toBe(409);
  const room = rig.listings(id).find((listing) => listing.channel === 'vestibule');
  expect(room?.standing).toBe('instep');
});

test('a bundle takes as many seats as it lets in: families and others together never are more than the room', async () => {
  const id = rig.make({
    title: 'Families',
    leftOff: ['pennyseat'],
    tickets: newTickets({
      levels: [newLevel('f', 'Family', 6000, { admits: 4, quantity: 6 }), newLevel('s', 'Standard', 2200)],
      outlets: [newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 30 })],
    }),
  });
  rig.send();
  await rig.settle();
  await rig.weather('gatefold', { salesPerHour: 60, seed: 3 });
  for (let hour = 0; hour < 4; hour += 1) {
    await rig.pass(hourMs);
    await rig.settle();
  }
  // Six families of four and six by themselves: thirty people, and twelve tickets.
  expect([counted(id, 'gatefold'), rig.facts(id).house.sold]).toEqual([12, 30]);
  const page = await (
    await fetch(rig.listings(id).find(({ channel }) => channel === 'gatefold')?.publicUrl ?? '')
  ).text();
  expect(page).toContain('lets in 4 people');
});
