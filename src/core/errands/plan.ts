import type { ChannelId, ListingId, RecordId } from '../base/ids';
import { groupBy } from '../base/group-by';
import { requestsFor } from '../listing/channel-rules';
import type { Operation } from '../listing/operations';
import { isDown, isKeptDraft, isOff, listedField, listedState, splitKey, type ShownValue } from '../listing/shown';
import type { Finding } from '../findings/finding';
import type { Instant } from '../base/zones';
import { mayDelete, wholeOver, type Change, type LockedChange, type Way } from './steps';
import type { SurveyedListing } from './surveyed';

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

/** A listing of which an errand is queued or under way, with what is to be said beyond that once it has ended. */
export interface BusyListing {
  listing: ListingId;
  record: RecordId;
  channel: ChannelId;
  /** The errand that goes behind the one under way; `null`: there is nothing more to say, as far as is known. */
  next: PlannedErrand | null;
}

export interface Plan {
  errands: PlannedErrand[];
  held: HeldListing[];
  locked: LockedListing[];
  busy: BusyListing[];
}

const undecidedBut: ReadonlySet<string> = new Set();

/**
 * What is to be sent, in order: records as they come, in each the channel that gives the link first. A listing
 * whose findings stop it, or whose upstream cannot go, is held and says why. What stands on a channel by
 * someone else's hand (drifted, at odds) is never sent over unasked. An unchanged plan is empty. `decided`: locked
 * listings on which a person decides along with this plan; they hold up nothing.
 */
export function plan(listings: readonly SurveyedListing[], decided = undecidedBut): Plan {
  const out: Plan = { errands: [], held: [], locked: [], busy: [] };
  const going = new Map<string, string>();
  for (const listing of giversFirst(listings.filter((surveyedListing) => surveyedListing.standing !== null))) {
    const { steps } = listing;
    if (listing.errand === 'open') {
      if (listing.state.sent === null) going.set(`${listing.record} ${listing.channel}`, listing.id);
      const next = steps.changes.length > 0 ? makeErrand(listing, steps.op, steps.changes, []) : null;
      out.busy.push({ ...identity(listing), next });
      continue;
    }
    if (steps.locked.length > 0) out.locked.push({ ...identity(listing), locked: steps.locked, ways: steps.ways });
    if (steps.changes.length === 0) continue;
    const awaits = allAwaited(steps.changes);
    const givers = awaits.map((from) => going.get(`${listing.record} ${from}`) ?? null);
    const missing = awaits.find((_, i) => givers[i] === null) ?? null;
    const reasons = listing.findings.filter((finding) => holdsUp(finding, decided));
    if (reasons.length > 0 || missing !== null) {
      out.held.push({ ...identity(listing), reasons, waitsFor: missing });
      continue;
    }
    going.set(`${listing.record} ${listing.channel}`, listing.id);
    out.errands.push(
      makeErrand(
        listing,
        steps.op,
        steps.changes,
        givers.filter((giver) => giver !== null),
      ),
    );
  }
  return out;
}

/**
 * True where a finding keeps a listing from being sent. What waits for a decision on a lock is free where that is made
 * along with it.
 */
function holdsUp(finding: Finding, decided: ReadonlySet<string>): boolean {
  if (finding.weight !== 'stops') return false;
  return finding.code !== 'lock-undecided' || finding.listings.some((id) => !decided.has(id));
}

/**
 * The errand that goes by a way that a person picked: what is locked and that way changes, and what else is to send.
 * What it does not change stays.
 */
export function byWay(listing: SurveyedListing, op: Operation): PlannedErrand {
  const { locked, changes } = listing.steps;
  const fields = listing.rules.operations.find((row) => row.op === op)?.fields;
  const mine = locked.filter(({ key }) => !Array.isArray(fields) || fields.includes(splitKey(key).field));
  return makeErrand(listing, op, [...mine.map((change) => bringsTo(listing, op, change)), ...changes], []);
}

/** The errand that deletes a listing where it stands, taken down already or not; no changes: it is to be seen there. */
export function deletion(listing: SurveyedListing): PlannedErrand {
  const { wanted, state } = listing;
  const before = state.sent?.[listedField] ?? null;
  const changes = mayDelete(wanted) ? [{ key: listedField, before, after: wanted[listedField] ?? null }] : [];
  return makeErrand(listing, 'remove', changes, []);
}

