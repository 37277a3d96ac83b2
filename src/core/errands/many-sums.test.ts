import type { ChannelId, ListingId, RecordId } from '../base/ids';
import type { Consequences } from './consequences';
import { goesOf, leftUntil, saidWays } from './goes';
import { sumOfMany } from './many-sums';

const by = (asRule: number, atLatest = asRule) => ({ earliest: 0, asRule, atLatest });
const nothing: Consequences = {
  ...{ atOnce: [], locked: [], later: [], asks: [], held: [], busy: [], said: [], quotes: [], apart: [], moments: [] },
  ...{ sentences: [], arises: [], holders: [], telling: [], wrong: [], needs: [] },
};
let n = 0;
const item = (channel: string, part: object = {}) =>
  ({
    listing: `${channel}.${(n += 1)}` as ListingId,
    channel: channel as ChannelId,
    op: 'amend',
    tells: 'nobody',
    by: by(60),
    ...part,
  }) as never;
const of = (...all: Partial<Consequences>[]) =>
  sumOfMany(all.map((made, i) => ({ record: `r${i}` as RecordId, made: { ...nothing, ...made } })));

test('nothing is nothing', () => {
  expect(of({}, {})).toEqual(of());
  expect(of().atOnce).toEqual([]);
});

test('what goes is counted by channel, with the moment of the last', () => {
  const sum = of(
    { atOnce: [item('site'), item('page', { by: by(90, 900) })] },
    {
      atOnce: [item('page', { by: by(120, 600) })],
      later: [item('diary', { afterDoors: true, by: by(5_000, 9_000) })],
    },
    {
      later: [
        item('diary', { afterDoors: false, by: by(4_000, 9_500) }),
        item('mirror', { op: null, afterDoors: false }),
      ],
    },
  );
  expect(sum.atOnce).toEqual([
    { channel: 'site', count: 1, by: by(60) },
    { channel: 'page', count: 2, by: by(120, 900) },
  ]);
  expect(sum.later).toEqual([
    { channel: 'diary', count: 2, by: by(5_000, 9_500), afterDoors: 1, goes: true },
    { channel: 'mirror', count: 1, by: by(60), afterDoors: 0, goes: false },
  ]);
});

test('what is locked on one channel in the same way is decided together, and only that', () => {
  const locked = (channel: string, ways: string[], sold: number, label: string) =>
    item(channel, { sold, locked: [{ label }], ways: ways.map((id) => ({ id })) });
  const sum = of(
    { locked: [locked('market', ['reschedule', 'leave'], 3, 'start')] },
    { locked: [locked('market', ['reschedule', 'leave'], 4, 'end')] },
    { locked: [locked('market', ['cancel', 'leave'], 5, 'start'), locked('net', ['reschedule', 'leave'], 1, 'start')] },
  ).locked;
  expect(
    sum.map(({ channel, listings, records, sold, fields }) => [channel, listings.length, records, sold, fields]),
  ).toEqual([
    ['market', 2, ['r0', 'r1'], 7, ['start', 'end']],
    ['market', 1, ['r2'], 5, ['start']],
    ['net', 1, ['r2'], 1, ['start']],
  ]);
  expect(new Set(sum.map(({ key }) => key)).size).toBe(3);
});

test('each channel is wrong until the last of its events is right; the shortest comes first', () => {
  const sum = of(
    { wrong: [{ channels: ['site', 'page'] as ChannelId[], until: by(60, 600) }] },
    { wrong: [{ channels: ['page'] as ChannelId[], until: by(90, 500) }] },
    { wrong: [{ channels: ['diary'] as ChannelId[], until: by(10, 20) }] },
  ).wrong;
  expect(sum).toEqual([
    { channels: ['diary'], until: by(10, 20) },
    { channels: ['site'], until: by(60, 600) },
    { channels: ['page'], until: by(90, 600) },
  ]);
});

test('holders, posts, decisions and what arises are summed by what they are', () => {
  const sum = of(
    {
      holders: [item('market', { sold: 3, told: 'way' })],
      said: [item('posts', { mending: 'edit' })],
      asks: [item('page', { standing: 'drifted' })],
      arises: [{ code: 'over-allocated' } as never],
      busy: [item('site')],
      apart: [item('posts', { tells: 'followers' })],
    },
    {
      holders: [item('market', { sold: 4, told: 'way' }), item('net', { sold: 1, told: 'nobody' })],
      said: [item('posts', { mending: 'none' }), item('posts', { mending: 'edit' })],
      asks: [item('page', { standing: 'drifted' }), item('page', { standing: 'refused' })],
      arises: [{ code: 'over-allocated' } as never],
      apart: [item('posts', { tells: 'followers' }), item('posts', { tells: 'nobody' })],
    },
  );
  expect(sum.holders).toEqual([
    { channel: 'market', told: 'way', events: 2, sold: 7 },
    { channel: 'net', told: 'nobody', events: 1, sold: 1 },
  ]);
  expect(sum.said.map(({ mending, count }) => [mending, count])).toEqual([
    ['edit', 2],
    ['none', 1],
  ]);
  expect(sum.asks.map(({ standing, count }) => [standing, count])).toEqual([
    ['drifted', 2],
    ['refused', 1],
  ]);
  expect(sum.apart.map(({ tells, count }) => [tells, count])).toEqual([
    ['followers', 2],
    ['nobody', 1],
  ]);
  expect([sum.arises.map(({ count }) => count), sum.busy]).toEqual([[2], 1]);
});

test('what goes of a change: by itself unless it is out, what tells people where it is asked for', () => {
  const list = {
    ...nothing,
    atOnce: [item('a', { listing: 'a' })],
    later: [item('b', { listing: 'b' }), item('m', { listing: 'm', op: null })],
    apart: [item('p', { listing: 'p' })],
    said: [item('e', { listing: 'e', mending: 'edit' }), item('x', { listing: 'x', mending: 'anew' })],
    busy: [item('u', { listing: 'u', more: true }), item('v', { listing: 'v', more: false })],
  };
  const goes = (out: string[], asked: string[]) =>
    goesOf(list, { out: ({ listing }) => out.includes(listing), asked: ({ listing }) => asked.includes(listing) }).join(
      '',
    );
  expect([goes([], []), goes(['a', 'e', 'u'], ['p']), goes([], ['x'])]).toEqual(['abeu', 'bp', 'abeu']);
  const ways = saidWays(list.said, ({ listing }) => listing === 'x', '2027-03-14');
  expect(ways.map(([listing, { way }]) => [listing, way])).toEqual([['x', 'correct']]);
  expect(saidWays(list.said, () => false, '2027-03-14')[0]?.[1]).toMatchObject({ way: 'leave', until: '2027-03-14' });
  expect(leftUntil({ date: '', now: Date.parse('2027-02-02T10:20Z') })).toBe('2027-03-04');
});
