import { readAny } from '@/channels/kit/read';
import { connect } from 'node:net';
import fc from 'fast-check';
import { record } from '@/core/testing/any-record';
import { equalValues } from '@/core/listing/compare';
import { listedField, splitKey, type Shown } from '@/core/listing/shown';
import { facts } from '@/core/facts/facts';
import { writeListing } from '@/core/listing/listing-codec';
import { proof } from '@/core/listing/proof';
import { codedVenues, performance, sample, suited, venues } from '@/core/testing/samples';
import {
  accounts,
  answered,
  asOf,
  channelById,
  channels,
  clientOf,
  greet,
  kindOf,
  outside,
  sending,
  shownBy,
  startKey,
  takenDownBy,
  untilShown,
  wireOf,
} from './stand-ins';
import { moveClock } from './move-clock';

/** Kinds that events are sent to; what only mirrors another is tried with that. */
/** What lies at the house itself refuses nothing, and is never down. */
const listing = channels.filter(
  ({ rules, kind }) => rules.notice === null && rules.mirrors === null && kind.ours !== true,
);
describe.each(listing.map(({ rules }) => rules.id))('%s', (id) => {
  test('place, find by our reference, read, amend, take down, read again', async () => {
    const client = clientOf(id);
    const read = shownBy(id);
    const with_ = sending();
    expect(await client.find(with_.reference)).toEqual([]);
    const placed = await answered(id, client.place(wireOf(id, 'Placed'), with_));
    expect((await client.find(with_.reference))[0]?.id).toBe(placed.id);
    const first = await client.fetch(placed, { page: true });
    const start = startKey(id);
    expect(first && read(first)).toMatchObject({
      title: { text: 'Placed' },
      listed: { is: 'public' },
      ...(start === null ? {} : { [start]: { at: Date.parse('2027-03-14T19:30:00Z'), zone: 'Europe/Dublin' } }),
    });
    const { rules } = channelById(id);
    const amended = await answered(
      id,
      client.amend(
        { ...placed, etag: first?.remote.etag ?? null },
        writeListing(rules, { title: { kind: 'text', text: 'Amended' } }, ['title']),
        sending(),
      ),
    );
    const second = await client.fetch(amended, { page: true });
    expect(second && read(second).title).toEqual({ kind: 'text', text: 'Amended' });
    expect(second && read(second).place).toEqual(first && read(first).place);
    const down = await answered(id, takenDownBy(client, second?.remote ?? amended));
    const third = await client.fetch(down, { page: true });
    expect(third && read(third).listed).toEqual({ kind: 'state', is: expect.stringMatching(/draft|closed/) });
    expect(await (await fetch(`${outside.base}/${id}/`)).text()).not.toContain('Amended');
  });

  test('whatever a record may say is taken there, and read back as it was shown', async () => {
    const { rules } = channelById(id);
    const client = clientOf(id);
    let taken = 0;
    for (const content of fc.sample(record, { numRuns: 200, seed: 20270202 })) {
      const said = facts(suited(id, content), { code: 'X', venues: codedVenues, now: asOf });
      const here = { ...said, here: id, asOneLine: said.series !== '', link: { kind: 'none' as const } };
      const ids = said.performances.slice(0, rules.mostPerformances).map((performance) => performance.id);
      const { shown, findings } = proof(rules, here, ids, asOf);
      const awaits = Object.values(shown).some((value) => value.kind === 'awaited');
      const stopped = findings.some(
        (finding) => finding.weight === 'stops' && !/empty|small|over|codeless/.test(finding.code),
      );
      if (awaits || stopped || !rules.accepts(here) || taken >= 8) continue;
      taken += 1;
      const placed = await answered(id, client.place(writeListing(rules, shown), { ...sending(), pictures: [] }));
      const answer = await client.fetch(placed, { page: false });
      const items = new Set(Object.keys(shown).map((key) => splitKey(key).item ?? ''));
      const read: Shown = answer ? readAny(channelById(id).rules, answer, { items }) : {};
      const keys = [...new Set([...Object.keys(shown), ...Object.keys(read)])].filter((key) => key !== listedField);
      const other = keys.filter((key) => {
        const [was, is] = [shown[key], read[key]];
        return was === undefined || is === undefined
          ? was?.kind !== 'flag' && is?.kind !== 'flag'
          : !equalValues(was, is);
      });
      expect([id, other.map((key) => [key, shown[key], read[key]])]).toEqual([id, []]);
    }
    expect(taken).toBeGreaterThan(2);
  });

  test('what is not there is null, and a wrong credential is its own kind of error', async () => {
    const client = clientOf(id);
    expect(
      await client.fetch({ id: 'nothing', publicUrl: null, etag: null, link: null, lapsesAt: null }, { page: true }),
    ).toBeNull();
    const wrong = Object.fromEntries(Object.keys(accounts[id] ?? {}).map((name) => [name, 'wrong']));
    if (!client.greet) return;
    expect(await kindOf(greet(clientOf(id, wrong)))).toBe('sign-in-again');
    expect(await greet(client)).toEqual(expect.any(String));
  });

  // Where one comes for it, nothing is refused at the door, and no answer is lost on the way.
  if (channelById(id).rules.answers === 'pulled') return;

  test('a title beyond the channel’s own limit is refused, with its field', async () => {
    const wire = wireOf(id, 'x');
    const [key] = Object.entries(wire).find(([, value]) => value === 'x') ?? [''];
    const refused = answered(id, clientOf(id).place({ ...wire, [key]: 'x'.repeat(400) }, sending()));
    await expect(refused).rejects.toMatchObject({ kind: 'invalid', field: key });
  });

  test('down is again-later; an answer lost after a write is an unknown outcome, and it was done', async () => {
    const weather = (change: object) =>
      fetch(`${outside.base}/weather/${id}`, {
        method: 'POST',
        body: JSON.stringify(change),
        headers: { 'content-type': 'application/json' },
      });
    const client = clientOf(id);
    await client.greet?.();
    await weather({ down: true });
    expect(await kindOf(client.find('x'))).toBe('again-later');
    await weather({ down: false });
    const with_ = { ...sending(), pictures: [] };
    if (id === 'gatefold') await client.place(wireOf(id, 'First of its venue'), sending());
    await weather({ loseAnswers: 1 });
    expect(await kindOf(client.place(wireOf(id, 'Lost'), with_))).toBe('unknown-outcome');
    await untilShown(id);
    expect(await client.find(with_.reference)).toHaveLength(1);
  });
});

