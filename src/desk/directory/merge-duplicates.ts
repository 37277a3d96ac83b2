import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordContent } from '@/core/record/record';
import { fail, ok, type Result } from '@/core/base/result';
import { stableText } from '@/core/base/hash';
import type { House } from '@/house/house';
import { transaction, type Tx } from '@/store/database';
import { allArtists, allOrganisers, mergePeople, writePerson } from '@/store/people';
import { addRevision, allRecords } from '@/store/records';
import { allTours, writeTour } from '@/store/tours';
import { allVenues, mergeVenues } from '@/store/venues';
import type { Sort } from './directory-view';

/**
 * Makes one entry of two: every event that used `from` uses `into`, as a revision of its own with the reason. All of it
 * or nothing. Gives how many events changed.
 */
export function mergeDuplicates(
  house: House,
  doer: Doer,
  sort: Sort,
  from: string,
  into: string,
): Result<number, string> {
  asks(doer, 'mergeDuplicates');
  if (from === into) return fail('These are one and the same entry. Pick two.');
  return transaction(house.db, (tx) => {
    const names = namesOf(tx, sort);
    const [was, stays] = [names.get(from), names.get(into)];
    if (was === undefined || stays === undefined) return fail('One of them is not in the directory any more.');
    const edit = mergeEntry(tx, sort, from, into, doer.name, house.clock.now());
    let changed = 0;
    for (const { id, revision, content } of allRecords(tx)) {
      const next = edit(content);
      if (stableText(next) === stableText(content)) continue;
      addRevision(tx, id, revision + 1, next, doer, house.clock.now(), `${was} is the same as ${stays}`);
      changed += 1;
    }
    if (sort === 'artist') mergeInTours(tx, from, into, doer.name, house.clock.now());
    return ok(changed);
  });
}

function namesOf(tx: Tx, sort: Sort): Map<string, string> {
  const all = sort === 'venue' ? allVenues(tx) : sort === 'artist' ? allArtists(tx) : allOrganisers(tx);
  return new Map([...all.values()].map((item) => [item.id, item.name]));
}

/** Merges the entry itself; gives what that means for a record. */
function mergeEntry(
  tx: Tx,
  sort: Sort,
  from: string,
  into: string,
  actor: string,
  at: number,
): (content: RecordContent) => RecordContent {
  if (sort === 'venue') {
    const became = mergeVenues(tx, from, into);
    return (content) => ({
      ...content,
      performances: content.performances.map((performance) =>
        performance.venueId === from
          ? {
              ...performance,
              venueId: into,
              roomId: performance.roomId === null ? null : (became.get(performance.roomId) ?? null),
              setUpId: became.get(performance.roomId ?? '') === performance.roomId ? performance.setUpId : null,
            }
          : performance,
      ),
    });
  }
  if (sort === 'organiser') {
    mergePeople(tx, from, into);
    return (content) => (content.organiserId === from ? { ...content, organiserId: into } : content);
  }
  keepProfiles(tx, from, into, actor, at);
  mergePeople(tx, from, into);
  const name = allArtists(tx).get(into)?.name;
  return (content) => ({
    ...content,
    lineUp: content.lineUp.map((act) =>
      act.artistId === from ? { ...act, artistId: into, name: name ?? act.name } : act,
    ),
  });
}

/** What the dates of a tour share names the artist too: or its next change would reach no date any more. */
function mergeInTours(tx: Tx, from: string, into: string, actor: string, at: number): void {
  const name = allArtists(tx).get(into)?.name;
  for (const { id, revision, name: tour, shared } of allTours(tx)) {
    if (!shared.lineUp.some((act) => act.artistId === from)) continue;
    const lineUp = shared.lineUp.map((act) =>
      act.artistId === from ? { ...act, artistId: into, name: name ?? act.name } : act,
    );
    writeTour(tx, id, revision + 1, tour, { ...shared, lineUp }, actor, at);
  }
}

/** Profiles that only the merged artist had go over to the other. */
function keepProfiles(tx: Tx, from: string, into: string, actor: string, at: number): void {
  const [a, b] = [allArtists(tx).get(from), allArtists(tx).get(into)];
  if (!a || !b) return;
  const more = a.profiles.filter((profile) => !b.profiles.some((other) => other.channel === profile.channel));
  if (more.length > 0) writePerson(tx, 'artist', { ...b, profiles: [...b.profiles, ...more] }, actor, at);
}
