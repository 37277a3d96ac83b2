'use client';

import { createContext, useContext, useMemo, type ReactNode } from 'react';
import { channelOf, nameOf, type Channel } from '@/channels/channels';
import type { ChannelRow } from '@/core/listing/channel-row';

const Rows = createContext<readonly ChannelRow[]>([]);

/** Gives the screens beneath it the channels of the house, with their rules. */
export function ChannelsProvider({ rows, children }: { rows: readonly ChannelRow[]; children: ReactNode }) {
  return <Rows.Provider value={rows}>{children}</Rows.Provider>;
}

/** The channels of the house, as screens need them. */
export interface Channels {
  all: readonly Channel[];
  /** The channel with this id; `undefined` where it is not there any more. */
  of(id: string): Channel | undefined;
  /** What it is called. */
  name(id: string): string;
}

/** The channels of the house, with their rules. */
export function useChannels(): Channels {
  const rows = useContext(Rows);
  return useMemo(() => {
    const all = rows.map((row) => channelOf(row));
    const of = (id: string) => all.find((channel) => channel.row.id === id);
    return { all, of, name: (id) => nameOf(all, id) };
  }, [rows]);
}

/** The channels that have a place for something, by the name of its field. */
export function useWantedBy(field: string): string[] {
  const { all } = useChannels();
  return useMemo(
    () =>
      all
        .filter(({ row, rules }) => row.connected && rules.rows.some((row) => row.field === field))
        .map(({ rules }) => rules.name),
    [all, field],
  );
}
