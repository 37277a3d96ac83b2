import { person } from '@/core/testing/doers';
import type { RecordContent } from '@/core/record/record';
import { World, type KindName } from './scripted/world';

/*
 * What must hold when things change between a person's yes and a channel's answer, case by case. Every wish goes
 * through the real store and the real runner; what came of it is read from the board's own data.
 */

let world: World;
const begin = (...kinds: KindName[]) => (world = new World(kinds));
afterEach(() => world.end());

const announce = (date: string, time = '09:00'): Partial<RecordContent> => ({
  publicity: { visibility: 'public', announce: { date, time, zone: 'Europe/Dublin' } },
});
const day = 86_400_000;
const seen = (name: string) => world.board(name).open.map((thing) => thing.wire.name);
const states = (name?: string) => world.errands(name).map((errand) => errand.state);
const starts = (name: string) =>
  (world.board(name).open[0]?.wire.dates as { ref?: string; at: number }[] | undefined)?.map((date) =>
    new Date(date.at * 1000).toISOString().slice(11, 16),
  );

describe('changed between the yes and the sending', () => {
  test.each<[string, (content: RecordContent) => RecordContent]>([
    ['pencilled again', (c) => ({ ...c, stage: 'pencilled' })],
    ['made private', (c) => ({ ...c, publicity: { visibility: 'private', announce: null } })],
    [
      'made unlisted, where that cannot be said',
      (c) => ({ ...c, publicity: { visibility: 'unlisted', announce: null } }),
    ],
    ['left off', (c) => ({ ...c, leftOff: ['plain'] })],
    [
      'every date held',
      (c) => ({ ...c, performances: c.performances.map((performance) => ({ ...performance, pencilled: true })) }),
    ],
    ['marked as carried over', (c) => ({ ...c, carried: ['prices'] })],
  ])('%s: not a word of it leaves', async (_, change) => {
    begin('plain');
    world.make();
    world.send();
    world.save(change);
    await world.settle();
    expect([world.board('plain').things, states()]).toEqual([[], ['dropped']]);
    expect(world.board('plain').calls.filter((call) => !call.startsWith('GET'))).toEqual([]);
  });

  test('one performance held: the others go, that one does not', async () => {
    begin('plain');
    world.make();
    world.send();
    world.save((c) => ({
      ...c,
      performances: c.performances.map((performance, i) => ({ ...performance, pencilled: i === 1 })),
    }));
    await world.settle();
    expect([starts('plain'), world.listing('plain').standing]).toEqual([['19:30'], 'instep']);
  });

  test('under embargo, date and title are corrected: at the announce moment the corrected ones go, the approved ones never', async () => {
    begin('plain');
    const said: unknown[] = [];
    world.board('plain').onSeen = (thing) => said.push(thing.wire.name);
    world.make(announce('2027-02-04'));
    world.sendAll();
    world.save((c) => ({
      ...c,
      title: 'Corrected',
      performances: c.performances.map((performance) => ({ ...performance, start: '20:15' })),
    }));
    await world.settle();
    expect(said).toEqual([]);
    world.pass(2 * day);
    await world.settle();
    expect([said, starts('plain'), states()]).toEqual([['Corrected'], ['20:15', '20:15'], ['done']]);
  });

  test('announce moment brought forward, and the embargo lifted: free at that moment, with no receipt and no try in between', async () => {
    begin('plain');
    world.make(announce('2027-02-10'));
    world.sendAll();
    await world.settle();
    world.save((c) => ({ ...c, ...announce('2027-02-04') }));
    await world.settle();
    expect([world.receipts(), world.errands()[0]?.tries, seen('plain')]).toEqual([0, 0, []]);
    world.pass(2 * day);
    await world.settle();
    expect(seen('plain')).toEqual(['Odalys Quarry']);
    const again = world.make(announce('2027-02-20'));
    world.sendAll();
    await world.settle();
    world.save((c) => ({ ...c, publicity: { visibility: 'public', announce: null } }));
    expect(world.errands()[0]?.ready).toBe(true);
    await world.settle();
    expect([again, states()]).toEqual([world.recordId, ['done']]);
  });

  test('an embargo set later holds what was to go now', async () => {
    begin('plain');
    world.make();
    world.send();
    world.save((c) => ({ ...c, ...announce('2027-02-06') }));
    await world.settle();
    expect(world.board('plain').things).toEqual([]);
    world.pass(5 * day);
    await world.settle();
    expect(seen('plain')).toEqual(['Odalys Quarry']);
  });

  test('an announce moment that does not exist is not saved, and nothing of it is sent', async () => {
    begin('plain');
    world.make(announce('2027-02-04'));
    world.sendAll();
    expect(world.save((c) => ({ ...c, ...announce('2027-03-28', '01:30') })).kind).toBe('stopped');
    await world.settle();
    expect(world.board('plain').things).toEqual([]);
  });

  test('something else was saved by somebody who may send: it goes, and the receipt says whose it is; else it asks', async () => {
    world = new World(['plain']);
    world.make();
    world.send();
    world.save((c) => ({ ...c, title: 'By another' }), person('writer'));
    await world.settle();
    expect([world.board('plain').things, world.errands()[0]?.lastError?.kind]).toEqual([[], 'held']);
    world.save((c) => ({ ...c, subtitle: 'By Maren' }));
    world.decide(world.errands()[0]?.id ?? 0, 'again');
    await world.settle();
    expect(seen('plain')).toEqual(['By another']);
    const [receipt] = world.house.db.all<{ detail: string }>("SELECT detail FROM receipts WHERE outcome = 'done'");
    expect(JSON.parse(receipt?.detail ?? '{}')).toMatchObject({ followed: 'Maren', revision: 3 });
  });

  test('cancelled, and taken down while an amendment waits: it is taken down, not amended', async () => {
    begin('plain');
    world.make();
    world.send();
    await world.settle();
    world.save((c) => ({ ...c, title: 'Later title' }));
    world.send();
    world.save((c) => ({ ...c, publicity: { visibility: 'private', announce: null } }));
    await world.settle();
    expect([seen('plain'), world.listing('plain').standing]).toEqual([[], 'withdrawn']);
  });

  test('made private between a channel’s making and its opening: it is not opened', async () => {
    begin('twostep');
    world.make();
    world.send();
    const board = world.board('twostep');
    const opened: string[] = [];
    board.onSeen = (thing) => opened.push(thing.id);
    const http = board.http.bind(board);
    board.http = async (request) => {
      const answer = await http(request);
      if (request.url.endsWith('/things'))
        world.save((c) => ({ ...c, publicity: { visibility: 'private', announce: null } }));
      return answer;
    };
    await world.settle();
    // Not for a moment: that it would be taken back again is no help to whoever saw it.
    expect([opened, seen('twostep'), world.board('twostep').things.length, world.listing('twostep').standing]).toEqual([
      [],
      [],
      1,
      'withdrawn',
    ]);
  });
});

