import type { WindowEnd } from '../../record/ticket-schema';
import { addDays, instantOf, toLocal, type Instant } from '../../base/zones';

const hourMs = 3_600_000;

/**
 * The moment that one end of a sale window means for a performance that starts at `start` in `zone`. Days before the
 * start are calendar days at the same time of day; hours are exact. A reading that the clocks skip counts from the hour
 * after. `null`: the start is not known.
 */
export function windowMoment(end: WindowEnd, start: Instant | null, zone: string): Instant | null {
  if (end.kind === 'at') return readingOrAfter(end.date, end.time, zone);
  if (start === null) return null;
  if (end.unit === 'hours') return start - end.amount * hourMs;
  const { date, time } = toLocal(start, zone);
  return readingOrAfter(addDays(date, -end.amount), time, zone);
}

function readingOrAfter(date: string, time: string, zone: string): Instant | null {
  const found = instantOf({ date, time }, zone);
  if (found !== null) return found;
  const hour = Number(time.slice(0, 2)) + 1;
  return instantOf({ date, time: `${String(hour % 24).padStart(2, '0')}${time.slice(2)}` }, zone);
}

/** Whether a sale window is open at a moment. */
export type WindowState = 'before' | 'open' | 'after';

/** The window of a level for one performance. A closing that is not said is the start itself. */
export interface SaleWindow {
  opens: Instant | null;
  closes: Instant | null;
}

/** Makes a level's window. */
export function saleWindow(
  level: { opens: WindowEnd | null; closes: WindowEnd | null },
  start: Instant | null,
  zone: string,
): SaleWindow {
  return {
    opens: level.opens && windowMoment(level.opens, start, zone),
    closes: level.closes === null ? start : windowMoment(level.closes, start, zone),
  };
}

/** Where `now` lies: the opening belongs to the window, the closing does not. */
export function windowState({ opens, closes }: SaleWindow, now: Instant): WindowState {
  if (opens !== null && now < opens) return 'before';
  return closes !== null && now >= closes ? 'after' : 'open';
}

/** A window in which nothing can ever be sold. */
export function neverOpens({ opens, closes }: SaleWindow): boolean {
  return opens !== null && closes !== null && opens >= closes;
}
