import type { Artist, Organiser, Venue, Wording } from '../record/directory';
import type { RecordContent } from '../record/record';
import type { Tour } from '../record/tour';
import type { FileDirectory } from './file-directory';

/** What a file of events is written from. */
export interface JsonContext {
  venues: ReadonlyMap<string, Venue>;
  artists: ReadonlyMap<string, Artist>;
  organisers: ReadonlyMap<string, Organiser>;
  wordings: ReadonlyMap<string, Wording>;
  tours: readonly Tour[];
}

/**
 * Records as JSON (RFC 8259), in the form that is read: venues, rooms, set-ups, artists, organisers and tours by name,
 * with all of the directory that the records use. Of pictures and documents it holds what is said of them; their files
 * lie beside it, under their hashes. It is the house's own copy: codes, where one joins, channels left off and what a
 * copy carries are in it.
 */
export function writeEventsJson(
  records: readonly { code: string; writtenFrom: string; content: RecordContent }[],
  context: JsonContext,
): string {
  const used = records.map((record) => record.content);
  const venueIds = new Set(used.flatMap((content) => content.performances.map((p) => p.venueId)));
  const artistIds = new Set(used.flatMap((content) => content.lineUp.map((entry) => entry.artistId)));
  const organiserIds = new Set(used.map((content) => content.organiserId));
  const firstOf = new Map<string, string>();
  for (const { code, content } of records)
    if (content.tourId !== null && !firstOf.has(content.tourId)) firstOf.set(content.tourId, code);
  const directory: FileDirectory = {
    venues: [...context.venues.values()].filter((venue) => venueIds.has(venue.id)).map(fileVenue),
    artists: [...context.artists.values()]
      .filter((artist) => artistIds.has(artist.id))
      .map(({ id: _, profiles, ...artist }) => ({
        ...artist,
        profiles: profiles.map(({ channel, link }) => ({ channel, link })),
      })),
    organisers: [...context.organisers.values()]
      .filter((organiser) => organiserIds.has(organiser.id))
      .map(({ id: _, ...item }) => item),
    wordings: [...context.wordings.values()].map(({ id: _, ...item }) => item),
    tours: context.tours
      .filter((tour) => firstOf.has(tour.id))
      .map(({ id, name }) => ({ name, from: firstOf.get(id) ?? '' })),
  };
  return `${JSON.stringify({ nuntiax: 1, ...directory, events: records.map((record) => eventOf(record, context)) }, null, 1)}\n`;
}

function fileVenue({ id: _, rooms, ...venue }: Venue): FileDirectory['venues'][number] {
  return {
    ...venue,
    rooms: rooms.map((room) => ({
      name: room.name,
      capacity: room.capacity,
      changeover: room.changeover,
      setUps: room.setUps.map(({ name, capacity, holds }) => ({
        name,
        capacity,
        holds: holds.map((hold) => ({ name: hold.name, seats: hold.seats })),
      })),
    })),
  };
}

function eventOf(
  { code, writtenFrom, content }: { code: string; writtenFrom: string; content: RecordContent },
  { venues, organisers, tours }: JsonContext,
): object {
  const { performances, organiserId, tourId, lineUp, ...rest } = content;
  const [first] = performances;
  return {
    ref: code,
    writtenFrom,
    ...rest,
    organiser: (organiserId !== null && organisers.get(organiserId)?.name) || '',
    tour: tours.find((tour) => tour.id === tourId)?.name ?? '',
    zone: first?.zone ?? 'UTC',
    ...placeOf(first, venues),
    lineUp: lineUp.map(({ artistId: _, ...entry }) => entry),
    performances: performances.map(({ venueId: _v, roomId: _r, setUpId: _s, ...performance }, i) => ({
      ...performance,
      // Ids of a house say nothing in another: when it was to be goes along, where it was to be stays here.
      was: performance.was === null ? null : { ...performance.was, venueId: null, roomId: null },
      ...placeOf(performances[i], venues),
    })),
  };
}

function placeOf(
  performance: RecordContent['performances'][number] | undefined,
  venues: ReadonlyMap<string, Venue>,
): { venue: string; town: string; room: string; setUp: string } {
  const venue = performance && performance.venueId !== null ? venues.get(performance.venueId) : undefined;
  const room = venue?.rooms.find((room) => room.id === performance?.roomId);
  return {
    venue: venue?.name ?? '',
    town: venue?.town ?? '',
    room: room?.name ?? '',
    setUp: room?.setUps.find((setUp) => setUp.id === performance?.setUpId)?.name ?? '',
  };
}
