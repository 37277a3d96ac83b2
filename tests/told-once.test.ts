import { by as doerBy } from '@/core/testing/doers';
import { newNotice } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import type { PickedWay } from '@/house/write-errands';
import { findServices } from '../outside/service';
import { type Service } from '../outside/stand-in';
import { realWorld } from './scripted/real-world';
import type { Fate } from './scripted/place';
import type { StandIn } from './scripted/stand-in';
import type { World } from './scripted/world';

/*
 * What tells people is done once, whatever becomes of its answer: after a lost one it is first looked whether it
 * happened. The stand-ins count whom they told, by their own data.
 */

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
const begin = async (name: string, more: Partial<RecordContent> = {}) => {
  const made = await realWorld(name, services);
  ({ world, place } = made);
  world.make({ ...made.part, ...more });
  world.send();
  await patiently();
};
const patiently = async () => {
  for (let round = 0; round < 3; round += 1) {
    await world.settle();
    world.pass(3 * 3_600_000);
  }
  await world.settle();
};
const code = () => world.record.code;
const by = (name: string, way: Partial<PickedWay>) =>
  makeDispatch(world.house, doerBy('Maren'), new Set(), {
    seen: 'all',
    ways: { [world.listing(name).id]: { way: 'cancel', reason: 'The roof leaks', code: code(), ...way } },
  });
const cancel = () =>
  world.save((c) => ({
    ...c,
    performances: c.performances.map((performance) => ({ ...performance, turn: 'cancelled' })),
  }));
const fates: Fate[] = ['lose', 'crash-after', 'crash-before', { status: 502 }, { status: 429 }];

describe.each<[string, string, (body: Record<string, unknown>) => unknown, unknown]>([
  [
    'gatefold',
    'POST /listings/:id/cancel',
    (body) => [body.state, body.letters],
    ['cancelled', ['cancelled: The roof leaks']],
  ],
  ['vestibule', 'POST /rooms/:id/cancel', (body) => [body.door, body.letters], ['cancelled', 1]],
  ['concourse', 'POST /events/:id/call-off', (body) => [body.stage, body.told], ['called off', 1]],
  ['pennyseat', 'PUT /in/:file', (body) => body.status, 'CANCELLED'],
])('%s is called off', (name, call, said, expected) => {
  test.each(
    fates.map((fate) => [typeof fate === 'string' ? fate : `answered ${(fate as { status: number }).status}`, fate]),
  )('once, where that went so: %s', async (_, fate) => {
    await begin(name);
    cancel();
    expect(by(name, {})).toMatchObject({ ok: true });
    place.fates.push([call, fate as Fate]);
    if ((await world.beat()) === 'asleep') world.restart();
    await patiently();
    expect([name, place.list().map((thing) => said(thing.body))]).toEqual([name, [expected]]);
    // A page that says that it is cancelled is what was wanted: it is in step, not late for ever.
    world.pass(40 * 3_600_000);
    await patiently();
    expect([name, world.listing(name).standing]).toEqual([name, 'instep']);
  });
});

test('what was called off and taken back before the call went is not called off', async () => {
  await begin('vestibule');
  cancel();
  expect(by('vestibule', {})).toMatchObject({ ok: true });
  world.save((c) => ({ ...c, performances: c.performances.map((performance) => ({ ...performance, turn: 'none' })) }));
  await patiently();
  expect([place.list().map((thing) => thing.body.door), world.listing('vestibule').standing]).toEqual([
    ['open'],
    'instep',
  ]);
});

test('what was taken back while the call was on its way is not called off', async () => {
  await begin('gatefold');
  cancel();
  expect(by('gatefold', {})).toMatchObject({ ok: true });
  // A process that begins anew signs in first; in that moment somebody takes it back.
  world.restart();
  place.meanwhile.push([
    'POST /oauth/token',
    () =>
      world.save((c) => ({
        ...c,
        performances: c.performances.map((performance) => ({ ...performance, turn: 'none' })),
      })),
  ]);
  await patiently();
  expect([place.list().map((thing) => [thing.body.state, thing.body.letters]), place.meanwhile]).toEqual([
    [['open', undefined]],
    [],
  ]);
});

