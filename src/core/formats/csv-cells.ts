import { currencyOf } from '../base/countries';
import { currencies, parsePrice, type Currency } from '../base/money';
import { newEntry, newLevel, newTickets } from '../record/new-record';
import { quoted } from '../base/quoted';
import type { Performance, RecordContent } from '../record/record';
import { recordLimits, turns } from '../record/choices';
import { commonRoles } from '../record/roles';
import { webAddress } from '../base/scalars';
import type { NewVenue } from '../record/directory';
import { CellError, momentCell } from './csv-dates';
import type { FileNote } from './file-note';

/** Columns that a table of events must have; the others may be missing. */
export const neededColumns = ['title', 'date', 'start', 'venue'] as const;
export const otherColumns = [
  'ref',
  'subtitle',
  'event_type',
  // What older tables call it.
  'kind',
  'doors',
  'end',
  'zone',
  'town',
  'country',
  'address',
  'room',
  'capacity',
  'price',
  'concession',
  'currency',
  'line_up',
  'stage',
  // What befell the date, and whether it is sold out.
  'status',
  'public',
  'announce',
  'teaser',
  'text',
  'tickets_link',
  'tags',
  'hashtags',
  'audience',
  'organiser',
  'on_sale',
  'written_from',
] as const;
/** A column that a table of events may have. */
export type Column = (typeof neededColumns)[number] | (typeof otherColumns)[number];
const everyColumn: ReadonlySet<string> = new Set([...neededColumns, ...otherColumns]);
/** Whether a table's column is one that is read. */
export function isColumn(name: string): name is Column {
  return everyColumn.has(name);
}

/** A row's cells, by column. */
export type Cells = Partial<Record<Column, string>>;

/** Says that a cell cannot be read, at its column. Throws a `CellError`. */
export function refuse(field: string, message: string): never {
  throw new CellError(field, message);
}

/** One of the words that a column knows. Throws a `CellError` for any other. */
export function oneOf<T extends string>(field: string, text: string, choices: readonly T[]): T {
  return (
    choices.find((choice) => choice === text.toLowerCase()) ??
    refuse(field, `${quoted(text)} is not one of: ${choices.join(', ')}.`)
  );
}

/** Yes or no. Throws a `CellError` for what is neither; empty is no. */
export function readYes(text: string): boolean {
  if (/^(yes|y|true|1)$/i.test(text)) return true;
  return text === '' || /^(no|n|false|0)$/i.test(text)
    ? false
    : refuse('public', `${quoted(text)} is neither yes nor no.`);
}

/** What befell a date, in a cell: `postponed`, `sold out`, `moved; sold out`; empty or `as planned`: nothing. */
export function statusText({ turn, soldOut }: Pick<Performance, 'turn' | 'soldOut'>): string {
  return [turn === 'none' ? '' : turn, soldOut ? 'sold out' : ''].filter((word) => word !== '').join('; ');
}

/** The same, read. Throws a `CellError` for what is no such word. */
export function readStatus(text: string): Pick<Performance, 'turn' | 'soldOut'> {
  const words = text
    .split(';')
    .map((word) => word.trim())
    .filter((word) => word !== '' && word.toLowerCase() !== 'as planned')
    .map((word) => oneOf('status', word, [...turns.filter((turn) => turn !== 'none'), 'sold out'] as const));
  const befell = words.filter((word) => word !== 'sold out');
  if (befell.length > 1) refuse('status', `${quoted(text)} says two things that cannot both be. Write one of them.`);
  return { turn: befell[0] ?? 'none', soldOut: words.includes('sold out') };
}

/** The local moment at which all levels go on sale. */
export function withOnSale(tickets: RecordContent['tickets'], text: string): RecordContent['tickets'] {
  if (text === '') return tickets;
  const opens = { kind: 'at' as const, ...momentCell('on_sale', text) };
  return { ...tickets, levels: tickets.levels.map((level) => ({ ...level, opens })) };
}

/** For whom it is: `members`, the name of a group, or nothing where it is for everyone. */
export function readAudience(text: string): RecordContent['audience'] {
  const said = text.trim();
  if (said === '' || said.toLowerCase() === 'everyone') return { who: 'everyone' };
  return said.toLowerCase() === 'members' ? { who: 'members' } : { who: 'group', name: said };
}

