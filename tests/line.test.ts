import { by, keeper } from '@/core/testing/doers';
import { channelIdSchema, unsavedRecord, type RecordId } from '@/core/base/ids';
import { sendOursAgain, takeIntoRecord } from '@/desk/drift/decide-drift';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { decideErrand } from '@/desk/dispatch/decide-errand';
import { dispatchView } from '@/desk/dispatch/dispatch-view';
import { pulse } from '@/desk/house/pulse';
import { health } from '@/desk/house/health';
import { importEvents } from '@/desk/files/import-events';
import { readNow } from '@/desk/drift/read-now';
import { toSend, whyNothing } from '@/desk/dispatch/to-send';
import { transaction } from '@/store/database';
import { claimErrand, errandsWhere } from '@/store/errands';
import { listingsOf } from '@/store/listings';
import { recordAt } from '@/store/records';
import { makeRig, type Rig } from './rig';
import { moveClock } from './move-clock';

let rig: Rig;
beforeEach(async () => {
  rig = await makeRig();
});
afterEach(() => rig.end());

const all = (standing: string | null) => ({ 'lectern.0': standing, 'gatefold.0': standing, 'hearthside.0': standing });
const remoteOf = (id: RecordId, channel: string) =>
  listingsOf(rig.house.db, id).find((listing) => listing.channel === channel)?.remote?.id ?? '';
const publicPage = async (id: RecordId, channel: string) =>
  (await fetch(rig.listings(id).find((listing) => listing.channel === channel)?.publicUrl ?? '')).text();
const dispatchId = (made: ReturnType<Rig['send']>) => {
  if (!made.ok || made.value.dispatchId === null) throw new Error(made.ok ? 'nothing goes out' : made.error);
  return made.value.dispatchId;
};

test('one record, three channels: placed in order, carrying the link, read back, and changed in one go', async () => {
  const id = rig.make();
  expect(rig.standings(id)).toEqual(all('unplaced'));
  await pulse(rig.house, keeper);
  expect(health(rig.house)).toMatchObject({
    ok: true,
    clock: 'simulated',
    zoneData: '2026f',
    records: 1,
    toSend: 3,
    errandsWaiting: 0,
  });

  const first = dispatchId(rig.send());
  expect(rig.standings(id)).toEqual(all('underway'));
  expect(whyNothing(rig.house, keeper, [id])).toBe('underway');
  // What is under way is counted, and sent once.
  expect(rig.send()).toMatchObject({ ok: true, value: { dispatchId: first, errands: 0, underway: 3 } });
  await rig.settle();
  expect(rig.standings(id)).toEqual(all('instep'));
  const view = dispatchView(rig.house, keeper, first);
  expect(view?.errands.map((errand) => [errand.channel, errand.state, errand.tries])).toEqual([
    ['gatefold', 'done', 1],
    ['lectern', 'done', 1],
    ['hearthside', 'done', 1],
  ]);
  const link = listingsOf(rig.house.db, id).find((listing) => listing.channel === 'gatefold')?.remote?.link ?? 'none';
  expect(await publicPage(id, 'lectern')).toContain(`href="${link}?via=lectern"`);
  expect(await publicPage(id, 'hearthside')).toContain('by the page Tallow Yard');
  expect(await publicPage(id, 'gatefold')).toContain('22.00 EUR');

  const content = rig.content({ performances: [{ ...rig.content().performances[0], start: '20:15' } as never] });
  expect(rig.save(id, 1, content)).toMatchObject({ kind: 'saved', revision: 2 });
  expect(rig.standings(id)).toEqual(all('due'));
  expect(
    toSend(rig.house, keeper)[0]?.errands.map((errand) => [
      errand.channel,
      errand.op,
      errand.changes.map((change) => change.key),
    ]),
  ).toEqual([
    ['gatefold', 'amend', ['start@p1']],
    ['lectern', 'amend', ['start@p1']],
    ['hearthside', 'amend', ['start@p1']],
  ]);
  rig.send();
  await rig.settle();
  expect(rig.standings(id)).toEqual(all('instep'));
  for (const channel of ['lectern', 'gatefold', 'hearthside']) expect(await publicPage(id, channel)).toContain('20:15');
  expect(toSend(rig.house, keeper)).toEqual([]);
  const hidden = rig.make({ publicity: { ...content.publicity, visibility: 'private' } });
  const pencilled = rig.make({
    performances: content.performances.map((performance) => ({ ...performance, pencilled: true })),
  });
  expect(
    [id, hidden, pencilled, unsavedRecord].map((item) => [
      toSend(rig.house, keeper, [item]),
      whyNothing(rig.house, keeper, [item]),
    ]),
  ).toEqual([
    [[], 'in-step'],
    [[], 'private'],
    [[], 'nowhere'],
    [[], 'gone'],
  ]);
});

