import { newNotice } from '@/core/record/new-record';
import { World, type KindName } from './scripted/world';

/*
 * What channels give to each other, their ways of answering, and what is known from when: case by case, through the
 * real store and the real runner, judged by the boards' own data.
 */

let world: World;
const begin = (...kinds: KindName[]) => (world = new World(kinds));
afterEach(() => world.end());

const hour = 3_600_000;
const seen = (name: string) => world.board(name).open.map((thing) => thing.wire.name);
const states = (name?: string) => world.errands(name).map((errand) => errand.state);

describe('gifts', () => {
  test('one that gives two and one that awaits both: the giver first, then the taker, once', async () => {
    begin('taker', 'giver');
    world.make();
    world.send();
    await world.settle();
    const [given] = world.board('giver').open;
    expect(world.board('taker').open[0]?.wire).toMatchObject({
      join: `http://giver/join/${given?.id}`,
      register: `http://giver/registration/${given?.id}`,
    });
    expect([
      world.board('taker').calls.filter((call) => call === 'POST /things').length,
      world.errands('taker')[0]?.tries,
    ]).toEqual([1, 1]);
  });

  test('the answer to the giver’s placing is lost: what it gives is known as soon as it is found there', async () => {
    begin('taker', 'giver');
    world.make();
    world.board('giver').fates.push(['POST /things', 'lose']);
    world.send();
    await world.settle();
    expect([states('giver'), states('taker'), seen('taker')]).toEqual([['done'], ['done'], ['Odalys Quarry']]);
  });

  test('the giver refuses: the taker waits without a request or a receipt, says so, and goes by itself when it is put right', async () => {
    begin('taker', 'giver');
    world.make();
    world.board('giver').fates.push(['POST /things', { status: 422 }]);
    world.send();
    await world.settle();
    expect([states('giver'), states('taker'), world.board('taker').calls]).toEqual([['refused'], ['waiting'], []]);
    const before = world.receipts();
    world.pass(3 * hour);
    await world.settle();
    expect(world.receipts()).toBe(before);
    world.decide(world.errands('giver')[0]?.id ?? 0, 'again');
    await world.settle();
    expect([states('giver'), states('taker'), seen('taker')]).toEqual([['done'], ['done'], ['Odalys Quarry']]);
  });

  test('the giver is dropped: the taker goes on waiting until a person lets it go without', async () => {
    begin('taker', 'giver');
    world.make();
    world.board('giver').fates.push(['POST /things', { status: 422 }]);
    world.send();
    await world.settle();
    world.decide(world.errands('giver')[0]?.id ?? 0, 'drop');
    await world.settle();
    expect([states('taker'), world.errands('taker')[0]?.awaits]).toEqual([['waiting'], 'giver']);
    world.decide(world.errands('taker')[0]?.id ?? 0, 'without');
    await world.settle();
    expect([seen('taker'), world.board('taker').open[0]?.wire.join]).toEqual([['Odalys Quarry'], undefined]);
  });

  test('the giver is left off: the taker is to send without what it gave', async () => {
    begin('taker', 'giver');
    world.make();
    world.send();
    await world.settle();
    world.save((c) => ({ ...c, leftOff: ['giver'] }));
    world.send();
    await world.settle();
    expect([seen('giver'), world.board('taker').open[0]?.wire.join, world.listing('taker').standing]).toEqual([
      [],
      undefined,
      'instep',
    ]);
  });
});

