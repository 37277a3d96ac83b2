import Papa from 'papaparse';
import { longDate, parseTimeOfDay } from '../date-words';
import { fingerprint } from '../hash';
import { plainToHtml } from '../markup';
import { currencies, parsePrice, type Currency } from '../money';
import { newEntry, newLevel, newRecord, newTickets, newWords } from '../new-record';
import { pasteDates } from '../paste-dates';
import { quoted } from '../quoted';
import { eventKinds, recordLimits, type Precision, type RecordContent } from '../record';
import { isoDate, webAddress } from '../scalars';
import type { NewVenue } from '../directory';
import { isZone } from '../zones';
import { firstOfTwo, mostFileChars, mostFileRows, type BrokenRow, type ImportedEvent, type ReadFile } from './import-row';

/** Columns that a table of events must have; the others may be missing. */
export const neededColumns = ['title', 'date', 'start', 'venue'] as const;
export const otherColumns = [
  'ref', 'subtitle', 'kind', 'doors', 'end', 'zone', 'town', 'country', 'address', 'room', 'capacity', 'price', 'concession', 'currency',
  'line_up', 'teaser', 'text', 'public', 'stage', 'announce', 'tickets_link', 'tags', 'organiser', 'on_sale',
] as const;
type Column = (typeof neededColumns)[number] | (typeof otherColumns)[number];
type Cells = Partial<Record<Column, string>>;

/** Thrown inside this file only: one cell that cannot be read. */
class CellError extends Error {
  constructor(readonly field: string, message: string) {
    super(message);
  }
}

/**
 * Reads a table of events (CSV, RFC 4180, first line names the columns). A broken row is reported with its line
 * and the rest goes on; a missing column refuses the file and names it. `zone` is used where the table has none,
 * and `title` where it has no such column.
 */
export function readEventsCsv(text: string, zone: string, title?: string): ReadFile {
  if (text.length > mostFileChars) return { ok: false, message: 'The file is larger than 5 MB. Split it and read the parts.' };
  const lines: number[] = [];
  const rows: string[][] = [];
  const table = text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n');
  let line = 1;
  let cursor = 0;
  Papa.parse<string[]>(table, {
    skipEmptyLines: false,
    // By the line of names: a guess by the rows would take the semicolons of a line-up for it.
    delimiter: delimiterOf(table.split('\n', 1)[0] ?? ''),
    step: ({ data, meta }) => {
      rows.push(data);
      lines.push(line);
      // A quoted text may hold line breaks: the next row starts as many lines further down.
      line += table.slice(cursor, meta.cursor).split('\n').length - 1;
      cursor = meta.cursor;
    },
  });
  const [head = []] = rows;
  const columns = head.map((name) => name.trim().toLowerCase().replace(/[ -]/g, '_'));
  const missing = neededColumns.filter((name) => !columns.includes(name) && !(name === 'title' && title !== undefined));
  if (missing.length > 0) {
    const has = columns.filter((name) => name !== '').join(', ') || 'nothing';
    return { ok: false, message: `The column “${missing.join('”, “')}” is missing. The first line must name the columns; it has: ${has}.` };
  }
  if (rows.length > mostFileRows + 1) return { ok: false, message: `${rows.length - 1} rows; at most ${mostFileRows} are read at once. Split the file.` };
  return readRows(rows, lines, columns, zone, title);
}

/** What stands between the cells: comma, semicolon or tab, whichever parts the names of the needed columns. */
function delimiterOf(head: string): string {
  const names = (mark: string) => head.split(mark).map((name) => name.trim().replace(/^"|"$/g, '').toLowerCase());
  return [',', ';', '\t'].find((mark) => names(mark).includes('date')) ?? ',';
}

function readRows(rows: string[][], lines: number[], columns: string[], zone: string, title: string | undefined): ReadFile {
  const events: ImportedEvent[] = [];
  const broken: BrokenRow[] = [];
  const seen = new Map<string, number>();
  rows.forEach((row, i) => {
    const line = lines[i] ?? 0;
    if (i === 0 || row.every((cell) => cell.trim() === '')) return;
    try {
      if (row.length > columns.length) throw new CellError('row', `${row.length} cells where ${columns.length} columns are named. Put texts with commas between quotation marks.`);
      const cells: Cells = { ...(title === undefined ? {} : { title }), ...Object.fromEntries(columns.map((name, c) => [name, (row[c] ?? '').trim()])) };
      const event = readRow(cells, line, zone);
      const before = seen.get(event.origin);
      if (before !== undefined) throw new CellError('ref', `says the same as line ${before}. Give each row its own “ref”, or take one out.`);
      seen.set(event.origin, line);
      events.push(event);
    } catch (error) {
      if (!(error instanceof CellError)) throw error;
      broken.push({ line, field: error.field, message: error.message });
    }
  });
  return { ok: true, events, broken };
}