test('the answer is lost after the change was applied: asked first, and nothing stands twice', async () => {
  const id = rig.make();
  for (const channel of ['gatefold', 'lectern', 'hearthside'])
    await rig.weather(channel, { loseAnswers: channel === 'gatefold' ? 4 : 3 });
  const sent = dispatchId(rig.send());
  await rig.settle(40);
  expect(rig.standings(id)).toEqual(all('instep'));
  for (const channel of ['lectern', 'gatefold', 'hearthside'])
    expect([channel, await rig.publicCount(channel, 'Odalys Quarry')]).toEqual([channel, 1]);
  const receipts =
    dispatchView(rig.house, keeper, sent)?.errands.flatMap((errand) => errand.receipts.map((line) => line.outcome)) ??
    [];
  expect(receipts.filter((outcome) => outcome === 'again').length).toBeGreaterThanOrEqual(3);

  await rig.weather('lectern', { loseAnswers: 1 });
  rig.save(id, 1, rig.content({ title: 'Odalys Quarry and Friends' }));
  rig.send();
  await rig.settle(40);
  expect(rig.standings(id)).toEqual(all('instep'));
});

test('a process that ended in the middle of an errand: its claim is freed, the channel asked, nothing sent twice', async () => {
  const id = rig.make();
  dispatchId(rig.send());
  // What SIGKILL leaves: a claim that nobody holds, and here even a draft that the lost try had made.
  const errand = transaction(rig.house.db, (tx) =>
    claimErrand(tx, channelIdSchema.parse('gatefold'), rig.house.monotonic() + 10, 1),
  );
  expect(errand).toMatchObject({ channel: 'gatefold', state: 'running', tries: 1 });
  await rig.settle();
  expect(rig.standings(id)).toEqual(all('instep'));
  expect(await rig.publicCount('gatefold', 'Odalys Quarry')).toBe(1);
  expect(errandsWhere(rig.house.db, { states: ['done'] }).find((errand) => errand.channel === 'gatefold')?.tries).toBe(
    2,
  );
});

test('the outside is away in mid-dispatch, and comes back: the dispatch finishes', async () => {
  const id = rig.make();
  await rig.stopOutside();
  rig.send();
  await rig.settle(2);
  expect(rig.standings(id)).toEqual(all('underway'));
  expect(
    errandsWhere(rig.house.db, { states: ['waiting'] }).find((errand) => errand.channel === 'gatefold')?.lastError
      ?.kind,
  ).toBe('again-later');
  await rig.startOutsideAgain();
  await rig.settle(40);
  expect(rig.standings(id)).toEqual(all('instep'));
});

test('edited there by hand: drift names the field; ours goes again, or theirs becomes the record', async () => {
  const id = rig.make();
  rig.send();
  await rig.settle();
  const [, , hearthside] = rig.listings(id);
  if (!hearthside) throw new Error('no listing');
  const edit = {
    about: 'By hand',
    where: 'Elsewhere',
    begins: '2027-03-14 21:00',
    headline: 'Changed there',
    act: 'save',
  };
  await rig.owner('hearthside', hearthside, remoteOf(id, 'hearthside'), edit);
  readNow(rig.house, keeper, id);
  await rig.settle();
  const drifted = () =>
    rig
      .listings(id)
      .find((listing) => listing.channel === 'hearthside')
      ?.comparison.filter((field) => field.outcome === 'drifted')
      .map((field) => field.key) ?? [];
  expect(rig.standings(id)['hearthside.0']).toBe('drifted');
  expect(
    toSend(rig.house, keeper).map((eventToSend) => [
      eventToSend.errands,
      eventToSend.asks.map((asking) => asking.channel),
    ]),
  ).toEqual([[[], ['hearthside']]]);
  expect(drifted().sort()).toEqual(['body', 'place', 'start@p1', 'title']);
  expect(takeIntoRecord(rig.house, by('Maren'), id, hearthside.id, [{ key: 'start@p1' }, { key: 'title' }])).toEqual({
    ok: true,
    value: 2,
  });
  expect(recordAt(rig.house.db, id)?.content).toMatchObject({
    title: 'Changed there',
    performances: [{ start: '21:00' }],
  });
  expect(takeIntoRecord(rig.house, by('Maren'), id, hearthside.id, [{ key: 'place' }])).toMatchObject({
    ok: false,
    error: expect.stringMatching(/made from other facts/),
  });
  expect(sendOursAgain(rig.house, by('Maren'), id, hearthside.id, [{ key: 'body' }, { key: 'place' }]).ok).toBe(true);
  await rig.settle();
  expect(rig.standings(id)).toEqual({ 'lectern.0': 'due', 'gatefold.0': 'due', 'hearthside.0': 'instep' });
  rig.send();
  await rig.settle();
  expect(rig.standings(id)).toEqual(all('instep'));
});

