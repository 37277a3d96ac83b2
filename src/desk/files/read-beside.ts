import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { z } from 'zod';
import { pointSchema } from '@/core/record/directory';
import { zoneName } from '@/core/base/scalars';
import type { FilePart, ImportedEvent } from '@/core/formats/import-row';
import type { Asked } from './reader';

/**
 * Limits of reading: heap in MB, milliseconds of the reader's own work over one event and until the first,
 * milliseconds of work over the whole file, and how often it is begun anew.
 */
interface ReadLimits {
  heapMb: number;
  stepMs: number;
  startMs: number;
  wholeMs: number;
  tries: number;
}
const usual: ReadLimits = { heapMb: 640, stepMs: 8_000, startMs: 30_000, wholeMs: 240_000, tries: 20 };

/** How many times its share the reader may take by the clock on the wall while the machine is busy with others. */
const busyTimes = 12;

const noteSchema = z.object({ code: z.string(), text: z.string() });
const rowSchema = noteSchema.extend({ line: z.number(), field: z.string() });
/** What the reading process may say. Contents are checked again where they are taken in. */
const partSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('event'),
    event: z.object({
      origin: z.string(),
      writtenFrom: z.string().nullable(),
      line: z.number(),
      content: z.looseObject({ title: z.string(), performances: z.array(z.unknown()) }),
      venue: z
        .object({
          name: z.string(),
          address: z.string(),
          town: z.string(),
          country: z.string(),
          zone: zoneName,
          room: z.string(),
          capacity: z.number().nullable(),
          point: pointSchema.nullable(),
        })
        .nullable(),
      organiser: z.string().optional(),
      places: z
        .record(z.string(), z.object({ venue: z.string(), town: z.string(), room: z.string(), setUp: z.string() }))
        .optional(),
      setUp: z.string().optional(),
      tour: z.string().optional(),
      notes: z.array(noteSchema),
      ask: noteSchema
        .extend({
          field: z.string(),
          inUtc: z.boolean().optional(),
          choices: z.array(z.object({ label: z.string(), zone: z.string(), point: pointSchema })),
        })
        .nullable(),
    }),
  }),
  z.object({ kind: z.literal('broken'), row: rowSchema }),
  z.object({
    kind: z.literal('directory'),
    directory: z.looseObject({
      venues: z.array(z.unknown()),
      artists: z.array(z.unknown()),
      organisers: z.array(z.unknown()),
      wordings: z.array(z.unknown()),
      tours: z.array(z.unknown()),
    }),
  }),
  z.object({ kind: z.literal('at'), line: z.number(), place: z.number(), of: z.number() }),
  z.object({ kind: z.literal('note'), line: z.number(), note: noteSchema }),
  z.object({ kind: z.literal('refused'), message: z.string() }),
]);

/** Where the reading process is told from: the project's folder. */
const entry = () => path.resolve(/* turbopackIgnore: true */ process.cwd(), 'src/desk/files/reader.ts');

/**
 * Reads a file in a process of its own, with limits on memory and time, so that no file can hold up or bring down this
 * one. An event that takes longer than its share, or at which the process ends twice, is told and passed over. Ends
 * early by
 * `signal`.
 */
export async function* readBeside(
  asked: Omit<Asked, 'after'>,
  signal?: AbortSignal,
  less: Partial<ReadLimits> = {},
): AsyncGenerator<FilePart> {
  const limits = { ...usual, ...less };
  /** Up to which line it is read; the line it is at, where that is told; and at which line it ended before. */
  const where: { after: number; at: number | null; endedAt: number | null } = { after: 0, at: null, endedAt: null };
  let worked = 0;
  for (let n = 0; n < limits.tries; n += 1) {
    const reading = new Reading({ ...asked, after: where.after }, limits.heapMb, signal);
    const again = n > 0;
    let heard = false;
    try {
      for (;;) {
        const next = await reading.next(heard ? limits.stepMs : limits.startMs);
        worked += next.ms;
        if (next.kind === 'end' || next.kind === 'stopped') return;
        const line = where.at ?? where.after + 1;
        if (worked > limits.wholeMs)
          return yield note(
            line,
            'out-of-time',
            `From line ${line} on nothing was read: the file takes longer than ${limits.wholeMs / 1000} seconds. Split it and read the rest.`,
          );
        if (next.kind === 'part') {
          heard = true;
          const { part } = next;
          // What a reading begun anew says of the whole file was said before.
          if (
            again &&
            (part.kind === 'directory' ||
              (part.kind === 'broken' && part.row.line === 0) ||
              (part.kind === 'note' && part.line <= 1))
          )
            continue;
          follow(where, part);
          yield part;
          continue;
        }
        if (!heard && where.after === 0 && (next.kind === 'late' || where.endedAt === line))
          return yield {
            kind: 'refused',
            message: `The file cannot be read: ${next.why}. Split it, or export it again.`,
          };
        // One that ended by chance is tried once more; one that takes too long, or ends it again, is passed over.
        if (next.kind === 'late' || where.endedAt === line) {
          yield {
            kind: 'broken',
            row: {
              line,
              field: 'event',
              code: 'costs-too-much',
              text: `It cannot be read: ${next.why}. Make its rule simpler, or name its dates.`,
            },
          };
          where.after = line;
        } else where.after = Math.max(where.after, line - 1);
        Object.assign(where, { at: null, endedAt: line });
        break;
      }
    } finally {
      reading.end();
    }
  }
  yield note(
    1,
    'too-many-stuck',
    `After ${limits.tries} events that could not be read, the rest was left. Take them out and read the file again.`,
  );
}