test('Lectern: an entry that was edited there meanwhile is a conflict, never overwritten', async () => {
  const client = clientOf('lectern');
  const placed = await client.place(wireOf('lectern', 'Mine'), sending());
  await client.amend(placed, { excerpt: 'newer' }, sending());
  expect(await kindOf(client.amend(placed, { title: 'Old hand' }, sending()))).toBe('conflict');
});

test('Lectern: tickets hidden there are no tickets, whatever its API says', async () => {
  const client = clientOf('lectern');
  const placed = await client.place({ ...wireOf('lectern', 'Hidden tickets'), show_tickets: false }, sending());
  const answer = await client.fetch(placed, { page: true });
  expect(answer && [answer.wire.ticket_url, shownBy('lectern')(answer).link]).toEqual([
    'https://tickets.example/',
    undefined,
  ]);
});

test('Gatefold: the same key is done once; a venue is entered once', async () => {
  const client = clientOf('gatefold');
  const with_ = sending();
  const [remote, two] = [
    await client.place(wireOf('gatefold', 'Once'), with_),
    await client.place(wireOf('gatefold', 'Once'), with_),
  ];
  expect(two.id).toBe(remote.id);
  // A key is a key of its request: another under it is refused, and changes nothing.
  expect(await kindOf(client.place(wireOf('gatefold', 'Another'), with_))).toBe('conflict');
  expect(await client.find(with_.reference)).toHaveLength(1);
  expect(remote.link).toBe(remote.publicUrl);
  const burst = await Promise.all(
    Array.from({ length: 12 }, () =>
      fetch(`${outside.base}/gatefold/api/account`, { headers: { authorization: 'Bearer wrong' } }),
    ),
  );
  expect(burst.every((answer) => answer.status === 401)).toBe(true);
});

