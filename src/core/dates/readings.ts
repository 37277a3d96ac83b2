import { addDays, resolveLocal, toLocal, type Instant, type LocalTime } from '../base/zones';

/** What of a performance its wall-clock readings follow from. */
export interface Timed {
  date: string;
  lastDate: string | null;
  endsNextDay: boolean;
  doors: string | null;
  start: string | null;
  end: string | null;
  zone: string;
}

/** A wall-clock reading of a performance, with the field it stands in. */
export interface Reading extends LocalTime {
  field: 'start' | 'doors' | 'end';
}

/** Hours before a start after midnight within which doors may open on the evening before. */
const longestWait = 6;

/**
 * The day on which doors open: that of the start, or the evening before where it begins soon after midnight. `23:30`
 * for
 * `00:15` is the evening before; `20:30` for `20:00` is no such thing, but doors after the start.
 */
export function doorsDate({ date, doors, start }: Pick<Timed, 'date' | 'doors' | 'start'>): string {
  if (doors === null || start === null) return date;
  const hours = (time: string) => Number(time.slice(0, 2)) + Number(time.slice(3)) / 60;
  return hours(doors) - hours(start) >= 24 - longestWait ? addDays(date, -1) : date;
}

/** The wall-clock readings of a performance, its start first. */
export function readingsOf({ date, lastDate, endsNextDay, doors, start, end }: Omit<Timed, 'zone'>): Reading[] {
  const at = (field: Reading['field'], on: string, time: string | null): Reading[] =>
    time === null ? [] : [{ field, date: on, time }];
  return [
    ...at('start', date, start),
    ...at('doors', doorsDate({ date, doors, start }), doors),
    ...at('end', lastDate ?? (endsNextDay ? addDays(date, 1) : date), end),
  ];
}

/** The reading that the clocks give twice, the start before the others; `null`: all mean one moment, or none. */
export function readingTwice(item: Timed): Reading | null {
  return readingsOf(item).find((at) => resolveLocal(at, item.zone).kind === 'twice') ?? null;
}

/** Which of two equal readings a moment is, on a night the clocks go back; `null`: its reading comes once. */
export function whichOfTwo(at: Instant, zone: string): 'first' | 'second' | null {
  const found = resolveLocal(toLocal(at, zone), zone);
  return found.kind === 'twice' ? (at >= found.second ? 'second' : 'first') : null;
}
