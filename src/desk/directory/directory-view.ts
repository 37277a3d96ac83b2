import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import type { Artist, Organiser, Venue, Wording } from '@/core/record/directory';
import { knownDay } from '@/core/facts/performance-facts';
import { momentWords, type KnownDay } from '@/core/dates/date-words';
import type { HouseOwn } from '@/core/record/house-own';
import { houseOwn } from '@/house/house-own';
import { zoneOfHouse } from '@/house/house-zone';
import type { House } from '@/house/house';
import { lastBackup } from '@/store/backup';
import { allRecords } from '@/store/records';
import { allArtists, allOrganisers, allWordings } from '@/store/people';
import { allVenues } from '@/store/venues';

/** An event that uses an entry of the directory. */
export interface Use {
  id: RecordId;
  code: string;
  title: string;
  date: KnownDay;
}

/** The directory with how often each entry is used. */
export interface DirectoryView {
  venues: (Venue & { uses: number })[];
  artists: (Artist & { uses: number })[];
  organisers: (Organiser & { uses: number })[];
  wordings: Wording[];
  /** What is usual in the house, and the zone that counts as its own. */
  own: HouseOwn;
  zone: string;
  /** When the last backup was made, and where it went, in words. */
  backup: string;
}

export type Sort = 'venue' | 'artist' | 'organiser';

/** What an event uses of the directory, by id. */
function usedBy(record: ReturnType<typeof allRecords>[number]): Record<Sort, Set<string>> {
  const { performances, lineUp, organiserId } = record.content;
  return {
    venue: new Set(performances.map((performance) => performance.venueId).filter((id) => id !== null)),
    artist: new Set(lineUp.map((act) => act.artistId).filter((id) => id !== null)),
    organiser: new Set(organiserId === null ? [] : [organiserId]),
  };
}

/** Everything in the directory: a fixed number of queries. */
export function directoryView(house: House, doer: Doer): DirectoryView {
  asks(doer, 'directoryView');
  const counts = new Map<string, number>();
  for (const record of allRecords(house.db))
    for (const ids of Object.values(usedBy(record))) for (const id of ids) counts.set(id, (counts.get(id) ?? 0) + 1);
  const counted = <T extends { id: string }>(all: Map<string, T>) =>
    [...all.values()].map((item) => ({ ...item, uses: counts.get(item.id) ?? 0 }));
  return {
    venues: counted(allVenues(house.db)),
    artists: counted(allArtists(house.db)),
    organisers: counted(allOrganisers(house.db)),
    wordings: [...allWordings(house.db).values()],
    own: houseOwn.of(house.db),
    zone: zoneOfHouse(house.db),
    backup: backupWords(house),
  };
}

/** `Last backup: Tue 2 Feb 10:20, /backups/house.tar.gz (12.4 MB).` */
function backupWords({ db }: House): string {
  const last = lastBackup.of(db);
  if (last === null) return 'No backup was made yet: npm run backup, on the machine that this runs on, beside it.';
  return `Last backup: ${momentWords(last.at, zoneOfHouse(db))}, ${last.file} (${(last.bytes / 1_000_000).toFixed(1)} MB).`;
}

/** Where an entry is used, by date. */
export function whereUsed(house: House, doer: Doer, sort: Sort, id: string): Use[] {
  asks(doer, 'whereUsed');
  return allRecords(house.db)
    .filter((record) => usedBy(record)[sort].has(id))
    .map(({ id: recordId, code, content }) => ({
      id: recordId,
      code,
      title: content.title,
      date: knownDay(content.performances[0]),
    }))
    .sort((a, b) => (a.date === b.date ? (a.code < b.code ? -1 : 1) : a.date < b.date ? -1 : 1));
}
