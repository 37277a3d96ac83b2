import { z } from 'zod';
import { currencies } from '../base/money';
import { line, prose, webAddress, zoneName } from '../base/scalars';
import { organiserParts } from './choices';

const id = z.string().min(1).max(64);
const address = z.union([z.literal(''), webAddress]);
const seats = z.number().int().min(0).max(500_000);

/** Seats that are not for sale: house seats, guest list, killed seats. */
export const holdSchema = z.object({ id, name: line(60).min(1, 'Name the hold.'), seats });
export type Hold = z.infer<typeof holdSchema>;

/** One way a room is arranged (seated, standing …), with its capacity and what is held back. */
const setUpSchema = z.object({
  id,
  name: line(60).min(1, 'Name the set-up.'),
  capacity: seats.min(1),
  holds: z.array(holdSchema).max(20),
});
export type SetUp = z.infer<typeof setUpSchema>;

export const roomSchema = z.object({
  id,
  name: z.string(),
  /** Places where no set-up is chosen. */
  capacity: z.number().int().nullable(),
  setUps: z.array(setUpSchema).max(12).default([]),
  /** Minutes between the end of one event and the doors of the next. */
  changeover: z.number().int().min(0).max(2880).default(0),
});
export type Room = z.infer<typeof roomSchema>;

/** Coordinates in degrees (WGS 84). */
export const pointSchema = z.object({ lat: z.number().min(-90).max(90), lon: z.number().min(-180).max(180) });
export type Point = z.infer<typeof pointSchema>;

/** What a venue has beside name, address and zone. */
export const venueMoreSchema = z.object({
  point: pointSchema.nullable().default(null),
  phone: line(60, 'Keep the telephone number within 60 characters.').default(''),
  site: address.default(''),
  /** How to find it, in words. */
  findIt: prose(1000).default(''),
  /** The venue's own id on a channel, by channel id. */
  channelIds: z.record(z.string().max(40), z.string().max(200)).default({}),
});

export const venueSchema = venueMoreSchema.extend({
  id,
  name: z.string(),
  address: z.string(),
  town: z.string(),
  country: z.string(),
  zone: zoneName,
  rooms: z.array(roomSchema),
  /** What one pays with in its country (ISO 4217); `null`: the country is not known. */
  pays: z.enum(currencies).nullable().default(null),
});
export type Venue = z.infer<typeof venueSchema>;

/** What a person types to make a venue. */
export const newVenueSchema = z.object({
  name: line(120, 'Keep the name under 120 characters.').min(1, 'Give the venue a name.'),
  address: line(200, 'Keep the address under 200 characters.'),
  town: line(120, 'Keep the town under 120 characters.').min(1, 'Say which town it is in.'),
  country: line(80, 'Keep the country under 80 characters.'),
  zone: zoneName,
  room: line(120, 'Keep the room’s name under 120 characters.'),
  capacity: z.number().int().min(1).max(500_000).nullable(),
  /** Where it lies, as far as its town tells. */
  point: pointSchema.nullable().default(null),
});
export type NewVenue = z.infer<typeof newVenueSchema>;

/** A venue as its page in the directory saves it. */
export const venueEditSchema = newVenueSchema.omit({ room: true, capacity: true, point: true }).extend({
  ...venueMoreSchema.shape,
  rooms: z.array(roomSchema.extend({ name: line(120).min(1, 'Name the room.') })).max(60),
});
export type VenueEdit = z.infer<typeof venueEditSchema>;

/** An artist's page on a channel; verified once the channel itself has said whose it is. */
export const profileSchema = z.object({
  channel: z.string().min(1).max(40),
  link: line(500).min(1, 'Give the profile’s address or handle.'),
  verified: z.object({ at: z.number(), name: z.string(), ok: z.boolean() }).nullable().default(null),
});
export type Profile = z.infer<typeof profileSchema>;

export const artistSchema = z.object({
  id,
  name: line(160, 'Keep the name under 160 characters.').min(1, 'Give the artist a name.'),
  site: address.default(''),
  /** Who they are, in public words. */
  words: prose(2000).default(''),
  /** Their own pages, for the public. */
  links: z.array(address).max(12).default([]),
  profiles: z.array(profileSchema).max(20).default([]),
});
export type Artist = z.infer<typeof artistSchema>;

export const organiserSchema = z.object({
  id,
  name: line(160, 'Keep the name under 160 characters.').min(1, 'Give the organiser a name.'),
  site: address.default(''),
  /** The standing paragraph about them. */
  boilerplate: prose(2000).default(''),
  links: z.array(address).max(12).default([]),
  phone: line(60, 'Keep the telephone number within 60 characters.').default(''),
  mail: z.union([z.literal(''), z.email('Write the address like desk@yard.example.').max(200)]).default(''),
  address: line(300, 'Keep the address within 300 characters.').default(''),
  /** The telephone number for bookings alone. */
  bookings: line(60, 'Keep the telephone number within 60 characters.').default(''),
  /** What of all this the public sees. */
  shown: z.array(z.enum(organiserParts)).max(organiserParts.length).default([]),
});
export type Organiser = z.infer<typeof organiserSchema>;

/** A reusable text with tokens, to be put into words. */
export const wordingSchema = z.object({
  id,
  name: line(160, 'Keep the name under 160 characters.').min(1, 'Give the wording a name.'),
  text: line(4000, 'Keep the wording under 4000 characters.').min(1, 'Write the wording.'),
});
export type Wording = z.infer<typeof wordingSchema>;

/** What the directory holds beside venues. */
export type Entry = Artist | Organiser | Wording;

/** The capacity and the holds that a choice of room and set-up gives. `null`: unknown. */
export function roomFor(
  venue: Venue | undefined,
  roomId: string | null,
  setUpId: string | null,
): { room: Room; setUp: SetUp | null; capacity: number | null; holds: readonly Hold[] } | null {
  const room = venue?.rooms.find((room) => room.id === roomId);
  if (!room) return null;
  const setUp = room.setUps.find((setUp) => setUp.id === setUpId) ?? null;
  return { room, setUp, capacity: setUp?.capacity ?? room.capacity, holds: setUp?.holds ?? [] };
}