describe('ways of answering', () => {
  test('later: handed over, nothing else is done to it meanwhile, and settled by its answer', async () => {
    begin('later');
    world.make();
    world.send();
    await world.settle(30);
    expect([states(), world.listing('later').standing, world.board('later').things.length]).toEqual([
      ['lodged'],
      'underway',
      0,
    ]);
    // What is handed over is counted, and nothing is sent twice.
    expect(world.send()).toMatchObject({ ok: true, value: { errands: 0, underway: 1 } });
    world.board('later').answerLots();
    await world.settle();
    expect([states(), seen('later'), world.listing('later').standing]).toEqual([['done'], ['Odalys Quarry'], 'instep']);
  });

  test('later: a row that is turned down is refused with its word, and can be sent again', async () => {
    begin('later');
    world.make();
    world.send();
    await world.settle(30);
    world.board('later').answerLots(true);
    await world.settle();
    expect([states(), world.errands()[0]?.lastError?.message]).toEqual([['refused'], 'the row was turned down']);
    world.decide(world.errands()[0]?.id ?? 0, 'again');
    await world.settle(30);
    world.board('later').answerLots();
    await world.settle();
    expect([states(), world.board('later').open.length]).toEqual([['done'], 1]);
  });

  test('said once: a change is told as locked, with no way but to leave it; private, it is told that it stands', async () => {
    begin('once');
    world.make();
    world.send();
    await world.settle();
    world.save((c) => ({ ...c, title: 'Changed' }));
    expect([
      world.send().ok,
      world.listing('once').steps.locked.map((change) => change.key),
      world.listing('once').steps.ways.map((way) => way.id),
    ]).toEqual([false, ['title'], ['leave']]);
    world.save((c) => ({ ...c, publicity: { visibility: 'private', announce: null } }));
    expect(world.listing('once').findings.map((finding) => finding.code)).toContain('locked-there');
    await world.settle();
    expect(seen('once')).toEqual(['Odalys Quarry']);
  });

  test('a mirror is never written to', async () => {
    begin('mirror', 'plain');
    world.make();
    world.send();
    await world.settle();
    const written = world.board('mirror').calls.filter((call) => !call.startsWith('GET'));
    expect([written, seen('plain')]).toEqual([[], ['Odalys Quarry']]);
  });

  test('a mirror is told when what it mirrors was found after all', async () => {
    begin('mirror', 'plain');
    world.make();
    world.board('plain').fates.push(['POST /things', 'lose']);
    world.send();
    await world.settle();
    expect(world.stored('mirror')?.sent).toEqual(world.stored('plain')?.sent);
  });

  test('of a mirror, what did not change keeps the time since when it is said', async () => {
    begin('mirror', 'plain');
    world.make();
    world.send();
    await world.settle();
    const first = world.stored('mirror')?.sentTimes ?? {};
    world.pass(hour);
    world.save((c) => ({ ...c, title: 'Another Quarry' }));
    world.send();
    await world.settle();
    const then = world.stored('mirror')?.sentTimes ?? {};
    const moved = Object.keys(then).filter((key) => then[key] !== first[key]);
    expect([moved, Object.keys(then).sort()]).toEqual([['title'], Object.keys(first).sort()]);
  });

  test('looked: what was handed over shows hours later, and is not late before', async () => {
    begin('looked');
    world.make();
    world.send();
    await world.settle(20);
    world.board('looked').answerLots();
    world.pass(hour);
    await world.settle();
    // Somebody there has still to look at it: it is not seen, and not late either.
    expect([seen('looked'), world.listing('looked').standing]).toEqual([[], 'unread']);
    world.board('looked').letThrough();
    world.pass(hour);
    await world.settle();
    expect([seen('looked'), world.listing('looked').standing]).toEqual([['Odalys Quarry'], 'instep']);
  });

  test('looked: what nobody there lets through is late after its time, and told; nothing is sent again', async () => {
    begin('looked');
    world.make();
    world.send();
    await world.settle(20);
    world.board('looked').answerLots();
    world.pass(hour);
    await world.settle();
    world.pass(7 * hour);
    await world.settle();
    expect([seen('looked'), world.listing('looked').standing, world.send().ok]).toEqual([[], 'late', false]);
  });
});

