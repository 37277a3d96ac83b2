import { keeper } from '@/core/testing/doers';
import { newNotice } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { standsBeyond } from '@/core/errands/narrowing';
import { takesBack } from '@/channels/listing-findings';
import { toSend } from '@/desk/dispatch/to-send';
import { pulseRow } from '@/store/pulse';
import { countStale } from '@/runner/tally';
import { findServices } from '../outside/service';
import { type Service } from '../outside/stand-in';
import { realWorld, writtenTo } from './scripted/real-world';
import { callsOf, type StandIn } from './scripted/stand-in';
import type { World } from './scripted/world';

/*
 * What is narrowed while something of it is out is taken back by itself, on every kind and in whatever way that ends;
 * where it cannot be, a person is asked. Each kind runs on its own stand-in, whose own data is the judge.
 */

type Change = (content: RecordContent) => RecordContent;
const less: [string, (name: string) => Change][] = [
  ['private', () => (c) => ({ ...c, publicity: { visibility: 'private', announce: null } })],
  ['left off', (name) => (c) => ({ ...c, leftOff: [...c.leftOff, name] })],
  ['for some', () => (c) => ({ ...c, audience: { who: 'members' } })],
  ['pencilled', () => (c) => ({ ...c, stage: 'pencilled' })],
  [
    'an embargo set',
    () => (c) => ({
      ...c,
      publicity: { visibility: 'public', announce: { date: '2027-02-20', time: '09:00', zone: 'Europe/Dublin' } },
    }),
  ],
];

let services: ReadonlyMap<string, Service>;
let world: World;
let place: StandIn;
let part: Partial<RecordContent>;
beforeAll(async () => {
  services = await findServices();
});
afterEach(async () => {
  await world.end();
  place.end();
});
const begin = async (name: string) => {
  ({ world, place, part } = await realWorld(name, services));
  world.make(part);
};
const fault = (): never => {
  throw new Error('no such kind');
};
/** What stands there in the end: nothing, or a person is asked where only that is left. */
const judged = async (name: string) => {
  await countStale(world.house);
  const listing = world.listing(name);
  const gentle =
    takesBack(listing.rules) &&
    listing.rules.operations.some((row) => row.op === 'unpublish' && row.undo.how !== 'never');
  if (gentle) return expect([name, place.open.map((thing) => thing.id)]).toEqual([name, []]);
  expect([name, place.open.length > 0, standsBeyond(listing), pulseRow(world.house.db).beyond]).toEqual([
    name,
    true,
    true,
    1,
  ]);
};

describe.each(less)('%s while a placing is out', (_, change) => {
  test.each(writtenTo)('%s', async (name) => {
    await begin(name);
    place.meanwhile.push([callsOf(name).first.at(-1) ?? '', () => world.save(change(name))]);
    world.send();
    await world.patiently(name);
    await judged(name);
  });
});

describe.each(['lose', 'crash-after'] as const)('private, when the answer to a placing did not come (%s)', (fate) => {
  test.each(writtenTo)('%s', async (name) => {
    await begin(name);
    place.fates.push([callsOf(name).first.at(-1) ?? '', fate]);
    world.send();
    if ((await world.beat()) === 'asleep') world.restart();
    // What is given to others goes first.
    if (place.fates.length > 0 && (await world.beat()) === 'asleep') world.restart();
    world.save(less[0]?.[1](name) ?? fault());
    await world.patiently(name);
    // Where it had come to be seen, it is not any more; where it had not, it never was.
    if (place.open.length > 0) await judged(name);
    await countStale(world.house);
    if (!standsBeyond(world.listing(name))) expect([name, place.open.length]).toEqual([name, 0]);
  });
});

test.each(writtenTo.filter((name) => !['postbag'].includes(name)))(
  '%s: made private while a change is out, it is gone without anybody asking',
  async (name) => {
    await begin(name);
    world.send();
    await world.patiently(name);
    expect([name, place.open.length]).toEqual([name, 1]);
    world.save((c) => ({
      ...c,
      title: 'Another title',
      notices: c.notices.map((notice) => ({ ...notice, words: 'Other words' })),
    }));
    place.meanwhile.push([
      callsOf(name).all[callsOf(name).first.length] ?? '',
      () => world.save(less[0]?.[1](name) ?? fault()),
    ]);
    world.send();
    await world.patiently(name);
    const listing = world.listing(name);
    if (
      place.meanwhile.length > 0 ||
      listing.rules.operations.some((row) => row.op === 'unpublish' && row.undo.how === 'never')
    )
      return;
    expect([name, place.open.map((thing) => thing.id)]).toEqual([name, []]);
  },
);

test('a notice taken out of the record while it is out is hidden, without anybody asking', async () => {
  await begin('hearthside-posts');
  place.meanwhile.push([
    callsOf('hearthside-posts').first.at(-1) ?? '',
    () => world.save((c) => ({ ...c, notices: [] })),
  ]);
  world.send();
  await world.patiently('hearthside-posts');
  expect(place.open).toEqual([]);
});

test('a performance held while its listing is out is taken out of it; what else was changed waits for its yes', async () => {
  await begin('lectern');
  place.meanwhile.push([
    'POST /entries',
    () =>
      world.save((c) => ({
        ...c,
        title: 'Not said yes to',
        performances: c.performances.map((performance, i) => ({ ...performance, pencilled: i === 1 })),
      })),
  ]);
  world.send();
  await world.patiently('lectern');
  const [thing] = place.open;
  expect([thing?.wire.name, thing?.wire.dates]).toEqual(['Odalys Quarry', [{ ref: 'p1' }]]);
  expect(world.listing('lectern').standing).toBe('due');
});

