import { readFileSync, writeSync } from 'node:fs';
import { z } from 'zod';
import { pointSchema } from '@/core/record/directory';
import type { FilePart } from '@/core/formats/import-row';
import { fileParts } from './file-parts';
import { placeFinder } from './towns';

/** What the reading process is told on its standard input. */
const askedSchema = z.object({
  path: z.string(),
  name: z.string(),
  zone: z.string().nullable(),
  after: z.number().int().min(0),
  venues: z.array(z.object({ name: z.string(), town: z.string(), zone: z.string() })),
  answers: z.array(z.tuple([z.string(), z.object({ zone: z.string(), point: pointSchema.nullable() })])),
});
export type Asked = z.infer<typeof askedSchema>;

/**
 * Reads one file and writes what it gives, a piece a line as JSON, to standard output: as fast as it is taken from
 * there.
 */
function main(): void {
  const { path, name, zone, after, venues, answers } = askedSchema.parse(JSON.parse(readFileSync(0, 'utf8')));
  const context = { zone, find: placeFinder(venues, new Map(answers)) };
  for (const part of fileParts(name, readFileSync(path), context, after)) tell(part);
}

function tell(part: FilePart): void {
  const bytes = Buffer.from(`${JSON.stringify(part)}\n`);
  for (let at = 0; at < bytes.length;) {
    try {
      at += writeSync(1, bytes, at);
    } catch (error) {
      // The pipe is full: wait a moment for the other side to read.
      if ((error as NodeJS.ErrnoException).code !== 'EAGAIN') throw error;
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 5);
    }
  }
}

if (process.argv[2] === 'read') main();
