import { errandsWhere } from '@/store/errands';
import { makeRig, type Rig } from './rig';

/*
 * Every sort of weather, over real HTTP: made before an event is placed, and taken away afterwards. Under each the
 * errand comes to a state that is right, with a word that says what is wrong; the time is bounded, and so is the
 * memory; in the end, in fair weather, there is one listing and it is in step.
 */

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(['fernway']);
});
afterAll(() => rig.end());

const place = 'POST /artists/fw-ninefold/dates';
const spoilt = (how: string) => ({ spoil: { [place]: { how, times: 1 } } });
const fairAgain = { down: false, slowBodyMs: 0, dripMs: 0, errorRate: 0, revoked: false, mostPerSecond: 0, spoil: {} };

test.each<[string, object, RegExp, 'waiting' | 'refused' | 'done']>([
  ['down', { down: true }, /the service is down/, 'waiting'],
  ['slow after its headers', { slowBodyMs: 60_000 }, /no answer from/, 'waiting'],
  ['dripping', { dripMs: 400 }, /no answer from/, 'waiting'],
  ['every call fails', { errorRate: 1 }, /something went wrong/, 'waiting'],
  ['the token revoked', { revoked: true }, /revoked/, 'refused'],
  ['an error in a 200', spoilt('error inside'), /unexpected shape/, 'refused'],
  ['led elsewhere on a write', spoilt('redirect'), /led on to .* nothing was followed/, 'refused'],
  ['half an answer', spoilt('broken'), /is no JSON/, 'refused'],
  ['two hundred megabytes', spoilt('huge'), /larger than 5 MB/, 'done'],
  ['one call a second', { mostPerSecond: 1 }, /too many requests|^$/, 'done'],
])('%s', async (title, weather, says, state) => {
  const id = rig.make({ title });
  await rig.weather('fernway', weather);
  rig.send();
  const before = process.memoryUsage().rss;
  const begun = Date.now();
  await rig.settle(/headers|dripping/.test(title) ? 18 : state === 'waiting' ? 3 : 12);
  expect([title, Date.now() - begun < 40_000, process.memoryUsage().rss - before < 150_000_000]).toEqual([
    title,
    true,
    true,
  ]);
  const [errand] = errandsWhere(rig.house.db, { recordId: id });
  if (state !== 'done') {
    expect([title, errand?.lastError?.message]).toEqual([title, expect.stringMatching(says)]);
    expect([title, errand?.state === state || errand?.state === 'waiting']).toEqual([title, true]);
  }
  await rig.weather('fernway', fairAgain);
  // A person says once more what was refused; what waits goes by itself.
  await rig.pass(5 * 60_000);
  if (errandsWhere(rig.house.db, { recordId: id })[0]?.state === 'refused') rig.again(errand?.id ?? 0);
  await rig.settle(40);
  expect([title, rig.standings(id)['fernway.0'], await rig.publicCount('fernway', title)]).toEqual([
    title,
    'instep',
    1,
  ]);
});
