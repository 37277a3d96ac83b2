import { newLevel } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { plan } from '@/core/errands/plan';
import { putStandingLeave } from '@/store/channels';
import { askReading } from '@/store/listings';
import { markStale } from '@/store/pulse';
import { noteSale } from '@/store/sales';
import { transaction } from '@/store/database';
import { countStale } from '@/runner/tally';
import { findServices } from '../outside/service';
import { type Service } from '../outside/stand-in';
import { realWorld, writtenTo } from './scripted/real-world';
import { shelves, type StandIn } from './scripted/stand-in';
import type { World } from './scripted/world';

/*
 * What the clock alone changes goes by itself, as the house's standing leave; what a person changed, dropped or was
 * never asked about waits for a person. Each kind runs on its own stand-in, whose own data is the judge.
 */

const dayMs = 86_400_000;
let services: ReadonlyMap<string, Service>;
let world: World;
let place: StandIn;
beforeAll(async () => {
  services = await findServices();
});
afterEach(async () => {
  await world.end();
  place.end();
});

const at = (date: string) => ({ kind: 'at' as const, date, time: '10:00' });
/** An early price for a week from Friday on, then a later one; few are told how many are left. */
const selling = ({ tickets }: RecordContent): RecordContent['tickets'] => ({
  ...tickets,
  showLeft: 20,
  total: 60,
  levels: [
    newLevel('e', 'Early', 1500, { opens: at('2027-02-05'), closes: at('2027-02-12') }),
    newLevel('s', 'Standard', 2200, { opens: at('2027-02-05') }),
  ],
});
/** What the record asks for and a channel was not sent, by field. */
const behind = (name: string) =>
  plan([world.listing(name)]).errands.flatMap((errand) => errand.changes.map(({ key }) => key));
const sentBy = () =>
  world.house.db.all<{ actor: string }>('SELECT actor FROM dispatches ORDER BY at').map((row) => row.actor);

/** An event that stands on a channel before its sale opens. */
const standing = async (name: string) => {
  const made = await realWorld(name, services);
  ({ world, place } = made);
  world.make(made.part);
  world.save((content) => ({ ...content, tickets: selling(content) }));
  world.send();
  await world.patiently(name);
  expect([world.listing(name).standing, behind(name)]).toEqual(['instep', []]);
  return sentBy().length;
};
const goOn = async (name: string, ms: number) => {
  world.pass(ms);
  await world.patiently(name);
};

/** So many were sold by now, at the door. */
const sold = (count: number) =>
  transaction(world.house.db, (tx) => {
    const of = { recordId: world.recordId, performanceId: 'p1', levelId: 's', outlet: 'door', by: 'Maren' };
    noteSale(tx, { ...of, sold: count, at: world.now });
    markStale(tx, world.recordId);
  });

/** Kinds that word differently what sells: each says so of itself. */
const told: string[] = [];
describe.each(writtenTo)('%s', (name) => {
  test('the sale opens, the early price ends, few are left: nothing of that waits, and the place says it', async () => {
    const before = await standing(name);
    for (const days of [4, 7]) await goOn(name, days * dayMs);
    sold(50);
    await goOn(name, 60_000);
    const by = sentBy().slice(before);
    if (by.length > 0) told.push(name);
    expect([by.filter((actor) => actor !== 'standing leave'), behind(name)]).toEqual([[], []]);
    expect(world.listing(name).standing).toBe('instep');
  });

  test('without the leave it waits for a person', async () => {
    const before = await standing(name);
    transaction(world.house.db, (tx) => putStandingLeave(tx, world.listing(name).channel, false));
    for (const days of [4, 7]) await goOn(name, days * dayMs);
    sold(50);
    await goOn(name, 60_000);
    expect(sentBy().length).toBe(before);
    expect(behind(name).length > 0).toBe(told.includes(name));
  });
});

test('kinds that word it were among them', () => {
  expect(told).toEqual(['lectern', 'hearthside']);
});

describe('what is not of the clock', () => {
  const name = 'lectern';
  const title = (title: string) => world.save((content) => ({ ...content, title }));

  test('what a person changed waits, with all that goes along with it', async () => {
    const before = await standing(name);
    title('Another title');
    await goOn(name, 4 * dayMs);
    expect([sentBy().length, behind(name).includes('title')]).toEqual([before, true]);
    world.send();
    await world.patiently(name);
    expect(behind(name)).toEqual([]);
  });

  test('what a person changed and changed back hinders nothing', async () => {
    const before = await standing(name);
    title('Another title');
    title('Odalys Quarry');
    await goOn(name, 4 * dayMs);
    expect([sentBy().slice(before), behind(name)]).toEqual([['standing leave'], []]);
  });

  /** The sale opens while the channel does not answer: what goes by itself waits. */
  const waiting = async () => {
    const before = await standing(name);
    place.fates.push([shelves.lectern?.calls.amend ?? '', { status: 503 }]);
    world.pass(4 * dayMs);
    await countStale(world.house);
    await world.beat();
    expect(
      world
        .errands(name)
        .filter((errand) => errand.state === 'waiting')
        .map(({ byClock }) => byClock),
    ).toEqual([true]);
    return before;
  };

  test('what a person saves while it waits does not go along', async () => {
    const before = await waiting();
    title('Another title');
    await world.patiently(name);
    expect(place.things.map((thing) => thing.wire.name)).toEqual(['Odalys Quarry']);
    expect([sentBy().slice(before), behind(name).includes('title')]).toEqual([['standing leave'], true]);
    title('Odalys Quarry');
    await world.patiently(name);
    expect([sentBy().slice(before), behind(name)]).toEqual([['standing leave', 'standing leave'], []]);
  });

  test('where the leave is taken back while it waits, it does not go', async () => {
    await waiting();
    transaction(world.house.db, (tx) => putStandingLeave(tx, world.listing(name).channel, false));
    const calls = place.calls.length;
    await world.patiently(name);
    expect(place.calls.slice(calls).filter((call) => !call.startsWith('GET'))).toEqual([]);
    expect(behind(name).length).toBeGreaterThan(0);
  });

  test('what a person says yes to while it waits goes', async () => {
    await waiting();
    title('Another title');
    world.send([world.listing(name).id]);
    await world.patiently(name);
    expect(place.things.map((thing) => thing.wire.name)).toEqual(['Another title']);
    expect(behind(name)).toEqual([]);
  });

  test('what the channel refused asks a person, and what a person dropped is not sent by itself', async () => {
    const before = await standing(name);
    place.fates.push([shelves.lectern?.calls.amend ?? '', { status: 422 }]);
    await goOn(name, 4 * dayMs);
    const [refused] = world.errands(name).filter((errand) => errand.state === 'refused');
    expect([sentBy().slice(before), refused === undefined]).toEqual([['standing leave'], false]);
    if (refused) world.decide(refused.id, 'drop');
    await goOn(name, 7 * dayMs);
    expect(sentBy().length - before).toBe(1);
    expect(behind(name).length).toBeGreaterThan(0);
  });

  test('what somebody else wrote there is not written over', async () => {
    const before = await standing(name);
    for (const { id } of place.things) place.edit(id, { name: 'By another hand' });
    askReading(world.house.db, world.listing(name).id, world.house.monotonic());
    await world.settle();
    await goOn(name, 4 * dayMs);
    expect(sentBy().length).toBe(before);
    expect(place.things.map((thing) => thing.wire.name)).toEqual(['By another hand']);
  });
});
