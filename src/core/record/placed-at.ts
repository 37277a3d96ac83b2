import type { Venue } from './directory';
import type { Performance } from './record';

/** The only one of a list; nothing where there are several. */
export function onlyOne<T>(list: readonly T[] | undefined): T | undefined {
  return list?.length === 1 ? list[0] : undefined;
}

type Place = Pick<Performance, 'venueId' | 'roomId' | 'setUpId' | 'zone'>;

/**
 * Where a performance is that comes to a venue. Where there are several rooms or set-ups, nobody chooses for the
 * person: a room taken in silence is announced as the wrong one.
 */
export function placedAt({ id, rooms, zone }: Venue): Place {
  const room = onlyOne(rooms);
  return { venueId: id, roomId: room?.id ?? null, setUpId: onlyOne(room?.setUps)?.id ?? null, zone };
}

/** Where something moves to by a choice of `venue|room`: that room, else the venue's only one; `null`: no such venue. */
export function placeOf(place: string | null, venues: ReadonlyMap<string, Venue>): Place | null {
  const [venueId = '', roomId = ''] = place?.split('|') ?? [];
  const venue = venues.get(venueId);
  if (!venue) return null;
  const room = venue.rooms.find(({ id }) => id === roomId);
  return room ? { ...placedAt(venue), roomId: room.id, setUpId: onlyOne(room.setUps)?.id ?? null } : placedAt(venue);
}

/** Every room, and every venue that has none, as something moves to it: `venue|room`, with its name. */
export function placesOf(venues: ReadonlyMap<string, Venue>): { value: string; label: string }[] {
  return [...venues.values()].flatMap(({ id, name, town, rooms }) => {
    const called = town === '' ? name : `${name}, ${town}`;
    return rooms.length === 0
      ? [{ value: id, label: called }]
      : rooms.map((room) => ({ value: `${id}|${room.id}`, label: `${room.name}, ${called}` }));
  });
}
