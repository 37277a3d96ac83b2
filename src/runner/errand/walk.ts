import type { Channel } from '@/channels/channels';
import { waitsForStep } from '@/core/errands/goes-first';
import { narrowing } from '@/core/errands/narrowing';
import { awaitedFrom, byWay, deletion, overwrite } from '@/core/errands/plan';
import { mayDelete, sameWish, type Change } from '@/core/errands/steps';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { findingWords } from '@/core/findings/finding-words';
import { downWords } from '@/core/listing/gates';
import type { Operation } from '@/core/listing/operations';
import { isDown, isKeptDraft, listedField, splitKey } from '@/core/listing/shown';
import { channelById, type House } from '@/house/house';
import { listingNow, type SurveyedRecord } from '@/house/survey';
import { errandsBeside, type Errand } from '@/store/errands';
import { listingById, type Listing } from '@/store/listings';

/** Everything that carrying out an errand needs to know, as it is now. */
export interface ListingContext {
  channel: Channel;
  record: SurveyedRecord;
  surveyed: SurveyedListing;
  listing: Listing;
}

/** What is to be done for an errand, by what the record says now. */
export type Decision =
  | { do: 'send'; context: ListingContext; op: Operation; changes: Change[]; followed: string | null }
  | { do: 'look'; context: ListingContext }
  | { do: 'drop'; why: string }
  | { do: 'nothing'; why: string }
  | { do: 'wait'; for: 'moment'; until: number }
  | { do: 'wait'; for: 'gift'; from: string }
  | { do: 'wait'; for: 'lock' }
  | { do: 'ask'; kind: AskedKind; why: string; field: string | null };
type AskedKind = 'held' | 'locked' | 'conflict' | 'gone' | 'not-connected' | 'unknown-outcome';

const ask = (kind: AskedKind, why: string, field: string | null = null): Decision => ({ do: 'ask', kind, why, field });
const drop = (why: string): Decision => ({ do: 'drop', why });
const nothing = (why: string): Decision => ({ do: 'nothing', why });

/**
 * Walks the line again for an errand that was claimed: the record as it is *now*, the same gates as the plan. The
 * record is never gone beyond: where it says less by now, less is done; where it says something else, that is sent, if
 * who saved it may send.
 */
export function walk(house: House, errand: Errand): Decision {
  const channel = channelById(house, errand.channel);
  if (errand.byClock && channel?.row.standingLeave === false)
    return drop('the standing leave was taken back meanwhile');
  if (!channel?.row.connected) return ask('not-connected', `${channel?.rules.name ?? errand.channel} is not connected`);
  const listing = listingById(house.db, errand.listingId);
  const now = listingNow(house, errand.recordId, errand.listingId);
  if (!now || !listing) return drop('the record, or this part of it, is not there any more');
  const context: ListingContext = { channel, ...now, listing };
  if (errand.twin !== null) return takeTwinDown(errand, context);
  if (errand.way === 'remove' && !mayDelete(now.surveyed.wanted))
    return drop('the record is to be seen there by now: it is not deleted');
  // Whatever is wished for: what may stand there by a lost answer is asked for first.
  if (listing.pendingOutcome !== null)
    return channel.rules.observe === 'none' && listing.pendingOutcome.op !== 'place'
      ? ask('unknown-outcome', 'no answer came, and the channel cannot be asked what became of it')
      : { do: 'look', context };
  return (
    (goesOutOfSight(errand, now.surveyed) ? whyNotDown(context) : whyNotShown(errand, context)) ??
    waitsForLock(house, errand, now.surveyed) ??
    wished(house, errand, context)
  );
}

/** It is to be taken down there, or to be a draft again where it stands in public; or something of it is taken back. */
function goesOutOfSight(errand: Errand, listing: SurveyedListing): boolean {
  const { wanted, comparison, state } = listing;
  const listed = comparison.find((field) => field.key === listedField);
  if (isDown(wanted) || (isKeptDraft(wanted) && state.sent !== null && listed?.outcome === 'to-send')) return true;
  return errand.narrows;
}

/** It is about another place where the listing stands: that is taken down, whatever the record says. */
function takeTwinDown(errand: Errand, context: ListingContext): Decision {
  const twin = context.listing.twins.find((twin) => twin.id === errand.twin);
  if (!twin) return nothing('it does not stand there a second time any more');
  return { do: 'send', context, op: 'unpublish', changes: errand.changes, followed: null };
}

