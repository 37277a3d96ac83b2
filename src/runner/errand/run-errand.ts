import { withChanges } from '@/core/errands/steps';
import type { Operation, OperationRow } from '@/core/listing/operations';
import { splitKey } from '@/core/listing/shown';
import { isOutsideError, OutsideError } from '@/channels/kit/http';
import { clientOf } from '@/house/clients';
import { channelById, type House } from '@/house/house';
import { goingOut, type Going } from '@/house/outside-door';
import { listingNow } from '@/house/survey';
import { askWayOut } from '@/house/way-out';
import { sqliteCode, transaction, type Tx } from '@/store/database';
import { askLater, decidedElsewhere, type Errand } from '@/store/errands';
import { listingById, putPendingOutcome, type PendingOutcome } from '@/store/listings';
import { askPendingOutcome, giveOn } from '../look';
import { carryOut, nowhere, type Outcome, type Work } from './carry-out';
import { endingOf, endingOfFailure, noteStep, settle, wasTried, type Ending } from './settling';
import { walk, type Decision } from './walk';

/** Time between two questions after an answer that comes later, in milliseconds. */
const askEveryMs = 30_000;
/** A writing without an answer is not looked for sooner than this, in milliseconds. */
const soonestLookMs = 15_000;

/**
 * Takes a claimed errand to its end: walks the line on the record as it is now, then carries out what is to be done,
 * and settles it. Never throws for what happens outside; the receipt says it. What the database itself refuses is
 * thrown: the claim then stands until it is freed, and what was placed meanwhile is a doubt of the listing's.
 */
export async function runErrand(house: House, errand: Errand): Promise<void> {
  const attempt = new Attempt();
  let ending: Ending;
  try {
    ending = await follow(house, errand, walk(house, errand), attempt);
  } catch (error) {
    if (sqliteCode(error) !== null) throw error;
    ending = endingOfFailure(
      house,
      errand,
      asOutside(errand, error),
      isOutsideError(error) && attempt.cameToNothing(error),
    );
  }
  settle(house, errand, ending);
}

/** A mistake of our own must not leave the errand claimed: it is told as ours, with its place in the log. */
function asOutside(errand: Errand, error: unknown): OutsideError {
  if (isOutsideError(error)) return error;
  console.error(`errand ${errand.id}:`, error);
  const place = error instanceof Error ? (error.stack ?? '').split('\n').slice(0, 3).join(' ').slice(0, 300) : '';
  return new OutsideError('our-fault', `${String(error).slice(0, 200)} ${place}`);
}

/** What is known of one try: whether its outcome was in doubt, and whether anything of it was answered. */
class Attempt {
  outcomePending = false;
  answered = 0;
  /** A writing that was refused outright left nothing there. */
  cameToNothing({ kind }: OutsideError): boolean {
    return this.outcomePending && this.answered === 0 && kind !== 'unknown-outcome';
  }
}

async function follow(house: House, errand: Errand, decision: Decision, attempt: Attempt): Promise<Ending> {
  switch (decision.do) {
    case 'drop':
      return { to: { state: 'dropped' }, receipts: [['dropped', { why: decision.why }]] };
    case 'nothing': {
      // What a try without an answer had done already was done by it.
      const [state, why] = wasTried(errand)
        ? (['done', 'it was carried out, though no answer had come'] as const)
        : (['not needed', decision.why] as const);
      return { to: { state }, receipts: [[state, { why }]] };
    }
    case 'wait': {
      // Waiting costs no try, and is no event for the book.
      const wait = { state: 'waiting', nextTryAt: house.monotonic(), costs: false, error: null } as const;
      if (decision.for === 'moment') return { to: { ...wait, notBefore: decision.until } };
      return { to: { ...wait, awaits: decision.for === 'gift' ? decision.from : decidedElsewhere } };
    }
    case 'ask': {
      const error = { kind: decision.kind, message: decision.why, field: decision.field };
      return { to: { state: 'refused', error }, receipts: [['refused', { ...error, try: errand.tries }]] };
    }
    case 'look': {
      const { listing } = decision.context;
      const next = await goingOut({ sort: 'errand' }, () =>
        askPendingOutcome(house, listing, clientOf(house, errand.channel)),
      );
      const nextTryAt = next === 'settled' ? house.monotonic() : next;
      return { to: { state: 'waiting', nextTryAt, costs: false, error: errand.lastError } };
    }
    case 'send': {
      const { context, op, changes, followed } = decision;
      const work: Work = {
        ...{ house, errand, context, op, changes },
        step: (outcome, step) => noteStep(house, work, outcome, step),
      };
      const outcome = await goingOut(wayFor(work, attempt), () => carryOut(work));
      return outcome.remote.lodged === undefined
        ? endingOf(work, outcome, { followed })
        : lodged(work, outcome, outcome.remote.lodged);
    }
  }
}

