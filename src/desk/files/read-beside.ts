import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { z } from 'zod';
import { pointSchema } from '@/core/directory';
import { zoneName } from '@/core/scalars';
import type { BrokenRow, FilePart, ImportedEvent } from '@/core/formats/import-row';
import type { Asked } from './reader';

/** Limits of reading: heap in MB, milliseconds over one event and until the first, milliseconds of work over the whole file, and how often it is begun anew. */
interface ReadLimits {
  heapMb: number;
  stepMs: number;
  startMs: number;
  wholeMs: number;
  tries: number;
}
const usual: ReadLimits = { heapMb: 640, stepMs: 8_000, startMs: 30_000, wholeMs: 240_000, tries: 20 };

const noteSchema = z.object({ code: z.string(), text: z.string() });
const rowSchema = noteSchema.extend({ line: z.number(), field: z.string() });
/** What the reading process may say. Contents are checked again where they are taken in. */
const partSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('event'),
    event: z.object({
      origin: z.string(), writtenFrom: z.string().nullable(), line: z.number(), content: z.looseObject({ title: z.string(), performances: z.array(z.unknown()) }),
      venue: z.object({ name: z.string(), address: z.string(), town: z.string(), country: z.string(), zone: zoneName, room: z.string(), capacity: z.number().nullable(), point: pointSchema.nullable() }).nullable(),
      organiser: z.string().optional(), places: z.record(z.string(), z.object({ venue: z.string(), town: z.string(), room: z.string(), setUp: z.string() })).optional(), setUp: z.string().optional(), tour: z.string().optional(),
      notes: z.array(noteSchema), ask: noteSchema.extend({ field: z.string(), choices: z.array(z.object({ label: z.string(), zone: z.string(), point: pointSchema })) }).nullable(),
    }),
  }),
  z.object({ kind: z.literal('broken'), row: rowSchema }),
  z.object({ kind: z.literal('directory'), directory: z.looseObject({ venues: z.array(z.unknown()), artists: z.array(z.unknown()), organisers: z.array(z.unknown()), wordings: z.array(z.unknown()), tours: z.array(z.unknown()) }) }),
  z.object({ kind: z.literal('at'), line: z.number(), place: z.number(), of: z.number() }),
  z.object({ kind: z.literal('note'), line: z.number(), note: noteSchema }),
  z.object({ kind: z.literal('refused'), message: z.string() }),
]);

/** Where the reading process is told from: the project's folder. */
const entry = () => path.resolve(/* turbopackIgnore: true */ process.cwd(), 'src/desk/files/reader.ts');

/**
 * Reads a file in a process of its own, with limits on memory and time, so that no file can hold up or bring down this one. An
 * event that takes longer than its share is told and passed over. Ends early where `signal` is given.
 */
export async function* readBeside(asked: Omit<Asked, 'from'>, signal?: AbortSignal, less: Partial<ReadLimits> = {}): AsyncGenerator<FilePart> {
  const limits = { ...usual, ...less };
  let from = 0;
  let worked = 0;
  let started = false;
  for (let n = 0; n < limits.tries; n += 1) {
    const reading = new Reading({ ...asked, from }, limits.heapMb, signal);
    let last: { line: number; place: number } | null = null;
    try {
      for (;;) {
        const next = await reading.next(last === null ? limits.startMs : limits.stepMs);
        worked += next.ms;
        if (next.kind === 'end') return;
        if (next.kind === 'stopped') return;
        if (worked > limits.wholeMs) return yield note(last?.line ?? 1, 'out-of-time', `From line ${last?.line ?? 1} on nothing was read: the file takes longer than ${limits.wholeMs / 1000} seconds. Split it and read the rest.`);
        if (next.kind === 'stuck') {
          if (last === null) return yield { kind: 'refused', message: `The file cannot be read: ${next.why}. Split it, or export it again.` };
          yield { kind: 'broken', row: stuckRow(last.line, next.why) };
          break;
        }
        const { part } = next;
        if (part.kind === 'at') last = { line: part.line, place: part.place };
        // What a reading begun anew says of the whole file was said before.
        if (started && (part.kind === 'directory' || (part.kind === 'broken' && part.row.line === 0) || (part.kind === 'note' && part.line <= 1))) continue;
        yield part;
      }
    } finally {
      reading.end();
    }
    started = true;
    from = (last?.place ?? 0) + 1;
  }
  yield note(1, 'too-many-stuck', `After ${limits.tries} events that could not be read in time, the rest was left. Take them out and read the file again.`);
}