function readRow(cells: Cells, line: number, defaultZone: string): ImportedEvent {
  const get = (name: Column) => cells[name] ?? '';
  const need = (name: Column) => get(name) || refuse(name, 'is empty. Fill it in.');
  const zone = get('zone') || defaultZone;
  if (!isZone(zone)) refuse('zone', `${quoted(zone)} is not in the IANA zone data. Write a zone such as Europe/Dublin.`);
  const notes: string[] = [];
  const { date, precision: known } = readDate(need('date'), notes);
  const title = need('title');
  if (title.length > recordLimits.title) refuse('title', `has ${title.length} characters; at most ${recordLimits.title} are kept.`);
  const time = (name: 'doors' | 'start' | 'end') => {
    const text = get(name);
    return text === '' ? null : (parseTimeOfDay(text) ?? refuse(name, `${quoted(text)} is no time of day. Write it like 19:30.`));
  };
  const start = time('start');
  const end = time('end');
  const precision = known === 'exact' && start === null ? 'day' : known;
  const origin = get('ref') !== '' ? `csv:${get('ref')}` : `csv:${fingerprint([title, date, start ?? '', need('venue'), get('town')])}`;
  const id = fingerprint(origin);
  let n = 0;
  const base = newRecord(date, zone, () => `${id}${n++}`);
  const content: RecordContent = {
    ...base,
    title,
    subtitle: get('subtitle'),
    kind: oneOf('kind', get('kind') || 'concert', eventKinds),
    stage: oneOf('stage', get('stage') || 'confirmed', ['pencilled', 'confirmed'] as const),
    performances: base.performances.map((one) => firstOfTwo({ ...one, precision, doors: time('doors'), start, end, endsNextDay: end !== null && start !== null && end <= start }, notes)),
    tags: get('tags').split(';').map((tag) => tag.trim()).filter((tag) => tag !== ''),
    lineUp: readLineUp(get('line_up'), id),
    tickets: withOnSale(readTickets(get, id), get('on_sale')),
    words: newWords({ teaser: get('teaser'), full: plainToHtml(get('text')) }),
    publicity: { visibility: readYes(get('public')) ? 'public' : 'private', announce: readAnnounce(get('announce'), zone) },
  };
  return { origin, line, content, venue: readVenue(get, zone), organiser: get('organiser'), notes };
}

/** `2027-03-14`, or as people write it, with its year; `2027-03` or `March 2027` where only the month is known; `open` where nothing is. */
function readDate(text: string, notes: string[]): { date: string; precision: Precision } {
  if (/^open$/i.test(text)) return { date: '2037-12-31', precision: 'open' };
  const month = /^\d{4}-\d{2}$/.test(text) ? text : monthNamed(text);
  const date = month !== null ? `${month}-01` : isoDate.safeParse(text).success ? text : writtenDate(text, notes);
  if (date === null || !isoDate.safeParse(date).success) return refuse('date', `${quoted(text)} is no date. Write it as YYYY-MM-DD, as YYYY-MM where only the month is known, or “open”.`);
  return { date, precision: month === null ? 'exact' : 'month' };
}

/** `March 2027` as `2027-03`. */
function monthNamed(text: string): string | null {
  const [, name = '', year = ''] = /^([a-z]{3,9})\.?\s+(\d{4})$/i.exec(text) ?? [];
  const at = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'].indexOf(name.slice(0, 3).toLowerCase());
  return at < 0 ? null : `${year}-${String(at + 1).padStart(2, '0')}`;
}

