'use client';

import { createContext, useContext, useMemo, type ReactNode } from 'react';
import { operationWords, type Operation } from '@/core/listing/operations';
import type { ChannelNames } from '@/views/channel-names';

const Names = createContext<readonly ChannelNames[]>([]);

/** Gives the screens beneath it what channels and their fields are called, without their rules. */
export function ChannelNamesProvider({ names, children }: { names: readonly ChannelNames[]; children: ReactNode }) {
  return <Names.Provider value={names}>{children}</Names.Provider>;
}

/** What channels are called, and what is called what there. */
export interface CalledThere {
  /** What it is called; its id where it is not there any more. */
  name(id: string): string;
  /** What an operation is called there. */
  does(id: string, op: Operation): string;
  /** What one of its fields is called on screen. */
  label(id: string, field: string): string;
  /** Whether it carries notices. */
  carriesNotices(id: string): boolean;
}

export function useChannelNames(): CalledThere {
  const names = useContext(Names);
  return useMemo(() => {
    const known = new Map<string, ChannelNames>(names.map((channel) => [channel.id, channel]));
    return {
      name: (id) => known.get(id)?.name ?? id,
      does: (id, op) => known.get(id)?.does[op] ?? operationWords[op],
      label: (id, field) => known.get(id)?.labels[field] ?? field,
      carriesNotices: (id) => known.get(id)?.notices ?? false,
    };
  }, [names]);
}
