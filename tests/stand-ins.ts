import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { readAny } from '@/channels/kit/read';
import { isOutsideError } from '@/channels/kit/http';
import { feedShelf, feedText, readEntry } from '@/channels/kit/feed';
import { handMark } from '@/channels/kit/hand';
import { makeMail } from '@/channels/kit/smtp';
import { makeHttp } from '@/channels/kit/reach';
import { doors } from '@/channels/kinds-doors';
import { kinds } from '@/channels/kinds-rules';
import { channelOf, plainRow } from '@/channels/channels';
import type { Answer, ChannelClient, Remote, Sending } from '@/channels/kit/kind';
import { facts } from '@/core/facts/facts';
import { writeListing } from '@/core/listing/listing-codec';
import { proof } from '@/core/listing/proof';
import { codedVenues, sample, suited } from '@/core/testing/samples';
import { goingOut, makeOutsideDoor, type OutsideDoor } from '@/house/outside-door';
import { openDatabase, type Db } from '@/store/database';
import { startOutside } from '../outside/server';

const realHttp = makeHttp(new Set(['127.0.0.1']));

/** Each channel's client against its real stand-in, over HTTP: the conventions in which they differ on purpose. */
export let outside: Awaited<ReturnType<typeof startOutside>>;
let folder: string;
export let accounts: Record<string, Record<string, string>>;

beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-outside-'));
  outside = await startOutside({ folder, port: 0 });
  house = openDatabase(path.join(folder, 'house'));
  // The pace of each account is kept, as it is in the application.
  door = makeOutsideDoor(house, realHttp, () => Date.now(), makeMail(new Set(['127.0.0.1'])));
  accounts = (await (await fetch(`${outside.base}/accounts`, { method: 'POST' })).json()) as typeof accounts;
});
let house: Db;
let door: OutsideDoor;
afterAll(async () => {
  house.close();
  await outside.stop();
  rmSync(folder, { recursive: true, force: true });
});

export const channels = kinds.map((kind) => channelOf(plainRow(kind.id)));
export const channelById = (id: string) => channels.find((channel) => channel.row.id === id) ?? fault(id);
const fault = (id: string): never => {
  throw new Error(`no kind ${id}`);
};
const connectionOf = (kind: string) => channelById(kind).kind.connectsAs ?? kind;
/** What stands in the feed that one of them reads, and where. */
const inFeed = new Map<string, string>();
let feeds: Server;
const feedNow = () => {
  const entries = [...inFeed].flatMap(([key, value]) => {
    const [sort = '', id = ''] = key.split('|');
    const entry = sort === feedShelf ? readEntry(value) : null;
    return entry === null || entry.wire.status === 'ABSENT' ? [] : [{ ...entry, id }];
  });
  return feedText('The season', entries);
};
beforeAll(async () => {
  feeds = createServer((_, response) => void response.end(feedNow()));
  await new Promise<void>((resolve) => feeds.listen(0, '127.0.0.1', resolve));
});
afterAll(() => feeds.close());
const feedAt = () => `http://127.0.0.1:${(feeds.address() as AddressInfo).port}/season.ics`;
const remembering = {
  get: (sort: string, key: string) => inFeed.get(`${sort}|${key}`) ?? null,
  all: () => new Map<string, string>(),
  put: (sort: string, key: string, value: string) => void inFeed.set(`${sort}|${key}`, value),
  shelve: (sort: string, key: string, value: string) => void inFeed.set(`${sort}|${key}`, value),
};
/** An account of which nothing is kept: every picture is sent, every venue asked for. */
const forgetful = {
  get: () => null,
  all: () => new Map<string, string>(),
  put: () => undefined,
  shelve: () => undefined,
};
/**
 * The pace is kept where requests leave; on a busy machine they come in closer together than they left. As the
 * application does, one waits then, and asks again.
 */