test('Gatefold: a token that has run out is renewed by itself', async () => {
  const client = clientOf('gatefold');
  await greet(client);
  await moveClock(outside.base, 3 * 3_600_000);
  expect(await greet(client)).toBe('Tallow Yard box office');
});

test('Gatefold: after the first sale start and price are locked, the rest is not, and a quantity may only rise', async () => {
  const client = clientOf('gatefold');
  const placed = await client.place(wireOf('gatefold', 'Sold one'), sending());
  await fetch(`${outside.base}/gatefold/owner/${placed.id}`, {
    method: 'POST',
    body: new URLSearchParams({ act: 'sell', name: 'Sold one', summary: '', starts: '2027-03-14 19:30' }),
    redirect: 'manual',
  });
  const wire = wireOf('gatefold', 'Sold one');
  const [session] = wire.sessions as Record<string, unknown>[];
  const [level] = wire.levels as Record<string, unknown>[];
  const amend = (part: object) => kindOf(client.amend(placed, { ...part }, sending()));
  expect(await amend({ sessions: [{ ...session, starts_at: '2027-03-14T20:00:00Z' }] })).toBe('locked');
  expect(await amend({ levels: [{ ...level, face: '25.00' }] })).toBe('locked');
  expect(await amend({ levels: [{ ...level, quantity: 10 }] })).toBe('locked');
  expect(await amend({ levels: [{ ...level, quantity: 500 }] })).toBe('taken');
  expect(await amend({ summary: 'Words may change' })).toBe('taken');
});

describe('Hearthside posts', () => {
  const dayMs = 86_400_000;
  const read = shownBy('hearthside-posts');
  const front = async () => (await fetch(`${outside.base}/hearthside/`)).text();
  const now = async () => ((await (await fetch(`${outside.base}/clock`)).json()) as { now: number }).now;

  test('place, find, amend, take down: pinned ones stand first, and the photo with them', async () => {
    const client = clientOf('hearthside-posts');
    const with_ = sending();
    const placed = await client.place(
      {
        text: 'A first post',
        link: 'https://tickets.example/',
        photo: { file: 'x.jpg', alt: 'x' },
        published_as: 'page',
        visible: true,
        pinned: false,
      },
      with_,
    );
    await client.place({ text: 'A pinned post', pinned: true, visible: true }, sending());
    expect([(await client.find(with_.reference))[0]?.id, placed.lapsesAt]).toEqual([placed.id, null]);
    const page = await front();
    expect([
      page.indexOf('A pinned post') < page.indexOf('A first post'),
      page.includes('/hearthside/photos/x.jpg'),
      page.includes('href="https://tickets.example/"'),
    ]).toEqual([true, true, true]);
    const amended = await client.amend(placed, { text: 'A first post, put right' }, sending());
    const answer = await client.fetch(amended, { page: true });
    expect(answer && read(answer)).toMatchObject({
      body: { text: 'A first post, put right' },
      publisher: { text: 'page' },
      link: { href: 'https://tickets.example/' },
      pinned: { on: false },
    });
    await takenDownBy(client, amended);
    const gone = await client.fetch(amended, { page: true });
    expect([gone && read(gone).listed, (await front()).includes('put right')]).toEqual([
      { kind: 'state', is: 'closed' },
      false,
    ]);
    expect(await client.fetch({ ...placed, id: 'nothing' }, { page: true })).toBeNull();
  });

  test('a pin holds ten days; asking for it again makes it no longer, renewing does; it lapses of itself', async () => {
    const client = clientOf('hearthside-posts');
    const placed = await client.place({ text: 'Holds', pinned: true, visible: true }, sending());
    const left = async (remote: typeof placed) => Math.round(((remote.lapsesAt ?? 0) - (await now())) / dayMs);
    expect(await left(placed)).toBe(10);
    await moveClock(outside.base, 4 * dayMs);
    expect(await left(await client.amend(placed, { text: 'Holds on', pinned: true }, sending()))).toBe(6);
    const renewed = await client.renew?.(placed, sending());
    expect(renewed && (await left(renewed))).toBe(10);
    await moveClock(outside.base, 11 * dayMs);
    const answer = await client.fetch(placed, { page: true });
    expect([answer && read(answer).pinned, (await front()).includes('pinned until')]).toEqual([
      { kind: 'flag', on: false },
      false,
    ]);
    await moveClock(outside.base, -15 * dayMs);
  });

  test('what the channel refuses is told with its field; a person’s token publishes as the person', async () => {
    const client = clientOf('hearthside-posts');
    await expect(client.place({ text: 'x'.repeat(1801), visible: true }, sending())).rejects.toMatchObject({
      kind: 'invalid',
      field: 'text',
    });
    expect(await kindOf(greet(clientOf('hearthside-posts', { token: 'wrong' })))).toBe('sign-in-again');
    const { hearthside } = (await (
      await fetch(`${outside.base}/accounts?as=person`, { method: 'POST' })
    ).json()) as typeof accounts;
    const placed = await clientOf('hearthside-posts', hearthside).place(
      { text: 'Trapped post', visible: true },
      sending(),
    );
    const answer = await client.fetch(placed, { page: true });
    expect([answer && read(answer).publisher, (await front()).includes('Trapped post')]).toEqual([
      { kind: 'text', text: 'person' },
      false,
    ]);
  });

  test('edited by hand on the owner’s page: words, pin, and gone', async () => {
    const client = clientOf('hearthside-posts');
    const placed = await client.place({ text: 'By us', pinned: true, visible: true }, sending());
    const post = (form: Record<string, string>) =>
      fetch(`${outside.base}/hearthside/owner/posts/${placed.id}`, {
        method: 'POST',
        body: new URLSearchParams(form),
        redirect: 'manual',
      });
    expect(await (await fetch(`${outside.base}/hearthside/owner`)).text()).toContain(
      `/hearthside/owner/posts/${placed.id}`,
    );
    await post({ text: 'By hand', act: 'unpin' });
    const answer = await client.fetch(placed, { page: true });
    expect(answer && read(answer)).toMatchObject({ body: { text: 'By hand' }, pinned: { on: false } });
    expect(await (await post({ text: '', act: 'save' })).text()).toContain('1 to 1800');
    await post({ text: 'x', act: 'delete' });
    expect(await client.fetch(placed, { page: true })).toBeNull();
  });
});

