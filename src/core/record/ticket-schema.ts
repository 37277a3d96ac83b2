import { z } from 'zod';
import { holdSchema } from './directory';
import { currencies } from '../base/money';
import { saying, textOf } from '../base/problems';
import { quoted } from '../base/quoted';
import { isoDate, line, minorUnits, named, prose, timeOfDay, webAddress, whole } from '../base/scalars';
import { ticketModes, buyers, answers, asked } from './choices';

const id = z.string().min(1).max(64);

/** One end of a sale window: a local date and time, or so long before the start. */
const windowEndSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('at'), date: isoDate, time: timeOfDay }),
  /** Days are counted in the calendar (same time of day); hours exactly. */
  z.object({
    kind: z.literal('before'),
    amount: whole(0, 1000, 'number of days or hours'),
    unit: z.enum(['days', 'hours']),
  }),
]);
export type WindowEnd = z.infer<typeof windowEndSchema>;

/**
 * Which performances one purchase of a level lets in to: the one it is bought for, all, any so many, or those that are
 * named.
 */
const coversSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('one') }),
  z.object({ kind: z.literal('all') }),
  z.object({ kind: z.literal('any'), n: whole(2, 100, 'number of dates') }),
  z.object({ kind: z.literal('chosen'), ids: z.array(id).min(2, 'Choose two or more.').max(200) }),
]);
export type Covers = z.infer<typeof coversSchema>;

const priceLevelSchema = z.object({
  id,
  name: named(60),
  /** Face value in minor units of the record's currency; with `choose` the least that is taken. */
  price: minorUnits(),
  buyers: z.enum(buyers).default('anyone'),
  /** The code that opens a level for code holders. */
  code: line(60).default(''),
  /** Purchases of this level for one performance; `null`: as many as the pool holds. */
  quantity: whole(1, 1_000_000, 'number of tickets').nullable(),
  /** People that one purchase admits. */
  admits: whole(1, 50, 'number of people').default(1),
  /** Fewest and most purchases in one order. */
  least: whole(1, 1000, 'number of tickets').default(1),
  most: whole(1, 1000, 'number of tickets').nullable().default(null),
  opens: windowEndSchema.nullable().default(null),
  closes: windowEndSchema.nullable().default(null),
  /** The share of the price that is tax, in hundredths of a per cent (750 is 7.5 %); `null`: the seller's own. */
  taxBasisPoints: whole(0, 5000, 'tax rate').nullable().default(null),
  /** Pay what you like, from `price` upwards. */
  choose: z.boolean().default(false),
  /** The part of the house that it draws on; `null`: all of it. */
  poolId: id.nullable().default(null),
  /** What it is, in public words: `stalls, unreserved; with a glass of wine`. */
  words: prose(300).default(''),
  covers: coversSchema.default({ kind: 'one' }),
});
export type PriceLevel = z.infer<typeof priceLevelSchema>;

/** A booking fee: a share of the face value and a fixed part, in minor units, up to a cap; either added or absorbed. */
const feeSchema = z.object({
  mode: z.enum(['added', 'absorbed']),
  /** Hundredths of a per cent: 450 is 4.5 %. */
  basisPoints: whole(0, 5000, 'share of a price'),
  fixed: minorUnits(0, 1_000_000),
  cap: minorUnits(0, 1_000_000).nullable(),
});
export type Fee = z.infer<typeof feeSchema>;

/** Where it is sold, in order of priority. */
const outletSchema = z.object({
  id,
  name: named(60),
  /** The channel that sells it and gives the link; `null`: an outlet with a link of its own, or none. */
  channel: z.string().max(40).nullable().default(null),
  link: webAddress.nullable().default(null),
  /** Seats of one performance that this outlet holds; `null`: all that is left. */
  allocation: whole(0, 1_000_000, 'number of seats').nullable().default(null),
  fee: feeSchema.nullable().default(null),
  /** Name of the address parameter that says through which channel a buyer came; empty: none. */
  trackAs: z
    .string()
    .regex(/^[a-z0-9_-]*$/i)
    .max(30)
    .default('via'),
});
export type Outlet = z.infer<typeof outletSchema>;

/** Sold with a ticket, and admits nobody: a meal, a shirt. */
const extraSchema = z.object({
  id,
  name: named(60),
  /** In minor units of the record's currency. */
  price: minorUnits(),
  /** So many in all; `null`: as many as are wanted. */
  quantity: whole(1, 1_000_000, 'number of tickets').nullable().default(null),
  words: prose(300).default(''),
});
export type Extra = z.infer<typeof extraSchema>;