describe.each(['plain', 'marks', 'twostep'] as const)('a placing whose answer is lost, %s', (name) => {
  const call = name === 'twostep' ? 'POST /open/:id' : 'POST /things';
  test('it is looked for, and found once', async () => {
    begin(name);
    world.make();
    world.board(name).fates.push(['POST /things', 'lose']);
    world.send();
    await world.settle();
    expect([seen(name), states(), world.listing(name).standing]).toEqual([['Odalys Quarry'], ['done'], 'instep']);
  });

  test('a person drops the errand and sends anew: one stands there, not two', async () => {
    begin(name);
    world.make();
    world.board(name).fates.push([call, 'lose']);
    world.send();
    await world.beat();
    world.decide(world.errands()[0]?.id ?? 0, 'drop');
    world.send();
    await world.settle();
    expect([world.board(name).things.length, world.listing(name).standing]).toEqual([1, 'instep']);
  });

  test('then the record is made private, the errand dropped: what stands there is taken down all the same', async () => {
    begin(name);
    world.make();
    world.board(name).fates.push([call, 'lose']);
    world.send();
    await world.beat();
    world.decide(world.errands()[0]?.id ?? 0, 'drop');
    world.save((c) => ({ ...c, publicity: { visibility: 'private', announce: null } }));
    world.pass(20_000);
    await world.settle();
    expect(seen(name)).toEqual([]);
  });

  test.each(['crash-before', 'crash-after'] as const)(
    'the process ends in it (%s): the next one asks first',
    async (fate) => {
      begin(name);
      world.make();
      world.board(name).fates.push(['POST /things', fate]);
      world.send();
      expect(await world.beat()).toBe('asleep');
      world.restart();
      await world.settle();
      expect([world.board(name).things.length, seen(name), world.listing(name).standing]).toEqual([
        1,
        ['Odalys Quarry'],
        'instep',
      ]);
    },
  );
});

