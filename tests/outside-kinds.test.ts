import {
  accounts,
  answered,
  channelById,
  clientOf,
  greet,
  kindOf,
  outside,
  sending,
  shownBy,
  untilShown,
  wireOf,
} from './stand-ins';
import { moveClock } from './move-clock';

test('Pennyseat: a row with an unknown venue is turned down alone, and put right in the next batch', async () => {
  const client = clientOf('pennyseat');
  const [bad, good] = [sending(), sending()];
  const wire = wireOf('pennyseat', 'Row by Row');
  const [first, other] = [await client.place({ ...wire, venue_code: 'NOWHERE' }, bad), await client.place(wire, good)];
  // The link is known before anything stands there; the answer is not.
  expect([first.link?.includes(bad.reference), await client.collect?.(first.lodged ?? '')]).toEqual([true, null]);
  await untilShown('pennyseat');
  await expect(client.collect?.(first.lodged ?? '')).rejects.toMatchObject({ kind: 'invalid', field: 'venue_code' });
  expect((await client.collect?.(other.lodged ?? ''))?.id).toBe(good.reference);
  // The name of a batch is that of its rows: others under it are refused.
  expect(await kindOf(client.place({ ...wire, title: 'Other rows' }, good))).toBe('conflict');
  const again = await answered('pennyseat', client.place(wire, { ...bad, key: 'put-right' }));
  expect(await client.find(bad.reference)).toHaveLength(1);
  const answer = await client.fetch(again, { page: true });
  expect(answer && channelById('pennyseat').kind.sales?.(answer)).toEqual([
    { performanceId: 'p1', levelId: '', sold: 0 },
  ]);
});

test('Murmurline: changed for twenty minutes, then put right by one reply, whose lost answer makes no second', async () => {
  const client = clientOf('murmurline');
  const with_ = sending();
  const placed = await client.place({ note: 'Doors at seven https://tickets.example/a', visible: 'yes' }, with_);
  await client.amend(placed, { note: 'Doors at half past seven' }, sending());
  await moveClock(outside.base, 21 * 60_000);
  expect(await kindOf(client.amend(placed, { note: 'Doors at eight' }, sending()))).toBe('locked');
  const say = (note: string) =>
    client.correct?.(placed, { note, visible: 'yes' }, { ...sending(), reference: with_.reference });
  const [reply, again] = [await say('Doors at eight'), await say('Doors at eight')];
  expect([reply?.id === placed.id, again?.id]).toEqual([false, reply?.id]);
  expect((await client.find(with_.reference)).map((remote) => remote.id)).toEqual([reply?.id]);
  expect(await kindOf(client.place({ note: 'x'.repeat(341), visible: 'yes' }, sending()))).toBe('invalid');
  const long = `${'x'.repeat(321)} https://tickets.example/${'y'.repeat(200)}`;
  expect(await kindOf(client.place({ note: long, visible: 'yes' }, sending()))).toBe('taken');
});

test('a person’s key, another artist’s profile: the wrong identity is told at its field before anything is kept', async () => {
  const asPerson = (await (
    await fetch(`${outside.base}/accounts?as=person`, { method: 'POST' })
  ).json()) as typeof accounts;
  await expect(greet(clientOf('concourse', asPerson.concourse))).rejects.toMatchObject({
    kind: 'not-allowed',
    field: 'key',
  });
  const mixed = { ...accounts.fernway, profile: accounts['fernway-2']?.profile ?? '' };
  await expect(greet(clientOf('fernway', mixed))).rejects.toMatchObject({ kind: 'not-allowed', field: 'profile' });
  // It is taken all the same where nobody asked: and goes nowhere.
  const placed = await clientOf('fernway', { ...accounts.fernway, profile: 'fw-nobody' }).place(
    wireOf('fernway', 'Lost Tour'),
    sending(),
  );
  expect((await fetch(placed.publicUrl ?? '')).status).toBe(404);
  // Posted with a person's key it stands under that name, which reading back shows.
  const client = clientOf('concourse', asPerson.concourse);
  const answer = await client.fetch(await client.place(wireOf('concourse', 'As Whom'), sending()), { page: false });
  expect(answer && shownBy('concourse')(answer).publisher).toEqual({ kind: 'text', text: 'person' });
});

