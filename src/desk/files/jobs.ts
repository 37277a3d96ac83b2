import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { randomUUID } from 'node:crypto';
import { createWriteStream, mkdirSync, readdirSync, rmSync, type WriteStream } from 'node:fs';
import path from 'node:path';
import { finished } from 'node:stream/promises';
import { fileLimits } from '@/core/formats/import-row';
import { fail, ok, type Result } from '@/core/base/result';
import type { House } from '@/house/house';
import { sqliteCode } from '@/store/database';
import { tooLargeWords } from './file-parts';
import type { FileJob } from '@/views/files';
import { importFile } from './import-events';
import { emptyReport } from './intake';
import { placeKey, type TownAnswer } from './towns';

interface KeptJob extends FileJob {
  path: string;
  zone: string | null;
  answers: [string, TownAnswer][];
  stop: AbortController;
}

/** Jobs that are remembered, with their files, so that a question can be answered without giving the file again. */
const mostKept = 5;
const kept = globalThis as typeof globalThis & { nuntiaxFileJobs?: { list: KeptJob[]; chain: Promise<void> } };
const jobs = () => (kept.nuntiaxFileJobs ??= { list: [], chain: Promise.resolve() });

function folderOf(house: House): string {
  const folder = path.join(/* turbopackIgnore: true */ house.folder, 'incoming');
  mkdirSync(folder, { recursive: true });
  return folder;
}

const shown = ({ path: _p, zone: _z, answers: _a, stop: _s, ...job }: KeptJob): FileJob => job;

/** The files that were read lately, newest first. */
export function fileJobs(doer: Doer): FileJob[] {
  asks(doer, 'fileJobs');
  return jobs().list.map(shown);
}

/** One of them; `null`: it is not remembered. */
export function fileJob(doer: Doer, id: string): FileJob | null {
  asks(doer, 'fileJob');
  const job = jobs().list.find((job) => job.id === id);
  return job ? shown(job) : null;
}

/**
 * Takes a file in from a stream and begins to read it. Nothing of it is kept in memory; one that is larger than any
 * that is read is refused as soon as that is known. The error is for the user, with the HTTP status that says the same.
 */
export async function receiveFile(
  house: House,
  doer: Doer,
  name: string,
  body: ReadableStream<Uint8Array> | null,
  length: number | null,
  choice: { zone: string | null },
): Promise<Result<FileJob, { status: number; message: string }>> {
  asks(doer, 'receiveFile');
  if (body === null) return fail({ status: 400, message: 'There is no file in the request.' });
  sweep(house);
  const id = randomUUID();
  const at = path.join(folderOf(house), id);
  const received = await spool(body, at, length);
  if (!received.ok) {
    rmSync(at, { force: true });
    return received;
  }
  return ok(start(house, { id, name, path: at, bytes: received.value, zone: choice.zone, answers: [] }, doer));
}

/**
 * Reads a file that is remembered once more, with what a person has answered since: rows that are in already are known.
 */
export function readAgain(
  house: House,
  doer: Doer,
  id: string,
  choice: { zone: string | null; answers: readonly ({ town: string; country: string } & TownAnswer)[] },
): Result<FileJob, string> {
  asks(doer, 'readAgain');
  const before = jobs().list.find((job) => job.id === id);
  if (!before) return fail('This file is not remembered any more. Choose it again.');
  if (before.state === 'reading' || before.state === 'waiting')
    return fail('This file is being read. Wait, or stop it first.');
  const answers = [
    ...new Map([
      ...before.answers,
      ...choice.answers.map(({ town, country, zone, point }): [string, TownAnswer] => [
        placeKey(town, country),
        { zone, point },
      ]),
    ]),
  ];
  jobs().list = jobs().list.filter((job) => job !== before);
  return ok(
    start(
      house,
      {
        id: randomUUID(),
        name: before.name,
        path: before.path,
        bytes: before.bytes,
        zone: choice.zone ?? before.zone,
        answers,
      },
      doer,
    ),
  );
}

/** Stops reading: what was taken in until then stays. */
export function stopJob(doer: Doer, id: string): FileJob | null {
  asks(doer, 'stopJob');
  const job = jobs().list.find((job) => job.id === id);
  if (!job) return null;
  job.stop.abort();
  return shown(job);
}

