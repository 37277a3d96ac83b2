import { asksAgain } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { recordIdSchema, type RecordId } from '@/core/base/ids';
import { groupBy } from '@/core/base/group-by';
import { checkRecord } from '@/core/record/check-record';
import { fieldOf } from '@/core/findings/finding';
import { findingWords } from '@/core/findings/finding-words';
import type { FileDirectory } from '@/core/formats/file-directory';
import type { FilePart, ImportedEvent } from '@/core/formats/import-row';
import type { BrokenRow } from '@/core/formats/file-note';
import type { RecordContent } from '@/core/record/record';
import { slugOf } from '@/core/record/slug';
import { sharedFacts, sharedOf, type TourShared } from '@/core/record/tour';
import { sqliteCode, transaction, type Db, type Tx } from '@/store/database';
import { houseId } from '@/store/house-id';
import {
  addRevision,
  makeRecord,
  originsLike,
  recordAt,
  recordOfCode,
  recordOfOrigin,
  rememberOrigin,
  titlesOf,
} from '@/store/records';
import { noteSlug } from '@/store/slugs';
import { allTours, makeTour } from '@/store/tours';
import { documentPath, picturePath } from '@/house/renditions';
import { existsSync } from 'node:fs';
import type { FileReport, ReadRow } from '@/views/files';
import { Shelves } from './shelves';

const sorts = ['made', 'known', 'asked', 'broken'] as const;

/** Rows of each sort that a report names; of the rest there is a number. */
const mostNamed = 300;

export function emptyReport(): FileReport {
  return { counts: { made: 0, known: 0, asked: 0, broken: 0 }, made: [], known: [], asked: [], broken: [], notes: [] };
}

/** One step of taking a file in, for the line it is of; each is done whole or not at all. */
export interface Step {
  line: number;
  run: (tx: Tx) => void;
}

/** Makes records of what a file gives, step by step, and keeps the report. */
export class Intake {
  readonly report = emptyReport();
  private readonly shelves: Shelves;
  private house: string | null = null;
  /** Records by their folded title, where the file is a page: what stands on one may be here already. */
  private titled: Map<string, { id: RecordId; code: string }[]> | null = null;
  private tours: FileDirectory['tours'] = [];
  private readonly touring: { tour: string; origin: string; id: RecordId }[] = [];

  constructor(
    private readonly by: {
      folder: string;
      doer: Doer;
      at: number;
      reason: string;
      tour: { id: string; shared: TourShared } | null;
    },
  ) {
    this.shelves = new Shelves(by.doer.name, by.at);
  }

  /** The steps that one piece of the file asks for. */
  stepsFor(part: FilePart): Step[] {
    switch (part.kind) {
      case 'event':
        return [{ line: part.event.line, run: (tx) => this.event(tx, part.event) }];
      case 'directory': {
        const { venues, artists, organisers, wordings, tours } = part.directory;
        this.tours = tours;
        return [
          ...venues.map((venue) => (tx: Tx) => this.shelves.venue(tx, venue)),
          ...wordings.map((wording) => (tx: Tx) => this.shelves.wording(tx, wording)),
          ...artists.map(
            ({ name, ...more }) =>
              (tx: Tx) =>
                void this.shelves.person(tx, 'artist', name, more),
          ),
          ...organisers.map(
            ({ name, ...more }) =>
              (tx: Tx) =>
                void this.shelves.person(tx, 'organiser', name, more),
          ),
        ].map((run) => ({ line: 0, run }));
      }
      case 'broken':
        this.broken(part.row);
        return [];
      case 'note':
        if (this.report.notes.length < mostNamed) this.report.notes.push({ line: part.line, ...part.note });
        return [];
      case 'at':
      case 'refused':
        return [];
    }
  }

  /**
   * Does steps in one transaction for as long as `more` says so; gives how many were done. Where one throws, all that
   * the transaction wrote is undone, and so is what the report says of it.
   */
  run(db: Db, steps: readonly Step[], more: () => boolean): number {
    const before = { ...this.report.counts };
    const lengths = sorts.map((sort) => this.report[sort].length);
    let done = 0;
    try {
      transaction(db, (tx) => {
        asksAgain(tx, this.by.doer, 'receiveFile');
        this.shelves.lookUp(tx);
        for (; done < steps.length && (done === 0 || more()); done += 1) steps[done]?.run(tx);
      });
      return done;
    } catch (error) {
      this.report.counts = before;
      sorts.forEach((sort, i) => (this.report[sort].length = lengths[i] ?? 0));
      this.shelves.forget();
      throw error;
    }
  }