describe('a letter that is put right', () => {
  const letters = () =>
    place
      .list()
      .map((thing) => [thing.body.words, (thing.body.picture as { file?: string } | null)?.file !== undefined]);
  test.each<[string, Fate | null]>([
    ['at once', null],
    ['its answer lost', 'lose'],
    ['the process ended after it', 'crash-after'],
    ['the process ended before it', 'crash-before'],
  ])('is one more letter with its picture, %s', async (_, fate) => {
    await begin('postbag', {
      notices: [newNotice('n1', 'postbag', { words: 'Doors at seven', segment: 'everyone', subject: 'Odalys Quarry' })],
    });
    expect(letters()).toEqual([['Doors at seven', true]]);
    world.save((c) => ({ ...c, notices: c.notices.map((notice) => ({ ...notice, words: 'Doors at eight' })) }));
    expect(by('postbag', { way: 'correct' })).toMatchObject({ ok: true });
    if (fate !== null) place.fates.push(['MAIL', fate]);
    if ((await world.beat()) === 'asleep') world.restart();
    await patiently();
    expect(letters()).toEqual([
      ['Doors at seven', true],
      ['Doors at eight', true],
    ]);
    expect(world.listing('postbag').standing).toBe('instep');
  });

  test('whose picture is lost on the list’s desk is no drift: what people hold cannot be set right', async () => {
    await begin('postbag', { notices: [newNotice('n1', 'postbag', { words: 'Doors at seven', segment: 'everyone' })] });
    place.put(place.list()[0]?.id ?? '', { picture: null });
    world.house.db.run('UPDATE listings SET read_at = 0');
    await patiently();
    expect([letters(), world.listing('postbag').standing]).toEqual([[['Doors at seven', false]], 'instep']);
  });

  test('is not booked as done by another text that went meanwhile', async () => {
    await begin('postbag', { notices: [newNotice('n1', 'postbag', { words: 'Doors at seven', segment: 'everyone' })] });
    world.save((c) => ({ ...c, notices: c.notices.map((notice) => ({ ...notice, words: 'Doors at eight' })) }));
    expect(by('postbag', { way: 'correct' })).toMatchObject({ ok: true });
    place.fates.push(['MAIL', 'lose']);
    await world.beat();
    // Before it is looked for, the record says something else again.
    world.save((c) => ({ ...c, notices: c.notices.map((notice) => ({ ...notice, words: 'Doors at nine' })) }));
    await patiently();
    expect(letters().map(([words]) => words)).toContain('Doors at eight');
    const last = world.errands('postbag').at(-1);
    // It is said, or somebody is asked: the letter that says the newest words went, or the wish for it stands.
    const said = letters().some(([words]) => words === 'Doors at nine');
    expect([
      said || last?.state === 'refused' || world.listing('postbag').steps.locked.length > 0,
      letters().length <= 3,
    ]).toEqual([true, true]);
  });
});

test('a way of several steps keeps each finished step, and changes only what it said it would', async () => {
  await begin('gatefold', { leftOff: [] });
  const [thing] = place.list();
  const body = thing?.body ?? {};
  const sessions = body.sessions as { external_id: string }[];
  // Two tickets are sold, and the house has read that.
  place.put(thing?.id ?? '', { sold: 2, sales: { [`${sessions[0]?.external_id}|standard`]: 2 } });
  world.house.db.run('UPDATE listings SET read_at = 0');
  await patiently();
  expect(world.listing('gatefold').lock.sold).toBeGreaterThan(0);
  world.save((c) => ({
    ...c,
    title: 'And a new title',
    performances: c.performances.map((performance) => ({ ...performance, start: '20:15' })),
    tickets: { ...c.tickets, levels: c.tickets.levels.map((level) => ({ ...level, price: level.price + 100 })) },
  }));
  expect(by('gatefold', { way: 'reschedule' })).toMatchObject({ ok: true });
  // The title that goes along is refused: the dates were moved all the same, and people were written to.
  place.fates.push(['PATCH /listings/:id', { status: 422 }]);
  await patiently();
  const after = place.list()[0]?.body ?? {};
  expect((after.letters as string[]).length).toBe(1);
  const [step] = world.house.db.all<{ detail: string }>("SELECT detail FROM receipts WHERE outcome = 'step'");
  expect(JSON.parse(step?.detail ?? '{}')).toMatchObject({ op: 'reschedule', tells: 'buyers', told: 2 });
  const errand = world.errands('gatefold').at(-1);
  expect(errand?.state).toBe('refused');
  world.decide(errand?.id ?? 0, 'again');
  await patiently();
  const last = place.list()[0]?.body ?? {};
  // Nobody is written to a second time; and the price, which that step never changes, was not touched.
  expect([(last.letters as string[]).length, last.name]).toEqual([1, 'And a new title']);
  const { steps, left } = world.listing('gatefold');
  expect([steps.locked, left.map((key) => key.split('@')[0])]).toEqual([[], ['price']]);
});
