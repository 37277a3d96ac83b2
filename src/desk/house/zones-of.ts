import { zoneSource } from '#zone-source';
import { packZones, type PackedZones } from '@/core/base/zone-source/pack';

/** The zones that a view names, wherever in it, as a browser is given them along with it. */
export function zonesOf(...views: readonly unknown[]): PackedZones {
  const names = new Set<string>();
  for (const view of views) addNames(view, names);
  return packZones(names, (name) => zoneSource.clock(name));
}

function addNames(view: unknown, names: Set<string>): void {
  if (view === null || typeof view !== 'object') return;
  if (Array.isArray(view) || view instanceof Set) for (const item of view) addNames(item, names);
  else if (view instanceof Map) for (const item of view.values()) addNames(item, names);
  else
    for (const [key, value] of Object.entries(view)) {
      if (typeof value === 'string') {
        if (key === 'zone') names.add(value);
      } else addNames(value, names);
    }
}
