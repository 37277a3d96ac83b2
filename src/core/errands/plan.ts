import type { FieldComparison, ListingState } from '../listing/compare';
import { stops, type Finding } from '../findings/finding';
import { fingerprint } from '../base/hash';
import { listedField, type Shown, type ShownValue } from '../listing/shown';
import type { Instant } from '../base/zones';

/** What an errand does on its channel. */
export type Operation = 'place' | 'amend' | 'withdraw' | 'renew';

/** One field that an errand changes. */
export interface Change {
  key: string;
  before: ShownValue | null;
  after: ShownValue | null;
}

/** A listing with all that the plan needs to know of it. */
export interface PlannableListing {
  listing: string;
  record: string;
  channel: string;
  wanted: Shown;
  findings: readonly Finding[];
  state: ListingState;
  comparison: readonly FieldComparison[];
  /** An errand for it is queued or running: what it needs next is planned when that has ended. */
  open: boolean;
  embargoUntil: Instant | null;
}

export interface PlannedErrand {
  listing: string;
  record: string;
  channel: string;
  op: Operation;
  changes: Change[];
  /** Listings whose errands must have ended well before this one goes. */
  needs: string[];
  notBefore: Instant | null;
  requests: number;
  /** When the listing was last sent and seen: the ground that the wish stands on. */
  ground: (Instant | null)[];
}

/** An errand's idempotency key: the same wish on the same ground gives the same key. */
export function errandKey({ listing, op, changes, ground }: PlannedErrand): string {
  return fingerprint([listing, op, changes.map(({ key, after }) => [key, after]), ground]);
}

/** A listing that has something to send and may not go, with the reasons. */
export interface HeldListing {
  listing: string;
  record: string;
  channel: string;
  reasons: Finding[];
  /** The channel whose link it waits for, where that one cannot go. */
  waitsFor: string | null;
}

export interface Plan {
  errands: PlannedErrand[];
  held: HeldListing[];
}

/** The part of a channel's rules that the plan reads. */
export interface PlanRules {
  givesLink: boolean;
  requests: Record<Operation, number>;
}

/**
 * What is to be sent, in order: records as they come, in each the channel that gives the link first. A listing
 * whose findings stop it, or whose upstream cannot go, is held and says why. What stands on a channel by
 * someone else's hand (drifted, at odds) is never sent over unasked. An unchanged plan is empty.
 */
export function plan(listings: readonly PlannableListing[], rules: ReadonlyMap<string, PlanRules>): Plan {
  const errands: PlannedErrand[] = [];
  const held: HeldListing[] = [];
  const going = new Map<string, string>();
  for (const one of upstreamFirst(listings, rules)) {
    const changes = changesOf(one);
    if (one.open) {
      if (one.state.sent === null) going.set(`${one.record} ${one.channel}`, one.listing);
      continue;
    }
    if (changes.length === 0) continue;
    const awaited = awaitedFrom(changes);
    const upstream = awaited === null ? null : (going.get(`${one.record} ${awaited}`) ?? null);
    if (stops(one.findings) || (awaited !== null && upstream === null)) {
      held.push({
        ...identity(one),
        reasons: one.findings.filter((f) => f.weight === 'stops'),
        waitsFor: upstream ? null : awaited,
      });
      continue;
    }
    going.set(`${one.record} ${one.channel}`, one.listing);
    errands.push(makeErrand(one, changes, upstream, rules));
  }
  return { errands, held };
}

/** The errand that sends ours again for chosen fields of a listing, over what stands there. */
export function overwrite(
  one: PlannableListing,
  keys: readonly string[],
  rules: ReadonlyMap<string, PlanRules>,
): PlannedErrand {
  const gone = one.comparison.some(
    (field) => field.key === listedField && field.observed?.kind === 'flag' && !field.observed.on,
  );
  const changes = gone
    ? allOf(one.wanted, one.state.observed)
    : one.comparison
        .filter((field) => keys.includes(field.key))
        .map(({ key, wanted, observed }) => ({ key, before: observed ?? null, after: wanted ?? null }));
  return makeErrand(one, changes, null, rules);
}

function makeErrand(
  one: PlannableListing,
  changes: Change[],
  upstream: string | null,
  rules: ReadonlyMap<string, PlanRules>,
): PlannedErrand {
  const op = operationOf(one);
  return {
    ...identity(one),
    op,
    changes,
    needs: upstream === null ? [] : [upstream],
    notBefore: op === 'withdraw' ? null : one.embargoUntil,
    requests: rules.get(one.channel)?.requests[op] ?? 1,
    ground: [one.state.sentAt, one.state.observedAt],
  };
}

function identity(one: PlannableListing) {
  return { listing: one.listing, record: one.record, channel: one.channel };
}

function operationOf(one: PlannableListing): Operation {
  const listed = one.wanted[listedField];
  if (listed?.kind === 'flag' && !listed.on) return 'withdraw';
  if (one.state.sent === null) return 'place';
  return one.comparison.some((field) => field.outcome === 'lapsing') && toSendOf(one).length === 0 ? 'renew' : 'amend';
}

function changesOf(one: PlannableListing): Change[] {
  const listed = one.wanted[listedField];
  const off = listed?.kind === 'flag' && !listed.on;
  if (one.state.sent === null) return off ? [] : allOf(one.wanted, null);
  const sentListed = one.state.sent[listedField];
  const wasOff = sentListed?.kind === 'flag' && !sentListed.on;
  const toSend = toSendOf(one);
  // Coming back after being taken down: what changed meanwhile was not compared, so all of it goes.
  if (wasOff && !off && toSend.length > 0) return allOf(one.wanted, one.state.sent);
  // What lapses is renewed by an errand of its own, when nothing else is to say.
  const going = toSend.length > 0 ? toSend : one.comparison.filter((field) => field.outcome === 'lapsing');
  return going.map(({ key, wanted, sent }) => ({ key, before: sent ?? null, after: wanted ?? null }));
}

function toSendOf(one: PlannableListing): FieldComparison[] {
  return one.comparison.filter((field) => field.outcome === 'to-send');
}

function allOf(wanted: Shown, before: Shown | null): Change[] {
  return Object.entries(wanted).map(([key, after]) => ({ key, before: before?.[key] ?? null, after }));
}

function awaitedFrom(changes: readonly Change[]): string | null {
  for (const { after } of changes) if (after?.kind === 'awaited') return after.from;
  return null;
}

function upstreamFirst(
  listings: readonly PlannableListing[],
  rules: ReadonlyMap<string, PlanRules>,
): PlannableListing[] {
  const order = new Map<string, number>();
  for (const one of listings) if (!order.has(one.record)) order.set(one.record, order.size);
  const rank = (one: PlannableListing) =>
    (order.get(one.record) ?? 0) * 2 + (rules.get(one.channel)?.givesLink ? 0 : 1);
  return listings
    .map((one, i) => ({ one, i }))
    .sort((a, b) => rank(a.one) - rank(b.one) || a.i - b.i)
    .map(({ one }) => one);
}
