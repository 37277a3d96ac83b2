import { noteDoing } from '@/store/persons';
import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { issueWords } from '@/core/base/issue-words';
import { fail, ok, type Result } from '@/core/base/result';
import { houseOwnSchema, type HouseOwn } from '@/core/record/house-own';
import { houseOwn } from '@/house/house-own';
import type { House } from '@/house/house';
import { transaction } from '@/store/database';
import { allOrganisers } from '@/store/people';
import { pictureById } from '@/store/pictures';
import { markHouse } from '@/store/pulse';
import { allVenues } from '@/store/venues';
import type { FieldErrors } from './save-directory';

/** Keeps what is usual in the house; new records begin with it. Errors by field. */
export function keepOwn(house: House, doer: Doer, input: unknown): Result<HouseOwn, FieldErrors> {
  asks(doer, 'keepOwn');
  const parsed = houseOwnSchema.strict().safeParse(input);
  if (!parsed.success)
    return fail(Object.fromEntries(parsed.error.issues.map((issue) => [issue.path.join('.'), issueWords(issue)])));
  const own = parsed.data;
  return transaction(house.db, (tx) => {
    const venue = own.venueId === null ? null : allVenues(tx).get(own.venueId);
    if (venue === undefined) return fail({ venueId: 'This venue is not in the directory any more. Pick another.' });
    if (own.roomId !== null && !venue?.rooms.some((room) => room.id === own.roomId))
      return fail({ roomId: 'This room is not in the venue any more. Pick another.' });
    if (own.organiserId !== null && !allOrganisers(tx).has(own.organiserId))
      return fail({ organiserId: 'This organiser is not in the directory any more. Pick another.' });
    if (own.logoId !== null && pictureById(tx, own.logoId) === null)
      return fail({ logoId: 'This picture is not kept any more. Pick another.' });
    houseOwn.put(tx, own);
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'directory', words: 'changed what is usual in the house' });
    // What the public is told of a zone may read otherwise from now on.
    markHouse(tx);
    return ok(own);
  });
}
