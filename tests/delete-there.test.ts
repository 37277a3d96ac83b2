import { by, keeper } from '@/core/testing/doers';
import { doors } from '@/channels/kinds-doors';
import { kinds } from '@/channels/kinds-rules';
import type { Door } from '@/channels/kit/kind';
import type { RecordContent } from '@/core/record/record';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { toSend } from '@/desk/dispatch/to-send';
import { findServices } from '../outside/service';
import type { Service } from '../outside/stand-in';
import type { Fate } from './scripted/place';
import { realWorld, writtenTo } from './scripted/real-world';
import { shelves, type StandIn } from './scripted/stand-in';
import type { World } from './scripted/world';

/*
 * Deleting where it stands, in place of taking it down: with the event's code typed, by the kinds that can. The
 * stand-ins' own data is the judge.
 */

let services: ReadonlyMap<string, Service>;
let world: World;
let place: StandIn;
beforeAll(async () => {
  services = await findServices();
});
afterEach(async () => {
  await ended();
});
let ended = () => Promise.resolve();
const deletes = ['lectern', 'hearthside', 'hearthside-posts', 'fernway'];
const callOf = (name: string) => shelves[name]?.calls.remove ?? '';
const readOf = (name: string) => shelves[name]?.calls.read ?? '';

const open = async (name: string) => {
  const made = await realWorld(name, services);
  ({ world, place } = made);
  ended = async () => {
    await world.end();
    place.end();
    ended = () => Promise.resolve();
  };
  world.make(made.part);
  world.send();
  await patiently();
};
const begin = async (name: string) => {
  await open(name);
  expect(place.open.length).toBe(1);
};
const patiently = async () => {
  for (let round = 0; round < 3; round += 1) {
    await world.settle();
    world.pass(3 * 3_600_000);
  }
  await world.settle();
};
const off = (name: string) => world.save((c) => ({ ...c, leftOff: [...c.leftOff, name] }));
const on = (name: string) => world.save((c) => ({ ...c, leftOff: c.leftOff.filter((other) => other !== name) }));
const cancelled = (c: RecordContent): RecordContent => ({
  ...c,
  leftOff: [],
  performances: c.performances.map((performance) => ({ ...performance, turn: 'cancelled' })),
});
const remove = (name: string, code = world.record.code) =>
  makeDispatch(world.house, by('Maren'), new Set(), {
    seen: 'all',
    ways: { [world.listing(name).id]: { way: 'remove', reason: '', code } },
  });
const deleting = (name: string) => world.errands(name).findLast((errand) => errand.op === 'remove');
const given = () => world.house.db.all<{ gift: string }>('SELECT gift FROM gifts');
const isGone = (name: string) => {
  // What stood there gives nothing to the others any more.
  expect(given()).toEqual([]);
  expect([name, place.list().map((thing) => thing.reference)]).toEqual([name, []]);
  expect(world.stored(name)).toMatchObject({ remote: null, sent: null, observed: null, pendingOutcome: null });
};