test('Hearthside: a person’s token works and publishes as the person, which reading back shows', async () => {
  const { hearthside } = (await (
    await fetch(`${outside.base}/accounts?as=person`, { method: 'POST' })
  ).json()) as typeof accounts;
  const client = clientOf('hearthside', hearthside);
  expect(await kindOf(greet(client))).toBe('not-allowed');
  const placed = await client.place(wireOf('hearthside', 'Trapped'), sending());
  const answer = await client.fetch(placed, { page: true });
  expect(answer && shownBy('hearthside')(answer).publisher).toEqual({ kind: 'text', text: 'person' });
  expect(await (await fetch(`${outside.base}/hearthside/`)).text()).not.toContain('Trapped');
});

test('Hearthside: no key is known there, so placing twice makes two; a start is fixed in the last day', async () => {
  const client = clientOf('hearthside');
  const with_ = sending();
  const [remote, two] = [
    await client.place(wireOf('hearthside', 'Twice'), with_),
    await client.place(wireOf('hearthside', 'Twice'), with_),
  ];
  expect(two.id).not.toBe(remote.id);
  const now = ((await (await fetch(`${outside.base}/clock`)).json()) as { now: number }).now;
  const soon = facts(
    sample({
      title: 'Soon',
      performances: [
        performance('p1', new Date(now).toISOString().slice(0, 10), { start: '23:59', doors: null, end: null }),
      ],
    }),
    { code: 'X', venues, now },
  );
  const { rules } = channelById('hearthside');
  const wire = writeListing(rules, proof(rules, soon, ['p1'], now).shown);
  const placed = await client.place(wire, sending());
  const [time] = wire.times as Record<string, unknown>[];
  expect(
    await kindOf(client.amend(placed, { times: [{ ...time, begins: Number(time?.begins) - 600 }] }, sending())),
  ).toBe('locked');
  expect(await kindOf(client.amend(placed, { about: 'Words may change' }, sending()))).toBe('taken');
});

