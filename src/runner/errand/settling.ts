import { calmAccount, cureFor } from '@/core/errands/retry';
import { withChanges } from '@/core/errands/steps';
import type { Operation } from '@/core/listing/operations';
import { listedField, takenDown } from '@/core/listing/shown';
import type { OutsideError } from '@/channels/kit/http';
import { noteHolders } from '@/house/holders';
import { channelById, type House } from '@/house/house';
import { accountOf } from '@/store/channels';
import { transaction, type Tx } from '@/store/database';
import {
  addReceipt,
  dispatchById,
  errandById,
  noteOperation,
  settleErrand,
  wakeErrands,
  type Errand,
  type Settlement,
} from '@/store/errands';
import {
  askReading,
  dropTwin,
  letGo,
  listingById,
  noteAttempt,
  noteSent,
  putPendingOutcome,
  takeTwinForOurs,
} from '@/store/listings';
import { followNarrowing } from '../follow';
import { followTwins, giveOn } from '../look';
import type { Outcome, Work } from './carry-out';
import { sendOn } from './mirrors';

/** Time between a sending and the first reading, in milliseconds. */
const firstLookMs = 1_500;

/** How a try of an errand ended, and what is written of it. */
export interface Ending {
  to: Settlement;
  receipts?: readonly [string, Record<string, unknown>][];
  /** The channel is to be read. */
  read?: boolean;
  /** What else is written in the same transaction, before the line is walked again. */
  also?: ((tx: Tx) => void) | undefined;
}

/**
 * The one place where an errand is settled. Who lost the lease changes nothing any more: what it did is a receipt, and
 * somebody looks. However it settles, the line is walked again: what stands beyond the record by now is taken back.
 */
export function settle(house: House, errand: Errand, { to, receipts = [], read = false, also }: Ending): void {
  const at = house.clock.now();
  const waits = to.state === 'waiting';
  transaction(
    house.db,
    (tx) => {
      if (tooLate(house, errand, tx, { to: to.state })) return;
      also?.(tx);
      settleErrand(tx, errand, errand.claim, to, at);
      for (const [outcome, detail] of receipts) addReceipt(tx, errand.id, at, outcome, detail);
      if (read) askReading(tx, errand.listingId, house.monotonic());
      if (waits || to.state === 'lodged') return;
      // Its outcome is known: the next attempt is another, with a key of its own.
      noteAttempt(tx, errand.listingId);
      // What waits for the step that went first is looked at anew.
      if (errand.way !== null) wakeErrands(tx, errand.recordId);
      followNarrowing(house, tx, errand);
    },
    { quiet: waits && receipts.length === 0 },
  );
}

/** Who lost the lease changes nothing any more: what it did is a receipt, and somebody looks. */
function tooLate(house: House, errand: Errand, tx: Tx, what: Record<string, unknown>): boolean {
  if (house.lead.stillLeads(errand.fence ?? 0, tx)) return false;
  addReceipt(tx, errand.id, house.clock.now(), 'too late', what);
  askReading(tx, errand.listingId, house.monotonic());
  return true;
}

/** Notes what was written of a listing: all that an operation did, or a step of it. */
function noteWritten(house: House, tx: Tx, work: Work, outcome: Outcome, revision: number, op = work.op): void {
  const { context, errand } = work;
  const { remote, written, stood } = outcome;
  const now = house.monotonic();
  const fresh = listingById(tx, context.listing.id) ?? context.listing;
  const placed = op === 'place' || fresh.sent === null;
  const times = Object.fromEntries(
    Object.keys(fresh.sent ?? {}).map((key) => [key, fresh.sentTimes[key] ?? fresh.sentAt ?? now]),
  );
  for (const { key } of written) times[key] = now;
  // A first placing has nothing before it but that it was not to be seen.
  const before = written.map(({ key }) => ({ key, before: null, after: stood[key] ?? null }));
  noteSent(tx, fresh, {
    sent: withChanges(placed ? {} : (fresh.sent ?? {}), written),
    sentTimes: times,
    previous: placed ? takenDown : withChanges(fresh.previous ?? {}, before),
    believed: withChanges(placed ? {} : stood, written),
    remote,
    revision,
    at: now,
    readAt: now + firstLookMs,
    // What was looked at holds until then: a moment of its own within that is one at which it asked for this.
    askedAt: Math.min(house.clock.now(), context.record.holds.until - 1),
  });
  const off = written.find((change) => change.key === listedField)?.after;
  const closed = off?.kind === 'state' && off.is !== 'public' && off.is !== 'unlisted';
  giveOn(tx, context.channel.rules, fresh, remote, closed, now);
  sendOn(house, tx, context, remote, now);
  const dispatch = errand.dispatchId;
  const actor = dispatchById(tx, dispatch)?.actor ?? '';
  noteHolders(house, tx, { record: context.record, listing: context.surveyed, op, changes: written, dispatch, actor });
}

/**
 * Notes that a listing was deleted there: it gives nothing any more, and nothing of it is expected. Where it stands in a
 * second place, that is ours from now on, and is to be read.
 */
