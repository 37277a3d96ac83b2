import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { z } from 'zod';
import { newVenueSchema, type Venue } from '@/core/record/directory';
import { issueWords } from '@/core/base/issue-words';
import { fail, ok, type Result } from '@/core/base/result';
import { transaction } from '@/store/database';
import { allVenues, putVenue } from '@/store/venues';
import type { House } from '@/house/house';
import { findTown } from './find-town';

const placeSchema = z.looseObject({ name: z.string(), town: z.string(), country: z.string(), zone: z.literal('') });

/** A venue whose zone is left to its town: with the zone and coordinates that follow from it, where they do. */
function withZone(house: House, doer: Doer, input: unknown): unknown {
  const open = placeSchema.safeParse(input);
  if (!open.success) return input;
  const found = findTown(house, doer, { venue: open.data.name, town: open.data.town, country: open.data.country });
  const [only, more] = found.choices;
  return found.zone === null ? input : { ...open.data, zone: found.zone, point: only && !more ? only.point : null };
}

/**
 * Makes a venue (or finds the one of that name and town), with its room. An empty zone is that of its town. The error
 * names fields.
 */
export function makeVenue(
  house: House,
  doer: Doer,
  input: unknown,
): Result<{ venue: Venue; roomId: string | null }, Record<string, string>> {
  asks(doer, 'makeVenue');
  const parsed = newVenueSchema.safeParse(withZone(house, doer, input));
  if (!parsed.success)
    return fail(Object.fromEntries(parsed.error.issues.map((issue) => [String(issue.path[0]), issueWords(issue)])));
  return transaction(house.db, (tx) => {
    const { venueId, roomId } = putVenue(tx, parsed.data, doer.name, house.clock.now());
    const venue = allVenues(tx).get(venueId);
    if (!venue) throw new Error(`venue ${venueId} was not written`);
    return ok({ venue, roomId });
  });
}
