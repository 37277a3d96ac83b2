import { useEffect, useState } from 'react';
import { zoneSource } from '#zone-source';
import type { ZoneClock } from '@/core/base/zone-source/zone-source';
import { isZone } from '@/core/base/zones';

let asked: Promise<void> | null = null;

/** Fetches the clocks of all zones, once: for a zone that the page was not given, since somebody picks another. */
function haveEveryZone(): Promise<void> {
  asked ??= import('@/core/base/zone-source/shipped').then(({ zoneSource: shipped }) => {
    const names = shipped.names();
    const clocks = new Map<string, ZoneClock>();
    for (const name of names) {
      const clock = shipped.clock(name);
      if (clock !== null) clocks.set(name, clock);
    }
    zoneSource.give(clocks, names);
  });
  return asked.catch((error: unknown) => {
    // The next that asks may have more luck.
    asked = null;
    throw error;
  });
}

/** Waits until these zones are known here; those of no such name are never. */
export async function haveZones(names: Iterable<string>): Promise<void> {
  if ([...names].some((name) => !isZone(name))) await haveEveryZone();
}

/** True once a zone is known here. */
export function useZone(name: string): boolean {
  const [known, setKnown] = useState(() => isZone(name));
  useEffect(() => {
    let there = true;
    void haveZones([name]).then(
      () => there && setKnown(isZone(name)),
      () => undefined,
    );
    return () => {
      there = false;
    };
  }, [name]);
  return known;
}
