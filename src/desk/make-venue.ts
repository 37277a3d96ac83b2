import { newVenueSchema, type Venue } from '@/core/directory';
import { issueWords } from '@/core/issue-words';
import { fail, ok, type Result } from '@/core/result';
import { whole } from '@/store/database';
import { allVenues, putVenue } from '@/store/venues';
import type { House } from '@/runner/house';

/** Makes a venue (or finds the one of that name and town), with its room. The error names fields. */
export function makeVenue(house: House, input: unknown, actor: string): Result<{ venue: Venue; roomId: string | null }, Record<string, string>> {
  const parsed = newVenueSchema.safeParse(input);
  if (!parsed.success) return fail(Object.fromEntries(parsed.error.issues.map((issue) => [String(issue.path[0]), issueWords(issue)])));
  return whole(house.db, (tx) => {
    const { venueId, roomId } = putVenue(tx, parsed.data, actor, house.clock.now());
    const venue = allVenues(tx).get(venueId);
    if (!venue) throw new Error(`venue ${venueId} was not written`);
    return ok({ venue, roomId });
  });
}