function start(
  house: House,
  file: Pick<KeptJob, 'id' | 'name' | 'path' | 'bytes' | 'zone' | 'answers'>,
  doer: Doer,
): FileJob {
  const job: KeptJob = {
    ...file,
    state: 'waiting',
    startedAt: Date.now(),
    progress: { place: 0, line: 0, of: 0 },
    report: emptyReport(),
    error: null,
    stop: new AbortController(),
  };
  const all = jobs();
  all.list = [job, ...all.list];
  for (const old of all.list.slice(mostKept).filter((job) => job.state !== 'reading' && job.state !== 'waiting')) {
    rmSync(old.path, { force: true });
    all.list = all.list.filter((job) => job !== old);
  }
  // One file after the other: two would only share what there is of the machine.
  all.chain = all.chain.then(() => work(house, job, doer));
  return shown(job);
}

async function work(house: House, job: KeptJob, doer: Doer): Promise<void> {
  if (job.stop.signal.aborted) {
    job.state = 'stopped';
    return;
  }
  job.state = 'reading';
  try {
    const read = await importFile(house, job, doer, {
      signal: job.stop.signal,
      report: (progress, report) => Object.assign(job, { progress: { ...progress }, report }),
    });
    if (read.ok) Object.assign(job, { report: read.value, state: job.stop.signal.aborted ? 'stopped' : 'done' });
    else Object.assign(job, { state: 'failed', error: read.error });
  } catch (error) {
    console.error('files:', error);
    const code = sqliteCode(error) ?? '';
    const full = /SQLITE_FULL|SQLITE_IOERR/.test(code) || String(error).includes('ENOSPC');
    const busy = code.startsWith('SQLITE_BUSY');
    Object.assign(job, {
      state: 'failed',
      error: `${full ? 'The disk is full. Make room' : busy ? 'The database is in use by another process. Wait' : 'Reading ended by a mistake of ours; the log says why. Try'} and read the file again: rows that are in already are not taken twice.`,
    });
  }
}

/**
 * Writes a stream to a file, counting as it goes. What is too large is read to its end, so that the answer is heard,
 * and kept nowhere.
 */
async function spool(
  body: ReadableStream<Uint8Array>,
  at: string,
  length: number | null,
): Promise<Result<number, { status: number; message: string }>> {
  const reader = body.getReader();
  const out = length !== null && length > fileLimits.bytes ? null : createWriteStream(at, { mode: 0o600 });
  let broken: Error | null = null;
  out?.on('error', (error) => (broken = error));
  let bytes = 0;
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) break;
      bytes += value.length;
      if (bytes > mostDrained) {
        await reader.cancel();
        break;
      }
      if (out === null || bytes > fileLimits.bytes || broken !== null) continue;
      if (!out.write(value)) await roomIn(out);
    }
    out?.end();
    if (out !== null && broken === null) await finished(out);
  } catch (error) {
    broken ??= error instanceof Error ? error : new Error(String(error));
    out?.destroy();
  }
  if (broken !== null)
    return fail({
      status: 507,
      message: `The file could not be kept: ${/ENOSPC/.test(String(broken)) ? 'the disk is full. Make room and try again' : 'it ended before its end came, or the disk refused it. Try again'}.`,
    });
  if (out === null || bytes > fileLimits.bytes) return fail({ status: 413, message: tooLargeWords });
  if (bytes === 0) return fail({ status: 400, message: 'The file is empty. Choose another.' });
  return ok(bytes);
}

/** Waits until a stream takes more, or has ended. */
function roomIn(out: WriteStream): Promise<void> {
  const told = ['drain', 'error', 'close'] as const;
  return new Promise((resolve) => {
    const done = () => {
      for (const text of told) out.off(text, done);
      resolve();
    };
    for (const text of told) out.on(text, done);
  });
}

/** Of a file that is too large, so much is still read so that its sender hears why it was refused. */
const mostDrained = 1_000_000_000;

let swept = false;

/** Removes files that an earlier process left. */
function sweep(house: House): void {
  if (swept) return;
  swept = true;
  const known = new Set(jobs().list.map((job) => path.basename(job.path)));
  for (const name of readdirSync(folderOf(house)))
    if (!known.has(name)) rmSync(path.join(folderOf(house), name), { force: true });
}
