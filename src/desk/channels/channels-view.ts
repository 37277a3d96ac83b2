import { channelById, channels, connectionIdOf } from '@/channels/registry';
import { momentWords } from '@/core/dates/date-words';
import { allConnections } from '@/store/connections';
import type { House } from '@/house/house';
import { houseZone } from '../house/pulse';

/** Every channel with its rules in plain words and how it is connected. Secrets stay in the store. */
export function channelsView(house: House) {
  const connections = allConnections(house.db);
  const zone = houseZone(house);
  return channels.map((channel) => {
    const { rules, credentials, connectsAs } = channel;
    const one = connections.get(connectionIdOf(channel));
    return {
      id: rules.id,
      name: rules.name,
      trade: rules.trade,
      habits: rules.habits,
      credentials,
      /** The channel whose connection it uses. */
      through: connectsAs === undefined ? null : channelById(connectsAs).rules.name,
      fields: rules.rows.map((row) => ({
        label: row.label,
        limit: row.limit === undefined ? '' : `up to ${row.limit} characters`,
        need: row.need === 'must' ? 'needed' : row.need === 'should' ? 'better with it' : '',
      })),
      connection: one ? { address: one.address, knownAs: one.knownAs, since: momentWords(one.at, zone) } : null,
    };
  });
}
