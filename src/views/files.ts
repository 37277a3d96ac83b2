import type { RecordId } from '@/core/base/ids';
import type { Ask } from '@/core/formats/import-row';
import type { BrokenRow } from '@/core/formats/file-note';
import type { FileNote } from '@/core/formats/file-note';
import type { Point } from '@/core/record/directory';

/** A file that is being read, or was. */
export interface FileJob {
  id: string;
  name: string;
  state: 'waiting' | 'reading' | 'done' | 'stopped' | 'failed';
  bytes: number;
  startedAt: number;
  progress: FileProgress;
  report: FileReport;
  /** Why it failed, for the user. */
  error: string | null;
}

/** A file whose events are records here. */
export interface FileRead {
  /** As the first revision of each says where it is from. */
  reason: string;
  at: number;
  /** Records that are left of it, and how many of those were saved anew since. */
  records: number;
  changed: number;
}

export interface FileProgress {
  /** Place of the row that is being read, its line, and how many there are. */
  place: number;
  line: number;
  of: number;
}

/** What became of a file: how many rows of each sort there are, and the first of them. */
export interface FileReport {
  counts: { made: number; known: number; asked: number; broken: number };
  made: ReadRow[];
  /**
   * Rows that an earlier reading brought in, or that were written from a record of this house; the records were left as
   * they are.
   */
  known: ReadRow[];
  asked: AskedRow[];
  broken: BrokenRow[];
  /** What is said of the file as a whole. */
  notes: (FileNote & { line: number })[];
}

/** A row that is a record now, or was one before. */
export interface ReadRow {
  line: number;
  id: RecordId;
  code: string;
  title: string;
  notes: string[];
}

/** A row that a person has to answer a question about before it is taken in. */
interface AskedRow extends Ask {
  line: number;
  title: string;
  town: string;
  country: string;
}

/** What a person says of a town that the file does not tell: its zone, and where it lies, where that is said too. */
export interface SaidOfTown {
  town: string;
  country: string;
  zone: string;
  point: Point | null;
}