test('Hearthside: what speaks of a raffle waits for a person; artists’ pages say whose they are', async () => {
  const client = clientOf('hearthside');
  const placed = await client.place(
    { ...wireOf('hearthside', 'Scarf Night'), about: 'A raffle for the first scarf.' },
    sending(),
  );
  const seen = async () => (await fetch(placed.publicUrl ?? '')).status;
  expect(await seen()).toBe(404);
  // The answer says nothing of the wait: only the public page tells.
  const read = shownBy('hearthside');
  const answer = await client.fetch(placed, { page: true });
  expect(answer && read(answer).listed).toEqual({ kind: 'state', is: expect.stringMatching(/draft|closed/) });
  const owner = `${outside.base}/hearthside/owner/${placed.id}`;
  const form = {
    headline: 'Scarf Night',
    about: 'A raffle for the first scarf.',
    where: '',
    begins: '2027-03-14 19:30',
  };
  await fetch(owner, { method: 'POST', body: new URLSearchParams({ ...form, act: 'let' }), redirect: 'manual' });
  expect(await seen()).toBe(200);
  expect([
    await client.whose?.('https://hearthside.example/odalys-quarry'),
    await client.whose?.('ninefold'),
    await client.whose?.('nobody-at-all'),
  ]).toEqual(['Odalys Quarry', 'Ninefold Upholstery', null]);
});

test('Gatefold: sales are counted by session and level, never beyond what there is; hidden levels are not shown', async () => {
  const client = clientOf('gatefold');
  const wire = wireOf('gatefold', 'Few Seats');
  const [level] = wire.levels as Record<string, unknown>[];
  const placed = await client.place(
    {
      ...wire,
      levels: [
        { ...level, quantity: 12 },
        { ...level, external_id: 'c', name: 'Presale', hidden: true, access_code: 'WICK' },
      ],
    },
    sending(),
  );
  const owner = `${outside.base}/gatefold/owner/${placed.id}`;
  const sell = (act: string) =>
    fetch(owner, {
      method: 'POST',
      body: new URLSearchParams({ name: 'Few Seats', summary: '', starts: '2027-03-14 19:30', act }),
      redirect: 'manual',
    });
  for (const act of ['sell-ten', 'sell', 'sell-ten']) await sell(act);
  const answer = await client.fetch(placed, { page: true });
  expect(answer && channelById('gatefold').kind.sales?.(answer)).toEqual([
    { performanceId: 'p1', levelId: 's', sold: 12 },
  ]);
  const page = await (await fetch(placed.publicUrl ?? '')).text();
  expect([page.includes('Standard'), page.includes('Presale'), page.includes('WICK')]).toEqual([true, false, false]);
  expect(
    await kindOf(
      client.amend(
        placed,
        { sessions: [{ ...(wire.sessions as object[])[0], starts_at: '2027-03-14T20:30:00Z' }] },
        sending(),
      ),
    ),
  ).toBe('locked');
});