describe('knowledge and its moments', () => {
  test('a reading that began before our writing says nothing of it, and is done again', async () => {
    begin('plain');
    world.make();
    world.send();
    await world.settle();
    world.house.db.run('UPDATE listings SET read_at = 0');
    const board = world.board('plain');
    const http = board.http.bind(board);
    board.http = async (request) => {
      const answer = await http(request);
      if (request.method === 'GET' && request.url.includes('/things/')) {
        board.http = http;
        world.save((c) => ({ ...c, title: 'Newer' }));
        world.send();
        await world.beat();
      }
      return answer;
    };
    await world.readOne();
    expect(world.stored('plain')?.sent?.title).toEqual({ kind: 'text', text: 'Newer' });
    await world.settle();
    expect([seen('plain'), world.listing('plain').standing]).toEqual([['Newer'], 'instep']);
  });

  test('what record and channel agree on without our sending is settled, and later no false trouble', async () => {
    begin('plain');
    world.make();
    world.send();
    await world.settle();
    world.board('plain').edit(world.board('plain').open[0]?.id ?? '', { name: 'Agreed' });
    world.save((c) => ({ ...c, title: 'Agreed' }));
    world.house.db.run('UPDATE listings SET read_at = 0');
    await world.settle();
    expect([world.listing('plain').standing, world.send().ok]).toEqual(['instep', false]);
    world.save((c) => ({ ...c, title: 'And on' }));
    expect(world.send().ok).toBe(true);
    await world.settle();
    expect(seen('plain')).toEqual(['And on']);
  });

  test('changes of an event that was just sent are in the next dispatch, though nothing was read yet', async () => {
    begin('plain');
    world.make();
    world.send();
    await world.beat();
    world.save((c) => ({ ...c, title: 'Second' }));
    world.send();
    await world.beat();
    world.save((c) => ({ ...c, title: 'Third' }));
    expect(world.send()).toMatchObject({ ok: true, value: { errands: 1 } });
    await world.settle();
    expect(seen('plain')).toEqual(['Third']);
  });

  test('a channel that was taken off keeps what stands there, and goes on where it was when it is connected again', async () => {
    begin('plain');
    world.make();
    world.send();
    await world.settle();
    world.disconnect('plain');
    world.save((c) => ({ ...c, title: 'Meanwhile' }));
    expect(world.send().ok).toBe(false);
    world.connect('plain');
    world.send();
    await world.settle();
    expect([seen('plain'), world.board('plain').things.length]).toEqual([['Meanwhile'], 1]);
  });

  test('taken down by hand, then by us: nothing is in the way', async () => {
    begin('plain');
    world.make({ notices: [newNotice('n', 'nowhere')] });
    world.send();
    await world.settle();
    const [thing] = world.board('plain').things;
    world.board('plain').things = [{ ...(thing as NonNullable<typeof thing>), state: 'closed' }];
    world.house.db.run('UPDATE listings SET read_at = 0');
    await world.settle();
    expect(world.listing('plain').standing).toBe('drifted');
    world.save((c) => ({ ...c, publicity: { visibility: 'private', announce: null } }));
    world.house.db.run('UPDATE listings SET read_at = 0');
    await world.settle();
    expect(world.listing('plain').standing).toBe('withdrawn');
  });
});

test.each<[string, 'title' | 'private']>([
  ['changed', 'title'],
  ['taken down', 'private'],
])('what stands under another id by now is not %s blindly: it is looked at again, and then it is', async (_, what) => {
  begin('plain');
  world.make();
  world.send();
  await world.settle();
  const [thing] = world.board('plain').things;
  if (!thing) throw new Error('nothing stands there');
  // Somebody there made a new entry of it: the same reference, another id.
  world.board('plain').things = [{ ...thing, id: 't900' }];
  world.save((content) =>
    what === 'title'
      ? { ...content, title: 'Renamed' }
      : { ...content, publicity: { ...content.publicity, visibility: 'private' } },
  );
  world.send();
  await world.beat();
  expect(world.errands('plain').map(({ lastError }) => lastError?.message ?? '')).toContain(
    'it stands there under another id: it was looked at again',
  );
  await world.settle();
  const { things, calls } = world.board('plain');
  expect([seen('plain'), things.map(({ id }) => id)]).toEqual([what === 'title' ? ['Renamed'] : [], ['t900']]);
  // Once is enough: nobody asks again and again.
  expect(calls.filter((call) => call === 'GET /find').length).toBeLessThan(5);
});

test('a key that a place told once with an entry goes with each later call, through a reading that does not tell it', async () => {
  begin('keyed');
  world.make();
  world.send();
  await world.settle();
  world.house.db.run('UPDATE listings SET read_at = 0 WHERE remote IS NOT NULL');
  await world.settle();
  expect(world.listing('keyed').standing).toBe('instep');
  for (const title of ['Renamed', 'Renamed again']) {
    world.save((content) => ({ ...content, title }));
    world.send();
    await world.settle();
    expect([seen('keyed'), states('keyed').at(-1)]).toEqual([[title], 'done']);
  }
  world.save((content) => ({ ...content, publicity: { ...content.publicity, visibility: 'private' } }));
  world.send();
  await world.settle();
  expect(seen('keyed')).toEqual([]);
});

test('where nothing is taken down, what must not be seen is called off there, and stays so', async () => {
  begin('calledoff');
  world.make();
  world.send();
  await world.settle();
  world.save((content) => ({ ...content, publicity: { ...content.publicity, visibility: 'private' } }));
  expect(world.listing('calledoff').steps).toMatchObject({ op: 'cancel', locked: [] });
  world.send();
  await world.settle();
  expect(world.board('calledoff').things.map(({ state }) => state)).toEqual(['cancelled']);
  expect(world.listing('calledoff').standing).toBe('instep');
  // Seen again it cannot be: a person is told why, and nothing is sent.
  world.save((content) => ({ ...content, publicity: { ...content.publicity, visibility: 'public' } }));
  expect(world.listing('calledoff').steps.locked.map(({ why }) => why)).toEqual([
    'it was cancelled there, which is for ever',
  ]);
});
