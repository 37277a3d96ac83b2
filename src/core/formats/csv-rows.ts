/** A row of a table: its cells, and the line it starts on; or what is wrong with it. */
export type CsvRow = { line: number; cells: string[]; problem: null } | { line: number; cells: []; problem: string };

interface Options {
  delimiter: string;
  /** Most UTF-16 units of one row. */
  most: number;
}

const unclosed = 'A quotation mark opens a cell and is never closed. Close it, or double the marks inside the cell.';

/**
 * Reads rows of a table (CSV, RFC 4180) out of pieces of text, in time and memory that grow with the piece and one row.
 * Line ends may be CR LF, LF or CR. A row whose quotation marks cannot be is told, and reading goes on with the next
 * line: one stray mark costs its own line.
 */
export class CsvRows {
  private held = '';
  private line = 1;

  constructor(private readonly options: Options) {}

  /** Takes a piece of text; gives the rows that are whole by now. */
  push(text: string): CsvRow[] {
    this.held += text;
    return this.take(false);
  }

  /** The rest, at the end of the text. */
  end(): CsvRow[] {
    return this.take(true);
  }

  private take(last: boolean): CsvRow[] {
    const rows: CsvRow[] = [];
    let from = 0;
    while (from < this.held.length) {
      const read = readRow(this.held, from, this.options, last);
      if (read === null) break;
      rows.push(
        read.problem === null
          ? { line: this.line, cells: read.cells, problem: null }
          : { line: this.line, cells: [], problem: read.problem },
      );
      this.line += read.lines;
      from = read.next;
    }
    this.held = this.held.slice(from);
    return rows;
  }
}

interface ReadRow {
  cells: string[];
  problem: string | null;
  /** Where the next row begins, and how many lines further down. */
  next: number;
  lines: number;
}

/** One row from `from` on; `null`: its end is not there yet. */
function readRow(text: string, from: number, { delimiter, most }: Options, last: boolean): ReadRow | null {
  const cells: string[] = [];
  let at = from;
  for (;;) {
    if (text[at] === '"') {
      const quoted = quotedCell(text, at, delimiter, from + most, last);
      if (quoted === null) return null;
      if (typeof quoted === 'string') return afterLine(text, from, quoted, last, most);
      cells.push(quoted.cell);
      at = quoted.end;
    } else {
      const end = plainEnd(text, at, delimiter);
      if (end >= text.length && !last)
        return text.length - from > most ? afterLine(text, from, tooLong(most), last, most) : null;
      cells.push(text.slice(at, end));
      at = end;
    }
    if (text[at] === delimiter) {
      at += 1;
      continue;
    }
    if (text[at] === '\r' && at + 1 >= text.length && !last) return null;
    const next = at + (text[at] === '\r' && text[at + 1] === '\n' ? 2 : 1);
    if (at - from > most) return { cells: [], problem: tooLong(most), next, lines: linesIn(text, from, next) };
    return { cells, problem: null, next, lines: linesIn(text, from, next) };
  }
}

const tooLong = (most: number) => `The row has more than ${most} characters. Shorten it.`;

function plainEnd(text: string, from: number, delimiter: string): number {
  let at = from;
  while (at < text.length && text[at] !== delimiter && text[at] !== '\n' && text[at] !== '\r') at += 1;
  return at;
}

/** A cell between quotation marks; `null`: its end is not there yet; else what is wrong with it. */
function quotedCell(
  text: string,
  from: number,
  delimiter: string,
  most: number,
  last: boolean,
): { cell: string; end: number } | null | string {
  let cell = '';
  let at = from + 1;
  for (;;) {
    const mark = text.indexOf('"', at);
    if (mark < 0 || mark > most) return (mark < 0 ? text.length : mark) > most || last ? unclosed : null;
    cell += text.slice(at, mark);
    const behind = text[mark + 1];
    if (behind === undefined && !last) return null;
    if (behind === '"') {
      cell += '"';
      at = mark + 2;
    } else if (behind === undefined || behind === delimiter || behind === '\n' || behind === '\r')
      return { cell, end: mark + 1 };
    else return 'A quotation mark stands inside a cell between quotation marks. Double it (""), or take it out.';
  }
}

/** A row that cannot be: reading goes on behind its first line. */
function afterLine(text: string, from: number, problem: string, last: boolean, most: number): ReadRow | null {
  let at = from;
  while (at < text.length && text[at] !== '\n' && text[at] !== '\r') at += 1;
  if (at >= text.length && !last && at - from <= most) return null;
  const next = Math.min(text.length, at + (text[at] === '\r' && text[at + 1] === '\n' ? 2 : 1));
  return { cells: [], problem, next, lines: 1 };
}

function linesIn(text: string, from: number, to: number): number {
  let lines = 0;
  for (let at = from; at < to; at += 1) {
    if (text[at] === '\n' || (text[at] === '\r' && text[at + 1] !== '\n')) lines += 1;
  }
  return lines;
}

/**
 * What stands between the cells: comma, semicolon or tab, whichever parts the names of the columns. `known`: a name
 * that is among them.
 */
export function delimiterOf(head: string, known: string): string {
  const names = (mark: string) => head.split(mark).map((name) => name.trim().replace(/^"|"$/g, '').toLowerCase());
  return [',', ';', '\t'].find((mark) => names(mark).includes(known)) ?? ',';
}
