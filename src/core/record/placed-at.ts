import type { Venue } from './directory';
import type { Performance } from './record';

/** The only one of a list; nothing where there are several. */
export function onlyOne<T>(list: readonly T[] | undefined): T | undefined {
  return list?.length === 1 ? list[0] : undefined;
}

export type Place = Pick<Performance, 'venueId' | 'roomId' | 'setUpId' | 'zone'>;

/**
 * Where a performance is that comes to a venue. Where there are several rooms or set-ups, nobody chooses for the
 * person: a room taken in silence is announced as the wrong one.
 */
export function placedAt({ id, rooms, zone }: Venue): Place {
  const room = onlyOne(rooms);
  return { venueId: id, roomId: room?.id ?? null, setUpId: onlyOne(room?.setUps)?.id ?? null, zone };
}
