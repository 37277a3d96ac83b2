import { longTroubleMs } from '@/core/errands/retry';
import { operationWords } from '@/core/listing/operations';
import { momentWords } from '@/core/dates/date-words';
import { nameOf } from '@/channels/channels';
import type { Kind } from '@/channels/kit/kind';
import { channelsOf, type House } from '@/house/house';
import { accountOf, connectionOf } from '@/store/channels';
import { houseZone } from '../house/pulse';

const undoWords = (undo: { how: string; stays?: string }) =>
  undo.how === 'wholly'
    ? 'can be undone'
    : undo.how === 'never'
      ? 'for ever'
      : `can be undone in part: ${undo.stays ?? ''}`;

function aboutKind(kind: Kind) {
  const rules = kind.rules({});
  return {
    kind: kind.id,
    kindName: kind.name,
    trade: rules.trade,
    habits: rules.habits,
    credentials: kind.credentials,
    settingFields: kind.settingFields ?? [],
    fields: rules.rows.map((row) => ({
      label: row.label,
      limit: row.limit === undefined ? '' : `up to ${row.limit} characters`,
      need: row.need === 'must' ? 'needed' : row.need === 'should' ? 'better with it' : '',
    })),
    operations: rules.operations.map(({ op, called, does, tells, undo }) => ({
      name: called ?? operationWords[op],
      does,
      tells: tells === 'nobody' ? '' : `tells ${tells}`,
      undo: undoWords(undo),
    })),
  };
}

/** Every channel with its rules in plain words and how it is connected, and every kind that can be connected. Secrets stay in the store. */
export function channelsView(house: House) {
  const zone = houseZone(house);
  const channels = channelsOf(house, house.db);
  return {
    channels: channels.map(({ row, kind }) => {
      const one = connectionOf(house.db, row.id);
      const { failures, failingSince } = house.outside.state(accountOf(row));
      return {
        ...aboutKind(kind),
        id: row.id,
        name: row.name,
        shortName: row.shortName,
        settings: row.settings,
        audience: row.audience,
        /** The channel whose connection it uses. */
        through: row.through === null ? null : nameOf(channels, row.through),
        connection: one ? { address: one.address, knownAs: one.knownAs, since: momentWords(one.at, zone) } : null,
        failing:
          failures > 0 && failingSince !== null
            ? { since: momentWords(failingSince, zone), long: house.steady() - failingSince > longTroubleMs }
            : null,
      };
    }),
    kinds: house.kinds.filter((kind) => kind.connectsAs === undefined).map(aboutKind),
  };
}

/** Every channel of the house, with its rules. */
export function channelList(house: House) {
  return channelsOf(house, house.db);
}