test('an amendment leaves alone what drifted and nobody has decided on', async () => {
  const id = rig.make({
    performances: [
      rig.content().performances[0] as never,
      { ...rig.content().performances[0], id: 'p2', date: '2027-03-15' } as never,
    ],
  });
  rig.send();
  await rig.settle();
  const [lectern] = rig.listings(id);
  if (!lectern) throw new Error('no listing');
  await rig.owner('lectern', lectern, remoteOf(id, 'lectern'), {
    title: 'Odalys Quarry',
    excerpt: 'Concert harp, two tape machines.',
    price_note: '€22',
    starts: '2027-03-14 18:00',
    act: 'save',
  });
  // Not read back yet: the version mark is refused, the entry is looked at, and only our own field is written.
  const content = recordAt(rig.house.db, id)?.content;
  if (!content) throw new Error('no record');
  rig.save(id, 1, {
    ...content,
    performances: content.performances.map((performance) =>
      performance.id === 'p2' ? { ...performance, start: '20:00' } : performance,
    ),
  });
  rig.send([lectern.id]);
  await rig.settle();
  expect(
    rig
      .listings(id)[0]
      ?.comparison.filter((field) => field.outcome !== 'same')
      .map((field) => [field.key, field.outcome]),
  ).toEqual([['start@p1', 'drifted']]);
  expect(await publicPage(id, 'lectern')).toMatch(/18:00[\s\S]*20:00/);
});

test('deleted there: it is placed again when asked to, under the same reference', async () => {
  const id = rig.make();
  rig.send();
  await rig.settle();
  const [lectern] = rig.listings(id);
  if (!lectern) throw new Error('no listing');
  await rig.owner('lectern', lectern, remoteOf(id, 'lectern'), { act: 'delete' });
  readNow(rig.house, keeper, id);
  await rig.settle();
  expect(rig.standings(id)['lectern.0']).toBe('drifted');
  expect(sendOursAgain(rig.house, by('Maren'), id, lectern.id, [{ key: 'listed' }]).ok).toBe(true);
  await rig.settle();
  expect([rig.standings(id)['lectern.0'], await rig.publicCount('lectern', 'Odalys Quarry')]).toEqual(['instep', 1]);
});

test('tickets are sold: the plan knows what is locked, the rest goes, and the start moves by the way that is picked', async () => {
  const id = rig.make();
  rig.send();
  await rig.settle();
  const gatefold = rig.listings(id).find((listing) => listing.channel === 'gatefold');
  if (!gatefold) throw new Error('no listing');
  await rig.owner('gatefold', gatefold, remoteOf(id, 'gatefold'), {
    name: 'Odalys Quarry',
    summary: 'Concert harp, two tape machines.',
    starts: '2027-03-14 19:30',
    act: 'sell',
  });
  readNow(rig.house, keeper, id);
  await rig.settle();
  rig.save(id, 1, rig.content({ performances: [{ ...rig.content().performances[0], start: '20:00' } as never] }));
  const [event] = toSend(rig.house, keeper);
  // What is locked holds up the event's others, until somebody picks a way.
  expect([event?.errands, event?.held.map((heldToSend) => [heldToSend.channel, heldToSend.freedBy])]).toEqual([
    [],
    [
      ['lectern', [gatefold.id]],
      ['hearthside', [gatefold.id]],
    ],
  ]);
  expect(rig.send()).toMatchObject({ ok: false });
  expect(
    event?.locked.map((lockedToSend) => [
      lockedToSend.channel,
      lockedToSend.locked.map((change) => change.key),
      lockedToSend.ways.map((way) => way.id),
    ]),
  ).toEqual([['gatefold', ['start@p1'], ['reschedule', 'leave']]]);
  const way = (part: object) =>
    makeDispatch(rig.house, by('Maren'), new Set(event?.held.map((heldToSend) => heldToSend.listing)), {
      seen: 'all',
      ways: { [gatefold.id]: { way: 'reschedule', reason: '', code: '', ...part } },
    });
  expect(way({})).toMatchObject({ ok: false, error: expect.stringContaining('say why') });
  expect(way({ reason: 'The harp is late' })).toMatchObject({ ok: true, value: { errands: 3 } });
  await rig.settle();
  expect(rig.standings(id)).toEqual(all('instep'));
  expect(await publicPage(id, 'gatefold')).toContain('20:00');
});

