import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import type { RecordContent } from '@/core/record/record';
import type { House } from '@/house/house';
import { recordAt } from '@/store/records';
import { allArtists, mergedPeople } from '@/store/people';
import { mergedPlaces } from '@/store/venues';
import { saveRecord, type Saved } from './save-record';

/**
 * Saves an earlier revision's content as the newest one. Nothing is taken away: what stood between stays in the
 * history.
 */
export function restoreRevision(
  house: House,
  doer: Doer,
  id: RecordId,
  number: number,
  base: number,
  reason = `revision ${number} restored`,
): Saved {
  asks(doer, 'restoreRevision');
  const old = recordAt(house.db, id, number);
  if (!old) return { kind: 'missing' };
  return saveRecord(house, doer, {
    id,
    base,
    content: withoutMerged(house, old.content),
    reason,
  });
}

/** Venues, rooms, artists and organisers that were merged since are named as what they became. */
function withoutMerged(house: House, content: RecordContent): RecordContent {
  const merged = mergedPlaces(house.db);
  const people = mergedPeople(house.db);
  const artists = allArtists(house.db);
  const now = (of: Map<string, string>, id: string | null) => (id === null ? null : (of.get(id) ?? id));
  return {
    ...content,
    organiserId: now(people, content.organiserId),
    lineUp: content.lineUp.map((act) => {
      const became = now(people, act.artistId);
      return became === act.artistId
        ? act
        : { ...act, artistId: became, name: artists.get(became ?? '')?.name ?? act.name };
    }),
    performances: content.performances.map((performance) => ({
      ...performance,
      venueId: now(merged.venues, performance.venueId),
      roomId: now(merged.rooms, performance.roomId),
    })),
  };
}