describe('a placing that is slower than our patience', () => {
  /** Its call is cut off, and carried out by the board only when both looks were over. */
  const slow = async () => {
    begin('plain');
    world.make();
    const board = world.board('plain');
    board.fates.push(['POST /things', 'late']);
    world.send();
    await world.beat();
    world.restart();
    return board;
  };
  /** What was placed in the end, and in the place that came late. */
  const two = async () => {
    const board = await slow();
    await world.settle();
    expect(board.things).toHaveLength(1);
    await world.wake();
    // Within minutes it is noticed.
    world.pass(60_000);
    await world.settle();
    return board;
  };
  const twice = () =>
    world.listing('plain').findings.flatMap((finding) => (finding.code === 'twice-there' ? [finding.id] : []));

  test('is looked for still: where two stand, it is told, and is not in step', async () => {
    const board = await two();
    expect([board.open.length, twice(), world.listing('plain').standing]).toEqual([
      2,
      [board.things[1]?.id],
      'drifted',
    ]);
  });
  test.each([
    ['the other', 1, 0],
    ['the one that was held for ours', 0, 1],
  ])('of two, %s can be taken down; the one that stays is ours, and in step', async (_, which, stays) => {
    const board = await two();
    expect(world.oneDown('plain', board.things[which]?.id ?? '').ok).toBe(true);
    await world.settle();
    expect([board.open.map((thing) => thing.id), twice(), world.listing('plain').standing]).toEqual([
      [board.things[stays]?.id],
      [],
      'instep',
    ]);
    expect(world.oneDown('plain', board.things[which]?.id ?? '')).toMatchObject({ ok: false });
    // What is sent from now on goes to the one that stays.
    world.save((c) => ({ ...c, title: 'Moved on' }));
    world.send();
    await world.settle();
    expect(board.open.map((thing) => thing.wire.name)).toEqual(['Moved on']);
  });
  test('of two, both are taken down where the record turns private', async () => {
    const board = await two();
    world.save((c) => ({ ...c, publicity: { ...c.publicity, visibility: 'private' } }));
    world.send();
    await world.settle();
    expect([board.open, world.listing('plain').standing]).toEqual([[], 'withdrawn']);
  });
  test('that comes when the one placed anew was taken down already is taken down too', async () => {
    const board = await slow();
    await world.settle();
    world.save((c) => ({ ...c, publicity: { ...c.publicity, visibility: 'private' } }));
    world.send();
    await world.settle();
    expect(board.open).toEqual([]);
    await world.wake();
    expect(board.open).toHaveLength(1);
    world.pass(3_600_000);
    await world.settle();
    expect([board.open, world.listing('plain').standing]).toEqual([[], 'withdrawn']);
  });
  test('that comes after the record turned private is found, and taken down by itself', async () => {
    const board = await slow();
    world.save((c) => ({ ...c, publicity: { ...c.publicity, visibility: 'private' } }));
    await world.settle();
    expect([board.things, world.errands().map((errand) => errand.state)]).toEqual([[], ['dropped']]);
    await world.wake();
    expect(board.open).toHaveLength(1);
    world.pass(600_000);
    await world.settle();
    expect(board.open).toEqual([]);
  });
  test('is not given up because a simulated clock leapt: what is slow takes its real time', async () => {
    begin('plain');
    world.make();
    const board = world.board('plain');
    board.fates.push(['POST /things', 'late']);
    world.machine = 0;
    world.send();
    await world.beat();
    world.restart();
    for (const real of [1_000, 5_000, 16_000]) {
      world.machine = real;
      world.pass(3_600_000);
      await world.settle(3);
      expect([real, board.calls.filter((call) => call === 'POST /things').length]).toEqual([real, 1]);
    }
    await world.wake();
    world.machine = 26_000;
    world.pass(60_000);
    await world.settle();
    expect([board.open.length, twice(), world.listing('plain').standing]).toEqual([1, [], 'instep']);
  });
  test('that never comes is looked for ever more rarely, and after a day no more', async () => {
    const board = await slow();
    world.save((c) => ({ ...c, publicity: { ...c.publicity, visibility: 'private' } }));
    for (let hour = 0; hour < 30; hour += 1) {
      world.pass(3_600_000);
      await world.settle();
    }
    const looks = board.calls.filter((call) => call === 'GET /find').length;
    expect([looks > 5, looks < 25]).toEqual([true, true]);
    world.pass(10 * 86_400_000);
    await world.settle();
    expect(board.calls.filter((call) => call === 'GET /find')).toHaveLength(looks);
  });
});

