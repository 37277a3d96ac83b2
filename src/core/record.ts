import { z } from 'zod';
import { currencies } from './money';
import { isZone, lastZoneYear } from './zones';

/** What sort of event it is; channels map it to categories of their own. */
export const eventKinds = [
  'concert', 'theatre', 'film', 'talk', 'workshop', 'club night', 'reading', 'family', 'meeting', 'private hire',
] as const;
export type EventKind = (typeof eventKinds)[number];

export const roles = ['headliner', 'support', 'special guest'] as const;
export type Role = (typeof roles)[number];

/** What is typed of a record's stage; the rest of the stage is derived (see `stageOf`). */
export const typedStages = ['pencilled', 'confirmed'] as const;

export const ticketModes = ['ticketed', 'free entry', 'elsewhere'] as const;

/** Largest sizes of a record, so that no input can make the application slow. */
export const recordLimits = { title: 300, performances: 500, lineUp: 60, levels: 24, full: 60_000 } as const;

const id = z.string().min(1).max(64);
export const isoDate = z.string().regex(/^\d{4}-\d{2}-\d{2}$/).refine((text) => {
  const at = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(text) && at.getUTCFullYear() <= lastZoneYear && at.getUTCFullYear() >= 1970;
});
export const timeOfDay = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/);
export const zoneName = z.string().refine(isZone);
export const webAddress = z.url({ protocol: /^https?$/ }).max(2000);

export const performanceSchema = z.object({
  id,
  date: isoDate,
  doors: timeOfDay.nullable(),
  start: timeOfDay,
  end: timeOfDay.nullable(),
  /** The end lies on the day after `date`. */
  endsNextDay: z.boolean(),
  /** Which of two equal readings is meant, on the night the clocks go back. */
  repeat: z.enum(['first', 'second']).nullable(),
  zone: zoneName,
  venueId: id.nullable(),
  roomId: id.nullable(),
});

export const priceLevelSchema = z.object({
  id,
  name: z.string().trim().min(1).max(60),
  /** Face value in minor units of the record's currency. */
  price: z.number().int().min(0).max(100_000_000),
  concession: z.boolean(),
  /** Tickets of this level; `null`: as many as the room holds. */
  quantity: z.number().int().min(1).max(1_000_000).nullable(),
});

export const pictureUseSchema = z.object({
  /** SHA-256 of the original file, in hex. */
  pictureId: z.string().regex(/^[0-9a-f]{64}$/),
  width: z.number().int().min(1),
  height: z.number().int().min(1),
  alt: z.string().max(400),
  credit: z.string().max(200),
  /** The point that every crop keeps, as shares of width and height. */
  focal: z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) }),
});

/** Everything a revision of a record says. The single definition; types follow from it. */
export const recordSchema = z.object({
  title: z.string().trim().min(1).max(recordLimits.title),
  subtitle: z.string().trim().max(recordLimits.title),
  kind: z.enum(eventKinds),
  stage: z.enum(typedStages),
  performances: z.array(performanceSchema).min(1).max(recordLimits.performances),
  lineUp: z.array(z.object({ id, name: z.string().trim().min(1).max(160), role: z.enum(roles) })).max(recordLimits.lineUp),
  tickets: z.object({
    mode: z.enum(ticketModes),
    currency: z.enum(currencies),
    levels: z.array(priceLevelSchema).max(recordLimits.levels),
    /** Where tickets are sold, when another house sells them. */
    link: webAddress.nullable(),
  }),
  words: z.object({ teaser: z.string().max(600), full: z.string().max(recordLimits.full) }),
  pictures: z.array(pictureUseSchema).max(1),
  publicity: z.object({
    visibility: z.enum(['private', 'public']),
    /** Nothing leaves the house before this moment. */
    announce: z.object({ date: isoDate, time: timeOfDay, zone: zoneName }).nullable(),
  }),
  /** Channels on which this event is deliberately not wanted. */
  leftOff: z.array(z.string()).max(50),
});

export type RecordContent = z.infer<typeof recordSchema>;
export type Performance = z.infer<typeof performanceSchema>;
export type PriceLevel = z.infer<typeof priceLevelSchema>;
export type PictureUse = z.infer<typeof pictureUseSchema>;

export const roomSchema = z.object({ id, name: z.string(), capacity: z.number().int().nullable() });
export const venueSchema = z.object({
  id,
  name: z.string(),
  address: z.string(),
  town: z.string(),
  country: z.string(),
  zone: zoneName,
  rooms: z.array(roomSchema),
});
export type Venue = z.infer<typeof venueSchema>;

/** What a person types to make a venue. */
export const newVenueSchema = z.object({
  name: z.string().trim().min(1, 'Give the venue a name.').max(120, 'Keep the name under 120 characters.'),
  address: z.string().trim().max(200),
  town: z.string().trim().min(1, 'Say which town it is in.').max(120),
  country: z.string().trim().max(80),
  zone: z.string().refine(isZone, 'Pick a zone such as Europe/Dublin.'),
  room: z.string().trim().max(120),
  capacity: z.number().int().min(1).max(500_000).nullable(),
});
export type NewVenue = z.infer<typeof newVenueSchema>;