test('a busy listing is counted: what changed since goes behind the errand under way, and is said', async () => {
  await begin('pennyseat');
  world.send();
  await world.settle(3);
  const more = () => toSend(world.house, keeper).flatMap(({ busy }) => busy.map((listing) => listing.more));
  expect(more()).toEqual([]);
  world.save((c) => ({ ...c, title: 'Renamed' }));
  expect(more()).toEqual([true]);
  expect(world.send()).toMatchObject({ ok: true, value: { errands: 1, underway: 1 } });
  // Once is enough.
  expect(more()).toEqual([]);
  expect(world.send()).toMatchObject({ ok: true, value: { errands: 0, underway: 1 } });
  await world.patiently('pennyseat');
  expect([place.open.map((thing) => thing.wire.name), world.listing('pennyseat').standing]).toEqual([
    ['Renamed'],
    'instep',
  ]);
});

test('withdrawn words never come back by themselves: a feed is emptied, and public again it needs a new yes', async () => {
  await begin('marrowby-diary');
  world.send();
  await world.patiently('marrowby-diary');
  expect(place.open).toHaveLength(1);
  world.save((c) => ({ ...c, publicity: { visibility: 'private', announce: null } }));
  await world.beat();
  world.save((c) => ({ ...c, title: 'Corrected' }));
  world.save((c) => ({
    ...c,
    publicity: { visibility: 'public', announce: { date: '2027-02-10', time: '09:00', zone: 'Europe/Dublin' } },
  }));
  await world.patiently('marrowby-diary');
  expect([place.open, place.feed().includes('BEGIN:VEVENT')]).toEqual([[], false]);
  // The moment comes, and nobody has said yes.
  world.pass(9 * 86_400_000);
  await world.patiently('marrowby-diary');
  expect([place.open, place.feed().includes('BEGIN:VEVENT')]).toEqual([[], false]);
  expect(world.send().ok).toBe(true);
  await world.patiently('marrowby-diary');
  expect(place.open.map((thing) => thing.wire.name)).toEqual(['Corrected']);
});

test('a leader that slept lays nothing over what a newer one laid on the shelf', async () => {
  await begin('marrowby-diary');
  // It sleeps on its way to tell where the feed lies, and would lay its words on the shelf when it wakes.
  place.fates.push(['PUT /feed', 'crash-after']);
  world.send();
  expect(await world.beat()).toBe('asleep');
  world.restart();
  world.save((c) => ({ ...c, title: 'Newer' }));
  await world.patiently('marrowby-diary');
  expect(place.feed()).toContain('SUMMARY:Newer');
  const before = place.feed();
  await world.wake();
  expect(place.feed()).toBe(before);
});

test('a doubt about our own shelf is settled by looking at our own shelf', async () => {
  await begin('marrowby-diary');
  place.fates.push(['PUT /feed', 'lose']);
  world.send();
  await world.beat();
  expect(world.stored('marrowby-diary')?.pendingOutcome).not.toBeNull();
  await world.settle(20);
  expect([world.stored('marrowby-diary')?.pendingOutcome, place.feed().includes('BEGIN:VEVENT')]).toEqual([null, true]);
});

test('a row that was turned down can be placed again, under a name of its own', async () => {
  await begin('pennyseat');
  world.nameVenue('pennyseat', 'NOSUCH');
  world.send();
  await world.patiently('pennyseat');
  expect(world.errands('pennyseat').map((errand) => errand.state)).toEqual(['refused']);
  world.nameVenue('pennyseat', 'TYVAT');
  world.decide(world.errands('pennyseat')[0]?.id ?? 0, 'again');
  await world.patiently('pennyseat');
  expect([place.open.length, world.listing('pennyseat').standing]).toEqual([1, 'instep']);
  // The very same words again, after they were turned down: another batch all the same.
  world.nameVenue('pennyseat', 'NOSUCH');
  world.send();
  await world.patiently('pennyseat');
  world.decide(world.errands('pennyseat').at(-1)?.id ?? 0, 'again');
  await world.patiently('pennyseat');
  const names = place.list('pennyseat-tray').map((thing) => thing.body.name);
  expect([names.length, new Set(names).size]).toEqual([4, 4]);
});

test('planned posts are taken off with a cancelling, said, and come back with it', async () => {
  await begin('murmurline');
  world.save((c) => ({
    ...c,
    notices: [newNotice('n1', 'murmurline', { words: 'Two days to go' })],
  }));
  world.save((c) => ({
    ...c,
    performances: c.performances.map((performance) => ({ ...performance, turn: 'cancelled' })),
    notices: [...c.notices, newNotice('n2', 'murmurline', { words: 'Cancelled, sadly' })],
  }));
  expect(world.record.content.notices.map((notice) => notice.offSince)).toEqual(['cancelled', null]);
  world.send();
  await world.patiently('murmurline');
  expect(place.open.map((thing) => thing.wire.name)).toEqual(['Cancelled, sadly']);
  world.save((c) => ({ ...c, performances: c.performances.map((performance) => ({ ...performance, turn: 'none' })) }));
  expect(world.record.content.notices.map((notice) => notice.offSince)).toEqual([null, null]);
});