describe('two that work one folder', () => {
  test('one leads; the other waits until it has said nothing for a while', async () => {
    begin('plain');
    world.make();
    const first = world.lead;
    expect([first.renew(), first.fence()]).toEqual([true, 1]);
    world.restart();
    expect([world.lead.fence(), first.renew(), first.stillLeads(1)]).toEqual([2, false, false]);
  });

  test('a process sleeps in mid-errand and wakes when another leads: its result is a receipt and a reading, and moves nothing', async () => {
    begin('plain');
    world.make();
    world.send();
    await world.settle();
    world.save((c) => ({ ...c, title: 'Second' }));
    world.send();
    world.board('plain').fates.push(['PATCH /things/:id', 'crash-after']);
    expect(await world.beat()).toBe('asleep');
    world.restart();
    await world.settle();
    const before = world.stored('plain');
    await world.wake();
    const after = world.stored('plain');
    expect([after?.writes, after?.sent]).toEqual([before?.writes, before?.sent]);
    expect(world.house.db.all<{ n: number }>("SELECT count(*) AS n FROM receipts WHERE outcome = 'too late'")).toEqual([
      { n: 1 },
    ]);
    await world.settle();
    expect([seen('plain'), world.listing('plain').standing]).toEqual([['Second'], 'instep']);
  });
});

