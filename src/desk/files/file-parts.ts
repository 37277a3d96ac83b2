import { isUtf8 } from 'node:buffer';
import { csvParts } from '@/core/formats/events-csv';
import { icsParts } from '@/core/formats/events-ics';
import { jsonParts } from '@/core/formats/events-json';
import { pageParts } from './page-parts';
import { fileLimits, type FilePart, type ReadContext } from '@/core/formats/import-row';

/** Bytes of a table that are made text at a time. */
const pieceBytes = 256 * 1024;

/**
 * The text of a file in pieces, by its mark of byte order, else UTF-8, else as older spreadsheets write it
 * (windows-1252).
 */
function textOf(bytes: Uint8Array): { encoding: string; pieces: () => Generator<string> } {
  const mark =
    bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : null;
  const encoding = mark ?? (isUtf8(bytes) ? 'utf-8' : 'windows-1252');
  return {
    encoding,
    *pieces() {
      const decoder = new TextDecoder(encoding);
      for (let from = 0; from < bytes.length; from += pieceBytes)
        yield decoder.decode(bytes.subarray(from, from + pieceBytes), { stream: true });
      yield decoder.decode();
    },
  };
}

/**
 * Reads a file of events, whichever of our formats it is in: by its name, else by how it begins. Rows and dates have
 * limits over the whole file. `after`: the line behind which it is read, where a reading before came so far.
 */
export function* fileParts(name: string, bytes: Uint8Array, context: ReadContext, after = 0): Generator<FilePart> {
  if (bytes.length > fileLimits.bytes) return yield { kind: 'refused', message: tooLargeWords };
  const { encoding, pieces } = textOf(bytes);
  if (encoding === 'windows-1252')
    yield {
      kind: 'note',
      line: 1,
      note: {
        code: 'encoding',
        text: 'The file is not in UTF-8: it was read as windows-1252, as older spreadsheets write it. Look at letters with marks.',
      },
    };
  const head = new TextDecoder(encoding)
    .decode(bytes.subarray(0, 400))
    .replace(/^\ufeff/, '')
    .trimStart();
  const skip = (line: number) => line <= after;
  if (/\.json$/i.test(name) || head.startsWith('{'))
    yield* withinDates(jsonParts([...pieces()].join(''), context, skip));
  else if (/\.(?:ics|ical|ifb)$/i.test(name) || /^BEGIN:VCALENDAR/i.test(head))
    yield* withinDates(icsParts([...pieces()].join(''), context, skip));
  else if (/\.x?html?$/i.test(name) || /^<(?:!doctype\s+html|html|\?xml[^>]*\?>\s*<!doctype\s+html)/i.test(head))
    yield* withinDates(pageParts([...pieces()].join(''), context, skip));
  else yield* withinDates(csvParts(pieces(), context, skip));
}

/** What is said of a file that is larger than any that is read. */
export const tooLargeWords = `The file is larger than ${fileLimits.bytes / 1_000_000} MB. Split it and read the parts.`;

/** Events as long as the file has not named more dates than one file may. */
function* withinDates(parts: Iterable<FilePart>): Generator<FilePart> {
  let dates = 0;
  for (const part of parts) {
    if (part.kind === 'event') {
      const more = part.event.content.performances.length;
      if (dates + more > fileLimits.dates) {
        yield {
          kind: 'broken',
          row: {
            line: part.event.line,
            field: 'file',
            code: 'too-many-dates',
            text: `With its ${more} dates the file would have more than ${fileLimits.dates}. Split the file and read this event from another.`,
          },
        };
        continue;
      }
      dates += more;
    }
    yield part;
  }
}
