import { withChanges } from '@/core/errands/steps';
import type { Operation, OperationRow } from '@/core/listing/operations';
import { splitKey } from '@/core/listing/shown';
import { isOutsideError, OutsideError } from '@/channels/kit/http';
import { clientOf } from '@/house/clients';
import { channelById, type House } from '@/house/house';
import { goingOut, type Going } from '@/house/outside-door';
import { listingNow } from '@/house/survey';
import { askWayOut } from '@/house/way-out';
import { sqliteCode, whole } from '@/store/database';
import { askLater, decidedElsewhere, type Errand } from '@/store/errands';
import { listingById, putDoubt, type Doubt } from '@/store/listings';
import { askDoubt, giveOn } from '../look';
import { carryOut, type Work } from './carry-out';
import { noteStep, settle, settleDone, settleFailed, wasTried } from './settling';
import { walk, type Decision } from './walk';

/** Time between two questions after an answer that comes later, in milliseconds. */
const askEveryMs = 30_000;
/** A writing without an answer is not looked for sooner than this, in milliseconds. */
const soonestLookMs = 15_000;

/**
 * Takes a claimed errand to its end: walks the line on the record as it is now, then carries out what is to be done, and
 * settles it. Never throws for what happens outside; the receipt says it. What the database itself refuses is thrown: the
 * claim then stands until it is freed, and what was placed meanwhile is a doubt of the listing's.
 */
export async function runErrand(house: House, errand: Errand): Promise<void> {
  const attempt = new Attempt();
  try {
    await follow(house, errand, walk(house, errand), attempt);
  } catch (error) {
    if (sqliteCode(error) !== null) throw error;
    settleFailed(house, errand, asOutside(errand, error), isOutsideError(error) && attempt.cameToNothing(error));
  }
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
  doubted = false;
  answered = 0;
  /** A writing that was refused outright left nothing there. */
  cameToNothing({ kind }: OutsideError): boolean {
    return this.doubted && this.answered === 0 && kind !== 'unknown-outcome';
  }
}

async function follow(house: House, errand: Errand, decision: Decision, attempt: Attempt): Promise<void> {
  switch (decision.do) {
    case 'drop':
      return settle(house, errand, { to: { state: 'dropped' }, receipts: [['dropped', { why: decision.why }]] });
    case 'nothing': {
      // What a try without an answer had done already was done by it.
      const [state, why] = wasTried(errand)
        ? (['done', 'it was carried out, though no answer had come'] as const)
        : (['not needed', decision.why] as const);
      return settle(house, errand, { to: { state }, receipts: [[state, { why }]] });
    }
    case 'wait':
      return settle(house, errand, { to: waitFor(house, decision) });
    case 'ask': {
      const error = { kind: decision.kind, message: decision.why, field: decision.field };
      return settle(house, errand, {
        to: { state: 'refused', error },
        receipts: [['refused', { ...error, try: errand.tries }]],
      });
    }
    case 'look': {
      const { listing } = decision.ground;
      const next = await goingOut({ sort: 'errand' }, () => askDoubt(house, listing, clientOf(house, errand.channel)));
      const nextTryAt = next === 'settled' ? house.steady() : next;
      return settle(house, errand, { to: { state: 'waiting', nextTryAt, costs: false, error: errand.lastError } });
    }
    case 'send':
      return send(house, errand, decision, attempt);
  }
}

/** Waiting costs no try, and is no event for the book. */
function waitFor(house: House, decision: Decision & { do: 'wait' }) {
  const wait = { state: 'waiting', nextTryAt: house.steady(), costs: false, error: null } as const;
  if (decision.for === 'moment') return { ...wait, notBefore: decision.until };
  return { ...wait, awaits: decision.for === 'gift' ? decision.from : decidedElsewhere };
}