describe('edited there by hand', () => {
  const twoNights = async (name: KindName) => {
    begin(name);
    world.make();
    world.send();
    await world.settle();
    return world.board(name).open[0]?.id ?? '';
  };
  const move = (id: string, start: string) =>
    world.save((c) => ({
      ...c,
      performances: c.performances.map((performance) =>
        performance.id === id ? { ...performance, start } : performance,
      ),
    }));

  test.each(['plain', 'marks'] as const)(
    'the title, while our change of a performance goes out (%s): theirs stands and is told, ours went',
    async (name) => {
      const id = await twoNights(name);
      world.board(name).edit(id, { name: 'By hand' });
      move('p2', '20:15');
      world.send();
      await world.settle();
      expect([seen(name), starts(name)]).toEqual([['By hand'], ['19:30', '20:15']]);
      expect(
        world
          .listing(name)
          .comparison.filter((field) => field.outcome !== 'same')
          .map((field) => [field.key, field.outcome]),
      ).toEqual([['title', 'drifted']]);
      expect(
        world.house.db
          .all<{ observed: string }>('SELECT observed FROM readings')
          .some((candidate) => candidate.observed.includes('By hand')),
      ).toBe(true);
    },
  );

  test.each(['plain', 'marks'] as const)(
    'the very field, a minute apart (%s): it stops, and both values are shown',
    async (name) => {
      const id = await twoNights(name);
      world.save((c) => ({ ...c, title: 'Ours' }));
      world.send();
      world.board(name).edit(id, { name: 'Theirs' });
      await world.settle();
      expect([seen(name), states().at(-1), world.listing(name).standing]).toEqual([['Theirs'], 'refused', 'refused']);
      expect(world.errands().at(-1)?.lastError).toMatchObject({ kind: 'conflict', message: 'edited there: title' });
      world.decide(world.errands().at(-1)?.id ?? 0, 'drop');
      const [field] = world.listing(name).comparison.filter((field) => field.outcome === 'at-odds');
      expect(field).toMatchObject({ wanted: { text: 'Ours' }, observed: { text: 'Theirs' } });
    },
  );

  test('a date moved by hand does not go back when another is amended', async () => {
    const id = await twoNights('plain');
    const dates = world.board('plain').open[0]?.wire.dates as { ref: string; at: number }[];
    world
      .board('plain')
      .edit(id, { dates: dates.map((date, i) => (i === 0 ? { ...date, at: date.at - 3600 } : date)) });
    move('p2', '20:15');
    world.send();
    await world.settle();
    expect(starts('plain')).toEqual(['18:30', '20:15']);
  });

  test('a performance removed by hand stays removed, over several amendments, and is told', async () => {
    const id = await twoNights('plain');
    const dates = world.board('plain').open[0]?.wire.dates as object[];
    world.board('plain').edit(id, { dates: dates.slice(1) });
    for (const start of ['20:15', '20:30']) {
      move('p2', start);
      world.send();
      await world.settle();
    }
    expect(starts('plain')).toEqual(['20:30']);
    expect(
      world
        .listing('plain')
        .comparison.filter((field) => field.outcome === 'drifted')
        .map((field) => field.key),
    ).toEqual(['start@p1']);
  });

  test('an item of theirs in our group stays as it came, and never gets a reference of ours', async () => {
    const id = await twoNights('plain');
    const dates = world.board('plain').open[0]?.wire.dates as object[];
    const theirs = { at: 1_805_000_000, zone: 'UTC', colour: 'blue' };
    world.board('plain').edit(id, { dates: [theirs, ...dates] });
    move('p2', '20:15');
    world.send();
    await world.settle();
    expect(world.board('plain').open[0]?.wire.dates).toContainEqual(theirs);
    expect((world.board('plain').open[0]?.wire.dates as object[]).length).toBe(3);
  });

  test('ours again goes over what was seen, and not over what was changed since', async () => {
    const id = await twoNights('plain');
    world.board('plain').edit(id, { name: 'Theirs' });
    world.house.db.run('UPDATE listings SET read_at = 0');
    await world.settle();
    expect(world.listing('plain').standing).toBe('drifted');
    expect(world.ours('plain', ['title']).ok).toBe(true);
    world.board('plain').edit(id, { name: 'Theirs, newer' });
    await world.settle();
    expect([seen('plain'), states().at(-1)]).toEqual([['Theirs, newer'], 'refused']);
    world.decide(world.errands().at(-1)?.id ?? 0, 'drop');
    expect(world.ours('plain', ['title']).ok).toBe(true);
    await world.settle();
    expect(seen('plain')).toEqual(['Odalys Quarry']);
  });

  test('hidden and removed: an amendment places no stub; placed again it is whole, let go it is left off', async () => {
    const id = await twoNights('plain');
    move('p2', '20:15');
    world.send();
    world.board('plain').remove(id);
    await world.settle();
    expect([world.board('plain').things, world.errands().at(-1)?.lastError?.kind]).toEqual([[], 'gone']);
    expect(world.stored('plain')?.remote?.id).toBe(id);
    world.decide(world.errands().at(-1)?.id ?? 0, 'drop');
    expect(world.ours('plain', ['listed']).ok).toBe(true);
    await world.settle();
    expect([starts('plain'), seen('plain'), world.listing('plain').standing]).toEqual([
      ['19:30', '20:15'],
      ['Odalys Quarry'],
      'instep',
    ]);
    world.board('plain').remove(world.board('plain').open[0]?.id ?? '');
    world.house.db.run('UPDATE listings SET read_at = 0');
    await world.settle();
    expect(world.letGo('plain').ok).toBe(true);
    await world.settle();
    expect([world.record.content.leftOff, world.board('plain').things, world.listing('plain').standing]).toEqual([
      ['plain'],
      [],
      null,
    ]);
  });

  test('taking down what is gone is not refused', async () => {
    const id = await twoNights('plain');
    world.board('plain').remove(id);
    world.save((c) => ({ ...c, publicity: { visibility: 'private', announce: null } }));
    world.send();
    await world.settle();
    expect([states().at(-1), world.listing('plain').standing]).toEqual(['not needed', 'withdrawn']);
  });

  test('coming back after a taking-down says only what the record says now', async () => {
    await twoNights('plain');
    world.save((c) => ({ ...c, subtitle: 'Once' }));
    world.send();
    await world.settle();
    world.save((c) => ({ ...c, publicity: { visibility: 'private', announce: null } }));
    world.send();
    await world.settle();
    world.save((c) => ({
      ...c,
      subtitle: '',
      publicity: { visibility: 'public', announce: null },
      performances: c.performances.slice(0, 1),
    }));
    world.send();
    await world.settle();
    expect([world.board('plain').open[0]?.wire.under, starts('plain'), world.listing('plain').standing]).toEqual([
      undefined,
      ['19:30'],
      'instep',
    ]);
  });
});

