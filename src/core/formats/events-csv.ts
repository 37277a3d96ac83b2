import { fingerprint } from '../base/hash';
import { plainToHtml } from '../words/markup';
import { newRecord, newWords } from '../record/new-record';
import { quoted } from '../base/quoted';
import type { RecordContent } from '../record/record';
import { readTypes } from './event-types';
import { isZone } from '../base/zones';
import { CellError, dateCell, timeCell } from './csv-dates';
import { CsvRows, delimiterOf, type CsvRow } from './csv-rows';
import {
  bareContext,
  fileLimits,
  firstOfTwo,
  gathered,
  placed,
  settled,
  type FilePart,
  type ImportedEvent,
  type ReadFile,
  type ReadContext,
} from './import-row';
import { type FileNote } from './file-note';
import {
  type Cells,
  type Column,
  isColumn,
  neededColumns,
  oneOf,
  readAnnounce,
  readAudience,
  readHashtags,
  readLineUp,
  readStatus,
  readTickets,
  readVenue,
  readYes,
  refuse,
  withOnSale,
} from './csv-cells';

/** Columns that hold texts of any length up to the record's own limit; every other cell is short. */
const longColumns: readonly string[] = ['text', 'teaser', 'line_up', 'tags'];

/**
 * Reads a table of events (CSV, RFC 4180, first line names the columns), whole: see `csvParts`. `zone` is taken where
 * neither the table nor the place says one, and `title` where it has no such column.
 */
export function readEventsCsv(text: string, zone: string | null, title?: string): ReadFile {
  return gathered(csvParts([text], bareContext(zone, title)));
}

/**
 * Reads a table of events out of pieces of its text. A broken row is told by line and field and the rest goes on; a
 * missing column refuses the file and names it. `skip`: rows, by their line, that are passed over.
 */
export function* csvParts(
  pieces: Iterable<string>,
  context: ReadContext,
  skip: (line: number) => boolean = () => false,
): Generator<FilePart> {
  let table: Table | null = null;
  let rows: CsvRows | null = null;
  let count = 0;
  for (const row of rowsOf(
    pieces,
    (first) => (rows ??= new CsvRows({ delimiter: delimiterOf(first, 'date'), most: fileLimits.row })),
  )) {
    if (table === null) {
      const made: Table | string = Table.of(row, context);
      if (typeof made === 'string') return yield { kind: 'refused', message: made };
      table = made;
      yield* table.assumed();
      continue;
    }
    if (row.problem === null && row.cells.every((cell) => cell.trim() === '')) continue;
    count += 1;
    if (count > fileLimits.rows)
      return yield {
        kind: 'note',
        line: row.line,
        note: {
          code: 'too-many-rows',
          text: `From line ${row.line} on nothing was read: at most ${fileLimits.rows} rows are read of one file. Split it and read the rest.`,
        },
      };
    if (skip(row.line)) continue;
    if (count % 200 === 0) yield { kind: 'at', line: row.line, place: count, of: 0 };
    yield* table.read(row);
  }
  if (table === null) yield { kind: 'refused', message: missingWords(neededColumns, []) };
}

function* rowsOf(pieces: Iterable<string>, open: (firstLine: string) => CsvRows): Generator<CsvRow> {
  let rows: CsvRows | null = null;
  let head = '';
  for (const piece of pieces) {
    if (rows === null) {
      head += piece;
      if (!/[\r\n]/.test(head) && head.length < fileLimits.row) continue;
      const text = head.replace(/^\ufeff/, '');
      rows = open(text.slice(0, 5_000).split(/[\r\n]/, 1)[0] ?? '');
      yield* rows.push(text);
    } else yield* rows.push(piece);
  }
  if (rows === null) {
    rows = open(head.replace(/^\ufeff/, '').slice(0, 5_000));
    yield* rows.push(head.replace(/^\ufeff/, ''));
  }
  yield* rows.end();
}