/** What is behind it once a piece is there. A row that was given is done; one that is announced is being read. */
function follow(where: { after: number; at: number | null }, part: FilePart): void {
  const done = part.kind === 'event' ? part.event.line : part.kind === 'broken' ? part.row.line : 0;
  if (done > 0) Object.assign(where, { after: Math.max(where.after, done), at: null });
  // Of a table the line that is told is one of many: what was given says more.
  else if (part.kind === 'at' && part.of > 0) where.at = part.line;
}

const note = (line: number, code: string, text: string): FilePart => ({ kind: 'note', line, note: { code, text } });

/** What came of waiting: a piece; its end; a stop; nothing in time; or the process ended before its end. */
type Next = (
  { kind: 'part'; part: FilePart } | { kind: 'end' } | { kind: 'stopped' } | { kind: 'late' | 'broken'; why: string }
) & { ms: number };

/** One run of the reading process. */
class Reading {
  private readonly child: ChildProcess;
  private readonly lines: AsyncIterator<string>;
  private readonly left: Promise<string>;
  private complaint = '';
  private readonly onStop = () => this.end();

  constructor(
    asked: Asked,
    private readonly heapMb: number,
    private readonly signal?: AbortSignal,
  ) {
    if (!existsSync(entry())) throw new Error(`the reader is not at ${entry()}`);
    this.child = spawn(process.execPath, [`--max-old-space-size=${heapMb}`, '--import', 'tsx', entry(), 'read'], {
      stdio: ['pipe', 'pipe', 'pipe'],
      env: { ...process.env, NODE_OPTIONS: '' },
    });
    this.left = new Promise((resolve) => {
      this.child.once('error', (error) => resolve(error.message));
      this.child.once('close', (code) => resolve(code === 0 ? '' : this.why(code)));
    });
    this.child.stderr?.on(
      'data',
      (data: Buffer) => (this.complaint = (this.complaint + data.toString('utf8')).slice(-4_000)),
    );
    this.child.stdin?.on('error', () => undefined);
    this.child.stdin?.end(JSON.stringify(asked));
    signal?.addEventListener('abort', this.onStop, { once: true });
    if (!this.child.stdout) throw new Error('the reader has no output');
    this.lines = createInterface({ input: this.child.stdout, crlfDelay: Infinity })[Symbol.asyncIterator]();
  }

  private why(code: number | null): string {
    return /heap out of memory|Allocation failed/i.test(this.complaint)
      ? `it takes more than ${this.heapMb} MB of memory`
      : `the reader ended with ${code ?? 'a signal'} ${
          this.complaint
            .trim()
            .split('\n')
            .find((line) => /Error/.test(line)) ?? ''
        }`.trim();
  }

  /**
   * The next piece; time counts only while it is waited for. What the reader may not exceed is its own work: on a busy
   * machine it waits for its turn, and that is no fault of the event.
   */
  async next(ms: number): Promise<Next> {
    if (this.signal?.aborted) return { kind: 'stopped', ms: 0 };
    const began = performance.now();
    const worked = processorMs(this.child.pid);
    const took = () => performance.now() - began;
    const coming = this.lines.next();
    let line: IteratorResult<string> | 'late';
    for (;;) {
      let timer: ReturnType<typeof setTimeout> | undefined;
      const late = new Promise<'late'>((resolve) => (timer = setTimeout(() => resolve('late'), ms)));
      line = await Promise.race([coming, late]);
      clearTimeout(timer);
      if (line !== 'late' || this.signal?.aborted || took() > ms * busyTimes) break;
      if (!(processorMs(this.child.pid) - worked < ms)) break;
    }
    // Where it was stopped, the process was ended, and its output with it.
    if (this.signal?.aborted) return { kind: 'stopped', ms: took() };
    if (line === 'late') return { kind: 'late', why: `it takes longer than ${ms / 1000} seconds`, ms: took() };
    if (line.done) {
      const why = await this.left;
      return why === '' ? { kind: 'end', ms: took() } : { kind: 'broken', why, ms: took() };
    }
    return { kind: 'part', part: partOf(line.value), ms: took() };
  }

  end(): void {
    this.signal?.removeEventListener('abort', this.onStop);
    if (this.child.exitCode === null) this.child.kill('SIGKILL');
  }
}

/** Milliseconds a process worked so far, to a hundredth of a second; without end where the system does not say it. */
function processorMs(pid: number | undefined): number {
  try {
    // proc(5): the 14th and 15th value are the ticks in user and kernel mode; the 2nd, a name, ends at the last bracket.
    const [user, kernel] = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ').at(-1)?.split(' ').slice(11, 13) ?? [];
    return (Number(user) + Number(kernel)) * 10;
  } catch {
    return Infinity;
  }
}

function partOf(line: string): FilePart {
  return partSchema.parse(JSON.parse(line)) as FilePart & { event?: ImportedEvent };
}
