import { parseFeed } from 'htmlparser2';
import { by, keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { performance } from '@/core/testing/samples';
import { newEntry } from '@/core/record/new-record';
import { calendarFeeds, makeCalendarFeed, partsOfHouse, renewFeedAddress } from '@/desk/channels/calendar-feeds';
import { connectChannel, disconnectChannel, sayAudience } from '@/desk/channels/connect-channel';
import { feedOf } from '@/desk/channels/feed-of';
import { makeRig, type Rig } from './rig';

/*
 * A calendar at an address of the house: who subscribes to it reads what it is of, every change with its number, what is
 * cancelled as such, and nothing that may not be seen.
 */

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig([]);
});
afterAll(() => rig.end());

const made = async (holds: string) => {
  const feed = await makeCalendarFeed(rig.house, keeper, holds);
  if (!feed.ok) throw new Error(feed.error);
  return feed.value;
};
const addressOf = (id: string) => calendarFeeds(rig.house, keeper).find((feed) => feed.id === id)?.address ?? '';
/** The entries of a calendar, as its lines say them: read without any reader of the house. */
const entries = (address: string) => {
  const text = feedOf(rig.house, address.split('/').pop() ?? '')?.text ?? '';
  return [...text.replace(/\r\n[ \t]/g, '').matchAll(/BEGIN:VEVENT\r\n([\s\S]*?)END:VEVENT/g)].map(([, lines = '']) => {
    const said = Object.fromEntries(
      lines.split('\r\n').map((line) => [line.split(/[:;]/, 1)[0] ?? '', line.slice(line.indexOf(':') + 1)]),
    );
    return said;
  });
};
/** The same as news: each entry's title, whether it was announced or changed, and its first moment of time. */
const news = (address: string) => {
  const feed = feedOf(rig.house, address.split('/').pop()?.replace('.ics', '.atom') ?? '');
  const read = parseFeed(feed?.text ?? '', { xmlMode: true });
  return (read?.items ?? []).map(({ id, title, description, pubDate }) => ({ id, title, description, pubDate }));
};
const titles = (id: string) => entries(addressOf(id)).map(({ SUMMARY }) => SUMMARY);
const sent = async () => {
  const answer = rig.send();
  await rig.settle();
  return answer;
};

test('each calendar holds its part of the house, and no more than may be seen', async () => {
  const parts = partsOfHouse(rig.house).map(({ value }) => value);
  const room = parts.find((value) => value.startsWith('room:')) ?? '';
  expect(parts).toEqual(expect.arrayContaining(['house', `venue:${rig.venueId}`, 'type:concert']));
  const ids = {
    house: await made('house'),
    venue: await made(`venue:${rig.venueId}`),
    room: await made(room),
    talks: await made('type:talk'),
  };
  rig.make({ title: 'A Concert' });
  rig.make({ title: 'A Talk', eventType: 'talk' });
  rig.make({ title: 'A Secret', publicity: { visibility: 'private', announce: null } });
  rig.make({ title: 'For Members', audience: { who: 'members' } });
  expect((await sent()).ok).toBe(true);
  const held = Object.values(ids).map((id) => titles(id).sort());
  const both = ['A Concert', 'A Talk'];
  expect(held).toEqual([both, both, both, ['A Talk']]);
  expect(await makeCalendarFeed(rig.house, keeper, 'venue:nowhere')).toMatchObject({ ok: false });
});

test('a calendar of one act, and one for members alone', async () => {
  const answer = await connectChannel(
    rig.house,
    keeper,
    { kind: 'calendar-feed' },
    {
      ...{ address: '', credentials: {}, name: 'Quill', shortName: 'Quill', settings: { holds: 'act:Quill' } },
    },
  );
  const members = await connectChannel(
    rig.house,
    keeper,
    { kind: 'calendar-feed' },
    {
      ...{ address: '', credentials: {}, name: 'Members', shortName: 'Members' },
    },
  );
  if (!answer.ok || !members.ok) throw new Error('not connected');
  expect(sayAudience(rig.house, keeper, members.value.id, { who: 'members' }).ok).toBe(true);
  rig.make({ title: 'With Quill', lineUp: [newEntry('q', 'Quill', 'support')] });
  await sent();
  expect(titles(answer.value.id)).toEqual(['With Quill']);
  expect(titles(members.value.id)).toContain('For Members');
  expect(calendarFeeds(rig.house, keeper).find(({ id }) => id === members.value.id)?.forAll).toBe(false);
});

