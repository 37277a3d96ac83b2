import type { ChannelId, ListingId, RecordId } from '../base/ids';
import type { Instant } from '../base/zones';
import type { Operation, OperationRow, Undo } from '../listing/operations';
import { seenBy, takenBy, type ByWhen } from '../listing/shows';
import { splitKey } from '../listing/shown';
import type { PlannedErrand } from './plan';
import type { Change } from './steps';
import type { SurveyedListing } from './surveyed';

/**
 * What is foretold of one errand, or of what shows another channel's word: by when it is seen, who is told of it, and
 * what stays wrong. It is shown before a yes, kept with the dispatch, and held against what happened.
 */
export interface Foreseen {
  listing: ListingId;
  record: RecordId;
  channel: ChannelId;
  /** `null`: nothing is sent there; it shows what another channel was told. */
  op: Operation | null;
  changes: readonly Change[];
  /** It goes behind a step that a person picks for another listing of the event. */
  behindStep: boolean;
  /** It waits for this moment; `null`: for none. */
  notBefore: Instant | null;
  by: ByWhen;
  tells: OperationRow['tells'];
  /** How many that are, where the channel counts them; `null`: not known, or nobody. */
  told: number | null;
  undo: Undo;
  /** Keys that stay as they are there, for good or until somebody decides. */
  leaves: readonly string[];
}

/** What foretelling goes by. */
export interface ForeseeingGround {
  now: Instant;
  /** How long nine in ten took to be seen lately, in ms, by channel: as measured. */
  usual: ReadonlyMap<string, number>;
}

/** Foretells an errand of a listing. `behindStep`: it waits until another one was answered. */
export function foresee(
  listing: SurveyedListing,
  errand: Pick<PlannedErrand, 'op' | 'changes' | 'notBefore'>,
  { now, usual }: ForeseeingGround,
  behindStep: boolean,
): Foreseen {
  const { rules, lock } = listing;
  const row = rules.operations.find((operation) => operation.op === errand.op);
  const fields = errand.changes.map(({ key }) => splitKey(key).field);
  const told = takenBy(Math.max(now, errand.notBefore ?? now), behindStep ? 1 : 0);
  const tells = row?.tells ?? 'nobody';
  const sent = new Set(errand.changes.map(({ key }) => key));
  return {
    listing: listing.id,
    record: listing.record,
    channel: listing.channel,
    op: errand.op,
    changes: errand.changes,
    behindStep,
    notBefore: errand.notBefore,
    by: seenBy(rules, told, fields, usual.get(listing.channel) ?? null),
    tells,
    told: tells === 'buyers' ? lock.sold : null,
    undo: row?.undo ?? { how: 'wholly' },
    leaves: listing.steps.locked.map(({ key }) => key).filter((key) => !sent.has(key)),
  };
}

/**
 * Foretells what shows another channel's word, where that one is told something. `sources`: the channel whose word
 * another shows, by the id of that other.
 */
export function foreseeMirrors(
  listings: readonly SurveyedListing[],
  sources: ReadonlyMap<string, string>,
  told: readonly Foreseen[],
): Foreseen[] {
  const showing = listings.filter(({ rules, standing }) => rules.mirrors !== null && standing !== null);
  if (showing.length === 0) return [];
  const placeOf = (channel: string | undefined, { performanceIds }: SurveyedListing) =>
    `${channel} ${performanceIds.join()}`;
  const givers = new Map(listings.map((listing) => [placeOf(listing.channel, listing), listing.id]));
  const byListing = new Map(told.map((item) => [item.listing, item.by]));
  return showing.flatMap((listing) => {
    const giver = givers.get(placeOf(sources.get(listing.channel), listing));
    const by = giver && byListing.get(giver);
    const made = by && foreseeMirror(listing, by);
    return made && made.changes.length > 0 ? [made] : [];
  });
}

function foreseeMirror(listing: SurveyedListing, source: ByWhen): Foreseen {
  const changes = listing.comparison
    .filter(({ outcome }) => outcome === 'to-send' || outcome === 'not-placed')
    .map(({ key, wanted, sent }): Change => ({ key, before: sent ?? null, after: wanted ?? null }));
  return {
    listing: listing.id,
    record: listing.record,
    channel: listing.channel,
    op: null,
    changes,
    behindStep: false,
    notBefore: null,
    by: seenBy(
      listing.rules,
      source,
      changes.map(({ key }) => splitKey(key).field),
    ),
    tells: 'nobody',
    told: null,
    undo: { how: 'wholly' },
    leaves: [],
  };
}
