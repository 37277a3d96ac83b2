import type { Wire } from '@/core/listing/channel-rules';
import { handFields } from '@/core/listing/hand-rules';
import { clockPieces } from '@/core/dates/clock-pieces';
import { dayReadings } from '@/core/dates/day-readings';
import { instantOf, toLocal, type Instant } from '@/core/base/zones';
import type { EventOnPage, PageRead } from './read-page';
import { asTyped, notSure, type Seen } from './seen';

const dateFields = ['start', 'doors', 'end'] as const;
type DateField = (typeof dateFields)[number];

/** Dates as the page tells them, each under its own reference. */
export function datesSeen(
  dates: readonly Wire[],
  earlierDates: unknown,
  { page, ours }: { page: PageRead; ours: readonly EventOnPage[] },
  unsure: Set<string>,
): Wire[] {
  const moment = (item: Wire | undefined, field: DateField) => momentOf(item?.[field]);
  const wanted = dates.map((item) => moment(item, 'start'));
  const before = new Map((Array.isArray(earlierDates) ? (earlierDates as Wire[]) : []).map((item) => [item.ref, item]));
  const zone = wanted.find((at) => at !== null)?.zone ?? 'UTC';
  const stated = ours.map((event) => ({ event, at: statedMoment(event.start, zone) }));
  const free = stated.filter(
    ({ at }) => at !== null && !wanted.some((own) => own !== null && fits(at, own.at, own.zone)),
  );
  const text = textDates(page, wanted.find((at) => at !== null) ?? null);
  return dates.map((item) => {
    const seen: Wire = { ...item };
    const own = moment(item, 'start');
    const mine = own && stated.find(({ at }) => at !== null && fits(at, own.at, own.zone));
    for (const field of dateFields) {
      const value = moment(item, field);
      if (value === null) continue;
      const earlier = moment(before.get(item.ref), field);
      const known = dateFields.flatMap((name) => (name === field ? [] : (moment(item, name) ?? [])));
      const answer: Seen =
        field === 'start'
          ? startSeen(value, earlier, { mine: mine != null, free, alone: stated.length === dates.length, text, known })
          : besideSeen(field, value, earlier, mine?.event ?? null, text);
      if (answer.is === 'else') seen[field] = answer.value;
      if (answer.is === 'unsure') unsure.add(handFields[field].toLowerCase());
    }
    return { ...seen, ...standingSeen(mine?.event.status ?? null, ours) };
  });
}

/** What befell one date among others, where it is stated; what befell all of them is said of the whole. */
function standingSeen(status: EventOnPage['status'], ours: readonly EventOnPage[]): Wire {
  if (status === null || ours.every((event) => event.status === 'cancelled')) return {};
  return { standing: status === 'cancelled' || status === 'postponed' ? status : undefined };
}

interface Moment {
  at: Instant;
  zone: string;
}
interface StatedMoment {
  /** `null`: a day alone. */
  at: Instant | null;
  date: string;
}
/** Days and times that a person reads on a page. */
interface TextDates {
  /** The day stands there, with this time. */
  has(moment: Moment): boolean;
  /** The one time that stands there with this day, where it is none of those that are known. */
  other(moment: Moment, known: readonly Moment[]): Instant | null;
}

/** Of `2027-03-14T20:00:00Z[Europe/Dublin]`. */
function momentOf(value: unknown): Moment | null {
  const found = typeof value === 'string' ? /^([\d:T.-]{16,30}Z)\[([\w/+-]{1,60})\]$/.exec(value) : null;
  const at = found ? Date.parse(found[1] ?? '') : NaN;
  return found && !Number.isNaN(at) ? { at, zone: found[2] ?? 'UTC' } : null;
}

const written = (at: Instant, zone: string) => `${new Date(at).toISOString().slice(0, 19)}Z[${zone}]`;

/** A moment as a page states it: with an offset, without one by the clock there, or a day alone. */
function statedMoment(text: string, zone: string): StatedMoment | null {
  const found = /^(\d{4}-\d{2}-\d{2})(?:[T ](\d{2}:\d{2})(?::\d{2}(?:\.\d{1,9})?)?\s?(Z|[+-]\d{2}:?\d{2})?)?$/.exec(
    text,
  );
  if (!found) return null;
  const [, date = '', time, offset] = found;
  if (time === undefined) return { at: null, date };
  const at = offset === undefined ? instantOf({ date, time }, zone) : Date.parse(text.replace(' ', 'T'));
  return at === null || Number.isNaN(at) ? null : { at, date: toLocal(at, zone).date };
}