  /**
   * Does steps as `run` does; one that cannot be done by a mistake of ours is told, and the rest goes on. What the
   * database refuses is thrown.
   */
  runSafely(db: Db, steps: readonly Step[], more: () => boolean): number {
    try {
      return this.run(db, steps, more);
    } catch (error) {
      if (sqliteCode(error) !== null) throw error;
    }
    const [step] = steps;
    if (!step) return 0;
    try {
      this.run(db, [step], () => false);
    } catch (error) {
      if (sqliteCode(error) !== null) throw error;
      console.error('files: a row could not be taken in:', error);
      this.broken({
        line: step.line,
        field: 'row',
        code: 'our-fault',
        text: 'The row could not be taken in, by a mistake of ours; it was left out, and the log says why.',
      });
    }
    return 1;
  }

  /** The last step: the file's tours, each sharing what the event it names says, with their dates under them. */
  finish(): Step {
    const run = (tx: Tx) => {
      for (const { name, from } of this.tours) {
        const lead = this.touring.find((candidate) => candidate.origin === `json:${from}`);
        const record = lead && recordAt(tx, lead.id);
        if (!record || allTours(tx).some((tour) => tour.name === name)) continue;
        const id = makeTour(tx, name, sharedOf(record.content), this.by.doer.name, this.by.at);
        for (const { id: recordId } of this.touring.filter((candidate) => candidate.tour === name)) {
          const record = recordAt(tx, recordId);
          if (record)
            addRevision(
              tx,
              record.id,
              record.revision + 1,
              { ...record.content, tourId: id },
              this.by.doer,
              this.by.at,
              `a date of ${name}`,
            );
        }
      }
      this.report.broken.sort((a, b) => a.line - b.line);
    };
    return { line: 0, run };
  }

  private named(sort: 'made' | 'known', row: ReadRow): void {
    this.report.counts[sort] += 1;
    if (this.report[sort].length < mostNamed) this.report[sort].push(row);
  }

  private broken(row: BrokenRow): void {
    this.report.counts.broken += 1;
    if (this.report.broken.length < mostNamed) this.report.broken.push(row);
  }

  private event(tx: Tx, event: ImportedEvent): void {
    const {
      line,
      origin,
      content: { title },
    } = event;
    const before = knownAs(tx, event, this.shelves, (this.house ??= houseId(tx)), this.ofTitle(tx, event));
    if (before.known) {
      const { known } = before;
      this.named('known', { line, id: known.id, code: known.code, title, notes: [] });
      if (event.tour) this.touring.push({ tour: event.tour, origin, id: known.id });
      return;
    }
    if (event.ask !== null) {
      this.report.counts.asked += 1;
      if (this.report.asked.length < mostNamed)
        this.report.asked.push({
          ...event.ask,
          line,
          title,
          town: event.venue?.town ?? '',
          country: event.venue?.country ?? '',
        });
      return;
    }
    const shaped = this.by.tour ? withTour(event.content, this.by.tour) : event.content;
    // Everything but the place is checked before the directory is touched, so that a broken row leaves nothing.
    const bare = checkRecord(shaped, new Map());
    if (!bare.ok) {
      for (const finding of bare.error)
        this.broken({
          line,
          field: String(finding.path.at(-1) ?? fieldOf(finding)),
          code: finding.code,
          text: findingWords(finding),
        });
      return;
    }
    const [there, missing] = this.withFiles(bare.value);
    const content = this.placed(tx, there, event);
    const made = makeRecord(tx, content, this.by.doer, this.by.at, this.by.reason);
    rememberOrigin(tx, before.free ? origin : `${origin}#${made.id}`, made.id);
    if (event.writtenFrom !== null && recordOfOrigin(tx, fromOrigin(event.writtenFrom)) === null)
      rememberOrigin(tx, fromOrigin(event.writtenFrom), made.id);
    noteSlug(tx, slugOf(content), made.id, this.by.at, true);
    if (event.tour) this.touring.push({ tour: event.tour, origin, id: made.id });
    this.titled?.set(folded(title), [...(this.titled.get(folded(title)) ?? []), { id: made.id, code: made.code }]);
    this.named('made', {
      line,
      id: made.id,
      code: made.code,
      title,
      notes: [...event.notes.map((note) => note.text), ...missing],
    });
  }

  /** Records with the title of an event that was read from a page; of other files, their references say more. */
  private ofTitle(tx: Tx, { origin, content: { title } }: ImportedEvent): { id: RecordId; code: string }[] {
    if (!origin.startsWith('page:')) return [];
    this.titled ??= groupBy(titlesOf(tx), (record) => folded(record.title));
    return this.titled.get(folded(title)) ?? [];
  }