/** A change as the operation makes it: a plainer step than the one asked for leads to a state of its own. */
function bringsTo({ rules, wanted }: SurveyedListing, op: Operation, { key, before, after }: Change): Change {
  const leadsTo = rules.operations.find((row) => row.op === op)?.leadsTo;
  const [state] = leadsTo ?? [];
  if (key !== listedField || state === undefined || leadsTo?.includes(listedState(wanted)))
    return { key, before, after };
  return { key, before, after: { kind: 'state', is: state } };
}

/**
 * The errand that sends ours again for chosen fields of a listing, over what stands there; of one that was deleted, all
 * of it anew.
 */
export function overwrite(listing: SurveyedListing, keys: readonly string[]): PlannedErrand {
  if (listing.state.gone) return makeErrand(listing, 'place', wholeOver(listing.wanted, null), []);
  const hides = isKeptDraft(listing.wanted) && keys.includes(listedField);
  const hidden = isOff(listing.state.observed?.[listedField]) && !isOff(listing.wanted[listedField]);
  const changes = hidden
    ? wholeOver(listing.wanted, listing.state.sent)
    : listing.comparison
        .filter((field) => (hides ? field.key === listedField : keys.includes(field.key)))
        .map(({ key, wanted, observed }) => ({ key, before: observed ?? null, after: wanted ?? null }));
  // What is cancelled is cancelled again, never merely taken down.
  const off =
    listing.rules.operations.find((row) => row.leadsTo?.includes(listedState(listing.wanted)))?.op ?? 'unpublish';
  const op = isDown(listing.wanted) || hides ? off : hidden ? 'publish' : 'amend';
  return makeErrand(listing, op, changes, []);
}

function makeErrand(listing: SurveyedListing, op: Operation, changes: Change[], givers: string[]): PlannedErrand {
  return {
    ...identity(listing),
    op,
    changes,
    awaits: awaitedFrom(changes),
    needs: givers,
    // What is taken down waits for no moment.
    notBefore: isDown(listing.wanted) || op === 'unpublish' ? null : listing.embargoUntil,
    requests: requestsFor(listing.rules, op),
  };
}

function identity({ id, record, channel }: SurveyedListing) {
  return { listing: id, record, channel };
}

/** The channel whose link is awaited among these changes; `null`: none. */
export function awaitedFrom(changes: readonly Change[]): string | null {
  return allAwaited(changes)[0] ?? null;
}

/** Every channel that one of these changes awaits something of, once each. */
function allAwaited(changes: readonly Change[]): string[] {
  return awaitedAmong(changes.map((change) => change.after));
}

const nobody: string[] = [];

function awaitedAmong(values: Iterable<ShownValue | null>): string[] {
  let found: string[] = nobody;
  for (const value of values)
    if (value?.kind === 'awaited' && !found.includes(value.from)) found = [...found, value.from];
  return found;
}

/**
 * Records as they come; in each, whoever gives comes before those that await it. Where they wait for each other in a
 * circle, they come as they are: each of them is then held.
 */
function giversFirst(listings: readonly SurveyedListing[]): SurveyedListing[] {
  const byPlace = groupBy(listings, (listing) => `${listing.record} ${listing.channel}`);
  const out: SurveyedListing[] = [];
  const seen = new Set<SurveyedListing>();
  const visit = (listing: SurveyedListing) => {
    if (seen.has(listing)) return;
    seen.add(listing);
    for (const from of awaitedAmong(Object.values(listing.wanted)))
      for (const giver of byPlace.get(`${listing.record} ${from}`) ?? []) visit(giver);
    out.push(listing);
  };
  const order = new Map<string, number>();
  for (const listing of listings) if (!order.has(listing.record)) order.set(listing.record, order.size);
  // What others await goes before the rest of its record, wherever its channel stands.
  const rank = (listing: SurveyedListing) =>
    (order.get(listing.record) ?? 0) * 2 + (listing.rules.gives.some((gift) => gift !== 'public address') ? 0 : 1);
  const sorted = listings
    .map((listing, i) => ({ one: listing, i }))
    .sort((a, b) => rank(a.one) - rank(b.one) || a.i - b.i);
  for (const { one } of sorted) visit(one);
  return out;
}

const inPeace: ReadonlySet<string> = new Set(['pencilled', 'not-connected']);

/** True where what cannot go is so because a person means it to be: it is pencilled, or its channel is not connected. */
export function waitsInPeace({ reasons }: Pick<HeldListing, 'reasons'>): boolean {
  return reasons.every((reason) => inPeace.has(reason.code));
}
