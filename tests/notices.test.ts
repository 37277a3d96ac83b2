import { keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { newNotice } from '@/core/record/new-record';
import { readNow } from '@/desk/drift/read-now';
import { errandsWhere } from '@/store/errands';
import { listingsOf } from '@/store/listings';
import { makeRig, type Rig } from './rig';

let rig: Rig;
beforeEach(async () => {
  rig = await makeRig();
});
afterEach(() => rig.end());

const dayMs = 86_400_000;
const post = (id: RecordId) => listingsOf(rig.house.db, id).find((listing) => listing.channel === 'hearthside-posts');
const standing = (id: RecordId) => rig.listings(id).find((listing) => listing.channel === 'hearthside-posts')?.standing;
const ops = (id: RecordId) =>
  errandsWhere(rig.house.db, { recordId: id })
    .filter((errand) => errand.channel === 'hearthside-posts')
    .map((errand) => [errand.op, errand.state]);

async function pass(days: number) {
  await fetch(`${rig.base}/clock`, {
    method: 'POST',
    body: new URLSearchParams({ ms: String(Math.round(days * dayMs)) }),
  });
  await rig.house.follow();
}

const make = () =>
  rig.make({ notices: [newNotice('n1', 'hearthside-posts', { words: 'Come on {{ date }}', pin: true })] });

test('a pin lapses by the channel’s own clock, and is renewed before it does; a lost answer renews it once', async () => {
  const id = make();
  rig.send();
  await rig.settle();
  const first = post(id)?.lapsesAt ?? 0;
  expect([standing(id), Math.round((first - rig.house.clock.now()) / dayMs)]).toEqual(['instep', 10]);

  await pass(7.9);
  expect(standing(id)).toBe('instep');
  await pass(0.2);
  expect(standing(id)).toBe('due');
  await rig.weather('hearthside', { loseCalls: { 'post.pin': 1 } });
  rig.send();
  await rig.settle();
  // The channel had done it when the answer was lost: asked, and not done again.
  expect([ops(id), standing(id)]).toEqual([
    [
      ['place', 'done'],
      ['renew', 'done'],
    ],
    'instep',
  ]);
  const second = post(id)?.lapsesAt ?? 0;
  expect(Math.round((second - rig.house.clock.now()) / dayMs)).toBe(10);
  expect(errandsWhere(rig.house.db, { recordId: id }).find((errand) => errand.op === 'renew')?.tries).toBeGreaterThan(
    1,
  );

  await pass(11);
  readNow(rig.house, keeper);
  await rig.settle();
  expect([post(id)?.observed?.pinned, standing(id)]).toEqual([{ kind: 'flag', on: false }, 'due']);
  rig.send();
  await rig.settle();
  expect([post(id)?.observed?.pinned, standing(id)]).toEqual([{ kind: 'flag', on: true }, 'instep']);
});

test('a notice waits for its own moment, behind the embargo, and follows the facts; taken out, it comes down', async () => {
  const id = rig.make({
    notices: [
      newNotice('n1', 'hearthside-posts', {
        words: 'On sale: {{ date }}',
        notBefore: { date: '2027-02-05', time: '10:00', zone: 'Europe/Dublin' },
      }),
    ],
  });
  const [mine] = rig.listings(id).filter((listing) => listing.channel === 'hearthside-posts');
  rig.send([mine?.id ?? '']);
  await rig.settle();
  expect([post(id)?.sent, standing(id)]).toEqual([null, 'embargoed']);
  await pass(3.1);
  await rig.settle();
  expect(standing(id)).toBe('instep');
  const page = async () => (await fetch(`${rig.base}/hearthside/`)).text();
  expect(await page()).toContain('On sale: Sunday 14 March 2027');

  const { notices: _, ...rest } = rig.content();
  rig.save(id, 1, { ...rest, notices: [] });
  rig.send();
  await rig.settle();
  expect([standing(id), (await page()).includes('On sale')]).toEqual(['withdrawn', false]);
});