/** A date with its year, as people write it. Of two figures that could both be the month, the first is the day, which is told. */
function writtenDate(text: string, notes: string[]): string | null {
  const { dates, problems: [problem] } = pasteDates(text, '1970-01-01');
  const [found] = dates;
  if (problem && !problem.why.startsWith('No date')) return refuse('date', problem.why);
  if (!found || dates.length > 1 || found.times.length > 0 || !/\d{4}|[/.-]\d{2}$/.test(text)) return null;
  const [, first = 0, second = 0] = (/^(\d{1,2})[/.-](\d{1,2})[/.-]\d{2,4}$/.exec(text) ?? []).map(Number);
  if (first > 0 && first <= 12 && second <= 12 && first !== second) notes.push(`${quoted(text)} was read day first: ${longDate(found.date)}.`);
  return found.date;
}

function refuse(field: string, message: string): never {
  throw new CellError(field, message);
}

function oneOf<T extends string>(field: string, text: string, choices: readonly T[]): T {
  return choices.find((one) => one === text.toLowerCase()) ?? refuse(field, `${quoted(text)} is not one of: ${choices.join(', ')}.`);
}

function readYes(text: string): boolean {
  if (/^(yes|y|true|1)$/i.test(text)) return true;
  return text === '' || /^(no|n|false|0)$/i.test(text) ? false : refuse('public', `${quoted(text)} is neither yes nor no.`);
}

/** The local moment at which all levels go on sale. */
function withOnSale(tickets: RecordContent['tickets'], text: string): RecordContent['tickets'] {
  if (text === '') return tickets;
  const [date = '', clock = ''] = text.split(/[ T]/);
  const time = parseTimeOfDay(clock);
  if (time === null || !isoDate.safeParse(date).success) return refuse('on_sale', `${quoted(text)} is no moment. Write it like 2027-02-12 10:00.`);
  return { ...tickets, levels: tickets.levels.map((level) => ({ ...level, opens: { kind: 'at' as const, date, time } })) };
}

function readAnnounce(text: string, zone: string): RecordContent['publicity']['announce'] {
  if (text === '') return null;
  const [date = '', clock = ''] = text.split(/[ T]/);
  const time = parseTimeOfDay(clock);
  if (time === null || !isoDate.safeParse(date).success) return refuse('announce', `${quoted(text)} is no moment. Write it like 2027-02-04 09:00.`);
  return { date, time, zone };
}

/** `Name; Name (support); Name (special guest)`. The first without a role is the headliner, as are all others. */
function readLineUp(text: string, id: string): RecordContent['lineUp'] {
  return text.split(';').map((part) => part.trim()).filter((part) => part !== '').map((part, i) => {
    const found = /^(.*?)\s*\((support|special guest|headliner)\)$/.exec(part);
    return newEntry(`${id}a${i}`, found?.[1] ?? part, (found?.[2] as 'support' | undefined) ?? 'headliner');
  });
}

function readTickets(get: (name: Column) => string, id: string): RecordContent['tickets'] {
  const currency = oneOf('currency', get('currency') || 'EUR', currencies.map((one) => one.toLowerCase())).toUpperCase() as Currency;
  const link = get('tickets_link');
  if (link !== '' && !webAddress.safeParse(link).success) refuse('tickets_link', `${quoted(link)} is no web address. It starts with http:// or https://.`);
  const price = (name: 'price' | 'concession') => {
    const text = get(name);
    return text === '' ? null : (parsePrice(text, currency) ?? refuse(name, `${quoted(text)} is no price in ${currency}. Write it like 18 or 18.50.`));
  };
  const free = /^free$/i.test(get('price'));
  const level = (name: string, minor: number | null, concession: boolean) =>
    minor === null ? [] : [newLevel(`${id}${concession ? 'c' : 's'}`, name, minor, { buyers: concession ? 'concession' : 'anyone' })];
  const levels = free ? [] : [...level('Standard', price('price'), false), ...level('Concession', price('concession'), true)];
  return newTickets({ mode: free ? 'free entry' : link !== '' ? 'elsewhere' : 'ticketed', currency, levels, link: link === '' ? null : link });
}

function readVenue(get: (name: Column) => string, zone: string): NewVenue {
  const text = get('capacity');
  if (text !== '' && !/^[1-9]\d{0,5}$/.test(text)) refuse('capacity', `${quoted(text)} is no number of places.`);
  return {
    name: get('venue'), address: get('address'), town: get('town'), country: get('country'), zone, room: get('room'),
    capacity: text === '' ? null : Number(text),
  };
}