test('Pennyseat: a batch that never came is not waited for; laid in again it is taken', async () => {
  const client = clientOf('pennyseat');
  const said = { 'PUT /in/:file': { status: 202 } };
  await fetch(`${outside.base}/weather/pennyseat`, {
    method: 'POST',
    body: JSON.stringify({ answerCalls: said }),
    headers: { 'content-type': 'application/json' },
  });
  const lost = sending();
  const wire = wireOf('pennyseat', 'Never Came');
  const { lodged = '' } = await client.place(wire, lost);
  expect(await kindOf(client.collect?.(lodged) ?? Promise.resolve())).toBe('gone');
  await client.place(wire, lost);
  expect(await client.collect?.(lodged)).toBeNull();
  expect((await answered('pennyseat', client.place(wire, lost))).id).toBe(lost.reference);
});

test('Vestibule: who registers is counted by where they came from; the join link is given, and stands on no page', async () => {
  const client = clientOf('vestibule');
  const placed = await client.place({ ...wireOf('vestibule', 'The Lamp Lecture'), places: 3 }, sending());
  const link = placed.gifts?.['registration link'] ?? '';
  const join = placed.gifts?.['join link'] ?? '';
  const register = (from: string, mail: string) =>
    fetch(`${link}?from=${from}`, { method: 'POST', body: new URLSearchParams({ name: 'A', mail }) });
  for (const [from, mail] of [
    ['lectern', 'a@x.example'],
    ['lectern', 'b@x.example'],
    ['hearthside', 'c@x.example'],
  ] as const)
    await register(from, mail);
  expect((await register('lectern', 'd@x.example')).status).toBe(409);
  const answer = await client.fetch(placed, { page: true });
  expect([answer?.wire.sources, answer?.page?.includes(join), join.includes('/join/')]).toEqual([
    { lectern: 2, hearthside: 1 },
    false,
    true,
  ]);
});

describe('Postbag', () => {
  const wire = {
    subject: 'The Lamp Lecture, Thu 4 March',
    preview: 'A lamp, a speaker',
    words: 'Come and hear it.\n\nBring a friend & a <lamp>.',
    link: 'https://tickets.example/lamp?via=postbag',
    picture: { file: 'x.jpg', alt: 'A "lamp"' },
    segment: 'members',
    state: 'sent',
  };

  test('a letter goes out by real mail and is read back as it was shown; nobody leaves without a way to', async () => {
    const client = clientOf('postbag');
    const sent = await client.place(wire, sending());
    const answer = await client.fetch(sent, { page: false });
    expect(answer?.wire).toMatchObject(wire);
    expect(answer && shownBy('postbag')(answer)).toMatchObject({
      subject: { text: wire.subject },
      listed: { is: 'public' },
    });
    expect(client.unpublish).toBeUndefined();
    for (const segment of ['everyone@evil.example,members', 'a b', '"x"', ''])
      await expect(client.place({ ...wire, segment }, sending())).rejects.toMatchObject({ kind: 'invalid' });
    await expect(client.place({ ...wire, segment: 'nobody' }, sending())).rejects.toMatchObject({
      kind: 'invalid',
      field: 'segment',
    });
    expect(await kindOf(greet(clientOf('postbag', { user: 'letters@tallowyard.example', key: 'wrong' })))).toBe(
      'sign-in-again',
    );
  });

  test('the answer to a letter is lost: it went out once, and is found by our reference; so with the one that corrects it', async () => {
    const client = clientOf('postbag');
    const lose = () =>
      fetch(`${outside.base}/weather/postbag`, {
        method: 'POST',
        body: JSON.stringify({ loseCalls: { MAIL: 1 } }),
        headers: { 'content-type': 'application/json' },
      });
    const with_ = sending();
    await lose();
    expect(await kindOf(client.place(wire, with_))).toBe('unknown-outcome');
    const [first] = await client.find(with_.reference);
    if (!first) throw new Error('the letter is not there');
    await lose();
    const right = { ...wire, words: 'It begins at eight.' };
    expect(await kindOf(client.correct?.(first, right, { ...with_, key: 'right' }) ?? Promise.resolve())).toBe(
      'unknown-outcome',
    );
    const said = await client.correct?.(first, right, { ...with_, key: 'right' });
    expect((await client.find(with_.reference)).map((remote) => remote.id)).toEqual([said?.id]);
  });
});
