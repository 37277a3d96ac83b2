import { and, eq, isNull } from 'drizzle-orm';
import {
  roomSchema,
  venueMoreSchema,
  venueSchema,
  type NewVenue,
  type Venue,
  type VenueEdit,
} from '@/core/record/directory';
import { currencyOf } from '@/core/base/countries';
import { groupBy } from '@/core/base/group-by';
import type { Instant } from '@/core/base/zones';
import type { Tx } from './database';
import { directoryMark, markDirectory } from './directory-mark';
import { freshId } from './ids';
import { rooms, venues } from './schema';

const kept = new WeakMap<Tx, { mark: string; all: Map<string, Venue> }>();

/** All venues with their rooms, by id: two queries, however many, and none while the directory is the same. */
export function allVenues(db: Tx): Map<string, Venue> {
  const mark = directoryMark(db);
  const known = kept.get(db);
  if (known?.mark === mark) return known.all;
  const byVenue = groupBy(
    db.select().from(rooms).where(isNull(rooms.mergedInto)).orderBy(rooms.name).all(),
    (room) => room.venueId,
  );
  const roomOf = ({ id, name, capacity, more }: typeof rooms.$inferSelect) =>
    roomSchema.parse({ ...more, id, name, capacity });
  const all = new Map(
    db
      .select()
      .from(venues)
      .where(isNull(venues.mergedInto))
      .orderBy(venues.name)
      .all()
      .map((row) => [
        row.id,
        venueSchema.parse({
          ...row.more,
          ...row,
          pays: currencyOf(row.country),
          rooms: (byVenue.get(row.id) ?? []).map(roomOf),
        }),
      ]),
  );
  kept.set(db, { mark, all });
  return all;
}

/** Finds a venue by name and town (both as written), or makes it; adds the room where it is new. */
export function putVenue(
  db: Tx,
  input: NewVenue,
  actor: string,
  at: Instant,
): { venueId: string; roomId: string | null } {
  const known = db
    .select()
    .from(venues)
    .where(and(eq(venues.name, input.name), eq(venues.town, input.town), isNull(venues.mergedInto)))
    .get();
  const venueId = known?.id ?? freshId('v');
  if (!known) {
    const { name, address, town, country, zone, point } = input;
    db.insert(venues)
      .values({
        id: venueId,
        name,
        address,
        town,
        country,
        zone,
        more: venueMoreSchema.parse({ point }),
        madeBy: actor,
        madeAt: at,
      })
      .run();
    markDirectory(db);
  }
  if (input.room === '') return { venueId, roomId: null };
  const room = db
    .select()
    .from(rooms)
    .where(and(eq(rooms.venueId, venueId), eq(rooms.name, input.room), isNull(rooms.mergedInto)))
    .get();
  const roomId = room?.id ?? freshId('m');
  if (!room) {
    db.insert(rooms).values({ id: roomId, venueId, name: input.room, capacity: input.capacity }).run();
    markDirectory(db);
  }
  return { venueId, roomId };
}

/**
 * Writes a whole venue: its own facts, and its rooms. Rooms that are not named stay as they are: records may use them.
 */
export function writeVenue(
  db: Tx,
  id: string,
  { rooms: list, name, address, town, country, zone, ...more }: VenueEdit,
): void {
  db.update(venues)
    .set({ name, address, town, country, zone, more: venueMoreSchema.parse(more) })
    .where(eq(venues.id, id))
    .run();
  for (const { id: roomId, name: roomName, capacity, ...rest } of list) {
    const values = { name: roomName, capacity, more: rest };
    db.insert(rooms)
      .values({ id: roomId, venueId: id, ...values })
      .onConflictDoUpdate({ target: rooms.id, set: values })
      .run();
  }
  markDirectory(db);
}

/** Takes a room out of the directory. */
export function removeRoom(db: Tx, id: string): void {
  db.delete(rooms).where(eq(rooms.id, id)).run();
  markDirectory(db);
}

/**
 * Marks a venue as a duplicate of another; its rooms move there, or become the room of the same name. Gives what each
 * room became.
 */
export function mergeVenues(db: Tx, from: string, into: string): Map<string, string> {
  const became = new Map<string, string>();
  const there = new Map(
    db
      .select()
      .from(rooms)
      .where(and(eq(rooms.venueId, into), isNull(rooms.mergedInto)))
      .all()
      .map((room) => [room.name.toLowerCase(), room.id]),
  );
  for (const room of db.select().from(rooms).where(eq(rooms.venueId, from)).all()) {
    const same = there.get(room.name.toLowerCase());
    became.set(room.id, same ?? room.id);
    if (same) db.update(rooms).set({ mergedInto: same }).where(eq(rooms.id, room.id)).run();
    else db.update(rooms).set({ venueId: into }).where(eq(rooms.id, room.id)).run();
  }
  db.update(venues).set({ mergedInto: into }).where(eq(venues.id, from)).run();
  markDirectory(db);
  return became;
}

/** What merged venues and rooms became, by their old ids: an old revision may still name them. */
export function mergedPlaces(db: Tx): { venues: Map<string, string>; rooms: Map<string, string> } {
  return { venues: becameOf(db.select().from(venues).all()), rooms: becameOf(db.select().from(rooms).all()) };
}

/** What each merged entry became in the end: one that was merged twice is followed to where it is now. */
export function becameOf(rows: readonly { id: string; mergedInto: string | null }[]): Map<string, string> {
  const next = new Map(rows.flatMap((row) => (row.mergedInto === null ? [] : [[row.id, row.mergedInto] as const])));
  const end = (id: string, steps = 0): string => {
    const then = next.get(id);
    return then === undefined || steps > next.size ? id : end(then, steps + 1);
  };
  return new Map([...next.keys()].map((id) => [id, end(id)]));
}