const note = (line: number, code: string, text: string): FilePart => ({ kind: 'note', line, note: { code, text } });
const stuckRow = (line: number, why: string): BrokenRow => ({ line, field: 'event', code: 'costs-too-much', text: `The event cannot be read: ${why}. Make its rule simpler, or name its dates.` });

type Next = ({ kind: 'part'; part: FilePart } | { kind: 'end' } | { kind: 'stopped' } | { kind: 'stuck'; why: string }) & { ms: number };

/** One run of the reading process. */
class Reading {
  private readonly child: ChildProcess;
  private readonly lines: AsyncIterator<string>;
  private readonly left: Promise<string>;
  private complaint = '';
  private readonly onStop = () => this.end();

  constructor(asked: Asked, private readonly heapMb: number, private readonly signal?: AbortSignal) {
    if (!existsSync(entry())) throw new Error(`the reader is not at ${entry()}`);
    this.child = spawn(process.execPath, [`--max-old-space-size=${heapMb}`, '--import', 'tsx', entry(), 'read'], { stdio: ['pipe', 'pipe', 'pipe'], env: { ...process.env, NODE_OPTIONS: '' } });
    this.left = new Promise((resolve) => {
      this.child.once('error', (error) => resolve(error.message));
      this.child.once('close', (code) => resolve(code === 0 ? '' : this.why(code)));
    });
    this.child.stderr?.on('data', (data: Buffer) => (this.complaint = (this.complaint + data.toString('utf8')).slice(-4_000)));
    this.child.stdin?.on('error', () => undefined);
    this.child.stdin?.end(JSON.stringify(asked));
    signal?.addEventListener('abort', this.onStop, { once: true });
    if (!this.child.stdout) throw new Error('the reader has no output');
    this.lines = createInterface({ input: this.child.stdout, crlfDelay: Infinity })[Symbol.asyncIterator]();
  }

  private why(code: number | null): string {
    return /heap out of memory|Allocation failed/i.test(this.complaint) ? `it takes more than ${this.heapMb} MB of memory` : `the reader ended with ${code ?? 'a signal'} ${this.complaint.trim().split('\n').find((line) => /Error/.test(line)) ?? ''}`.trim();
  }

  /** The next piece; time counts only while it is waited for. */
  async next(ms: number): Promise<Next> {
    if (this.signal?.aborted) return { kind: 'stopped', ms: 0 };
    const began = performance.now();
    const took = () => performance.now() - began;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const late = new Promise<'late'>((resolve) => (timer = setTimeout(() => resolve('late'), ms)));
    const line = await Promise.race([this.lines.next(), late]);
    clearTimeout(timer);
    // Where it was stopped, the process was ended, and its output with it.
    if (this.signal?.aborted) return { kind: 'stopped', ms: took() };
    if (line === 'late') return { kind: 'stuck', why: `it takes longer than ${ms / 1000} seconds`, ms: took() };
    if (line.done) {
      const why = await this.left;
      return why === '' ? { kind: 'end', ms: took() } : { kind: 'stuck', why, ms: took() };
    }
    return { kind: 'part', part: partOf(line.value), ms: took() };
  }

  end(): void {
    this.signal?.removeEventListener('abort', this.onStop);
    if (this.child.exitCode === null) this.child.kill('SIGKILL');
  }
}

function partOf(line: string): FilePart {
  return partSchema.parse(JSON.parse(line)) as FilePart & { event?: ImportedEvent };
}
