/** One VEVENT as it stands in its file, unread. */
export interface IcsBlock {
  line: number;
  lines: number;
  text: string;
  uid: string;
  /** It changes one date of a recurrence. */
  moves: boolean;
  /** `null`, or why it cannot be read: it is not closed, or longer than any event. */
  problem: string | null;
}

/** A calendar file taken apart at its events, none of which is read yet. */
export interface IcsFile {
  blocks: IcsBlock[];
  /** The zone tables of the file, whole. */
  zones: string[];
  /** The zone that the calendar as a whole says it is in; empty where it says none. */
  zone: string;
}

/** Most lines and UTF-16 units of one event, and of all zone tables together. */
const mostLines = 20_000;
const mostChars = 1_000_000;

/** Takes a calendar file (RFC 5545) apart; a file may hold several calendars. One pass, whatever it holds. */
export function icsBlocks(text: string): IcsFile {
  const file: IcsFile = { blocks: [], zones: [], zone: '' };
  let open: { from: number; line: number; uid: string; moves: boolean } | null = null;
  let table: number | null = null;
  let zoneChars = 0;
  let line = 0;
  let number = 1;
  const close = (to: number, problem: string | null) => {
    if (open === null) return;
    const lines = number - open.line + 1;
    const tooLong =
      lines > mostLines
        ? `The event has ${lines} lines; at most ${mostLines} are read. Split it.`
        : to - open.from > mostChars
          ? `The event has ${to - open.from} characters; at most ${mostChars} are read. Shorten it.`
          : null;
    const why = problem ?? tooLong;
    file.blocks.push({
      line: open.line,
      lines,
      text: why === null ? text.slice(open.from, to) : '',
      uid: open.uid,
      moves: open.moves,
      problem: why,
    });
    open = null;
  };
  while (line < text.length) {
    const end = text.indexOf('\n', line);
    const next = end < 0 ? text.length : end + 1;
    const head = text.slice(line, Math.min(next, line + 120)).trimEnd();
    const name = /^(BEGIN|END|UID|RECURRENCE-ID|X-WR-TIMEZONE)[:;]/i.exec(head)?.[1]?.toUpperCase();
    if (name === 'BEGIN' || name === 'END') {
      const what = head
        .slice(name.length + 1)
        .trim()
        .toUpperCase();
      if (what === 'VEVENT' && name === 'BEGIN') {
        close(line, notClosed);
        open = { from: line, line: number, uid: '', moves: false };
      } else if (what === 'VEVENT') close(next, null);
      else if (what === 'VCALENDAR') close(line, notClosed);
      else if (what === 'VTIMEZONE' && name === 'BEGIN') table = line;
      else if (what === 'VTIMEZONE' && table !== null) {
        zoneChars += next - table;
        if (zoneChars <= mostChars) file.zones.push(text.slice(table, next));
        table = null;
      }
    } else if (name === 'UID' && open !== null && open.uid === '') open.uid = unfolded(text, line);
    else if (name === 'RECURRENCE-ID' && open !== null) open.moves = true;
    else if (name === 'X-WR-TIMEZONE' && open === null) file.zone ||= head.slice(head.indexOf(':') + 1).trim();
    line = next;
    number += 1;
  }
  close(text.length, notClosed);
  return file;
}

const notClosed =
  'The event is not closed (END:VEVENT is missing): the file was cut off there, or is broken. Export it again.';

/** The value of the line at `from`, its folded parts put together (RFC 5545, section 3.1). */
function unfolded(text: string, from: number): string {
  let value = '';
  let at = from;
  while (value.length < 2_000) {
    const end = text.indexOf('\n', at);
    const part = text
      .slice(at, end < 0 ? Math.min(text.length, at + 2_000) : Math.min(end, at + 2_000))
      .replace(/\r$/, '');
    value += at === from ? part : part.slice(1);
    if (end < 0 || (text[end + 1] !== ' ' && text[end + 1] !== '\t')) break;
    at = end + 1;
  }
  return value.slice(value.indexOf(':') + 1).trim();
}