describe('a channel that does not answer', () => {
  test('is knocked at by one errand, with few receipts; with its first answer the whole queue goes', async () => {
    begin('plain');
    const ids = Array.from({ length: 12 }, (_, i) => world.make({ title: `Event ${i}` }));
    const board = world.board('plain');
    const http = board.http.bind(board);
    let down = true;
    board.http = (request) =>
      down ? Promise.resolve({ status: 503, headers: new Headers(), text: '{}' }) : http(request);
    world.send();
    for (let i = 0; i < 60; i += 1) {
      await world.beat();
      world.pass(60_000);
    }
    expect(world.receipts()).toBeLessThan(15);
    // Of an hour of knocking in vain, the book has the first time alone.
    expect(world.house.db.all("SELECT id FROM receipts WHERE outcome = 'again'")).toHaveLength(1);
    expect(world.house.outside.state('plain').failingSince).not.toBeNull();
    down = false;
    world.pass(300_000);
    // Nothing of the queue waits for a moment of its own: each beat takes the next.
    for (let i = 0; i < 13; i += 1) await world.beat();
    expect(board.open.length).toBe(ids.length);
  });

  test.each([
    [429, { 'retry-after': '40' }, 40_000],
    [408, {}, 1_000],
    [425, {}, 1_000],
    [503, { 'retry-after': '1000000000' }, day],
  ])('%d is again later, for the whole account, at most a day', async (status, headers, waits) => {
    begin('plain');
    world.make();
    world.board('plain').fates.push(['POST /things', { status, headers: headers as Record<string, string> }]);
    world.send();
    await world.beat();
    expect([states(), world.house.outside.state('plain').blockedUntil - world.house.monotonic()]).toEqual([
      ['waiting'],
      waits,
    ]);
    world.pass(waits + 1);
    await world.settle();
    expect(seen('plain')).toEqual(['Odalys Quarry']);
  });

  test('waiting uses up no try: the first refusal of credentials is not the last', async () => {
    begin('plain', 'giver', 'taker');
    world.make({ leftOff: ['plain'] });
    world.board('giver').fates.push(['POST /things', { status: 503 }], ['POST /things', { status: 503 }]);
    world.board('taker').fates.push(['POST /things', { status: 401 }]);
    world.send();
    await world.settle();
    expect([seen('giver'), seen('taker')]).toEqual([['Odalys Quarry'], ['Odalys Quarry']]);
  });

  test('the clock put back a day: nothing waits for the day to come round', async () => {
    begin('plain');
    world.make();
    world.board('plain').fates.push(['POST /things', { status: 503 }]);
    world.send();
    await world.beat();
    world.now -= day;
    await world.settle(40);
    expect([seen('plain'), world.listing('plain').standing]).toEqual([['Odalys Quarry'], 'instep']);
  });
});
