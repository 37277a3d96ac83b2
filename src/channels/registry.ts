import type { Channel } from './kit/channel';
import { gatefold } from './gatefold';
import { hearthside } from './hearthside';
import { hearthsidePosts } from './hearthside-posts';
import { lectern } from './lectern';

/** Every channel there is, in the order in which they are shown. */
export const channels: readonly Channel[] = [lectern, gatefold, hearthside, hearthsidePosts];

const byId = new Map(channels.map((channel) => [channel.rules.id, channel]));

/** Rules by channel id. */
export const rulesById = new Map(channels.map(({ rules }) => [rules.id, rules]));

/** The channel with this id. Throws where there is none: ids come from our own data. */
export function channelById(id: string): Channel {
  const channel = byId.get(id);
  if (!channel) throw new Error(`no channel ${id}`);
  return channel;
}

/** The id under which a channel is connected: its own, or that of the channel whose connection it uses. */
export function connectionIdOf({ rules, connectsAs }: Channel): string {
  return connectsAs ?? rules.id;
}

/** The channel that gives the ticket link. */
export const upstreamChannel = channels.find((channel) => channel.rules.givesLink) ?? null;