async function patiently<T>(call: () => Promise<T>): Promise<T> {
  for (;;)
    try {
      return await call();
    } catch (error) {
      if (!isOutsideError(error) || !error.message.includes('requests a second')) throw error;
      await new Promise((resolve) => setTimeout(resolve, 1100));
    }
}
export const clientOf = (kind: string, credentials?: Record<string, string>): ChannelClient => {
  const at = connectionOf(kind);
  const pulled = channelById(kind).rules.answers === 'pulled';
  // What lies at the house itself is kept by it.
  const keeps = pulled || channelById(kind).kind.ours === true;
  const connection = {
    address: `${outside.base}/${at}`,
    credentials: credentials ?? accounts[at] ?? {},
    ...(pulled ? { feed: feedAt(), served: feedNow } : {}),
  };
  const { budget } = channelById(kind).rules;
  const client = (doors[kind] ?? fault(kind))(
    connection,
    door.http(at, budget),
    keeps ? remembering : forgetful,
    door.mail(at, budget),
    () => Date.now(),
  );
  // In these tests everything may leave.
  const may = { sort: 'errand', before: () => undefined } as const;
  const free = Object.entries(client).map(([name, call]) => [
    name,
    (...args: unknown[]) =>
      patiently(() => goingOut(may, () => (call as (...all: unknown[]) => Promise<unknown>)(...args))),
  ]);
  return Object.fromEntries(free) as ChannelClient;
};
const ours = { items: new Set(['p1', 's', 'standard']) };
export const shownBy = (kind: string) => (answer: Answer) => readAny(channelById(kind).rules, answer, ours);
export const greet = (client: ChannelClient) => client.greet?.() ?? Promise.reject(new Error('no account'));
export const wireOf = (channel: string, title: string) => {
  const { rules } = channelById(channel);
  const { shown } = proof(
    rules,
    {
      ...facts(suited(channel, sample({ title })), { code: 'X', venues: codedVenues, now: asOf }),
      link: { kind: 'known', href: 'https://tickets.example/' },
    },
    ['p1'],
    asOf,
  );
  return writeListing(rules, shown);
};
export const asOf = Date.parse('2027-02-02T10:20Z');
let n = 0;
export const sending = (reference = `ref${(n += 1)}`): Sending => ({
  reference,
  key: `key${n}`,
  reason: '',
  effects: [],
  pictures: [{ name: 'x.jpg', bytes: new Uint8Array([255, 216, 255]) }],
});
/** Takes it down there; fails where there is no such step. */
export const takenDownBy = (client: ChannelClient, remote: Remote) =>
  client.unpublish?.(remote, sending()) ?? Promise.reject(new Error('nothing is taken down there'));
export const kindOf = (work: Promise<unknown>) =>
  work.then(
    () => 'taken',
    (error: unknown) => (isOutsideError(error) ? error.kind : String(error)),
  );

/** Lets the time pass that a kind takes to show what it was sent. */
export const untilShown = (kind: string) =>
  fetch(`${outside.base}/clock`, {
    method: 'POST',
    body: new URLSearchParams({ ms: String(channelById(kind).rules.delayMs) }),
  });
/** What a write came to: at once, or by asking for it once the channel has had its time. */
export const answered = async (kind: string, work: Promise<Remote>): Promise<Remote> => {
  const remote = await work;
  await untilShown(kind);
  if (remote.lodged === undefined) return remote;
  // A person does it.
  if (channelById(kind).kind.ours === true)
    remembering.put(handMark, remote.lodged, JSON.stringify({ by: 'Maren', at: asOf, address: null, word: null }));
  return (await clientOf(kind).collect?.(remote.lodged)) ?? fault(`${kind}: no answer to what was handed over`);
};
/** The key under which a kind shows the start of the one performance. */
export const startKey = (kind: string) => {
  const row = channelById(kind).rules.rows.find((field) => field.field === 'start');
  return row === undefined ? null : row.each === 'performance' ? 'start@p1' : 'start';
};