/** Why nothing need be taken out of sight; `null`: it is to be. */
function whyNotDown({ listing, surveyed: { down } }: ListingContext): Decision | null {
  if (listing.sent === null || listing.remote === null)
    return drop(down === null ? 'the record says so' : downWords[down]);
  return listing.gone ? nothing('it is not there any more') : null;
}

/**
 * A step that a channel may refuse goes first: until it is answered, and while nobody has decided on what is locked,
 * the event's others wait. What only takes something out of sight waits for nothing.
 */
function waitsForLock(house: House, errand: Errand, listing: SurveyedListing): Decision | null {
  if (errand.way !== null || errand.narrows || listing.down !== null || narrowing(listing) !== null) return null;
  const undecided = listing.findings.some((finding) => finding.code === 'lock-undecided');
  const mine = { listing: errand.listingId, channel: errand.channel };
  return undecided || waitsForStep(mine, errandsBeside(house.db, errand.recordId)) ? { do: 'wait', for: 'lock' } : null;
}

/** Why it may not be shown now: by the gates, or because it is not there; `null`: it may. */
function whyNotShown(errand: Errand, { surveyed, listing }: ListingContext): Decision | null {
  const { findings, embargoUntil, standing } = surveyed;
  const stop = findings.find((finding) => finding.weight === 'stops' && finding.code !== 'lock-undecided');
  if (stop) return drop(findingWords(stop));
  if (embargoUntil !== null) return { do: 'wait', for: 'moment', until: embargoUntil };
  if (standing === null) return drop('it is over');
  return listing.gone && errand.op !== 'place' ? ask('gone', 'it is not on the channel any more') : null;
}

/**
 * What an errand wishes for, by what the record says now: what takes something back, what goes over something, a way
 * that was picked, or what is plain.
 */
function wishOf(errand: Errand, listing: SurveyedListing): { op: Operation; changes: readonly Change[] } {
  if (errand.narrows) {
    const back = narrowing(listing);
    return back === null || back.asks ? { op: 'unpublish', changes: [] } : back;
  }
  if (errand.way === 'remove') return deletion(listing);
  if (errand.over !== null) return overwrite(listing, errand.over);
  return errand.way !== null && listing.steps.locked.length > 0 ? byWay(listing, errand.way) : listing.steps;
}

function wished(house: House, errand: Errand, context: ListingContext): Decision {
  const { surveyed, record } = context;
  const wish = wishOf(errand, surveyed);
  const changes = wish.changes.filter((change) => !(errand.without && change.after?.kind === 'awaited'));
  if (changes.length === 0) return nothingToSend(errand, surveyed);
  const send: Decision = { do: 'send', context, op: wish.op, changes, followed: null };
  if (goesOutOfSight(errand, surveyed)) return send;
  const from = awaitedFrom(changes);
  if (from !== null) return { do: 'wait', for: 'gift', from };
  if (!differs(errand, changes)) return send;
  // The leave is for what was looked at: whatever is said otherwise since is looked at anew.
  if (errand.byClock)
    return nothing('something else changed since: it is looked at anew, under the leave or by a person');
  if (record.record.revision === errand.revision) return send;
  const { actor, sends } = record.record;
  return sends ? { ...send, followed: actor } : ask('held', `${actor} saved something else since, and may not send`);
}

/** Nothing is left to send: it is there already, or it stands against what somebody did there, or it is locked. */
function nothingToSend(errand: Errand, { comparison, steps }: SurveyedListing): Decision {
  const mine = new Set(errand.changes.map((change) => change.key));
  const odd = comparison.find(
    (field) => mine.has(field.key) && (field.outcome === 'at-odds' || field.outcome === 'drifted'),
  );
  const [locked] = steps.locked;
  if (odd && !errand.narrows)
    return ask('conflict', `edited there: ${splitKey(odd.key).field}`, splitKey(odd.key).field);
  if (locked && !errand.narrows) return ask('locked', locked.why, splitKey(locked.key).field);
  return nothing('the channel shows it already, or it was sent already');
}

/**
 * Whether something else is wished for now than the person saw when saying yes. What was awaited then may be known now.
 */
function differs({ changes }: Errand, wished: readonly Change[]): boolean {
  const seen = changes.filter((change) => change.after?.kind !== 'awaited');
  const awaited = new Set(changes.filter((change) => change.after?.kind === 'awaited').map((change) => change.key));
  return !sameWish(
    seen,
    wished.filter((change) => !awaited.has(change.key)),
  );
}
