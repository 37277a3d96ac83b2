import { zoneSource } from '#zone-source';
import type { ZoneClock } from './zone-source/zone-source';

/** A point in time: milliseconds since 1970-01-01T00:00:00Z. */
export type Instant = number;

/** A wall-clock reading: `date` as YYYY-MM-DD, `time` as HH:mm (24 h). */
export interface LocalTime {
  date: string;
  time: string;
}

/** What a wall-clock reading means in a zone: one instant, none (clocks went forward) or two (clocks went back). */
export type LocalResolution =
  | { kind: 'once'; instant: Instant }
  | { kind: 'skipped'; before: LocalTime; after: LocalTime }
  | { kind: 'twice'; first: Instant; second: Instant };

const MINUTE = 60_000;
const HALF_DAY = 43_200_000;

/** Version of the IANA zone data that ships with the application, e.g. `2026f`. */
export const zoneDataVersion: string = zoneSource.version;

/** The last local year the shipped zone data has transitions for. */
export const lastZoneYear = 2037;

/** True where `name` is a zone of the shipped IANA data. */
export function isZone(name: string): boolean {
  return zoneSource.clock(name) !== null;
}

const sameZones = new Map<string, boolean>();

/** True where two names stand for one zone (`Asia/Calcutta`, `Asia/Kolkata`): they never differ in the shipped data. */
export function sameZone(a: string, b: string): boolean {
  if (a === b) return true;
  const key = a < b ? `${a} ${b}` : `${b} ${a}`;
  const known = sameZones.get(key);
  if (known !== undefined) return known;
  const [zone, other] = [zoneSource.clock(a), zoneSource.clock(b)];
  const same =
    zone !== null &&
    other !== null &&
    zone.untils.length === other.untils.length &&
    zone.untils.every(
      (until, i) => (until === other.untils[i] || until === null) && zone.offsets[i] === other.offsets[i],
    );
  if (zone !== null && other !== null) sameZones.set(key, same);
  return same;
}

/** All zone names of the form Area/Place, sorted. */
export function zoneNames(): string[] {
  return zoneSource
    .names()
    .filter((name) => /^(Africa|America|Antarctica|Asia|Atlantic|Australia|Europe|Indian|Pacific)\//.test(name));
}

/** Minutes that local time in `zone` is ahead of UTC at `instant`. Throws on an unknown zone. */
export function offsetMinutes(instant: Instant, zone: string): number {
  const found = clockOf(zone);
  const west = found.offsets[spanAt(found, instant)] ?? 0;
  return west === 0 ? 0 : -west;
}

function clockOf(zone: string): ZoneClock {
  const found = zoneSource.clock(zone);
  if (found === null) throw new Error(`unknown zone ${zone}`);
  return found;
}

/** Which span of a clock an instant falls into: the first that ends after it. */
function spanAt({ untils }: ZoneClock, instant: Instant): number {
  let [low, high] = [0, untils.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((untils[middle] ?? Infinity) > instant) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** The wall-clock reading of `instant` in `zone`. Seconds are dropped. */
export function toLocal(instant: Instant, zone: string): LocalTime {
  return asLocalTime(instant + offsetMinutes(instant, zone) * MINUTE);
}

/**
 * What the wall-clock reading `local` means in `zone`. A skipped reading comes with the two readings
 * one gap earlier and one gap later, which do exist. Throws on an unknown zone or a malformed date.
 */
export function resolveLocal(local: LocalTime, zone: string): LocalResolution {
  const flat = asFlat(local);
  const offsets = [...new Set([offsetMinutes(flat - HALF_DAY * 2, zone), offsetMinutes(flat + HALF_DAY * 2, zone)])];
  const hits = offsets
    .map((offset) => flat - offset * MINUTE)
    .filter((instant) => instant + offsetMinutes(instant, zone) * MINUTE === flat)
    .sort((a, b) => a - b);
  const [first, second] = hits;
  if (first !== undefined && second !== undefined) return { kind: 'twice', first, second };
  if (first !== undefined) return { kind: 'once', instant: first };
  const [before = 0, after = 0] = offsets;
  const gap = Math.abs(after - before) * MINUTE;
  return { kind: 'skipped', before: asLocalTime(flat - gap), after: asLocalTime(flat + gap) };
}

/** The instant of a reading; of two, the one named by `repeat`; of a skipped one, `null`. */
export function instantOf(local: LocalTime, zone: string, repeat: 'first' | 'second' = 'first'): Instant | null {
  const found = resolveLocal(local, zone);
  switch (found.kind) {
    case 'once':
      return found.instant;
    case 'twice':
      return repeat === 'second' ? found.second : found.first;
    case 'skipped':
      return null;
  }
}

/** The date `days` later (or earlier) in the calendar, YYYY-MM-DD. */
export function addDays(date: string, days: number): string {
  return new Date(Date.parse(`${date}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
}

function asFlat({ date, time }: LocalTime): number {
  const flat = Date.parse(`${date}T${time}:00Z`);
  if (Number.isNaN(flat)) throw new Error(`not a date and time: ${date} ${time}`);
  return flat;
}

function asLocalTime(flat: number): LocalTime {
  const text = new Date(flat).toISOString();
  return { date: text.slice(0, 10), time: text.slice(11, 16) };
}

/** One change of a zone's clocks: the moment, and the minutes that local time is ahead of UTC before and after. */
export interface ZoneChange {
  at: Instant;
  before: number;
  after: number;
  /** What the time is called from then on, e.g. `IST`; of zones without letters, the offset. */
  name: string;
}

/** The changes of a zone's clocks after `from` and up to `until`, in order. Throws on an unknown zone. */
export function zoneChanges(zone: string, from: Instant, until: Instant): ZoneChange[] {
  const found = clockOf(zone);
  return found.untils.flatMap((at, i) =>
    at !== null && at > from && at <= until
      ? [{ at, before: offsetMinutes(at - 1, zone), after: offsetMinutes(at, zone), name: found.abbrs[i + 1] ?? '' }]
      : [],
  );
}