test('sold between the yes and the sending: it is refused with the lock, in its dispatch, and can be dropped', async () => {
  const id = rig.make();
  rig.send();
  await rig.settle();
  const gatefold = rig.listings(id).find((listing) => listing.channel === 'gatefold');
  if (!gatefold) throw new Error('no listing');
  rig.save(id, 1, rig.content({ performances: [{ ...rig.content().performances[0], start: '20:00' } as never] }));
  rig.send();
  // Nothing of the sale was read yet.
  await rig.owner('gatefold', gatefold, remoteOf(id, 'gatefold'), {
    name: 'Odalys Quarry',
    summary: 'Concert harp, two tape machines.',
    starts: '2027-03-14 19:30',
    act: 'sell',
  });
  await rig.settle();
  expect(rig.standings(id)).toEqual({ 'lectern.0': 'instep', 'gatefold.0': 'refused', 'hearthside.0': 'instep' });
  const [refused] = errandsWhere(rig.house.db, { states: ['refused'] });
  expect(refused?.lastError).toMatchObject({ kind: 'locked', message: expect.stringContaining('1 sold') });
  expect(toSend(rig.house, keeper)[0]?.asks.map((asking) => [asking.channel, asking.refused?.errand])).toEqual([
    ['gatefold', refused?.id],
  ]);
  expect(decideErrand(rig.house, keeper, refused?.id ?? 0, 'drop')).toBe(1);
  expect(rig.standings(id)['gatefold.0']).toBe('due');
});

test('private is private, whatever was queued; and what stood in public is taken down and comes back', async () => {
  const id = rig.make();
  rig.send();
  const hidden = { ...rig.content(), publicity: { visibility: 'private' as const, announce: null } };
  rig.save(id, 1, hidden);
  await rig.settle();
  expect(rig.standings(id)).toEqual(all(null));
  for (const channel of ['lectern', 'gatefold', 'hearthside'])
    expect(await rig.publicCount(channel, 'Odalys Quarry')).toBe(0);

  rig.save(id, 2, rig.content());
  rig.send();
  await rig.settle();
  rig.save(id, 3, hidden);
  expect(toSend(rig.house, keeper)[0]?.errands.map((errand) => errand.op)).toEqual([
    'unpublish',
    'unpublish',
    'unpublish',
  ]);
  rig.send();
  await rig.settle();
  expect(rig.standings(id)).toEqual(all('withdrawn'));
  expect(await rig.publicCount('lectern', 'Odalys Quarry')).toBe(0);
  rig.save(id, 4, rig.content());
  rig.send();
  await rig.settle();
  expect(rig.standings(id)).toEqual(all('instep'));
});

test('the embargo is a wall: queued before, it goes out at its moment and not earlier', async () => {
  const id = rig.make({
    publicity: { visibility: 'public', announce: { date: '2027-02-04', time: '09:00', zone: 'Europe/Dublin' } },
  });
  expect(rig.send()).toMatchObject({ ok: false });
  expect(rig.send(rig.listings(id).map((listing) => listing.id))).toMatchObject({ ok: true });
  await rig.settle(2);
  expect(rig.standings(id)).toEqual(all('embargoed'));
  await moveClock(rig.base, 2 * 86_400_000);
  await rig.house.follow();
  await rig.settle();
  expect(rig.standings(id)).toEqual(all('instep'));
});

