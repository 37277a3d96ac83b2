import { longDate } from '../dates/date-words';
import type { Facts } from '../facts/facts';
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

/** A line that a person has ticked, and what it said then: where it says something else now, it is not ticked any more. */
export interface SheetTick {
  line: string;
  value: string;
  by: string;
  at: Instant;
}

/** More dates than this are counted, not written out. */
const mostDates = 12;

/**
 * The sheet before the first opening of a sale: weekday, date, doors, start, end, zone, address, price, quantity, what the
 * buyer pays, link. Pure; the same record gives the same lines.
 */
export function sheetLines(facts: Facts): SheetLine[] {
  const { performances, levels, outlets, link, seats } = facts;
  const fee = firstFee(outlets);
  const each = (say: (one: Facts['performances'][number]) => string) => {
    const said = performances.map(say).filter((text) => text !== '');
    const all = [...new Set(said)];
    return all.length > mostDates
      ? `${all.slice(0, mostDates).join('; ')}; and ${all.length - mostDates} more`
      : all.join('; ');
  };
  const time = (at: Instant | null, zone: string) => (at === null ? '' : toLocal(at, zone).time);
  const line = (id: string, label: string, value: string, field: string | null = null): SheetLine => ({
    id,
    label,
    value,
    field,
  });
  return [
    line(
      'weekday',
      'Weekday',
      each((one) => longDate(one.date).split(' ')[0] ?? ''),
      'start',
    ),
    line(
      'date',
      'Date',
      each((one) => longDate(one.date).replace(/^\w+ /, '')),
      'start',
    ),
    line(
      'doors',
      'Doors',
      each((one) => time(one.doors, one.zone)),
      'doors',
    ),
    line(
      'start',
      'Start',
      each((one) => time(one.start, one.zone)),
      'start',
    ),
    line(
      'end',
      'End',
      each((one) => time(one.end, one.zone)),
      'end',
    ),
    line(
      'zone',
      'Zone',
      each((one) => one.zone),
      'start',
    ),
    line(
      'address',
      'Address',
      each(({ place }) =>
        place
          ? [place.room, place.venue, place.address, place.town]
              .filter((part) => part !== null && part !== '')
              .join(', ')
          : '',
      ),
      'place',
    ),
    line(
      'price',
      'Price',
      levels.map((one) => `${one.name} ${moneyWords(one.minor, one.currency)}`).join('; '),
      'price',
    ),
    line(
      'quantity',
      'Quantity',
      [
        ...levels.map((one) => `${one.name} ${one.quantity ?? 'as many as there are'}`),
        ...(seats.total === null ? [] : [`${seats.total} in all`]),
      ].join('; '),
      'quantity',
    ),
    line(
      'pays',
      'The buyer pays',
      levels.map((one) => `${one.name} ${moneyWords(splitFee(one.minor, fee).buyerPays, one.currency)}`).join('; '),
      'price',
    ),
    line(
      'link',
      'Link',
      link.kind === 'known' ? link.href : link.kind === 'awaited' ? `what ${link.name} will give` : 'none',
      null,
    ),
  ];
}

/** The lines that nobody has ticked as they stand now. */
export function openLines(lines: readonly SheetLine[], ticks: readonly SheetTick[]): SheetLine[] {
  return lines.filter(({ id, value }) => !ticks.some((one) => one.line === id && one.value === value));
}

/** True where tickets that cost something are about to be sold: what a sheet is for. */
export function needsSheet({ ticketed, levels }: Pick<Facts, 'ticketed' | 'levels'>): boolean {
  return ticketed && levels.some((one) => one.minor > 0);
}