function missingWords(missing: readonly string[], columns: readonly string[]): string {
  const has =
    columns
      .filter((name) => name !== '')
      .map((name) => name.slice(0, 40))
      .slice(0, 40)
      .join(', ') || 'nothing';
  return `The column “${missing.join('”, “')}” is missing. The first line must name the columns; it has: ${has}.`;
}

/** Names that tables have for columns of ours. */
const otherNames: Readonly<Record<string, Column>> = {
  promoter: 'organiser',
  local_promoter: 'organiser',
  presented_by: 'organiser',
  ticket_link: 'tickets_link',
  ticket_url: 'tickets_link',
  tickets: 'tickets_link',
  link: 'tickets_link',
  city: 'town',
  time: 'start',
};

/** A table whose columns are known. */
class Table {
  private readonly seen = new Map<string, number>();

  private constructor(
    private readonly columns: readonly string[],
    private readonly context: ReadContext,
  ) {}

  static of(head: CsvRow, context: ReadContext): Table | string {
    if (head.problem !== null) return `The first line, which must name the columns, cannot be read: ${head.problem}`;
    const columns = head.cells
      .slice(0, 200)
      .map((name) => name.trim().toLowerCase().replace(/[ -]/g, '_'))
      .map((name, _, all) => {
        const usual = otherNames[name];
        return usual !== undefined && !all.includes(usual) ? usual : name;
      });
    const missing = neededColumns.filter(
      (name) => !columns.includes(name) && !(name === 'title' && context.title !== undefined),
    );
    return missing.length > 0 ? missingWords(missing, columns) : new Table(columns, context);
  }

  /** What is taken for all rows because the table has no column for it. */
  *assumed(): Generator<FilePart> {
    const has = (name: string) => this.columns.includes(name);
    const unread = this.columns.filter((name) => name !== '' && !isColumn(name));
    if (unread.length > 0)
      yield {
        kind: 'note',
        line: 1,
        note: {
          code: 'columns-unread',
          text: `Nothing was read of ${unread.length === 1 ? 'the column' : 'the columns'} ${unread
            .slice(0, 20)
            .map((name) => quoted(name.slice(0, 40)))
            .join(
              ', ',
            )}${unread.length > 20 ? ` and ${unread.length - 20} more` : ''}: no field of a record is called so.`,
        },
      };
    // Dates of a tour are of its kind.
    if (!has('event_type') && !has('kind') && this.context.title === undefined)
      yield {
        kind: 'note',
        line: 1,
        note: { code: 'kind-assumed', text: 'There is no column “event_type”: every event was taken for a concert.' },
      };
    if (!has('currency') && (has('price') || has('concession')))
      yield {
        kind: 'note',
        line: 1,
        note: {
          code: 'currency-assumed',
          text: 'There is no column “currency”: prices without a sign or code were taken for the money of the country, or EUR where none is said.',
        },
      };
  }

  *read({ line, cells: row, problem }: CsvRow): Generator<FilePart> {
    try {
      if (problem !== null) throw new CellError('row', problem);
      if (row.length > this.columns.length && row.slice(this.columns.length).some((cell) => cell.trim() !== ''))
        throw new CellError(
          'row',
          `${row.length} cells where ${this.columns.length} columns are named. Put texts with commas between quotation marks.`,
        );
      const most = (name: string) => (longColumns.includes(name) ? fileLimits.text : fileLimits.cell);
      const long = this.columns.findIndex((name, c) => (row[c]?.length ?? 0) > most(name));
      if (long >= 0)
        throw new CellError(
          this.columns[long] ?? 'row',
          `has ${row[long]?.length ?? 0} characters; at most ${most(this.columns[long] ?? '')} are read. Shorten it.`,
        );
      const { title } = this.context;
      const cells: Cells = {
        ...(title === undefined ? {} : { title }),
        ...Object.fromEntries(this.columns.map((name, c) => [name, plainCell(row[c] ?? '')])),
      };
      const event = readRow(cells, line, this.context);
      const before = this.seen.get(event.origin);
      if (before !== undefined)
        throw new CellError('ref', `says the same as line ${before}. Give each row its own “ref”, or take one out.`);
      this.seen.set(event.origin, line);
      yield* settled(event, columnOf);
    } catch (error) {
      if (!(error instanceof CellError)) throw error;
      yield { kind: 'broken', row: { line, field: error.field, code: `${error.field}-unread`, text: error.message } };
    }
  }
}

