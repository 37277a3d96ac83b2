import { longDate } from '../dates/date-words';
import type { Facts } from '../facts/facts';
import type { PerformanceFacts } from '../facts/performance-facts';
import { splitFee } from '../facts/tickets/fees';
import { firstFee } from '../facts/sale';
import { moneyWords } from '../base/money';
import { toLocal, type Instant } from '../base/zones';

/** One thing that is gone through before a sale opens for the first time. */
export interface SheetLine {
  id: string;
  label: string;
  /** What the record says; empty where it says nothing. */
  value: string;
  /** The field of a channel that sells, by which its locks are known. */
  field: string | null;
}

/**
 * A line that a person has ticked, and what it said then: where it says something else now, it is not ticked any more.
 */
export interface SheetTick {
  line: string;
  value: string;
  by: string;
  at: Instant;
}

/** More dates than this are counted, not written out. */
const mostDates = 12;

type PerDate = Record<'weekday' | 'date' | 'doors' | 'start' | 'end' | 'zone' | 'address', string>;

const saidBefore = new WeakMap<PerformanceFacts, PerDate>();

/** What the sheet says of one performance: put in words once, and again only when it moves. */
function perDate(performance: PerformanceFacts): PerDate {
  const kept = saidBefore.get(performance);
  if (kept) return kept;
  const time = (at: Instant | null) => (at === null ? '' : toLocal(at, performance.zone).time);
  const [weekday = '', ...rest] = longDate(performance.date).split(' ');
  const { place } = performance;
  const made: PerDate = {
    weekday,
    date: rest.join(' '),
    doors: time(performance.doors),
    start: time(performance.start),
    end: time(performance.end),
    zone: performance.zone,
    address: place
      ? [place.room, place.venue, place.address, place.town].filter((part) => part !== null && part !== '').join(', ')
      : '',
  };
  saidBefore.set(performance, made);
  return made;
}

/**
 * The sheet before the first opening of a sale: weekday, date, doors, start, end, zone, address, price, quantity, what
 * the buyer pays, link. Pure; the same record gives the same lines.
 */
export function sheetLines(facts: Facts): SheetLine[] {
  const { performances, levels, outlets, link, seats } = facts;
  const fee = firstFee(outlets);
  const dates = performances.map(perDate);
  const each = (key: keyof PerDate) => {
    const all = [...new Set(dates.map((date) => date[key]))].filter((text) => text !== '');
    return all.length > mostDates
      ? `${all.slice(0, mostDates).join('; ')}; and ${all.length - mostDates} more`
      : all.join('; ');
  };
  const line = (id: string, label: string, value: string, field: string | null = null): SheetLine => ({
    id,
    label,
    value,
    field,
  });
  return [
    line('weekday', 'Weekday', each('weekday'), 'start'),
    line('date', 'Date', each('date'), 'start'),
    line('doors', 'Doors', each('doors'), 'doors'),
    line('start', 'Start', each('start'), 'start'),
    line('end', 'End', each('end'), 'end'),
    line('zone', 'Zone', each('zone'), 'start'),
    line('address', 'Address', each('address'), 'place'),
    line(
      'price',
      'Price',
      levels.map((level) => `${level.name} ${moneyWords(level.minor, level.currency)}`).join('; '),
      'price',
    ),
    line(
      'quantity',
      'Quantity',
      [
        ...levels.map((level) => `${level.name} ${level.quantity ?? 'as many as there are'}`),
        ...(seats.total === null ? [] : [`${seats.total} in all`]),
      ].join('; '),
      'quantity',
    ),
    line(
      'pays',
      'The buyer pays',
      levels
        .map(
          (level) =>
            `${level.name} ${moneyWords(splitFee(level.minor, fee, facts.serviceFee?.minor ?? null).buyerPays, level.currency)}`,
        )
        .join('; '),
      'price',
    ),
    line(
      'link',
      'Link',
      link.kind === 'known' ? link.href : link.kind === 'awaited' ? `what ${link.name} will give` : 'none',
    ),
  ];
}

/** The lines that nobody has ticked as they stand now. */
export function openLines(lines: readonly SheetLine[], ticks: readonly SheetTick[]): SheetLine[] {
  return lines.filter(({ id, value }) => !ticks.some((tick) => tick.line === id && tick.value === value));
}

/** True where tickets that cost something are about to be sold: what a sheet is for. */
export function needsSheet({ ticketed, levels }: Pick<Facts, 'ticketed' | 'levels'>): boolean {
  return ticketed && levels.some((level) => level.minor > 0);
}
