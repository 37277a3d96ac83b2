import { statSync } from 'node:fs';
import path from 'node:path';
import { fileLimits } from '@/core/formats/import-row';
import { isZone } from '@/core/base/zones';
import { checkedRecord } from './checked-record';
import { tooLargeWords } from './file-parts';
import { readBeside } from './read-beside';

/** What reading one file would do, as it is printed: a JSON object a file. */
interface FileCheck {
  file: string;
  records: object[];
  notes: { line: number; code: string; text: string; field?: string }[];
  ms: number;
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
          made.records.push(checkedRecord(event));
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
