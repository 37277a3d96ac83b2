'use client';

import { zoneSource } from '#zone-source';
import type { ReactNode } from 'react';
import { unpackClock, type PackedZones } from '@/core/base/zone-source/pack';

const given = new Map<string, string>();

/** Gives what is beneath it the clocks of the zones that it says something of; `names`: all that may be picked. */
export function HaveZones({
  zones,
  names,
  children,
}: {
  zones: PackedZones;
  names?: readonly string[];
  children: ReactNode;
}) {
  const fresh = Object.entries(zones).filter(([name, packed]) => given.get(name) !== packed);
  for (const [name, packed] of fresh) given.set(name, packed);
  zoneSource.give(new Map(fresh.map(([name, packed]) => [name, unpackClock(packed)])), names);
  return children;
}
