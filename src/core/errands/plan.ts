import type { ChannelId, ListingId, RecordId } from '../base/ids';
import { groupBy } from '../base/group-by';
import { requestsFor, type ChannelRules } from '../listing/channel-rules';
import { equalOrAbsent, type FieldComparison, type ListingState } from '../listing/compare';
import type { LockGround, Operation } from '../listing/operations';
import { isDown, isKeptDraft, isOff, listedField, type Shown, type ShownValue } from '../listing/shown';
import { stops, type Finding } from '../findings/finding';
import type { Instant } from '../base/zones';
import { stepsFor, wholeOver, type Change, type LockedChange, type Way } from './steps';

/** A listing with all that the plan needs to know of it. */
export interface PlannableListing {
  listing: ListingId;
  record: RecordId;
  channel: ChannelId;
  rules: ChannelRules;
  wanted: Shown;
  findings: readonly Finding[];
  state: ListingState;
  comparison: readonly FieldComparison[];
  lock: LockGround;
  /** An errand for it is queued or running: what it needs next is planned when that has ended. */
  open: boolean;
  embargoUntil: Instant | null;
}

export interface PlannedErrand {
  listing: ListingId;
  record: RecordId;
  channel: ChannelId;
  op: Operation;
  changes: Change[];
  /** The channel whose ticket link it awaits; `null`: none. */
  awaits: string | null;
  /** Listings whose errands go along with it, because they give what it awaits. */
  needs: string[];
  notBefore: Instant | null;
  requests: number;
}

/** A listing that has something to send and may not go, with the reasons. */
export interface HeldListing {
  listing: ListingId;
  record: RecordId;
  channel: ChannelId;
  reasons: Finding[];
  /** The channel whose link it waits for, where that one cannot go. */
  waitsFor: string | null;
}

/** A listing of which something only goes by a way that a person picks. */
export interface LockedListing {
  listing: ListingId;
  record: RecordId;
  channel: ChannelId;
  locked: LockedChange[];
  ways: Way[];
}

export interface Plan {
  errands: PlannedErrand[];
  held: HeldListing[];
  locked: LockedListing[];
}

/**
 * What is to be sent, in order: records as they come, in each the channel that gives the link first. A listing
 * whose findings stop it, or whose upstream cannot go, is held and says why. What stands on a channel by
 * someone else's hand (drifted, at odds) is never sent over unasked. An unchanged plan is empty.
 */
export function plan(listings: readonly PlannableListing[]): Plan {
  const out: Plan = { errands: [], held: [], locked: [] };
  const going = new Map<string, string>();
  for (const one of giversFirst(listings)) {
    if (one.open) {
      if (one.state.sent === null) going.set(`${one.record} ${one.channel}`, one.listing);
      continue;
    }
    const steps = stepsFor(one);
    if (steps.locked.length > 0) out.locked.push({ ...identity(one), locked: steps.locked, ways: steps.ways });
    if (steps.changes.length === 0) continue;
    const awaits = allAwaited(steps.changes);
    const givers = awaits.map((from) => going.get(`${one.record} ${from}`) ?? null);
    const missing = awaits.find((_, i) => givers[i] === null) ?? null;
    if (stops(one.findings) || missing !== null) {
      const reasons = one.findings.filter((f) => f.weight === 'stops');
      out.held.push({ ...identity(one), reasons, waitsFor: missing });
      continue;
    }
    going.set(`${one.record} ${one.channel}`, one.listing);
    out.errands.push(
      makeErrand(
        one,
        steps.op,
        steps.changes,
        givers.filter((giver) => giver !== null),
      ),
    );
  }
  return out;
}

/** The errand that goes by a way that a person picked: what is locked, and what else is to send. */
export function byWay(one: PlannableListing, op: Operation): PlannedErrand {
  const steps = stepsFor(one);
  return makeErrand(
    one,
    op,
    [...steps.locked.map(({ key, before, after }) => ({ key, before, after })), ...steps.changes],
    [],
  );
}

/** The errand that sends ours again for chosen fields of a listing, over what stands there; of one that was deleted, all of it anew. */
export function overwrite(one: PlannableListing, keys: readonly string[]): PlannedErrand {
  if (one.state.gone) return makeErrand(one, 'place', wholeOver(one.wanted, null), []);
  const hides = isKeptDraft(one.wanted) && keys.includes(listedField);
  const hidden = isOff(one.state.observed?.[listedField]) && !isOff(one.wanted[listedField]);
  const changes = hidden
    ? wholeOver(one.wanted, one.state.sent)
    : one.comparison
        .filter((field) => (hides ? field.key === listedField : keys.includes(field.key)))
        .map(({ key, wanted, observed }) => ({ key, before: observed ?? null, after: wanted ?? null }));
  const op = isDown(one.wanted) || hides ? 'unpublish' : hidden ? 'publish' : 'amend';
  return makeErrand(one, op, changes, []);
}

function makeErrand(one: PlannableListing, op: Operation, changes: Change[], givers: string[]): PlannedErrand {
  return {
    ...identity(one),
    op,
    changes,
    awaits: awaitedFrom(changes),
    needs: givers,
    // What is taken down waits for no moment.
    notBefore: isDown(one.wanted) || op === 'unpublish' ? null : one.embargoUntil,
    requests: requestsFor(one.rules, op),
  };
}

function identity(one: PlannableListing) {
  return { listing: one.listing, record: one.record, channel: one.channel };
}

/** The channel whose link is awaited among these changes; `null`: none. */
export function awaitedFrom(changes: readonly Change[]): string | null {
  return allAwaited(changes)[0] ?? null;
}

/** Every channel that one of these changes awaits something of, once each. */
function allAwaited(changes: readonly Change[]): string[] {
  return awaitedAmong(changes.map((one) => one.after));
}

const nobody: string[] = [];

function awaitedAmong(values: Iterable<ShownValue | null>): string[] {
  let found: string[] = nobody;
  for (const value of values)
    if (value?.kind === 'awaited' && !found.includes(value.from)) found = [...found, value.from];
  return found;
}

/** True where what is wished for stands there already, by what was observed. */
export function standsThere(changes: readonly Change[], observed: Shown): boolean {
  return changes.every(({ key, after }) => equalOrAbsent(after, observed[key]));
}

/** Records as they come; in each, whoever gives comes before those that await it. Where they wait for each other in a circle, they come as they are: each of them is then held. */
function giversFirst(listings: readonly PlannableListing[]): PlannableListing[] {
  const byPlace = groupBy(listings, (one) => `${one.record} ${one.channel}`);
  const out: PlannableListing[] = [];
  const seen = new Set<PlannableListing>();
  const visit = (one: PlannableListing) => {
    if (seen.has(one)) return;
    seen.add(one);
    for (const from of awaitedAmong(Object.values(one.wanted)))
      for (const giver of byPlace.get(`${one.record} ${from}`) ?? []) visit(giver);
    out.push(one);
  };
  const order = new Map<string, number>();
  for (const one of listings) if (!order.has(one.record)) order.set(one.record, order.size);
  // What others await goes before the rest of its record, wherever its channel stands.
  const rank = (one: PlannableListing) =>
    (order.get(one.record) ?? 0) * 2 + (one.rules.gives.some((gift) => gift !== 'public address') ? 0 : 1);
  const sorted = listings.map((one, i) => ({ one, i })).sort((a, b) => rank(a.one) - rank(b.one) || a.i - b.i);
  for (const { one } of sorted) visit(one);
  return out;
}
