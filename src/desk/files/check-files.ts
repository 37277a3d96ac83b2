import { statSync } from 'node:fs';
import path from 'node:path';
import { moneyWords } from '@/core/base/money';
import type { RecordContent } from '@/core/record/record';
import { fileLimits, type ImportedEvent } from '@/core/formats/import-row';
import { isZone } from '@/core/base/zones';
import { tooLargeWords } from './file-parts';
import { readBeside } from './read-beside';

/** What reading one file would do, as it is printed: a JSON object a file. */
interface FileCheck {
  file: string;
  records: object[];
  notes: { line: number; code: string; text: string; field?: string }[];
  ms: number;
}

/** What one event would become. Times are local ones of its zone; a zone that nobody said is `null`. */
function recordOf({ content, venue, organiser, ask, line }: ImportedEvent): object {
  const { tickets } = content;
  return {
    line,
    title: content.title,
    kind: content.eventType,
    stage: content.stage,
    visibility: content.publicity.visibility,
    performances: content.performances.map((performance) =>
      performanceOf(performance, ask === null ? performance.zone : ask.inUtc ? 'UTC' : null),
    ),
    venue: venue?.name ?? null,
    room: venue?.room || null,
    town: venue?.town || null,
    country: venue?.country || null,
    address: venue?.address || null,
    point: venue?.point ?? null,
    organiser: organiser || null,
    lineUp: content.lineUp.map(({ name, role }) => ({ name, role })),
    currency: tickets.levels.length > 0 ? tickets.currency : null,
    prices: tickets.levels.map(({ name, price, buyers }) => ({
      name,
      buyers,
      price: moneyWords(price, tickets.currency),
    })),
    entry: tickets.mode,
  };
}

function performanceOf(performance: RecordContent['performances'][number], zone: string | null): object {
  const at = (date: string, time: string | null) => (time === null ? date : `${date}T${time}`);
  const last =
    performance.lastDate ??
    (performance.endsNextDay
      ? new Date(Date.parse(`${performance.date}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10)
      : performance.date);
  const start =
    performance.precision === 'open'
      ? null
      : performance.precision === 'month'
        ? performance.date.slice(0, 7)
        : at(performance.date, performance.start);
  const status = performance.turn === 'none' ? (performance.pencilled ? 'pencilled' : 'confirmed') : performance.turn;
  return {
    start,
    zone,
    end: performance.end === null ? (performance.lastDate ?? null) : at(last, performance.end),
    status,
    doors: performance.doors,
    repeat: performance.repeat,
  };
}

async function check(file: string, zone: string | null): Promise<FileCheck> {
  const began = performance.now();
  const made: FileCheck = { file, records: [], notes: [], ms: 0 };
  const done = () => ({ ...made, ms: Math.round(performance.now() - began) });
  try {
    const { size } = statSync(file);
    if (size > fileLimits.bytes) made.notes.push({ line: 1, code: 'refused', text: tooLargeWords });
    else {
      for await (const part of readBeside({
        path: path.resolve(file),
        name: path.basename(file),
        zone,
        venues: [],
        answers: [],
      })) {
        if (part.kind === 'event') {
          const { event } = part;
          made.records.push(recordOf(event));
          for (const note of event.notes) made.notes.push({ line: event.line, ...note });
          if (event.ask)
            made.notes.push({
              line: event.line,
              code: event.ask.code,
              text: `${event.ask.text}${event.ask.choices.length > 0 ? ` It may be: ${event.ask.choices.map((choice) => choice.label).join('; ')}.` : ''}`,
              field: event.ask.field,
            });
        } else if (part.kind === 'broken') made.notes.push(part.row);
        else if (part.kind === 'note') made.notes.push({ line: part.line, ...part.note });
        else if (part.kind === 'refused') made.notes.push({ line: 1, code: 'refused', text: part.message });
      }
    }
  } catch (error) {
    made.notes.push({
      line: 1,
      code: 'refused',
      text: `The file cannot be opened: ${error instanceof Error ? error.message : String(error)}.`,
    });
  }
  return done();
}

const usage = `npm run files -- check [--zone Europe/Dublin] FILE…
Prints what reading each file would do, without a house: one JSON object a file.`;

async function main([verb, ...rest]: string[]): Promise<number> {
  const at = rest.indexOf('--zone');
  const [, zone] = at < 0 ? [] : rest.splice(at, 2);
  if (verb !== 'check' || rest.length === 0 || (zone !== undefined && !isZone(zone))) {
    console.error(zone !== undefined && !isZone(zone) ? `${zone} is not in the IANA zone data.` : usage);
    return 2;
  }
  for (const file of rest) await printed(await check(file, zone ?? null));
  return 0;
}

function printed(made: FileCheck): Promise<void> {
  return new Promise((resolve) => process.stdout.write(`${JSON.stringify(made)}\n`, () => resolve()));
}

// Whoever reads this may have had enough of it.
process.stdout.on('error', () => process.exit(0));
process.exitCode = await main(process.argv.slice(2));
