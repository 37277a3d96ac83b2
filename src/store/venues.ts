import { groupBy } from '@/core/group-by';
import { and, eq } from 'drizzle-orm';
import { venueSchema, type NewVenue, type Venue } from '@/core/directory';
import type { Instant } from '@/core/zones';
import type { Tx } from './database';
import { freshId } from './ids';
import { rooms, venues } from './schema';

/** All venues with their rooms, by id: two queries, however many. */
export function allVenues(db: Tx): Map<string, Venue> {
  const byVenue = groupBy(db.select().from(rooms).orderBy(rooms.name).all(), (room) => room.venueId);
  return new Map(
    db.select().from(venues).orderBy(venues.name).all().map((row) => [row.id, venueSchema.parse({ ...row, rooms: byVenue.get(row.id) ?? [] })]),
  );
}

/** Finds a venue by name and town (both as written), or makes it; adds the room where it is new. */
export function putVenue(db: Tx, input: NewVenue, actor: string, at: Instant): { venueId: string; roomId: string | null } {
  const known = db.select().from(venues).where(and(eq(venues.name, input.name), eq(venues.town, input.town))).get();
  const venueId = known?.id ?? freshId('v');
  if (!known) {
    const { name, address, town, country, zone } = input;
    db.insert(venues).values({ id: venueId, name, address, town, country, zone, madeBy: actor, madeAt: at }).run();
  }
  if (input.room === '') return { venueId, roomId: null };
  const room = db.select().from(rooms).where(and(eq(rooms.venueId, venueId), eq(rooms.name, input.room))).get();
  const roomId = room?.id ?? freshId('m');
  if (!room) db.insert(rooms).values({ id: roomId, venueId, name: input.room, capacity: input.capacity }).run();
  return { venueId, roomId };
}