test('a person’s token is refused at connecting, and a wrong password says which', async () => {
  const { hearthside } = (await (await fetch(`${rig.base}/accounts?as=person`, { method: 'POST' })).json()) as {
    hearthside: { token: string };
  };
  expect(await rig.connect('hearthside', hearthside)).toMatchObject({
    ok: false,
    error: { credentials: expect.stringContaining('belongs to the person') },
  });
  expect(await rig.connect('hearthside', { token: 'wrong' })).toMatchObject({
    ok: false,
    error: { credentials: expect.stringContaining('unknown token') },
  });
  expect(await rig.connect('lectern', { user: 'tallow-desk', password: '' })).toEqual({
    ok: false,
    error: { password: 'Fill this in.' },
  });
});

test('saving an older revision writes nothing and hands back what a merge needs', () => {
  const id = rig.make();
  expect(rig.save(id, 1, rig.content({ title: 'Mine' }), 'Maren')).toMatchObject({ kind: 'saved', revision: 2 });
  expect(rig.save(id, 1, rig.content({ title: 'Theirs' }), 'Dov')).toMatchObject({
    kind: 'merge',
    revision: 2,
    actor: 'Maren',
    base: { title: 'Odalys Quarry' },
    theirs: { title: 'Mine' },
  });
  expect(recordAt(rig.house.db, id)).toMatchObject({ revision: 2, content: { title: 'Mine' } });
  expect(rig.save(id, 2, rig.content({ title: '' }), 'Dov')).toMatchObject({
    kind: 'stopped',
    findings: [{ path: ['title'], code: 'title-empty' }],
  });
});

test('a file read again takes nothing twice, and takes the row that was put right', async () => {
  const head = 'title,date,start,venue,town\n';
  const read = (text: string) => importEvents(rig.house, by('Maren'), 'x.csv', head + text, 'Europe/Dublin');
  expect(read('A,2027-03-01,19:30,Yard,M\nB,2027-03-02,late,Yard,M\n')).toMatchObject({
    ok: true,
    value: { made: [{ line: 2 }], known: [], broken: [{ line: 3, field: 'start' }] },
  });
  expect(read('A,2027-03-01,19:30,Yard,M\nB,2027-03-02,20:00,Yard,M\nC,2027-03-28,01:30,Yard,M\n')).toMatchObject({
    ok: true,
    value: {
      made: [{ line: 3, title: 'B' }],
      known: [{ line: 2, title: 'A' }],
      broken: [{ line: 4, field: 'start', text: expect.stringContaining('does not exist') }],
    },
  });
  expect(health(rig.house).records).toBe(2);
});

test('a warning is acknowledged before it is sent past; once seen it is not asked again, and a new one is', async () => {
  const pictures = [
    { ...(rig.content().pictures[0] ?? fault()), focal: { x: 0.5, y: 0.5 }, keep: { x0: 0, y0: 0, x1: 1, y1: 1 } },
  ];
  const id = rig.make({ title: 'Cut Where It Matters', pictures });
  const mine = () => toSend(rig.house, keeper).find((eventToSend) => eventToSend.recordId === id)?.errands ?? [];
  const unseen = mine().flatMap((errandToSend) => errandToSend.unseen);
  expect(unseen.length).toBeGreaterThan(0);
  const listings = new Set(mine().map((errandToSend) => errandToSend.listing));
  const refused = makeDispatch(rig.house, by('Maren'), listings, { seen: [] });
  expect(refused).toMatchObject({ ok: false, error: expect.stringMatching(/acknowledged/) });
  expect(makeDispatch(rig.house, by('Maren'), listings, { seen: unseen.slice(1) }).ok).toBe(false);
  expect(makeDispatch(rig.house, by('Maren'), listings, { seen: unseen }).ok).toBe(true);
  await rig.settle();
  rig.save(id, 1, rig.content({ title: 'Cut Where It Still Matters', pictures }));
  expect(mine().flatMap((errandToSend) => errandToSend.unseen)).toEqual([]);
  const long =
    'A title that is far too long for any of these places and says the same again and again and again and again and again';
  rig.save(id, 2, rig.content({ title: long, pictures }));
  expect(mine().flatMap((errandToSend) => errandToSend.unseen).length).toBeGreaterThan(0);
});

const fault = (): never => {
  throw new Error('no picture');
};
