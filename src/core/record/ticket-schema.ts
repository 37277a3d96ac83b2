import { z } from 'zod';
import { holdSchema } from './directory';
import { currencies } from '../base/money';
import { isoDate, line, prose, timeOfDay, webAddress } from '../base/scalars';

const id = z.string().min(1).max(64);

/** How one gets in. */
export const ticketModes = ['ticketed', 'registration', 'pay at the door', 'free entry', 'elsewhere'] as const;
export type TicketMode = (typeof ticketModes)[number];

/**
 * What a price level is: full price for anyone, reduced for those who can show why, for groups, for members, for holders of a code,
 * for those who are invited.
 */
export const buyers = ['anyone', 'concession', 'group', 'members', 'code', 'invited'] as const;
export type Buyers = (typeof buyers)[number];

/** One end of a sale window: a local date and time, or so long before the start. */
export const windowEndSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('at'), date: isoDate, time: timeOfDay }),
  /** Days are counted in the calendar (same time of day); hours exactly. */
  z.object({ kind: z.literal('before'), amount: z.number().int().min(0).max(1000), unit: z.enum(['days', 'hours']) }),
]);
export type WindowEnd = z.infer<typeof windowEndSchema>;

export const priceLevelSchema = z.object({
  id,
  name: line(60).min(1),
  /** Face value in minor units of the record's currency; with `choose` the least that is taken. */
  price: z.number().int().min(0).max(100_000_000),
  buyers: z.enum(buyers).default('anyone'),
  /** The code that opens a level for code holders. */
  code: line(60).default(''),
  /** Purchases of this level for one performance; `null`: as many as the pool holds. */
  quantity: z.number().int().min(1).max(1_000_000).nullable(),
  /** People that one purchase admits. */
  admits: z.number().int().min(1).max(50).default(1),
  /** Fewest and most purchases in one order. */
  least: z.number().int().min(1).max(1000).default(1),
  most: z.number().int().min(1).max(1000).nullable().default(null),
  opens: windowEndSchema.nullable().default(null),
  closes: windowEndSchema.nullable().default(null),
  /** Pay what you like, from `price` upwards. */
  choose: z.boolean().default(false),
  /** The part of the house that it draws on; `null`: all of it. */
  poolId: id.nullable().default(null),
});
export type PriceLevel = z.infer<typeof priceLevelSchema>;

/** A booking fee: a share of the face value and a fixed part, in minor units, up to a cap; either added or absorbed. */
export const feeSchema = z.object({
  mode: z.enum(['added', 'absorbed']),
  /** Hundredths of a per cent: 450 is 4.5 %. */
  basisPoints: z.number().int().min(0).max(5000),
  fixed: z.number().int().min(0).max(1_000_000),
  cap: z.number().int().min(0).max(1_000_000).nullable(),
});
export type Fee = z.infer<typeof feeSchema>;

/** Where it is sold, in order of priority. */
export const outletSchema = z.object({
  id,
  name: line(60).min(1),
  /** The channel that sells it and gives the link; `null`: an outlet with a link of its own, or none. */
  channel: z.string().max(40).nullable().default(null),
  link: webAddress.nullable().default(null),
  /** Seats of one performance that this outlet holds; `null`: all that is left. */
  allocation: z.number().int().min(0).max(1_000_000).nullable().default(null),
  fee: feeSchema.nullable().default(null),
  /** Name of the address parameter that says through which channel a buyer came; empty: none. */
  trackAs: z
    .string()
    .regex(/^[a-z0-9_-]*$/i)
    .max(30)
    .default('via'),
});
export type Outlet = z.infer<typeof outletSchema>;

export const questionSchema = z.object({
  id,
  ask: line(300).min(1),
  answer: z.enum(['text', 'yes or no', 'one of']),
  choices: z.array(line(120).min(1)).max(30).default([]),
  needed: z.boolean().default(false),
});

export const registrationSchema = z.object({
  questions: z.array(questionSchema).max(30).default([]),
  limit: z.number().int().min(1).max(1_000_000).nullable().default(null),
  /** How one registers where there is no page for it, in public words: `write to bench@yard.example`, `call 555 0142`. */
  contact: line(120).default(''),
  /** The last day on which one can register; `null`: until it begins. */
  closes: isoDate.nullable().default(null),
  /** A person says yes to each. */
  approval: z.boolean().default(false),
  waitingList: z.boolean().default(false),
  /** What is written to those who got a place, did not, or wait. */
  yes: prose(2000).default(''),
  no: prose(2000).default(''),
  waiting: prose(2000).default(''),
});
export type Registration = z.infer<typeof registrationSchema>;

export const ticketsSchema = z.object({
  mode: z.enum(ticketModes),
  currency: z.enum(currencies),
  levels: z.array(priceLevelSchema).max(24),
  /** Where tickets are sold, when another house sells them; or where one registers. */
  link: webAddress.nullable(),
  pools: z
    .array(z.object({ id, name: line(60).min(1), seats: z.number().int().min(1).max(500_000) }))
    .max(20)
    .default([]),
  /** The event's own holds; `null`: those of the set-up. */
  holds: z.array(holdSchema).max(20).nullable().default(null),
  outlets: z.array(outletSchema).max(12).default([]),
  /** Refund terms in words. */
  refunds: prose(600).default(''),
  registration: registrationSchema.default(registrationSchema.parse({})),
});
export type Tickets = z.infer<typeof ticketsSchema>;