describe.each(deletes)('%s', (name) => {
  test('is offered beside taking down, wants the code, deletes, and can be placed anew', async () => {
    await begin(name);
    const { gives } = world.listing(name).rules;
    expect(given().map((row) => row.gift)).toEqual(gives);
    expect(remove(name)).toMatchObject({ ok: false });
    off(name);
    const [event] = toSend(world.house, keeper);
    const [errand] = event?.errands.filter((item) => item.channel === name) ?? [];
    expect(errand).toMatchObject({
      op: 'unpublish',
      deleting: { id: 'remove', undo: { how: 'never' }, needs: ['code'] },
    });
    for (const code of ['', 'EV-9999']) {
      const answer = remove(name, code);
      expect(answer.ok ? '' : answer.error).toContain(world.record.code);
    }
    expect([place.open.length, world.errands(name).filter((item) => item.op === 'remove')]).toEqual([1, []]);
    expect(remove(name, world.record.code.toLowerCase())).toMatchObject({ ok: true });
    await patiently();
    isGone(name);
    expect(deleting(name)).toMatchObject({ state: 'done', op: 'remove' });
    // It was looked for after it was deleted.
    expect(place.calls.slice(place.calls.lastIndexOf(callOf(name)))).toContain(readOf(name));
    expect(toSend(world.house, keeper).flatMap((item) => item.errands.map((made) => made.channel))).not.toContain(name);
    on(name);
    world.send();
    await patiently();
    expect([place.open.length, world.listing(name).standing]).toEqual([1, 'instep']);
  });

  test.each<Fate>(['lose', 'crash-after', 'crash-before', { status: 502 }, { status: 429 }])(
    'however the answer fares, it is deleted once and nobody is asked (%p)',
    async (fate) => {
      await begin(name);
      off(name);
      place.fates.push([callOf(name), fate]);
      expect(remove(name)).toMatchObject({ ok: true });
      await patiently();
      isGone(name);
      expect(deleting(name)).toMatchObject({ state: 'done', op: 'remove' });
    },
  );

  test.each<[string, (c: RecordContent) => RecordContent]>([
    ['wanted again', (c) => ({ ...c, leftOff: c.leftOff.filter((other) => other !== name) })],
    ['cancelled', cancelled],
  ])('%s while it was looked at before the deleting: it stands', async (_, change) => {
    await begin(name);
    off(name);
    expect(remove(name)).toMatchObject({ ok: true });
    place.meanwhile.push([readOf(name), () => world.save(change)]);
    place.calls = [];
    await patiently();
    expect([place.meanwhile.length, place.list().length]).toEqual([0, 1]);
    expect(place.calls).not.toContain(callOf(name));
    expect(deleting(name)?.state).toBe('dropped');
  });

  test('wanted again before it was its turn: it is not touched', async () => {
    await begin(name);
    off(name);
    expect(remove(name)).toMatchObject({ ok: true });
    on(name);
    await patiently();
    expect([place.open.length, deleting(name)?.state]).toEqual([1, 'dropped']);
  });

  test('edited there since it was read: somebody looks before it is deleted', async () => {
    await begin(name);
    off(name);
    expect(remove(name)).toMatchObject({ ok: true });
    place.edit(place.list()[0]?.id ?? '', { name: 'Kept by hand' });
    await world.settle();
    expect([place.list().length, deleting(name)?.state, deleting(name)?.lastError?.kind]).toEqual([
      1,
      'refused',
      'conflict',
    ]);
    world.decide(deleting(name)?.id ?? 0, 'again');
    await patiently();
    isGone(name);
  });

  test('taken out of sight before its turn, or deleted there by hand: nothing is left', async () => {
    await begin(name);
    off(name);
    expect(remove(name)).toMatchObject({ ok: true });
    place.close(place.list()[0]?.id ?? '');
    await patiently();
    isGone(name);
    on(name);
    world.send();
    await patiently();
    off(name);
    expect(remove(name)).toMatchObject({ ok: true });
    place.remove(place.list()[0]?.id ?? '');
    await patiently();
    isGone(name);
  });

  test('standing there twice: the second place is ours then, and out of sight', async () => {
    await begin(name);
    const [first] = place.list();
    place.double(first?.id ?? '');
    world.house.db.run('UPDATE listings SET read_at = 0');
    await patiently();
    expect(world.stored(name)?.twins.length).toBe(1);
    off(name);
    expect(remove(name)).toMatchObject({ ok: true });
    await patiently();
    expect([place.list().map((thing) => thing.id === first?.id), place.open]).toEqual([[false], []]);
    expect(world.stored(name)).toMatchObject({ remote: { id: place.list()[0]?.id }, twins: [] });
  });
});

describe('what stands in a second place', () => {
  /** The listing stands twice, and that was read; the first place, and the second. */
  const twice = async () => {
    await begin('lectern');
    const [first] = place.list();
    place.double(first?.id ?? '');
    world.house.db.run('UPDATE listings SET read_at = 0');
    await patiently();
    const second = world.stored('lectern')?.twins[0]?.id ?? '';
    expect(place.list().map((thing) => thing.id)).toEqual(expect.arrayContaining([first?.id, second]));
    return second;
  };

  test('is left to a person where the event is only changed', async () => {
    const second = await twice();
    world.save((c) => ({ ...c, title: 'Changed since' }));
    world.send();
    await patiently();
    expect([place.open.length, world.stored('lectern')?.twins.map(({ id }) => id)]).toEqual([2, [second]]);
  });

  test('and was deleted there meanwhile needs no taking down', async () => {
    const second = await twice();
    place.remove(second);
    expect(world.oneDown('lectern', second)).toMatchObject({ ok: true });
    await world.settle();
    const open = world.house.db.all("SELECT id FROM errands WHERE state NOT IN ('done', 'not needed', 'replaced')");
    expect([open, world.stored('lectern')?.twins, place.open.length]).toEqual([[], [], 1]);
  });
});

test('what a kind offers as a step, its door can do', () => {
  const steps = ['remove', 'cancel', 'reschedule', 'correct', 'renew'] as const;
  const nothing = () => Promise.reject(new Error('nothing leaves here'));
  for (const kind of kinds) {
    const client = doors[kind.id]?.(
      { address: 'https://x.example', credentials: {} },
      nothing,
      { get: () => null, put: () => undefined } as unknown as Parameters<Door>[2],
      nothing,
      () => 0,
    );
    const rows = kind.rules({}).operations.map((row) => row.op as string);
    for (const step of steps) {
      if (rows.includes(step)) expect([kind.id, step, typeof client?.[step]]).toEqual([kind.id, step, 'function']);
    }
    expect([kind.id, rows.includes('remove')]).toEqual([kind.id, deletes.includes(kind.id)]);
  }
});

test.each(writtenTo.filter((name) => !deletes.includes(name)))('%s has no such step, and says so', async (name) => {
  await open(name);
  off(name);
  expect(remove(name)).toMatchObject({ ok: false });
  expect(world.listing(name).steps.deleting).toBeNull();
});