  /** The content without pictures and documents whose files are not in this house, and what is said of that. */
  private withFiles(content: RecordContent): [RecordContent, string[]] {
    const pictures = content.pictures.filter((picture) => existsSync(picturePath(this.by.folder, picture.pictureId)));
    const documents = content.documents.filter((document) => existsSync(documentPath(this.by.folder, document.fileId)));
    const gone = content.pictures.length - pictures.length + (content.documents.length - documents.length);
    if (gone === 0) return [content, []];
    return [
      { ...content, pictures, documents },
      [
        `${gone} ${gone === 1 ? 'picture or document is' : 'pictures and documents are'} named whose files are not in this house: add them to the record again.`,
      ],
    ];
  }

  /** The content with its places and people taken from the directory, or made there. */
  private placed(tx: Tx, content: RecordContent, event: ImportedEvent): RecordContent {
    const own = event.venue;
    const performances = content.performances.map((performance) => {
      const place = event.places?.[performance.id];
      const venue = place?.venue
        ? {
            name: place.venue,
            town: place.town,
            address: '',
            country: '',
            zone: performance.zone,
            room: place.room,
            capacity: null,
            point: null,
          }
        : own && place?.room
          ? { ...own, room: place.room }
          : own;
      return venue
        ? { ...performance, ...this.shelves.place(tx, venue, place?.setUp || event.setUp || '') }
        : performance;
    });
    return {
      ...content,
      performances,
      lineUp: content.lineUp.map((act) => ({ ...act, artistId: this.shelves.person(tx, 'artist', act.name) })),
      organiserId: event.organiser ? this.shelves.person(tx, 'organiser', event.organiser) : content.organiserId,
    };
  }
}

const fromOrigin = (writtenFrom: string) => `from:${writtenFrom}`;

/**
 * The record that a row is already: the very one that this house wrote it from; one that was read from the same record
 * of another house, or by the same id of a calendar; or one of the same reference, or of what a page shows the same
 * title (`titled`), that agrees in two of title, day and place. A reference and a title alone are never enough: another
 * house counts its events alike.
 */
function knownAs(
  tx: Tx,
  event: ImportedEvent,
  shelves: Shelves,
  own: string,
  titled: readonly { id: RecordId; code: string }[],
): { known: { id: RecordId; code: string } | null; /** No record has come from this origin yet. */ free: boolean } {
  const { origin, writtenFrom } = event;
  const candidates = originsLike(tx, origin);
  const as = (known: { id: RecordId; code: string } | null) => ({ known, free: candidates.length === 0 });
  if (writtenFrom !== null) {
    const [house, id = ''] = writtenFrom.split('/');
    const record = house === own && id !== '' ? recordAt(tx, recordIdSchema.parse(id)) : null;
    if (record) return as(record);
    if (house !== own) return as(recordOfOrigin(tx, fromOrigin(writtenFrom)));
  }
  if (origin.startsWith('ics:')) {
    const written = /^ics:([A-Z]{2}-\d+)-[^@]+@([^@]+)\.nuntiax$/.exec(origin);
    return as(candidates[0] ?? (written?.[2] === own ? recordOfCode(tx, written[1] ?? '') : null));
  }
  const code = /^(?:json|csv):([A-Z]{2}-\d{4,})(?:[/ ]|$)/.exec(origin)?.[1];
  const written = code === undefined ? null : recordOfCode(tx, code);
  const all = [...candidates, ...(written ? [written] : []), ...titled];
  return as(
    all.find((candidate) =>
      [recordAt(tx, candidate.id, 1), recordAt(tx, candidate.id)].some(
        (at) => at !== null && agrees(event, at.content, shelves),
      ),
    ) ?? null,
  );
}

const folded = (text: string) => text.normalize('NFKC').toLowerCase().replace(/\s+/g, ' ').trim();

/** Whether a row and a record agree in two of title, day and place. */
function agrees({ content, venue, places }: ImportedEvent, record: RecordContent, shelves: Shelves): boolean {
  const days = new Set(record.performances.map((performance) => performance.date));
  const there = new Set(record.performances.map((performance) => folded(shelves.nameOf(performance.venueId))));
  const named = [venue?.name ?? '', ...Object.values(places ?? {}).map((item) => item.venue)].filter(
    (name) => name !== '',
  );
  const title = folded(content.title) === folded(record.title);
  const day = content.performances.some((performance) => days.has(performance.date));
  const place = named.length === 0 ? there.has('') : named.some((name) => there.has(folded(name)));
  return [title, day, place].filter(Boolean).length >= 2;
}

function withTour(content: RecordContent, { id, shared }: { id: string; shared: TourShared }): RecordContent {
  return { ...Object.values(sharedFacts).reduce((at, fact) => fact.put(at, shared), content), tourId: id };
}
