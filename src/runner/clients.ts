import type { ChannelClient } from '@/channels/kit/channel';
import { OutsideError } from '@/channels/kit/http';
import { channelById, connectionIdOf } from '@/channels/registry';
import { allConnections } from '@/store/connections';
import type { House } from '../house/house';

const made = new WeakMap<House, Map<string, { at: number; client: ChannelClient }>>();

/** The client of a channel as it is connected now; kept, so that a token it holds is used again. */
export function clientOf(house: House, channel: string): ChannelClient {
  const entry = channelById(channel);
  const connection = allConnections(house.db).get(connectionIdOf(entry));
  if (!connection) throw new OutsideError('not-connected', `${entry.rules.name} is not connected`);
  const mine = made.get(house) ?? new Map<string, { at: number; client: ChannelClient }>();
  made.set(house, mine);
  const known = mine.get(channel);
  if (known?.at === connection.at) return known.client;
  const client = entry.client(connection, house.http);
  mine.set(channel, { at: connection.at, client });
  return client;
}
