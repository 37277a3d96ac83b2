import { channelIdSchema } from '@/core/base/ids';
import type { ChannelRow } from '@/core/listing/channel-row';
import type { ChannelRules } from '@/core/listing/channel-rules';
import type { Kind } from './kit/kind';
import { kinds as everyKind } from './kinds-rules';

/** A channel: one connected place of a kind, with its rules under its own names. */
export interface Channel {
  row: ChannelRow;
  kind: Kind;
  rules: ChannelRules;
}

const made = new WeakMap<ChannelRow, { kinds: readonly Kind[]; channel: Channel }>();

/** The channel of a row. Throws where its kind is not known: rows are checked when they are read. */
export function channelOf(row: ChannelRow, kinds: readonly Kind[] = everyKind): Channel {
  const known = made.get(row);
  if (known?.kinds === kinds) return known.channel;
  const kind = kinds.find((kind) => kind.id === row.kind);
  if (!kind) throw new Error(`no kind ${row.kind}`);
  const { id, name, shortName } = row;
  const rules: ChannelRules = { ...kind.rules(row.settings), id, kind: kind.id, name, shortName };
  const channel: Channel = { row, kind, rules };
  made.set(row, { kinds, channel });
  return channel;
}

/** What a channel that is not in the house any more is called: its id, so that what names it can still be read. */
export function nameOf(channels: readonly Channel[], id: string): string {
  return channels.find((channel) => channel.row.id === id)?.rules.name ?? id;
}

/**
 * Which of an event's listings on a channel it is, in words: `part 2`. Empty for the first, and for notices, whose
 * number says nothing.
 */
export function partWords(channel: Channel | undefined, part: number): string {
  return part === 0 || !channel || channel.rules.notice !== null ? '' : `part ${part + 1}`;
}

/** A row as it stands where nothing was chosen: of tests, and of a kind that is looked at before it is connected. */
export function plainRow(kind: string, part: Partial<ChannelRow> = {}): ChannelRow {
  const known = everyKind.find((candidate) => candidate.id === kind);
  return {
    id: channelIdSchema.parse(kind),
    kind,
    name: known?.name ?? kind,
    shortName: known?.shortName ?? kind,
    settings: {},
    through: channelIdSchema.nullable().parse(known?.connectsAs ?? null),
    connected: true,
    audience: { who: 'everyone' },
    standingLeave: true,
    ...part,
  };
}