/** Handed over: what becomes of it is asked for later; until then nothing else is done to this listing. */
function lodged({ house, context, op }: Work, { remote, written, stood }: Outcome, ticket: string): Ending {
  const { listing, channel, record } = context;
  const handed = { ticket, op, changes: written, stood, revision: record.record.revision };
  return {
    to: { state: 'lodged', lodged: handed, nextTryAt: house.monotonic() + askEveryMs },
    receipts: [['lodged', { ticket }]],
    also: (tx) => {
      putPendingOutcome(tx, listing, null, null);
      // What is known of it already, by its reference alone, others need not wait for.
      giveOn(tx, channel.rules, listing, remote, false, house.monotonic());
    },
  };
}

/** True where doing it twice would do harm: a second listing, or people told twice. */
function onceOnly(rows: readonly OperationRow[], op: Operation, effects: readonly string[]): boolean {
  return op === 'place' || effects.length > 0 || (rows.find((row) => row.op === op)?.tells ?? 'nobody') !== 'nobody';
}

/**
 * The way out of an errand: asked before each thing that leaves. What would do harm twice is kept in mind before it is
 * begun.
 */
function wayFor(work: Work, attempt: Attempt): Going {
  const { house, errand, context, op, changes } = work;
  const { id: listing, recordId: record } = context.listing;
  const fence = errand.fence ?? 0;
  const mayStayPending = errand.twin === null && onceOnly(context.channel.rules.operations, op, errand.effects);
  return {
    sort: 'errand',
    before(tx, { writes }) {
      // Another place of it is taken down, whatever the record says.
      askWayOut(house, tx, { record, listing, op, changes, fence });
      if (!writes || !mayStayPending || attempt.outcomePending) return;
      attempt.outcomePending = true;
      putPendingOutcome(tx, context.listing, pendingOutcomeOf(work), house.monotonic() + soonestLookMs);
    },
    done: () => void (attempt.answered += 1),
  };
}

function pendingOutcomeOf({ house, errand, context, op, changes }: Work): PendingOutcome {
  const fields = op === 'place' ? 'all' : context.channel.rules.operations.find((row) => row.op === op)?.fields;
  const asked = { looks: 0, lookedAt: null, begunOn: house.machine(), lookedOn: null };
  // Of a step, what it was to bring about is what it changes: the rest follows it.
  const mine = Array.isArray(fields)
    ? changes.filter((change) => fields.includes(splitKey(change.key).field))
    : changes;
  return { since: house.monotonic(), errand: errand.id, op, shown: withChanges({}, mine), ...asked };
}

/** Asks what became of an errand that was handed over, and settles it where there is an answer. */
export async function collectErrand(house: House, errand: Errand): Promise<void> {
  const mine = { ...errand, fence: house.lead.fence() };
  const ending = await answerTo(house, mine);
  if (ending === null)
    transaction(house.db, (tx) => askLater(tx, errand.id, house.monotonic() + askEveryMs), { quiet: true });
  else settle(house, mine, ending);
}

/** How what was handed over ended; `null`: there is no answer yet. */
async function answerTo(house: House, errand: Errand): Promise<Ending | null> {
  const listing = listingById(house.db, errand.listingId);
  const channel = channelById(house, errand.channel);
  const now = listingNow(house, errand.recordId, errand.listingId);
  if (!errand.lodged || !listing || !channel || !now)
    return {
      to: { state: 'dropped' },
      receipts: [['dropped', { why: 'what was handed over is of nothing that is there any more' }]],
    };
  const { ticket, op, changes, stood, revision } = errand.lodged;
  try {
    const ask = async () => (await clientOf(house, errand.channel).collect?.(ticket)) ?? null;
    const remote = await goingOut({ sort: 'reading' }, ask);
    if (remote === null) return null;
    const work: Work = { house, errand, context: { channel, ...now, listing }, op, changes, step: () => undefined };
    return endingOf(work, { remote, written: changes, stood, edited: [], idle: false }, { revision });
  } catch (error) {
    if (!isOutsideError(error)) throw error;
    // No answer to the question is no answer to the errand.
    if (error.kind === 'again-later' || error.kind === 'unknown-outcome') return null;
    const ending = endingOfFailure(house, errand, error, true);
    if (listing.remote !== null) return ending;
    // The row was turned down: nothing of it stands there, and what it was to give it does not give.
    const giveNothing = (tx: Tx) => giveOn(tx, channel.rules, listing, nowhere, true, house.monotonic());
    return { ...ending, also: (tx) => (ending.also?.(tx), giveNothing(tx)) };
  }
}
