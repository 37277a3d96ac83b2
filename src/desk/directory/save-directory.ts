import { noteDoing } from '@/store/persons';
import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { z } from 'zod';
import {
  artistSchema,
  organiserSchema,
  venueEditSchema,
  wordingSchema,
  type Entry,
  type Venue,
} from '@/core/record/directory';
import { issueWords } from '@/core/base/issue-words';
import { fail, ok, type Result } from '@/core/base/result';
import type { House } from '@/house/house';
import { transaction } from '@/store/database';
import { freshId } from '@/store/ids';
import { allArtists, allOrganisers, allWordings, writePerson, type EntrySort } from '@/store/people';
import { allRecords } from '@/store/records';
import { allVenues, removeRoom, writeVenue } from '@/store/venues';

/** Messages by field. */
export type FieldErrors = Record<string, string>;

function errorsOf(error: z.ZodError): FieldErrors {
  return Object.fromEntries(error.issues.map((issue) => [issue.path.join('.'), issueWords(issue)]));
}

/**
 * Saves a venue with its rooms and set-ups. A room that no event uses any more may be left out; one that is used stays.
 */
export function saveVenue(house: House, doer: Doer, id: string, input: unknown): Result<Venue, FieldErrors> {
  asks(doer, 'saveVenue');
  const parsed = venueEditSchema.safeParse(input);
  if (!parsed.success) return fail(errorsOf(parsed.error));
  return transaction(house.db, (tx) => {
    const before = allVenues(tx).get(id);
    if (!before) return fail({ name: 'This venue is not in the directory any more.' });
    const named = new Set(parsed.data.rooms.flatMap((room) => [room.id, ...room.setUps.map((setUp) => setUp.id)]));
    const gone = before.rooms.filter((room) => !named.has(room.id));
    const goneSetUps = before.rooms.flatMap((room) => room.setUps).filter((setUp) => !named.has(setUp.id));
    const used = new Set(
      gone.length + goneSetUps.length === 0
        ? []
        : allRecords(tx).flatMap((record) => record.content.performances.flatMap((p) => [p.roomId, p.setUpId])),
    );
    const still = [...gone, ...goneSetUps].find((candidate) => used.has(candidate.id));
    if (still) return fail({ rooms: `${still.name} is used by events. Give them another one first.` });
    for (const room of gone) removeRoom(tx, room.id);
    writeVenue(tx, id, parsed.data);
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'directory', words: `changed the venue ${parsed.data.name}` });
    const saved = allVenues(tx).get(id);
    return saved ? ok(saved) : fail({ name: 'It could not be saved. Try again.' });
  });
}

const schemas = { artist: artistSchema, organiser: organiserSchema, wording: wordingSchema };
const initials = { artist: 'a', organiser: 'o', wording: 'w' };
const all = { artist: allArtists, organiser: allOrganisers, wording: allWordings };

/** Saves an artist, organiser or wording; makes a new one where the id is empty. */
export function savePerson(house: House, doer: Doer, sort: EntrySort, input: unknown): Result<Entry, FieldErrors> {
  asks(doer, 'savePerson');
  const given = { ...(input as object), id: (input as { id?: string } | null)?.id || freshId(initials[sort]) };
  const parsed = schemas[sort].safeParse(given);
  if (!parsed.success) return fail(errorsOf(parsed.error));
  return transaction(house.db, (tx) => {
    const there: Iterable<Entry> = all[sort](tx).values();
    const same = [...there].find(
      (entry) => entry.id !== parsed.data.id && entry.name.toLowerCase() === parsed.data.name.toLowerCase(),
    );
    if (same)
      return fail({ name: `${same.name} is in the directory already. Pick it, or give this one another name.` });
    writePerson(tx, sort, parsed.data, doer.name, house.clock.now());
    return ok(parsed.data);
  });
}
