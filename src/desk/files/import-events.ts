import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { csvParts } from '@/core/formats/events-csv';
import type { FilePart, ReadContext } from '@/core/formats/import-row';
import { mostPasteChars } from '@/core/dates/paste-limit';
import { fail, ok, type Result } from '@/core/base/result';
import type { House } from '@/house/house';
import { sqliteCode, type Tx } from '@/store/database';
import { allTours } from '@/store/tours';
import { allVenues } from '@/store/venues';
import { fileParts } from './file-parts';
import type { FileProgress, FileReport } from '@/views/files';
import { Intake, type Step } from './intake';
import { readBeside } from './read-beside';
import { placeFinder, type KnownVenue, type TownAnswer } from './towns';

/** The venues of the house, as far as finding a row's place goes. */
export function knownVenues(tx: Tx): KnownVenue[] {
  return [...allVenues(tx).values()].map(({ name, town, zone }) => ({ name, town, zone }));
}

function contextOf(house: House, zone: string | null, title?: string): ReadContext {
  return { zone, find: placeFinder(knownVenues(house.db)), ...(title === undefined ? {} : { title }) };
}

/**
 * Takes the events of a text in (CSV, iCalendar, JSON or the source of a web page), in one transaction. For texts that are known to be short;
 * files of a user's are read by `importFile`. `zone` is taken where neither a row nor its place says one. The error is
 * for the user.
 */
export function importEvents(
  house: House,
  doer: Doer,
  fileName: string,
  text: string,
  zone: string | null,
): Result<FileReport, string> {
  asks(doer, 'importEvents');
  const intake = new Intake({
    folder: house.folder,
    doer,
    at: house.clock.now(),
    reason: `read from ${fileName}`,
    tour: null,
  });
  return takeAll(house, fileParts(fileName, Buffer.from(text), contextOf(house, zone)), intake);
}

/**
 * Reads pasted tour dates (CSV; needs `date`, `start`, `venue`) and makes each a date of the tour, with what the tour
 * shares.
 */
export function importTourDates(
  house: House,
  doer: Doer,
  tourId: string,
  text: string,
  zone: string | null,
): Result<FileReport, string> {
  asks(doer, 'importTourDates');
  const tour = allTours(house.db).find((tour) => tour.id === tourId);
  if (!tour) return fail('This tour is not there any more.');
  if (text.length > mostPasteChars)
    return fail(`More than ${mostPasteChars / 1000} 000 characters. Paste fewer rows, or read them as a file.`);
  const intake = new Intake({
    folder: house.folder,
    doer,
    at: house.clock.now(),
    reason: `a date of ${tour.name}`,
    tour: { id: tourId, shared: tour.shared },
  });
  return takeAll(house, ofTour(csvParts([text], contextOf(house, zone, tour.shared.title)), tourId), intake);
}

function* ofTour(parts: Iterable<FilePart>, tourId: string): Generator<FilePart> {
  for (const part of parts)
    yield part.kind === 'event'
      ? { kind: 'event', event: { ...part.event, origin: `${part.event.origin} ${tourId}` } }
      : part;
}

function takeAll(house: House, parts: Iterable<FilePart>, intake: Intake): Result<FileReport, string> {
  const steps: Step[] = [];
  for (const part of parts) {
    if (part.kind === 'refused') return fail(part.message);
    for (const step of intake.stepsFor(part)) steps.push(step);
  }
  const all = [...steps, intake.finish()];
  for (let done = 0; done < all.length;)
    done += intake.runSafely(house.db, done === 0 ? all : all.slice(done), () => true);
  return ok(intake.report);
}

/** Pauses before a database that another process holds is asked again, in milliseconds. */
const pauses = [200, 1_000, 2_000, 4_000, 8_000, 16_000];

/** Does work on the database; while another process holds that, it is tried again for half a minute. */
async function whenFree<T>(work: () => T, signal: AbortSignal): Promise<T | 0> {
  for (const pause of pauses) {
    try {
      return work();
    } catch (error) {
      if (!sqliteCode(error)?.startsWith('SQLITE_BUSY')) throw error;
    }
    await new Promise((resolve) => setTimeout(resolve, pause));
    if (signal.aborted) return 0;
  }
  return work();
}

/** How far a file has been read. `of` is 0 where it is not known. */
/** Milliseconds that one transaction of taking in may take before others have their turn. */
const sliceMs = 25;

/**
 * Takes a user's file in. It is read in a process of its own; its events are made records in short transactions between
 * which everything else goes on. Each row is taken in whole or not at all; what was taken in before a stop stays.
 */
export async function importFile(
  house: House,
  file: { path: string; name: string; zone: string | null; answers: readonly [string, TownAnswer][] },
  doer: Doer,
  { report, signal }: { report: (progress: FileProgress, at: FileReport) => void; signal: AbortSignal },
): Promise<Result<FileReport, string>> {
  const intake = new Intake({
    folder: house.folder,
    doer,
    at: house.clock.now(),
    reason: `read from ${file.name}`,
    tour: null,
  });
  const progress: FileProgress = { place: 0, line: 0, of: 0 };
  let waiting: Step[] = [];
  const work = async (all: boolean) => {
    while (waiting.length > 0 && (all || waiting.length >= 20) && !signal.aborted) {
      const began = performance.now();
      waiting = waiting.slice(
        await whenFree(() => intake.runSafely(house.db, waiting, () => performance.now() - began < sliceMs), signal),
      );
      report(progress, intake.report);
      await new Promise((resolve) => setImmediate(resolve));
    }
  };
  for await (const part of readBeside(
    { path: file.path, name: file.name, zone: file.zone, venues: knownVenues(house.db), answers: [...file.answers] },
    signal,
  )) {
    if (part.kind === 'refused') return fail(part.message);
    if (part.kind === 'at') Object.assign(progress, { place: part.place, line: part.line, of: part.of });
    if (part.kind === 'event' && progress.of === 0) progress.line = part.event.line;
    for (const step of intake.stepsFor(part)) waiting.push(step);
    await work(false);
  }
  await work(true);
  await whenFree(() => intake.runSafely(house.db, [intake.finish()], () => true), signal);
  return ok(intake.report);
}
