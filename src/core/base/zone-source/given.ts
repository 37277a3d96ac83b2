import type { ZoneClock, ZoneSource } from './zone-source';

const clocks = new Map<string, ZoneClock>();
let all: readonly string[] = [];

/** The zones that a browser was given: a page gets those that it says something of. */
export const zoneSource: ZoneSource = {
  clock: (name) => clocks.get(name) ?? null,
  names: () => all,
  version: '',
  give(given, names) {
    for (const [name, clock] of given) clocks.set(name, clock);
    if (names) all = names;
  },
  given: () => clocks,
};
