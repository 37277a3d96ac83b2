import type { ChannelId } from '@/core/base/ids';
import { careful, ownHostOnly, type Care } from '@/channels/kit/careful';
import { OutsideError } from '@/channels/kit/http';
import type { ChannelClient, Connection } from '@/channels/kit/kind';
import { allKeptAt, connectionOf, keepAt, keptAt } from '@/store/channels';
import { transaction } from '@/store/database';
import { feedAddress, servedOf } from './feeds';
import { hookAddress } from './hooks';
import { channelById, type House } from './house';

const made = new WeakMap<House['outside'], Map<string, { mark: string; client: ChannelClient }>>();

/** The client of a channel as it is connected now; kept, so that a token it holds is used again. */
export function clientOf(house: House, channel: ChannelId): ChannelClient {
  const item = channelById(house, channel);
  const connection = item && connectionOf(house.db, channel);
  if (!item || !connection) throw new OutsideError('not-connected', `${item?.rules.name ?? channel} is not connected`);
  const mark = `${connection.account} ${connection.at} ${connection.address}`;
  const mine = made.get(house.outside) ?? new Map<string, { mark: string; client: ChannelClient }>();
  made.set(house.outside, mine);
  const known = mine.get(channel);
  if (known?.mark === mark) return known.client;
  const { account } = connection;
  const reads =
    item.rules.answers === 'pulled'
      ? { feed: feedAddress(house, account), served: (listing: string) => servedOf(house, account, listing) }
      : {};
  const client = tryClient(
    house,
    item.kind.id,
    { ...connection, ...reads, hook: hookAddress(house, connection.account) },
    connection.account,
  );
  mine.set(channel, { mark, client });
  return client;
}

/** What is kept of an account: hosts on which it may give addresses, and those where it gave some and may not. */
export const allowedHost = 'allowed host';
export const foreignHost = 'foreign host';

/** The credentials of a kind that are no secrets; of one that goes through another's connection, of that. */
function openNames({ kinds }: House, id: string): ReadonlySet<string> {
  const kind = kinds.find((kind) => kind.id === id);
  const asked = kinds.find((candidate) => candidate.id === (kind?.connectsAs ?? id))?.credentials ?? [];
  return new Set(asked.filter((field) => !field.secret).map((field) => field.name));
}

/** A client of a kind on a connection, whether that is kept or only tried. */
export function tryClient(house: House, kind: string, connection: Connection, account: string): ChannelClient {
  const door = house.doors[kind];
  const rules = house.kinds.find((candidate) => candidate.id === kind)?.rules({});
  if (!door || !rules) throw new OutsideError('our-fault', `there is no door for ${kind}`);
  const kept = {
    get: (sort: string, key: string) => keptAt(house.db, account, sort, key),
    all: (sort: string) => allKeptAt(house.db, account, sort),
    put: (sort: string, key: string, value: string) =>
      transaction(house.db, (tx) => keepAt(tx, account, sort, key, value), { quiet: true }),
    shelve: (sort: string, key: string, value: string) =>
      house.outside.shelve((tx) => keepAt(tx, account, sort, key, value)),
  };
  const care: Care = {
    connection,
    open: openNames(house, kind),
    allowed: () => new Set(kept.all(allowedHost).keys()),
    foreign: (host, address) => {
      if (kept.get(foreignHost, host) === null) kept.put(foreignHost, host, address.slice(0, 300));
    },
  };
  return careful(
    door(
      connection,
      ownHostOnly(house.outside.http(account, rules.budget), care),
      kept,
      house.outside.mail(account, rules.budget),
      house.clock.now,
    ),
    care,
  );
}