/** A cell without the blanks around it, and without the apostrophe that keeps a spreadsheet from reckoning with it. */
function plainCell(text: string): string {
  const bare = text.trim();
  return /^'[=+\-@\t\r]/.test(bare) ? bare.slice(1) : bare;
}

/** The column that a field of the record is read from. */
function columnOf(path: string): string {
  const [head = '', second = '', third = ''] = path.split('.');
  if (head === 'performances') return third === 'lastDate' ? 'date' : third || 'date';
  if (head === 'lineUp') return 'line_up';
  if (head === 'words') return second === 'full' ? 'text' : second;
  if (head === 'publicity') return second === 'announce' ? 'announce' : 'public';
  if (head === 'tickets') return second === 'link' ? 'tickets_link' : /opens/.test(path) ? 'on_sale' : 'price';
  if (head === 'venue') return second === 'name' ? 'venue' : second || 'venue';
  return head === '' ? 'row' : head;
}

function readRow(cells: Cells, line: number, context: ReadContext): ImportedEvent {
  const get = (name: Column) => cells[name] ?? '';
  const need = (name: Column) => get(name) || refuse(name, 'is empty. Fill it in.');
  const notes: FileNote[] = [];
  const typeColumn = get('event_type') === '' ? 'kind' : 'event_type';
  const said = get('zone');
  if (said !== '' && !isZone(said))
    refuse('zone', `${quoted(said)} is not in the IANA zone data. Write a zone such as Europe/Dublin.`);
  const title = need('title');
  const venueName = need('venue');
  const place = placed(said, { venue: venueName, town: get('town'), country: get('country') }, context, 'zone');
  if (place.note) notes.push(place.note);
  const zone = place.zone ?? 'UTC';
  const { date, precision: known, time: timeOfDate } = dateCell(need('date'), place.zone, notes);
  const start = timeCell('start', get('start'), date) ?? timeOfDate;
  const end = timeCell('end', get('end'), date);
  const doors = timeCell('doors', get('doors'), date);
  const precision = known === 'exact' && start === null ? 'day' : known;
  const origin =
    get('ref') !== '' ? `csv:${get('ref')}` : `csv:${fingerprint([title, date, start ?? '', venueName, get('town')])}`;
  const id = fingerprint(origin);
  let n = 0;
  const base = newRecord(date, zone, () => `${id}${n++}`);
  const content: RecordContent = {
    ...base,
    title,
    subtitle: get('subtitle'),
    ...readTypes(typeColumn, get(typeColumn), notes),
    stage: oneOf('stage', get('stage') || 'confirmed', ['pencilled', 'confirmed'] as const),
    performances: base.performances.map((performance) =>
      firstOfTwo(
        {
          ...performance,
          ...readStatus(get('status')),
          precision,
          doors,
          start,
          end,
          endsNextDay: end !== null && start !== null && end <= start,
        },
        notes,
      ),
    ),
    tags: get('tags')
      .split(';')
      .map((tag) => tag.trim())
      .filter((tag) => tag !== ''),
    hashtags: readHashtags(get('hashtags')),
    audience: readAudience(get('audience')),
    lineUp: readLineUp(get('line_up'), id),
    tickets: withOnSale(readTickets(get, id, notes), get('on_sale')),
    words: newWords({ teaser: get('teaser'), full: plainToHtml(get('text')) }),
    publicity: {
      visibility: readYes(get('public')) ? 'public' : 'private',
      announce: readAnnounce(get('announce'), zone),
    },
  };
  return {
    origin,
    writtenFrom: get('written_from') || null,
    line,
    content,
    venue: readVenue(get, zone, place.point),
    organiser: get('organiser'),
    notes,
    ask: place.ask,
  };
}