test('Gatefold: two levels of fifty in a room of fifty sell fifty; the total is locked beneath what is sold', async () => {
  const client = clientOf('gatefold');
  const wire = wireOf('gatefold', 'Small Room');
  const [level] = wire.levels as Record<string, unknown>[];
  const [session] = wire.sessions as Record<string, unknown>[];
  const placed = await client.place(
    {
      ...wire,
      sessions: [{ ...session, total: 50 }],
      levels: [
        { ...level, quantity: 50 },
        { ...level, external_id: 'r', name: 'Reduced', quantity: 50 },
      ],
    },
    sending(),
  );
  const sell = () =>
    fetch(`${outside.base}/gatefold/owner/${placed.id}`, {
      method: 'POST',
      body: new URLSearchParams({ name: 'Small Room', summary: '', starts: '2027-03-14 19:30', act: 'sell-ten' }),
      redirect: 'manual',
    });
  for (let n = 0; n < 4; n += 1) await sell();
  await client
    .amend(
      placed,
      {
        levels: [
          { ...level, quantity: 40 },
          { ...level, external_id: 'r', name: 'Reduced', quantity: 50 },
        ],
      },
      sending(),
    )
    .catch(() => undefined);
  for (let n = 0; n < 8; n += 1) await sell();
  // However fast this goes: it takes five requests a second.
  await moveClock(outside.base, 1_000);
  const answer = await client.fetch(placed, { page: true });
  expect(
    (answer ? (channelById('gatefold').kind.sales?.(answer) ?? []) : []).reduce((sum, item) => sum + item.sold, 0),
  ).toBe(50);
  expect(answer && shownBy('gatefold')(answer)['total@p1']).toEqual({ kind: 'count', n: 50 });
  expect(await kindOf(client.amend(placed, { sessions: [{ ...session, total: 40 }] }, sending()))).toBe('locked');
});

test('Lectern: an event may stand there with a note in place of a date, and take a date later', async () => {
  const client = clientOf('lectern');
  const { dates: _, ...open } = wireOf('lectern', 'Some Day');
  expect(await kindOf(client.place(open, sending()))).toBe('invalid');
  const placed = await client.place({ ...open, date_note: 'March 2027, date to follow' }, sending());
  expect(await (await fetch(placed.publicUrl ?? '')).text()).toContain('March 2027, date to follow');
  const dated = await client.amend(
    placed,
    { date_note: null, dates: (wireOf('lectern', 'Some Day') as { dates: unknown }).dates, notice: 'New date' },
    sending(),
  );
  const page = await (await fetch(dated.publicUrl ?? '')).text();
  expect([
    page.includes('date to follow'),
    page.includes('New date'),
    page.includes('2027-03-14T19:30:00.000Z'),
  ]).toEqual([false, true, true]);
});

test('a sale for money is not opened by an account that cannot be paid out; a free one is', async () => {
  const say = (payout: string, tax = 'settled') =>
    fetch(`${outside.base}/gatefold/owner/payout`, { method: 'POST', body: new URLSearchParams({ payout, tax }) });
  const client = clientOf('gatefold');
  await say('no bank account yet');
  expect(await kindOf(client.place(wireOf('gatefold', 'Paid'), sending()))).toBe('not-allowed');
  const free = wireOf('gatefold', 'Free');
  const levels = (free.levels as object[]).map((level) => ({ ...level, face: '0.00' }));
  expect(await kindOf(client.place({ ...free, levels }, sending()))).toBe('taken');
  await say('ready', 'no tax number yet');
  await expect(client.place(wireOf('gatefold', 'Paid'), sending())).rejects.toThrow(
    /tax is not settled \(no tax number/,
  );
  await say('ready');
  expect(await kindOf(client.place(wireOf('gatefold', 'Paid'), sending()))).toBe('taken');
});

test('a line that is reset while a letter is handed in ends nothing else of the outside', async () => {
  const account = await fetch(`${outside.base}/postbag/api/account`, {
    headers: { 'x-list-key': accounts.postbag?.key ?? '' },
  });
  const { smtp_port: port } = (await account.json()) as { smtp_port: number };
  const { user = '', key = '' } = accounts.postbag ?? {};
  const plain = Buffer.from(`\0${user}\0${key}`).toString('base64');
  const said = ['EHLO here', `AUTH PLAIN ${plain}`, `MAIL FROM:<${user}>`];
  const cut = await new Promise<string>((resolve) => {
    const line = connect(port, '127.0.0.1');
    const answers: string[] = [];
    line.on('data', (data) => {
      answers.push(String(data).slice(0, 3));
      const next = said.shift();
      if (next === undefined) line.resetAndDestroy();
      else line.write(`${next}\r\n`);
    });
    line.once('close', () => resolve(answers.join(' ')));
  });
  await new Promise((resolve) => setTimeout(resolve, 200));
  expect([cut, (await fetch(`${outside.base}/about`)).ok]).toEqual(['220 250 235 250', true]);
});
