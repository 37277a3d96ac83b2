import type { Channel } from '@/channels/channels';
import type { SurveyedListing } from '@/channels/survey';
import { awaitedFrom, byWay, overwrite } from '@/core/errands/plan';
import { sameWish, stepsFor, type Change } from '@/core/errands/steps';
import { findingWords } from '@/core/findings/finding-words';
import { downWords } from '@/core/listing/gates';
import type { Operation } from '@/core/listing/operations';
import { isDown, isKeptDraft, isOff, listedField, splitKey } from '@/core/listing/shown';
import { channelById, type House } from '@/house/house';
import { plannableOf, surveyById, type SurveyedRecord } from '@/house/survey';
import type { Errand } from '@/store/errands';
import { listingById, type Listing } from '@/store/listings';

/** Everything that carrying out an errand needs to know, as it is now. */
export interface Ground {
  channel: Channel;
  record: SurveyedRecord;
  surveyed: SurveyedListing;
  listing: Listing;
}

/** What is to be done for an errand, by what the record says now. */
export type Decision =
  | { do: 'send'; ground: Ground; op: Operation; changes: Change[]; followed: string | null }
  | { do: 'look'; ground: Ground }
  | { do: 'drop'; why: string }
  | { do: 'nothing'; why: string }
  | { do: 'wait'; for: 'moment'; until: number }
  | { do: 'wait'; for: 'gift'; from: string }
  | { do: 'ask'; kind: 'held' | 'locked' | 'conflict' | 'gone' | 'not-connected'; why: string; field: string | null };

/**
 * Walks the line again for an errand that was claimed: the record as it is *now*, the same gates as the plan. The record is
 * never gone beyond: where it says less by now, less is done; where it says something else, that is sent, if who saved it
 * may send.
 */
export function walk(house: House, errand: Errand): Decision {
  const channel = channelById(house, errand.channel);
  const listing = listingById(house.db, errand.listingId);
  const record = surveyById(house, errand.recordId);
  const surveyed = record?.survey.listings.find((one) => one.id === errand.listingId);
  if (!channel || !channel.row.connected)
    return {
      do: 'ask',
      kind: 'not-connected',
      why: `${channel?.rules.name ?? errand.channel} is not connected`,
      field: null,
    };
  if (!record || !surveyed || !listing)
    return { do: 'drop', why: 'the record, or this part of it, is not there any more' };
  const ground: Ground = { channel, record, surveyed, listing };
  if (errand.twin !== null) return takeTwinDown(errand, ground);
  // Whatever is wished for: what may stand there by a lost answer is asked for first.
  if (listing.doubt !== null) return { do: 'look', ground };
  return goesOutOfSight(surveyed) ? takeDown(house, errand, ground) : show(house, errand, ground);
}

/** It is to be taken down there, or to be a draft again where it stands in public. */
function goesOutOfSight({ wanted, comparison, state }: SurveyedListing): boolean {
  const listed = comparison.find((one) => one.key === listedField);
  return isDown(wanted) || (isKeptDraft(wanted) && state.sent !== null && listed?.outcome === 'to-send');
}

/** It is about another place where the listing stands: that is taken down, whatever the record says. */
function takeTwinDown(errand: Errand, ground: Ground): Decision {
  const twin = ground.listing.twins.find((one) => one.id === errand.twin);
  if (!twin) return { do: 'nothing', why: 'it does not stand there a second time any more' };
  return { do: 'send', ground, op: 'unpublish', changes: errand.changes, followed: null };
}

/** The record says that it is not to be seen there. */
function takeDown(house: House, errand: Errand, ground: Ground): Decision {
  const { listing, surveyed, record } = ground;
  const why = surveyed.down === null ? 'the record says so' : downWords[surveyed.down];
  if (listing.sent === null || listing.remote === null) return { do: 'drop', why };
  if (listing.gone) return { do: 'nothing', why: 'it is not there any more' };
  const one = plannableOf(record, house.kinds).find((each) => each.listing === errand.listingId);
  if (!one) return { do: 'drop', why };
  const steps = stepsFor(one);
  if (steps.locked.length > 0) {
    if (errand.way === null) return askWay(steps.locked[0]?.why ?? '', listedField);
    const changes = steps.locked.map(({ key, before, after }) => ({ key, before, after }));
    return { do: 'send', ground, op: errand.way, changes, followed: null };
  }
  // What is hidden there by somebody else's hand stays hidden: there is nothing to take down.
  if (steps.changes.length === 0 && errand.over === null) return { do: 'nothing', why: 'it is taken down already' };
  const { wanted, sent } = surveyed.comparison[0] ?? { wanted: undefined, sent: undefined };
  const changes =
    steps.changes.length > 0 ? steps.changes : [{ key: listedField, before: sent ?? null, after: wanted ?? null }];
  return { do: 'send', ground, op: steps.changes.length > 0 ? steps.op : 'unpublish', changes, followed: null };
}