function noteDeleted(house: House, tx: Tx, { context }: Work, { remote }: Outcome): void {
  const now = house.monotonic();
  const fresh = listingById(tx, context.listing.id) ?? context.listing;
  const [twin] = fresh.twins;
  giveOn(tx, context.channel.rules, fresh, remote, true, now);
  sendOn(house, tx, context, remote, now);
  if (twin === undefined) return letGo(tx, fresh);
  takeTwinForOurs(tx, fresh, twin.id, now);
  dropTwin(tx, fresh, remote.id, now);
}

/** A step of several is done: it is kept, whatever becomes of the next. */
export function noteStep(house: House, work: Work, outcome: Outcome, step: Operation): void {
  const { errand, context } = work;
  const row = context.channel.rules.operations.find((operation) => operation.op === step);
  transaction(house.db, (tx) => {
    if (tooLate(house, errand, tx, { step })) return;
    noteWritten(house, tx, work, outcome, context.record.record.revision, step);
    addReceipt(tx, errand.id, house.clock.now(), 'step', {
      op: step,
      changes: outcome.written.length,
      tells: row?.tells ?? 'nobody',
      told: row?.tells === 'buyers' ? context.surveyed.lock.sold : null,
    });
  });
}

/** How an errand ends that was carried out. */
export function endingOf(
  work: Work,
  outcome: Outcome,
  how: { followed?: string | null; revision?: number } = {},
): Ending {
  const { house, errand, context, op } = work;
  const { remote, written, edited, idle } = outcome;
  const revision = how.revision ?? context.record.record.revision;
  const place = errand.twin;
  // Another place where the listing stood is taken down: nothing else of it was touched.
  if (place !== null)
    return {
      to: { state: 'done' },
      receipts: [['twin down', { places: [place], op: 'unpublish', revision, try: errand.tries }]],
      also: (tx) => dropTwin(tx, context.listing, place, house.monotonic() + firstLookMs),
    };
  const detail = {
    ...{ remote, changes: written.length, op, revision, try: errand.tries },
    ...(how.followed ? { followed: how.followed } : {}),
  };
  const also = (tx: Tx) => {
    if (op === 'remove') noteDeleted(house, tx, work, outcome);
    else noteWritten(house, tx, work, outcome, revision);
    if (op !== errand.op) noteOperation(tx, errand.id, op);
    // What may not be seen may not be seen in a second place either.
    const fresh = listingById(tx, context.listing.id);
    if (fresh && (op === 'unpublish' || op === 'cancel')) followTwins(house, tx, fresh, errand.id);
  };
  if (edited.length > 0) {
    const fields = edited.map((change) => change.key);
    const names = [...new Set(fields.map((key) => key.split('@')[0]))].join(', ');
    const error = { kind: 'conflict' as const, message: `edited there: ${names}`, field: fields[0] ?? null };
    const refused: [string, Record<string, unknown>] = ['refused', { ...error, try: errand.tries }];
    return { to: { state: 'refused', error }, receipts: idle ? [refused] : [['done in part', detail], refused], also };
  }
  // What stands there already after a try without an answer was done by that try.
  return idle && !wasTried(errand)
    ? { to: { state: 'not needed' }, receipts: [['not needed', { why: 'the channel shows it already' }]], also }
    : { to: { state: 'done' }, receipts: [['done', detail]], also };
}

/** True where an earlier try may have been carried out: no answer came to it, or the process ended in it. */
export function wasTried({ tries, lastError }: Errand): boolean {
  return tries > 1 || lastError?.kind === 'unknown-outcome';
}

/**
 * How a try ends that failed: it is tried again, or a person decides. `nothingCame`: nothing of a first writing can
 * stand there.
 */
export function endingOfFailure(house: House, errand: Errand, error: OutsideError, nothingCame: boolean): Ending {
  const now = house.monotonic();
  const cure = cureFor(error.kind, errand.tries, now);
  const detail = { kind: error.kind, message: error.message, field: error.field };
  const also = nothingCame
    ? (tx: Tx) => putPendingOutcome(tx, { id: errand.listingId, recordId: errand.recordId }, null, null)
    : undefined;
  const told = { ...detail, try: errand.tries };
  if (cure.kind === 'final') {
    const read = error.kind === 'conflict' || error.kind === 'gone';
    return { to: { state: 'refused', error: detail }, receipts: [['refused', told]], read, also };
  }
  const row = channelById(house, errand.channel)?.row;
  const { failures } = row === undefined ? calmAccount : house.outside.state(accountOf(row));
  // The account waits, not this errand: the first answer wakes all of its queue. Of each knock in vain, only the first
  // is for the book.
  const known = errandById(house.db, errand.id)?.lastError?.message === error.message && failures > 1;
  const nextTryAt = cure.kind === 'again' ? cure.at : now;
  // A write whose answer was lost may have been carried out: what follows asks first.
  const costs = error.kind === 'unknown-outcome' || (cure.kind === 'again' && error.kind !== 'stopped');
  return {
    to: { state: 'waiting', nextTryAt, costs, error: detail },
    receipts: known ? [] : [['again', told]],
    also,
  };
}