describe('one event', () => {
  let id: RecordId;
  let feed: string;
  const mine = () => entries(addressOf(feed)).filter(({ UID }) => UID?.startsWith(id));
  const put = async (part: Parameters<Rig['content']>[0]) => {
    const content = rig.record(id) ?? rig.content();
    expect(rig.save(id, rig.revision(id), { ...content, ...part }).kind).toBe('saved');
    return sent();
  };

  test('stands there with an id that stays; a change raises its number, and is read back', async () => {
    feed = await made('type:concert');
    id = rig.make({
      title: 'Two Nights',
      performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15')],
    });
    await sent();
    const before = mine();
    expect(before.map(({ DTSTART, SEQUENCE, STATUS }) => [DTSTART, SEQUENCE, STATUS])).toEqual([
      ['20270314T193000Z', '0', 'CONFIRMED'],
      ['20270315T193000Z', '0', 'CONFIRMED'],
    ]);
    const listed = () => rig.listings(id).find(({ channel }) => channel === feed)?.standing;
    expect(listed()).toBe('instep');
    const content = rig.record(id) ?? rig.content();
    const later = content.performances.map((item) => (item.id === 'p1' ? { ...item, start: '20:00' } : item));
    await put({ performances: later });
    expect(mine().map(({ UID, DTSTART, SEQUENCE }) => [UID, DTSTART, SEQUENCE])).toEqual([
      [before[0]?.UID, '20270314T200000Z', '1'],
      [before[1]?.UID, '20270315T193000Z', '1'],
    ]);
    expect(listed()).toBe('instep');
    expect(mine().some((entry) => 'BEGIN' in entry)).toBe(false);
    const said = news(addressOf(feed));
    const all = new Set(titles(feed));
    expect(said.map(({ title }) => title).sort()).toEqual([...all].sort());
    expect(said[0]?.description).toContain('<time datetime="2027-03-14T20:00:00+00:00">');
  });

  test('one night cancelled says so, and the other goes on; thirty days later it is left out', async () => {
    const content = rig.record(id) ?? rig.content();
    await put({
      performances: content.performances.map((item) => (item.id === 'p1' ? { ...item, turn: 'cancelled' } : item)),
    });
    expect(mine().map(({ STATUS }) => STATUS)).toEqual(['CANCELLED', 'CONFIRMED']);
    await rig.pass(29 * 86_400_000);
    expect(mine()).toHaveLength(2);
    await rig.pass(2 * 86_400_000);
    expect(mine().map(({ STATUS }) => STATUS)).toEqual(['CONFIRMED']);
  });

  test('another address: the old one leads nowhere; taken off, none does', async () => {
    const old = addressOf(feed);
    expect(entries(old).length).toBeGreaterThan(0);
    expect(renewFeedAddress(rig.house, keeper, feed).ok).toBe(true);
    expect([feedOf(rig.house, old.split('/').pop() ?? ''), addressOf(feed) === old]).toEqual([null, false]);
    expect(mine()).toHaveLength(1);
    expect(renewFeedAddress(rig.house, keeper, 'nowhere').ok).toBe(false);
    const last = addressOf(feed);
    expect(disconnectChannel(rig.house, by('Maren'), feed).ok).toBe(true);
    expect(feedOf(rig.house, last.split('/').pop() ?? '')).toBeNull();
  });

  test('made private it is gone at once, before anything is sent; ninety days after the last night it is left out', async () => {
    feed = await made('house').catch(
      () => calendarFeeds(rig.house, keeper).find(({ holds }) => holds === 'house')?.id ?? '',
    );
    await sent();
    expect(mine()).toHaveLength(1);
    // The night itself, and 89 days after it.
    await rig.pass(Date.parse('2027-06-12T12:00:00Z') - rig.house.clock.now());
    expect(mine()).toHaveLength(1);
    await rig.pass(3 * 86_400_000);
    expect(mine()).toEqual([]);
    const other = rig.make({ title: 'Seen', performances: [performance('p1', '2027-08-14')] });
    await sent();
    expect(titles(feed)).toContain('Seen');
    const content = rig.record(other) ?? rig.content();
    rig.save(other, 1, { ...content, publicity: { visibility: 'private', announce: null } });
    expect(titles(feed)).not.toContain('Seen');
    expect(news(addressOf(feed)).map(({ title }) => title)).not.toContain('Seen');
  });
});
