import { z } from 'zod';
import { currencies } from '../base/money';
import { usuallyClosed } from './choices';
import { line, prose, webAddress, zoneName } from '../base/scalars';
import { usualDoors } from '../dates/usual-doors';
import type { Venue } from './directory';
import type { RecordContent } from './record';

const minutes = 'Write a whole number of minutes.';
const picked = z.string().min(1).max(64).nullable().default(null);

/** What is usual in a house: its own zone, and what a new record begins with. */
export const houseOwnSchema = z.object({
  /** The house's IANA zone; `null`: that of most of its venues. */
  zone: zoneName.nullable().default(null),
  /** What is paid in where the venue's country does not tell; `null`: euro. */
  currency: z.enum(currencies).nullable().default(null),
  venueId: picked,
  roomId: picked,
  organiserId: picked,
  /** Minutes before the start that doors open; `null`: not usual. */
  doorsBefore: z
    .number(minutes)
    .int(minutes)
    .min(0, 'Write 0 or more minutes.')
    .max(720, 'At most 720 minutes.')
    .nullable()
    .default(null),
  /** Kinds of event beside the usual ones. */
  types: z.array(line(40).min(1)).max(40, 'At most 40 kinds of our own.').default([]),
  /** Kinds that are never public. */
  closedTypes: z
    .array(line(40).min(1))
    .max(80)
    .default([...usuallyClosed]),
  age: line(200, 'Keep the age guidance within 200 characters.').default(''),
  access: prose(1000, 'Keep the access notes within 1000 characters.').default(''),
  /** Where one writes to the house; empty: nowhere. */
  mail: z.union([z.literal(''), z.email('Write the address like desk@yard.example.').max(200)]).default(''),
  /** The address of a map, with `{lat}` and `{lon}` where a point's degrees go; empty: `geo:` addresses. */
  map: z
    .union([
      z.literal(''),
      webAddress.refine(
        (text) => text.includes('{lat}') && text.includes('{lon}'),
        'Write the map’s address with {lat} and {lon} where the place goes.',
      ),
    ])
    .default(''),
  /** The kept picture that is the house's logo. */
  logoId: picked,
  refunds: prose(600, 'Keep the refund terms within 600 characters.').default(''),
});
export type HouseOwn = z.infer<typeof houseOwnSchema>;

/** Nothing is usual. */
export const nothingOwn: HouseOwn = houseOwnSchema.parse({});

/** What a record took over from the house, as it is told to a person. */
export type OwnFact = 'venue' | 'organiser' | 'currency' | 'doors' | 'age' | 'access' | 'refunds';

/**
 * A new record with what is usual in the house; an entry of the directory that is there no more is left open. Gives what
 * was taken over, in the order of the form.
 */
export function withHouseOwn(
  content: RecordContent,
  own: HouseOwn,
  { venues, organisers }: { venues: ReadonlyMap<string, Venue>; organisers: { has(id: string): boolean } },
): { content: RecordContent; took: OwnFact[] } {
  const venue = own.venueId === null ? undefined : venues.get(own.venueId);
  const room = venue?.rooms.find((room) => room.id === own.roomId);
  const organiser = own.organiserId !== null && organisers.has(own.organiserId) ? own.organiserId : null;
  const currency = venue?.pays ?? own.currency;
  const doorsOf = (start: string | null, doors: string | null) =>
    own.doorsBefore === null || start === null ? doors : usualDoors(start, own.doorsBefore);
  const took: [OwnFact, boolean][] = [
    ['organiser', organiser !== null],
    ['venue', venue !== undefined],
    ['doors', own.doorsBefore !== null],
    ['currency', currency !== null],
    ['refunds', own.refunds !== ''],
    ['access', own.access !== ''],
    ['age', own.age !== ''],
  ];
  return {
    took: took.filter(([, taken]) => taken).map(([fact]) => fact),
    content: {
      ...content,
      organiserId: organiser,
      performances: content.performances.map((performance) => ({
        ...performance,
        doors: doorsOf(performance.start, performance.doors),
        ...(venue ? { venueId: venue.id, roomId: room?.id ?? null, zone: venue.zone } : {}),
      })),
      tickets: { ...content.tickets, currency: currency ?? content.tickets.currency, refunds: own.refunds },
      words: { ...content.words, age: own.age, access: own.access },
    },
  };
}