async function send(
  house: House,
  errand: Errand,
  decision: Decision & { do: 'send' },
  attempt: Attempt,
): Promise<void> {
  const { ground, op, changes, followed } = decision;
  const work: Work = {
    ...{ house, errand, ground, op, changes },
    step: (outcome, step) => noteStep(house, work, outcome, step),
  };
  const outcome = await goingOut(wayFor(work, attempt), () => carryOut(work));
  const { lodged } = outcome.remote;
  if (lodged === undefined) return settleDone(work, outcome, { followed });
  // Handed over: what becomes of it is asked for later; until then nothing else is done to this listing.
  const { written, stood } = outcome;
  const handed = { ticket: lodged, op, changes: written, stood, revision: ground.record.record.revision };
  settle(house, errand, {
    to: { state: 'lodged', lodged: handed, nextTryAt: house.steady() + askEveryMs },
    receipts: [['lodged', { ticket: lodged }]],
    also: (tx) => {
      putDoubt(tx, ground.listing, null, null);
      // What is known of it already, by its reference alone, others need not wait for.
      giveOn(tx, ground.channel.rules, ground.listing, outcome.remote, false, house.steady());
    },
  });
}

/** True where doing it twice would do harm: a second listing, or people told twice. */
function onceOnly(rows: readonly OperationRow[], op: Operation, effects: readonly string[]): boolean {
  return op === 'place' || effects.length > 0 || (rows.find((row) => row.op === op)?.tells ?? 'nobody') !== 'nobody';
}

/** The way out of an errand: asked before each thing that leaves. What would do harm twice is kept in mind before it is begun. */
function wayFor(work: Work, attempt: Attempt): Going {
  const { house, errand, ground, op, changes } = work;
  const { id: listing, recordId: record } = ground.listing;
  const fence = errand.fence ?? 0;
  const doubts = errand.twin === null && onceOnly(ground.channel.rules.operations, op, errand.effects);
  return {
    sort: 'errand',
    before(tx, { writes }) {
      // Another place of it is taken down, whatever the record says.
      askWayOut(house, tx, { record, listing, op, changes, fence });
      if (!writes || !doubts || attempt.doubted) return;
      attempt.doubted = true;
      putDoubt(tx, ground.listing, doubtOf(work), house.steady() + soonestLookMs);
    },
    done: () => void (attempt.answered += 1),
  };
}

function doubtOf({ house, errand, ground, op, changes }: Work): Doubt {
  const fields = op === 'place' ? 'all' : ground.channel.rules.operations.find((row) => row.op === op)?.fields;
  const asked = { looks: 0, lookedAt: null, begunOn: house.machine(), lookedOn: null };
  // Of a step, what it was to bring about is what it changes: the rest follows it.
  const mine = Array.isArray(fields) ? changes.filter((one) => fields.includes(splitKey(one.key).field)) : changes;
  return { since: house.steady(), errand: errand.id, op, shown: withChanges({}, mine), ...asked };
}

const noRemote = { id: '', publicUrl: null, etag: null, link: null, lapsesAt: null };

/** Asks what became of an errand that was handed over, and settles it where there is an answer. */
export async function collectErrand(house: House, errand: Errand): Promise<void> {
  const { lodged } = errand;
  const mine = { ...errand, fence: house.lead.fence() };
  const listing = listingById(house.db, errand.listingId);
  const channel = channelById(house, errand.channel);
  const now = listingNow(house, errand.recordId, errand.listingId);
  if (!lodged || !listing || !channel || !now)
    return settle(house, mine, {
      to: { state: 'dropped' },
      receipts: [['dropped', { why: 'what was handed over is of nothing that is there any more' }]],
    });
  const later = () => whole(house.db, (tx) => askLater(tx, errand.id, house.steady() + askEveryMs), { quiet: true });
  try {
    const remote = await goingOut(
      { sort: 'reading' },
      async () => (await clientOf(house, errand.channel).collect?.(lodged.ticket)) ?? null,
    );
    if (remote === null) return later();
    const { op, changes, stood, revision } = lodged;
    const work: Work = {
      house,
      errand: mine,
      ground: { channel, ...now, listing },
      op,
      changes,
      step: () => undefined,
    };
    settleDone(work, { remote, written: changes, stood, edited: [], idle: false }, { revision });
  } catch (error) {
    if (!isOutsideError(error)) throw error;
    // No answer to the question is no answer to the errand.
    if (error.kind === 'again-later' || error.kind === 'unknown-outcome') return later();
    // The row was turned down: nothing of it stands there, and what it was to give it does not give.
    if (listing.remote === null)
      whole(house.db, (tx) => giveOn(tx, channel.rules, listing, noRemote, true, house.steady()), { quiet: true });
    settleFailed(house, mine, error, true);
  }
}