/** Takes something off a price, for who knows its word. */
const couponSchema = z.object({
  id,
  code: named(40, 'Give the coupon a code.'),
  off: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('percent'), percent: whole(1, 100, 'share in per cent') }),
    /** In minor units of the record's currency, off each ticket. */
    z.object({ kind: z.literal('amount'), minor: minorUnits(1) }),
  ]),
  /** So often in all; `null`: as often as one likes. */
  uses: whole(1, 1_000_000, 'number of uses').nullable().default(null),
  /** First and last day on which it counts, in the event's zone. */
  from: isoDate.nullable().default(null),
  until: isoDate.nullable().default(null),
  /** The price levels that it counts for; none named: all. */
  levels: z.array(id).max(24).default([]),
});
export type Coupon = z.infer<typeof couponSchema>;

export const questionSchema = z.object({
  id,
  ask: named(300),
  answer: z.enum(answers),
  choices: z.array(line(120).min(1)).max(30).default([]),
  needed: z.boolean().default(false),
  of: z.enum(asked).default('buyer'),
  /** What one says yes to, word for word, where a consent is asked. */
  consent: prose(2000).default(''),
});
export type Question = z.infer<typeof questionSchema>;

export const registrationSchema = z.object({
  limit: whole(1, 1_000_000, 'number of places').nullable().default(null),
  /**
   * How one registers where there is no page for it, in public words: `write to bench@yard.example`, `call 555 0142`.
   */
  contact: line(120).default(''),
  /** The last day on which one can register; `null`: until it begins. */
  closes: isoDate.nullable().default(null),
  /** A person says yes to each. */
  approval: z.boolean().default(false),
  waitingList: z.boolean().default(false),
  /** One registration counts for all performances: a course. */
  onceForAll: z.boolean().default(false),
  /** What is written to those who got a place, did not, or wait. */
  yes: prose(2000).default(''),
  no: prose(2000).default(''),
  waiting: prose(2000).default(''),
});
export type Registration = z.infer<typeof registrationSchema>;

export const ticketsSchema = z.object({
  mode: z.enum(ticketModes),
  currency: saying(z.enum(currencies), (value) => ({
    code: 'value-refused',
    detail: `${quoted(textOf(value))} is no currency of ISO 4217`,
  })),
  levels: z.array(priceLevelSchema).max(24),
  /** Where tickets are sold, when another house sells them; or where one registers. */
  link: webAddress.nullable(),
  pools: z
    .array(z.object({ id, name: named(60), seats: whole(1, 500_000, 'number of seats') }))
    .max(20)
    .default([]),
  /** The event's own holds; `null`: those of the set-up. */
  holds: z.array(holdSchema).max(20).nullable().default(null),
  outlets: z.array(outletSchema).max(12).default([]),
  /** What the house adds to each ticket that costs something, as a line of its own, in minor units; `null`: nothing. */
  serviceFee: minorUnits(1, 1_000_000).nullable().default(null),
  /** What the seller's letter says to who bought, in our words; and to who bought several, where that is another. */
  letter: z
    .object({ words: prose(1000).default(''), several: prose(1000).default('') })
    .default({ words: '', several: '' }),
  /**
   * Never more seats of one performance than this over all levels, whatever the room holds; `null`: what the room
   * holds.
   */
  total: whole(1, 500_000, 'number of seats').nullable().default(null),
  /** Most tickets in one order over all levels. */
  mostPerOrder: whole(1, 1000, 'number of tickets').nullable().default(null),
  /** When booking closes, for every level that says nothing else; and why, for ourselves. */
  closes: windowEndSchema.nullable().default(null),
  closesWhy: line(200).default(''),
  extras: z.array(extraSchema).max(20).default([]),
  coupons: z.array(couponSchema).max(20).default([]),
  /** How members show that they are: `with the card at the door`. */
  membersProof: line(120).default(''),
  /** Whether prices hold a tax: said to the public only where it is known. */
  tax: z.enum(['unsaid', 'included', 'none']).default('unsaid'),
  /** From so few seats on, the public reads how many are left; `null`: never. */
  showLeft: whole(1, 500_000, 'number of seats').nullable().default(null),
  /** What is asked of those who order or register. */
  questions: z.array(questionSchema).max(30).default([]),
  /** Refund terms in words. */
  refunds: prose(600).default(''),
  registration: registrationSchema.default(registrationSchema.parse({})),
});
export type Tickets = z.infer<typeof ticketsSchema>;
