import { eq, isNull } from 'drizzle-orm';
import {
  artistSchema,
  organiserSchema,
  wordingSchema,
  type Artist,
  type Entry,
  type Organiser,
  type Wording,
} from '@/core/record/directory';
import type { Instant } from '@/core/base/zones';
import type { Tx } from './database';
import { directoryMark, markDirectory } from './directory-mark';
import { people } from './schema';
import { becameOf } from './venues';

export type EntrySort = 'artist' | 'organiser' | 'wording';

interface Directory {
  mark: string;
  artists: Map<string, Artist>;
  organisers: Map<string, Organiser>;
  wordings: Map<string, Wording>;
}

const kept = new WeakMap<Tx, Directory>();

function directory(db: Tx): Directory {
  const mark = directoryMark(db);
  const known = kept.get(db);
  if (known?.mark === mark) return known;
  const made: Directory = { mark, artists: new Map(), organisers: new Map(), wordings: new Map() };
  for (const row of db.select().from(people).where(isNull(people.mergedInto)).orderBy(people.name).all()) {
    const body = { ...row.body, id: row.id, name: row.name };
    if (row.sort === 'artist') made.artists.set(row.id, artistSchema.parse(body));
    else if (row.sort === 'organiser') made.organisers.set(row.id, organiserSchema.parse(body));
    else made.wordings.set(row.id, wordingSchema.parse(body));
  }
  kept.set(db, made);
  return made;
}

/** Every artist, by id. */
export function allArtists(db: Tx): Map<string, Artist> {
  return directory(db).artists;
}

/** Every organiser, by id. */
export function allOrganisers(db: Tx): Map<string, Organiser> {
  return directory(db).organisers;
}

/** Every wording, by id. */
export function allWordings(db: Tx): Map<string, Wording> {
  return directory(db).wordings;
}

/** Writes an entry; a new one where `id` is not there yet. */
export function writePerson(db: Tx, sort: EntrySort, { id, name, ...body }: Entry, actor: string, at: Instant): void {
  const values = { name, body };
  db.insert(people)
    .values({ id, sort, ...values, madeBy: actor, madeAt: at })
    .onConflictDoUpdate({ target: people.id, set: values })
    .run();
  markDirectory(db);
}

/** Marks one as a duplicate of another. */
export function mergePeople(db: Tx, from: string, into: string): void {
  db.update(people).set({ mergedInto: into }).where(eq(people.id, from)).run();
  markDirectory(db);
}

/** Artists, organisers and wordings that were merged, with what each became. */
export function mergedPeople(db: Tx): Map<string, string> {
  return becameOf(db.select({ id: people.id, mergedInto: people.mergedInto }).from(people).all());
}