/** Hashtags, with or without their sign. */
export function readHashtags(text: string): string[] {
  return text
    .split(/[;\s]+/)
    .map((text) => text.replace(/^#/, ''))
    .filter((candidate) => candidate !== '');
}

/** The moment of the announcement, in the row’s zone; `null` where none is given. */
export function readAnnounce(text: string, zone: string): RecordContent['publicity']['announce'] {
  return text === '' ? null : { ...momentCell('announce', text), zone };
}

/** `Name; Name (support); Name (special guest)`. One without a role is a headliner. */
export function readLineUp(text: string, id: string): RecordContent['lineUp'] {
  return text
    .split(';', recordLimits.lineUp + 1)
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .map((part, i) => {
      const role = commonRoles.find((role) => part.toLowerCase().endsWith(`(${role.toLowerCase()})`));
      return newEntry(
        `${id}a${i}`,
        role === undefined ? part : part.slice(0, -role.length - 2).trim(),
        role ?? 'headliner',
      );
    });
}

const anyCode = new RegExp(`\\b(?:${currencies.join('|')})\\b`, 'i');

/**
 * The currency that a row says: in its own column, or by a code or sign that only one has; else that of its country, or
 * EUR, which is told.
 */
function readCurrency(get: (name: Column) => string, notes: FileNote[]): Currency {
  const said = get('currency');
  if (said !== '')
    return (
      currencies.find((currency) => currency === said.toUpperCase()) ??
      refuse('currency', `${quoted(said)} is no currency. Write its code of ISO 4217, such as EUR.`)
    );
  const prices = `${get('price').slice(0, 40)} ${get('concession').slice(0, 40)}`;
  const named = anyCode.exec(prices)?.[0].toUpperCase();
  const code = currencies.find((currency) => currency === named) ?? (prices.includes('£') ? 'GBP' : undefined);
  if (code !== undefined) return code;
  if (prices.includes('€')) return 'EUR';
  const local = currencyOf(get('country')) ?? currencyOf(get('town').split(',').slice(1).pop() ?? '');
  if (/\d/.test(prices))
    notes.push(
      local === null
        ? { code: 'currency-assumed', text: 'The row says no currency: EUR was taken.' }
        : {
            code: 'currency-by-country',
            text: `The row says no currency: ${local} was taken, as one pays in ${get('country') || get('town')}.`,
          },
    );
  return local ?? 'EUR';
}

/** Prices and links as a row tells them. What was assumed goes to `notes`. */
export function readTickets(get: (name: Column) => string, id: string, notes: FileNote[]): RecordContent['tickets'] {
  const currency = readCurrency(get, notes);
  const link = get('tickets_link');
  if (link !== '' && !webAddress.safeParse(link).success)
    refuse('tickets_link', `${quoted(link)} is no web address. It starts with http:// or https://.`);
  const price = (name: 'price' | 'concession') => {
    const text = get(name);
    return text === ''
      ? null
      : (parsePrice(text, currency) ??
          refuse(name, `${quoted(text)} is no price in ${currency}. Write it like 18 or 18.50.`));
  };
  const free = /^free$/i.test(get('price'));
  const level = (name: string, minor: number | null, concession: boolean) =>
    minor === null
      ? []
      : [newLevel(`${id}${concession ? 'c' : 's'}`, name, minor, { buyers: concession ? 'concession' : 'anyone' })];
  const levels = free
    ? []
    : [...level('Standard', price('price'), false), ...level('Concession', price('concession'), true)];
  return newTickets({
    mode: free ? 'free entry' : link !== '' ? 'elsewhere' : 'ticketed',
    currency,
    levels,
    link: link === '' ? null : link,
  });
}

/** The venue that a row names, to be found or made. */
export function readVenue(get: (name: Column) => string, zone: string, point: NewVenue['point']): NewVenue {
  const text = get('capacity');
  if (text !== '' && !/^[1-9]\d{0,5}$/.test(text)) refuse('capacity', `${quoted(text)} is no number of places.`);
  return {
    name: get('venue'),
    address: get('address'),
    town: get('town'),
    country: get('country'),
    zone,
    room: get('room'),
    capacity: text === '' ? null : Number(text),
    point,
  };
}
