import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { by, keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { performance } from '@/core/testing/samples';
import { connectChannel } from '@/desk/channels/connect-channel';
import { readNow } from '@/desk/drift/read-now';
import { handSheet, handTasks, sayHandDone, sayHandFailed, setHandRules } from '@/desk/dispatch/by-hand';
import { allChannels } from '@/store/channels';
import { errandsWhere } from '@/store/errands';
import { makeRig, type Rig } from './rig';

/*
 * A place that a person fills in: what is sent becomes a task with a sheet in the place's own order; who does it says so,
 * and only then it counts as standing there. What has a page is read back on it.
 */

let rig: Rig;
const place = 'by-hand';
/** Pages of the place, by path: a status, or what stands there. */
const pages = new Map<string, number | string>();
const site = createServer((request, response) => {
  const page = pages.get(request.url ?? '') ?? 404;
  response.statusCode = typeof page === 'number' ? page : 200;
  response.setHeader('content-type', 'text/html; charset=utf-8');
  response.end(typeof page === 'number' ? 'no' : page);
});
/** Address of a page of the place. */
const pageAt = (path: string) => `http://127.0.0.1:${(site.address() as AddressInfo).port}${path}`;
beforeAll(async () => {
  await new Promise<void>((resolve) => site.listen(0, '127.0.0.1', resolve));
  rig = await makeRig([]);
  const made = await connectChannel(
    rig.house,
    keeper,
    { kind: place },
    {
      ...{ address: '', credentials: {}, name: 'The Noticeboard', shortName: 'Board' },
    },
  );
  if (!made.ok) throw new Error(JSON.stringify(made.error));
});
afterAll(async () => {
  await rig.end();
  await new Promise((resolve) => site.close(resolve));
});

const doer = by('Maren');
const listing = (id: RecordId) => rig.listings(id).find(({ channel }) => channel === place);
const taskOf = (id: RecordId) => handTasks(rig.house, doer).find(({ recordId }) => recordId === id);
const sheetOf = (id: RecordId) => handSheet(rig.house, doer, taskOf(id)?.errand ?? 0);
const sent = async (title: string, part: Parameters<Rig['make']>[0] = {}) => {
  const id = rig.make({ title, ...part });
  expect(rig.send().ok).toBe(true);
  await rig.settle();
  return id;
};
const changed = async (id: RecordId, part: Parameters<Rig['content']>[0]) => {
  const content = rig.record(id) ?? rig.content();
  expect(rig.save(id, rig.revision(id), { ...content, ...part }).kind).toBe('saved');
  rig.send();
  await rig.settle();
};
const done = async (id: RecordId, address = '') => {
  const answer = sayHandDone(rig.house, doer, taskOf(id)?.errand ?? 0, { address });
  await rig.settle();
  return answer;
};

test('what the clock alone changes makes nobody type anew, unless that is wanted', () => {
  expect(allChannels(rig.house.db).find(({ id }) => id === place)?.standingLeave).toBe(false);
});

test('what is sent is a task, in the place’s own order; done with a name and an address it stands there', async () => {
  const id = await sent('On the Board');
  expect([listing(id)?.standing, listing(id)?.publicUrl]).toEqual(['underway', null]);
  const sheet = sheetOf(id);
  expect(sheet?.fields.map(({ label }) => label).slice(0, 3)).toEqual(['Title', 'Starts', 'Place']);
  expect(sheet?.fields[0]).toMatchObject({ limit: 80, lines: [{ text: 'On the Board', before: '' }] });
  expect(sheet).toMatchObject({ does: 'New listing', channelName: 'The Noticeboard', stop: null, changed: false });
  // A week before it begins.
  expect(sheet?.due).toBe(Date.parse('2027-03-07T19:30:00Z'));
  expect(await done(id, 'ftp://nowhere')).toMatchObject({
    ok: false,
    error: { address: expect.any(String) as string },
  });
  expect(taskOf(id)).toBeDefined();
  pages.set('/7', '<h1>On the Board</h1> Sunday 14 March 2027, 19:30');
  expect((await done(id, pageAt('/7'))).ok).toBe(true);
  expect([taskOf(id), listing(id)?.standing, listing(id)?.publicUrl]).toEqual([undefined, 'instep', pageAt('/7')]);
  // It is done once.
  expect(sayHandDone(rig.house, doer, sheet?.errand ?? 0, { address: '' }).ok).toBe(false);
});

test('a change is a task of what is another alone; called off is a task of its own', async () => {
  const id = await sent('Changed');
  await done(id);
  const content = rig.record(id) ?? rig.content();
  await changed(id, { performances: content.performances.map((item) => ({ ...item, start: '20:30' })) });
  const sheet = sheetOf(id);
  expect(sheet?.fields.map(({ label }) => label)).toEqual(['Starts']);
  const [line] = sheet?.fields[0]?.lines ?? [];
  expect([line?.text, line?.before]).toEqual([expect.stringContaining('20:30'), expect.stringContaining('19:30')]);
  await done(id);
  expect(listing(id)?.standing).toBe('instep');
  const later = rig.record(id) ?? rig.content();
  rig.save(id, rig.revision(id), {
    ...later,
    performances: later.performances.map((item) => ({ ...item, turn: 'cancelled' })),
  });
  rig.send();
  await rig.settle();
  expect(sheetOf(id)).toMatchObject({ does: 'Cancel', stop: null });
  await done(id);
  expect(listing(id)?.state.sent?.listed).toEqual({ kind: 'state', is: 'cancelled' });
});

describe('what has a page there is read back on it', () => {
  const note = (id: RecordId) =>
    listing(id)?.findings.flatMap((found) => (found.code === 'channel-says' ? [found.note] : [])) ?? [];
  const read = async (id: RecordId) => {
    readNow(rig.house, doer, id);
    await rig.settle();
    return listing(id)?.standing;
  };
  const start = (id: RecordId) =>
    Object.entries(listing(id)?.state.observed ?? {}).flatMap(([key, value]) =>
      key.startsWith('start@') && value.kind === 'instant' ? [new Date(value.at).toISOString().slice(11, 16)] : [],
    );
  let id: RecordId;
  const evening = (words: string) => `<title>The Noticeboard</title><p>Read Back: Sunday 14 March, ${words}`;
  beforeAll(async () => {
    pages.set('/8', evening('7.30pm'));
    id = await sent('Read Back');
    await done(id, pageAt('/8'));
  });

  test('as it was typed; changed there by somebody; gone', async () => {
    expect([await read(id), start(id)]).toEqual(['instep', ['19:30']]);
    expect(note(id)).toEqual([expect.stringContaining('Its page was read by its text. Not to be found on it: ')]);
    pages.set('/8', evening('9pm'));
    expect([await read(id), start(id)]).toEqual(['drifted', ['21:00']]);
    pages.set('/8', 410);
    expect(await read(id)).toBe('drifted');
    expect(note(id)).toEqual(['Its page is not there any more.']);
    pages.set('/8', evening('7.30pm'));
    expect(await read(id)).toBe('instep');
  });

  test('a page that lets no program read it, leads on, or speaks of other things is no word against whoever typed it', async () => {
    for (const [page, words] of [
      [403, /cannot be read \(it answers 403/],
      [401, /it answers 401/],
      ['<h1>Something Else</h1>', /does not speak of it: whether/],
    ] as const) {
      pages.set('/8', page);
      expect([await read(id), note(id)]).toEqual(['instep', [expect.stringMatching(words)]]);
    }
    pages.set('/8', 500);
    expect(await read(id)).toBe('instep');
    pages.set('/8', evening('7.30pm'));
  });

  test('a change that was said to be typed and stands there as it was is overdue after a day; what is taken off must be gone', async () => {
    await changed(id, {
      performances: (rig.record(id)?.performances ?? []).map((item) => ({ ...item, start: '20:15' })),
    });
    await done(id);
    expect([listing(id)?.standing, start(id)]).toEqual(['unread', ['19:30']]);
    await rig.pass(25 * 3_600_000);
    expect(await read(id)).toBe('late');
    pages.set('/8', evening('8.15pm'));
    expect([await read(id), start(id)]).toEqual(['instep', ['20:15']]);
    const content = rig.record(id) ?? rig.content();
    rig.save(id, rig.revision(id), { ...content, publicity: { visibility: 'private', announce: null } });
    rig.send();
    await rig.settle();
    await done(id);
    await rig.pass(25 * 3_600_000);
    // Said to be taken off, and everybody can read it still.
    expect([await read(id), listing(id)?.state.observed?.listed]).toEqual(['late', { kind: 'state', is: 'public' }]);
    pages.set('/8', 404);
    expect(await read(id)).toBe('withdrawn');
  });
});

test('made private while the task is open: it is not to be done, and what was done all the same is taken off again', async () => {
  const id = await sent('Private Meanwhile');
  const content = rig.record(id) ?? rig.content();
  rig.save(id, 1, { ...content, publicity: { visibility: 'private', announce: null } });
  expect(sheetOf(id)?.stop).toMatch(/may not be seen/);
  // Whoever had typed it already says so.
  await done(id);
  expect(taskOf(id)).toMatchObject({ does: 'Take down', stop: null });
  await done(id);
  expect([taskOf(id), listing(id)?.state.sent?.listed]).toEqual([undefined, { kind: 'state', is: 'closed' }]);
});

test('what could not be done asks a person, with the word; tried again it is a task again', async () => {
  const id = await sent('Not Taken');
  const task = taskOf(id)?.errand ?? 0;
  expect(sayHandFailed(rig.house, doer, task, ' ')).toMatchObject({ ok: false });
  expect(sayHandFailed(rig.house, doer, task, 'the board is full').ok).toBe(true);
  await rig.settle();
  const [refused] = errandsWhere(rig.house.db, { recordId: id, states: ['refused'] });
  expect([listing(id)?.standing, refused?.lastError?.message]).toEqual([
    'refused',
    'Maren could not do it: the board is full',
  ]);
  rig.again(refused?.id ?? 0);
  await rig.settle();
  expect(taskOf(id)?.does).toBe('New listing');
  expect((await done(id)).ok).toBe(true);
  expect(listing(id)?.standing).toBe('instep');
});

test('what it asks for is set on screen: order, names, limits, days; what is odd is named', async () => {
  const keep = (rules: object) => setHandRules(rig.house, keeper, place, rules);
  const fields = [
    { field: 'start', label: 'When', limit: null },
    { field: 'title', label: 'Headline', limit: 12 },
  ];
  expect(keep({ fields: [...fields, fields[0]], leadDays: 3, where: '' })).toMatchObject({
    ok: false,
    error: { fields: 'A field stands there twice.' },
  });
  expect(keep({ fields: fields.slice(0, 1), leadDays: 3, where: '' })).toMatchObject({
    ok: false,
    error: { fields: 'The title is always needed.' },
  });
  expect(keep({ fields: [{ ...fields[1], limit: 0 }], leadDays: 3, where: '' })).toMatchObject({
    ok: false,
    error: { 'fields.0.limit': 'A limit is 1 or more.' },
  });
  expect(keep({ fields, leadDays: 400, where: '' })).toMatchObject({
    ok: false,
    error: { leadDays: expect.any(String) as string },
  });
  expect(keep({ fields, leadDays: 3, where: 'https://board.example/form' }).ok).toBe(true);
  const id = await sent('A Title Beyond Twelve', { performances: [performance('p1', '2027-03-20')] });
  const sheet = sheetOf(id);
  expect(sheet?.fields.map(({ label, limit }) => [label, limit])).toEqual([
    ['When', null],
    ['Headline', 12],
  ]);
  expect(sheet?.fields[1]?.lines[0]?.text.length).toBeLessThanOrEqual(12);
  expect([sheet?.due, sheet?.where]).toEqual([Date.parse('2027-03-17T19:30:00Z'), 'https://board.example/form']);
  expect(setHandRules(rig.house, keeper, 'nowhere', { fields, leadDays: 3, where: '' }).ok).toBe(false);
});

test('a page that somebody keeps gets a block to paste; the block of before is seen, and taken off it is gone', async () => {
  const made = await connectChannel(
    rig.house,
    keeper,
    { kind: 'site-snippet' },
    { address: '', credentials: {}, name: 'Partner’s page', shortName: 'Partner', settings: { where: 'Ask Idony' } },
  );
  if (!made.ok) throw new Error(JSON.stringify(made.error));
  const { id: channel } = made.value;
  const id = await sent('A Block');
  await done(id);
  const mine = () => rig.listings(id).find((item) => item.channel === channel);
  const task = () => handTasks(rig.house, doer).find((item) => item.recordId === id && item.channel === channel);
  const sheet = () => handSheet(rig.house, doer, task()?.errand ?? 0);
  const say = async () => {
    const answer = sayHandDone(rig.house, doer, task()?.errand ?? 0, { address: pageAt('/partner') });
    await rig.settle();
    return answer.ok;
  };
  const first = sheet();
  expect(first).toMatchObject({ where: 'Ask Idony', due: null, fields: [], stop: null });
  expect(first?.block).toContain('<h2>A Block</h2>');
  pages.set('/partner', `<body><h1>Our friends</h1>${first?.block}`);
  expect([await say(), mine()?.standing, mine()?.publicUrl]).toEqual([true, 'instep', pageAt('/partner')]);
  await changed(id, {
    performances: (rig.record(id)?.performances ?? []).map((item) => ({ ...item, start: '20:45' })),
  });
  // What it changes is shown; the block is whole all the same.
  expect(sheet()?.fields.map(({ label }) => label)).toEqual(['start']);
  const second = sheet()?.block ?? '';
  expect([second.includes('<h2>A Block</h2>'), second.includes('T20:45:00+00:00')]).toEqual([true, true]);
  expect([await say(), mine()?.standing]).toEqual([true, 'unread']);
  pages.set('/partner', `<body><h1>Our friends</h1>${second}`);
  readNow(rig.house, doer, id);
  await rig.settle();
  expect(mine()?.standing).toBe('instep');
  rig.save(id, rig.revision(id), { ...(rig.record(id) ?? rig.content()), leftOff: [channel] });
  rig.send();
  await rig.settle();
  expect([sheet()?.does, sheet()?.block]).toEqual(['Take down', null]);
  pages.set('/partner', '<body><h1>Our friends</h1>');
  expect([await say(), mine()?.standing]).toEqual([true, 'withdrawn']);
  // Its fields are not set on screen.
  expect(
    setHandRules(rig.house, keeper, channel, {
      ...{ fields: [{ field: 'title', label: 'Title', limit: null }], leadDays: 0, where: '' },
    }),
  ).toMatchObject({
    ok: false,
    error: { fields: expect.stringContaining('no such place') as string },
  });
});