const fits = (stated: StatedMoment, at: Instant, zone: string) =>
  stated.at === null ? stated.date === toLocal(at, zone).date : stated.at === at;

/** What a start is looked for in. */
interface StartContext {
  /** It is stated as it was typed. */
  mine: boolean;
  /** What is stated of dates and is none of ours. */
  free: readonly { at: StatedMoment | null }[];
  /** As many dates are stated as there are. */
  alone: boolean;
  text: TextDates;
  /** Other moments of this date. */
  known: readonly Moment[];
}

function startSeen(value: Moment, earlier: Moment | null, { mine, free, alone, text, known }: StartContext): Seen {
  if (mine) return asTyped;
  const changed = earlier !== null && earlier.at !== value.at ? earlier : null;
  if (changed && free.some(({ at }) => at !== null && fits(at, changed.at, changed.zone)))
    return { is: 'else', value: written(changed.at, changed.zone) };
  // What is stated of as many dates as there are, and of this one otherwise, is another moment.
  const [other] = free
    .flatMap(({ at }) => (at?.at == null ? [] : [at.at]))
    .sort((a, b) => Math.abs(a - value.at) - Math.abs(b - value.at));
  if (other !== undefined && alone) return { is: 'else', value: written(other, value.zone) };
  return free.length > 0 ? notSure : readStart(value, changed, text, known);
}

/** Doors and end, as they are stated beside a start; else as they are read. */
function besideSeen(
  field: 'doors' | 'end',
  value: Moment,
  earlier: Moment | null,
  event: EventOnPage | null,
  text: TextDates,
): Seen {
  const stated = event && statedMoment(event[field], value.zone);
  if (stated?.at == null) return readSeen(value, earlier !== null && earlier.at !== value.at ? earlier : null, text);
  return stated.at === value.at ? asTyped : { is: 'else', value: written(stated.at, value.zone) };
}

function readSeen(value: Moment, earlier: Moment | null, text: TextDates): Seen {
  if (text.has(value)) return asTyped;
  return earlier !== null && text.has(earlier) ? { is: 'else', value: written(earlier.at, earlier.zone) } : notSure;
}

/** A start that is read with its day; the one other time that stands there is what the page says. */
function readStart(value: Moment, earlier: Moment | null, text: TextDates, known: readonly Moment[]): Seen {
  const seen = readSeen(value, earlier, text);
  const other = seen.is === 'unsure' ? text.other(value, known) : null;
  return other === null ? seen : { is: 'else', value: written(other, value.zone) };
}

const halfYearMs = 183 * 86_400_000;
/** So far behind a day its times stand. */
const mostBehind = 160;

/** Finds days with the times behind them in what a person reads. */
function textDates(page: PageRead, first: Moment | null): TextDates {
  if (first === null) return { has: () => false, other: () => null };
  // A day without its year is the one nearest to what was typed: from half a year before it on.
  const from = toLocal(first.at - halfYearMs, first.zone).date;
  const readings = dayReadings(page.text, from).toSorted((a, b) => a.index - b.index);
  const clocks = clockPieces(page.text);
  const days = new Map<string, string[][]>();
  readings.forEach(({ start, whole }, i) => {
    if (!start.isCertain('day')) return;
    const parts = [start.get('year'), start.get('month'), start.get('day')].map((n) => String(n).padStart(2, '0'));
    const next = readings.slice(i + 1).find((reading) => reading.index > whole.from)?.index ?? Infinity;
    const until = Math.min(next, whole.to + mostBehind);
    const times = clocks.filter((piece) => piece.from >= whole.from && piece.from < until);
    const day = parts.join('-');
    days.set(day, [...(days.get(day) ?? []), ...times.map((piece) => piece.readings)]);
  });
  const timesOn = ({ at, zone }: Moment) => days.get(toLocal(at, zone).date) ?? [];
  return {
    has: (moment) => timesOn(moment).some((readings) => readings.includes(toLocal(moment.at, moment.zone).time)),
    other: (moment, known) => {
      const [only, ...more] = timesOn(moment);
      const { date, time } = toLocal(moment.at, moment.zone);
      if (only === undefined || more.length > 0) return null;
      const ours = known.map(({ at, zone }) => toLocal(at, zone).time);
      if (only.some((reading) => reading === time || ours.includes(reading))) return null;
      const near = only.find((reading) => reading >= '12:00' === time >= '12:00') ?? only[0];
      return near === undefined ? null : instantOf({ date, time: near }, moment.zone);
    },
  };
}
