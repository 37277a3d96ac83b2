import type { Venue } from './directory';
import { onlyOne, placedAt, type Place } from './placed-at';

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
