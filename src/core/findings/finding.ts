import type { Instant } from '../base/zones';

/** How much a finding matters: *stops* forbids saving or sending, *warns* asks for a look, *notes* informs. */
export type Weight = 'stops' | 'warns' | 'notes';

/** What was noticed, with the evidence. Words are put to it by `findingWords`. */
export type FindingFact =
  | { code: 'title-empty' }
  | { code: 'text-too-long'; length: number; limit: number }
  | { code: 'date-malformed'; text: string }
  | { code: 'time-malformed'; text: string }
  | { code: 'start-empty' }
  | { code: 'end-before-start'; start: string; end: string }
  | { code: 'doors-after-start'; doors: string; start: string }
  | { code: 'time-skipped'; time: string; date: string; zone: string; before: string; after: string }
  | { code: 'time-twice'; time: string; date: string; zone: string }
  | { code: 'zone-unknown'; zone: string }
  | { code: 'venue-unknown' }
  | { code: 'room-unknown' }
  | { code: 'name-empty' }
  | { code: 'price-malformed'; text: string; currency: string }
  | { code: 'quantity-malformed'; text: string }
  | { code: 'link-malformed'; text: string }
  | { code: 'too-many'; count: number; limit: number }
  | { code: 'value-refused'; detail: string }
  | { code: 'shown-shorter'; length: number; limit: number }
  | { code: 'needed-empty'; label: string }
  | { code: 'price-none' }
  | { code: 'venue-none' }
  | { code: 'picture-none'; ratio: string }
  | { code: 'picture-small'; have: number; need: number }
  | { code: 'picture-shape'; kept: number; ratio: string }
  | { code: 'alt-empty' }
  | { code: 'category-unmapped'; kind: string }
  | { code: 'link-awaited'; from: string }
  | { code: 'not-public' }
  | { code: 'pencilled' }
  | { code: 'unlisted-here' }
  | { code: 'moment-unclear'; what: string }
  | { code: 'twice-there'; address: string }
  | { code: 'gone-there' }
  | { code: 'unread-there'; since: Instant }
  | { code: 'locked-there'; label: string; why: string }
  | { code: 'link-closed'; name: string }
  | { code: 'embargoed'; until: Instant; zone: string }
  | { code: 'all-past' }
  | { code: 'not-connected' }
  | { code: 'performances-none' }
  | { code: 'carried-over'; facts: string[] }
  | { code: 'over-allocated'; over: number; allocated: number; pool: number }
  | { code: 'oversold'; over: number; pool: number }
  | { code: 'house-strained'; date: string; over: number; oversold: number; pool: number; more: number }
  | { code: 'sale-never-open'; level: string }
  | { code: 'level-unbuyable'; level: string }
  | { code: 'code-empty'; level: string }
  | { code: 'sale-after-start'; level: string }
  | { code: 'order-impossible'; level: string; least: number; most: number }
  | { code: 'token-broken'; detail: string }
  | { code: 'token-unknown'; token: string }
  | { code: 'token-empty'; token: string }
  | { code: 'override' }
  | { code: 'override-behind'; from: string; now: string }
  | { code: 'shown-fitted'; length: number; limit: number; how: string }
  | { code: 'date-imprecise'; known: string }
  | { code: 'notice-unfit'; needs: number; limit: number }
  | { code: 'goes-later'; until: Instant; zone: string }
  | { code: 'lapsing'; label: string; at: Instant; zone: string }
  | { code: 'picture-cuts'; px: number; ratio: string }
  | { code: 'picture-portrait'; kept: number; ratio: string }
  | { code: 'credit-empty' }
  | { code: 'drafted'; lengths: string[] }
  | { code: 'last-before-first' }
  | { code: 'set-up-unknown' }
  | { code: 'buyers-unsaid' }
  | { code: 'registration-nowhere' }
  | { code: 'registration-over'; closes: string }
  | { code: 'join-public'; field: string }
  | { code: 'levels-over'; sum: number; pool: number; split: string }
  | { code: 'parts-over'; sum: number; pool: number }
  | { code: 'fee-malformed'; text: string }
  | { code: 'number-malformed'; text: string; what: string };

/** One thing noticed: where, how much it matters, and the evidence. `field` is a record path or a shown field. */
export type Finding = { field: string; weight: Weight } & FindingFact;

/** Makes a finding. */
export function finding(field: string, weight: Weight, fact: FindingFact): Finding {
  return { field, weight, ...fact };
}

/** True where any finding forbids going on. */
export function stops(findings: readonly Finding[]): boolean {
  return findings.some((one) => one.weight === 'stops');
}
