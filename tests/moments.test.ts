import { by, keeper } from '@/core/testing/doers';
import { newNotice } from '@/core/record/new-record';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { toSend } from '@/desk/dispatch/to-send';
import { surveyById } from '@/house/survey';
import { findServices } from '../outside/service';
import { type Service } from '../outside/stand-in';
import { realWorld } from './scripted/real-world';
import type { StandIn } from './scripted/stand-in';
import { World } from './scripted/world';

/*
 * A moment comes by itself once it was said yes to, and is never missed without a word; and nothing is stuck with a
 * channel that was taken off.
 */

let services: ReadonlyMap<string, Service>;
let world: World;
let place: StandIn | null = null;
beforeAll(async () => {
  services = await findServices();
});
afterEach(async () => {
  await world.end();
  place?.end();
  place = null;
});
const hourMs = 3_600_000;
const noon = { date: '2027-02-02', time: '12:00', zone: 'Europe/Dublin' };

describe('a post with a moment of its own', () => {
  const begin = async () => {
    const made = await realWorld('murmurline', services);
    ({ world, place } = made);
    world.make({ ...made.part, notices: [newNotice('n1', 'murmurline', { words: 'At noon', notBefore: noon })] });
    return world.listing('murmurline').id;
  };
  const event = () => toSend(world.house, keeper, [world.recordId])[0];

  test('said yes to, it goes at that moment and not before; asked for, it is on top', async () => {
    const id = await begin();
    expect(event()?.errands.map((errand) => [errand.ownMoment, errand.tells, errand.notBefore])).toEqual([
      [true, 'followers', Date.parse('2027-02-02T12:00Z')],
    ]);
    expect(makeDispatch(world.house, by('Maren'), new Set([id]), { seen: 'all' }).ok).toBe(true);
    await world.settle();
    expect(place?.open).toEqual([]);
    world.pass(2 * hourMs);
    await world.settle();
    expect(place?.open.map((thing) => thing.wire.name)).toEqual(['At noon']);
  });

  test('it holds as it was seen until the very millisecond in which its words lock there', async () => {
    const made = await realWorld('murmurline', services);
    ({ world, place } = made);
    world.make({ ...made.part, notices: [newNotice('n1', 'murmurline', { words: 'Now' })] });
    world.sendAll();
    await world.patiently('murmurline');
    const { state } = world.listing('murmurline');
    const { holds } = surveyById(world.house, world.recordId) ?? { holds: null };
    const minutes = world
      .listing('murmurline')
      .rules.locks.flatMap(({ when }) => ('minutesAfterSending' in when ? [when.minutesAfterSending] : []));
    expect([minutes.length > 0, (holds?.monotonicUntil ?? 0) - (state.sentAt ?? 0)]).toEqual([
      true,
      Math.min(...minutes) * 60_000 + 1,
    ]);
  });

  test('without a yes it does not go, and that is told', async () => {
    await begin();
    world.pass(3 * hourMs);
    await world.settle();
    expect([place?.open, world.listing('murmurline').findings.map((finding) => finding.code)]).toEqual([
      [],
      expect.arrayContaining(['moment-missed']),
    ]);
  });
});

describe('a channel that was taken off', () => {
  test('what was handed over is collected when it comes back', async () => {
    world = new World(['later']);
    world.make();
    world.send();
    await world.settle(5);
    world.disconnect('later');
    world.board('later').answerLots();
    await world.settle(5);
    expect(world.errands().map((errand) => errand.state)).toEqual(['lodged']);
    world.connect('later');
    await world.settle();
    expect([world.errands().map((errand) => errand.state), world.listing('later').standing]).toEqual([
      ['done'],
      'instep',
    ]);
  });

  test.each(['later', 'plain'] as const)(
    '%s: what lies or is in doubt there can be dropped, and is found when it comes back',
    async (name) => {
      world = new World([name]);
      world.make();
      if (name === 'plain') world.board(name).fates.push(['POST /things', 'lose']);
      world.send();
      await world.beat();
      // While it is connected, what was handed over is waited for.
      if (name === 'later') expect(world.decide(world.errands()[0]?.id ?? 0, 'drop')).toBe(0);
      world.disconnect(name);
      expect(world.decide(world.errands()[0]?.id ?? 0, 'drop')).toBe(1);
      expect([world.errands().map((errand) => errand.state), world.listing(name).standing]).toEqual([
        ['dropped'],
        expect.not.stringMatching('underway'),
      ]);
      world.board(name).answerLots();
      world.connect(name);
      world.pass(60_000);
      await world.settle();
      expect([world.board(name).things.length, world.listing(name).standing]).toEqual([1, 'instep']);
      // Made private instead, it would have been taken back by itself.
      world.save((c) => ({ ...c, publicity: { visibility: 'private', announce: null } }));
      world.send();
      await world.settle(60);
      world.board(name).answerLots();
      await world.settle();
      expect(world.board(name).open).toEqual([]);
    },
  );
});