const askWay = (why: string, field: string | null): Decision => ({ do: 'ask', kind: 'locked', why, field });

/** The record says that it is to be seen: by the gates, the gifts and the locks as they are now. */
function show(house: House, errand: Errand, ground: Ground): Decision {
  const { surveyed, record, listing } = ground;
  const stop = surveyed.findings.find((one) => one.weight === 'stops');
  if (stop) return { do: 'drop', why: findingWords(stop) };
  if (surveyed.embargoUntil !== null) return { do: 'wait', for: 'moment', until: surveyed.embargoUntil };
  const one = plannableOf(record, house.kinds).find((each) => each.listing === errand.listingId);
  if (!one) return { do: 'drop', why: 'it is over' };
  if (listing.gone && errand.op !== 'place')
    return { do: 'ask', kind: 'gone', why: 'it is not on the channel any more', field: null };
  const steps = stepsFor(one);
  const planned =
    errand.over !== null
      ? overwrite(one, errand.over)
      : errand.way !== null && steps.locked.length > 0
        ? byWay(one, errand.way)
        : steps;
  const wished = planned.changes.filter((change) => !(errand.without && change.after?.kind === 'awaited'));
  if (wished.length === 0) return nothingToSend(errand, ground, steps.locked[0]);
  const from = awaitedFrom(wished);
  if (from !== null) return { do: 'wait', for: 'gift', from };
  const other = differs(errand, wished) && record.record.revision !== errand.revision;
  if (other && !house.maySend(record.record.actor)) {
    const why = `${record.record.actor} saved something else since, and may not send`;
    return { do: 'ask', kind: 'held', why, field: null };
  }
  return { do: 'send', ground, op: planned.op, changes: wished, followed: other ? record.record.actor : null };
}

/** Nothing is left to send: it is there already, or it stands against what somebody did there. */
function nothingToSend(
  errand: Errand,
  { surveyed }: Ground,
  locked: { key: string; why: string } | undefined,
): Decision {
  const mine = new Set(errand.changes.map((one) => one.key));
  const odd = surveyed.comparison.find(
    (one) => mine.has(one.key) && (one.outcome === 'at-odds' || one.outcome === 'drifted'),
  );
  if (odd)
    return {
      do: 'ask',
      kind: 'conflict',
      why: `edited there: ${splitKey(odd.key).field}`,
      field: splitKey(odd.key).field,
    };
  if (locked) return askWay(locked.why, splitKey(locked.key).field);
  return { do: 'nothing', why: 'the channel shows it already, or it was sent already' };
}

/** Whether something else is wished for now than the person saw when saying yes. What was awaited then may be known now. */
function differs({ changes }: Errand, wished: readonly Change[]): boolean {
  const seen = changes.filter((one) => one.after?.kind !== 'awaited');
  const awaited = new Set(changes.filter((one) => one.after?.kind === 'awaited').map((one) => one.key));
  return !sameWish(
    seen,
    wished.filter((one) => !awaited.has(one.key)),
  );
}

/** True where what is being sent may still be shown: asked before each writing, when something was written in the house meanwhile. */
export function mayGoOn(house: House, errand: Errand, op: Operation, changes: readonly Change[]): boolean {
  if (op === 'unpublish' || op === 'cancel') return true;
  const record = surveyById(house, errand.recordId);
  const surveyed = record?.survey.listings.find((one) => one.id === errand.listingId);
  if (!surveyed || isDown(surveyed.wanted)) return false;
  // What is to stay a draft is not opened by what was asked for before.
  const opens = changes.some((one) => one.key === listedField && !isOff(one.after ?? undefined));
  if (isKeptDraft(surveyed.wanted) && opens) return false;
  return surveyed.embargoUntil === null && !surveyed.findings.some((one) => one.weight === 'stops');
}
