import { calmAccount, cureFor } from '@/core/errands/retry';
import { listedField, takenDown } from '@/core/listing/shown';
import { isOutsideError, OutsideError, type HttpRequest } from '@/channels/kit/http';
import { clientOf } from '@/house/clients';
import { goingOut, stoppedBy } from '@/house/outside-door';
import { sqliteCode, whole } from '@/store/database';
import { channelById, type House } from '@/house/house';
import { surveyById } from '@/house/survey';
import {
  addReceipt,
  askLater,
  errandById,
  noteOperation,
  settleErrand,
  type Errand,
  type Settlement,
} from '@/store/errands';
import { askReading, dropTwin, listingById, noteSent, putDoubt } from '@/store/listings';
import { pulseRow } from '@/store/pulse';
import { accountOf } from '@/store/channels';
import type { Leadership } from '../leadership';
import { askDoubt, followTwins, giveOn } from '../look';
import { carryOut, type Outcome, type Work } from './carry-out';
import { sendOn } from './mirrors';
import { mayGoOn, walk, type Decision } from './walk';
import { withChanges } from './writing';

/** Time between two questions after an answer that comes later, in milliseconds. */
const askEveryMs = 30_000;
/** Time between a sending and the first reading, in milliseconds. */
const firstLookMs = 1_500;

/**
 * Takes a claimed errand to its end: walks the line on the record as it is now, then carries out what is to be done, and
 * settles it. Never throws for what happens outside; the receipt says it. What the database itself refuses is thrown: the
 * claim then stands until it is freed, and what was placed meanwhile is a doubt of the listing's.
 */
export async function runErrand(house: House, errand: Errand, lead: Leadership): Promise<void> {
  const decision = walk(house, errand);
  try {
    await follow(house, errand, decision, lead);
  } catch (error) {
    if (sqliteCode(error) !== null) throw error;
    if (isOutsideError(error)) return settleFailed(house, errand, error, lead);
    // A mistake of our own must not leave the errand claimed: it is told as ours, with its place in the log.
    console.error(`errand ${errand.id}:`, error);
    const place = error instanceof Error ? (error.stack ?? '').split('\n').slice(0, 3).join(' ').slice(0, 300) : '';
    settleFailed(house, errand, new OutsideError('our-fault', `${String(error).slice(0, 200)} ${place}`), lead);
  }
}

async function follow(house: House, errand: Errand, decision: Decision, lead: Leadership): Promise<void> {
  switch (decision.do) {
    case 'drop':
      return settle(house, errand, { state: 'dropped' }, lead, ['dropped', { why: decision.why }]);
    case 'nothing':
      // What a try without an answer had done already was done by it.
      return asked(errand)
        ? settle(house, errand, { state: 'done' }, lead, [
            'done',
            { why: 'it was carried out, though no answer had come' },
          ])
        : settle(house, errand, { state: 'not needed' }, lead, ['not needed', { why: decision.why }]);
    case 'wait': {
      // Waiting costs no try, and is no event for the book.
      const wait = { state: 'waiting', nextTryAt: house.steady(), costs: false, error: null } as const;
      return settle(
        house,
        errand,
        decision.for === 'gift' ? { ...wait, awaits: decision.from } : { ...wait, notBefore: decision.until },
        lead,
        null,
      );
    }
    case 'ask': {
      const error = { kind: decision.kind, message: decision.why, field: decision.field };
      return settle(house, errand, { state: 'refused', error }, lead, ['refused', { ...error, try: errand.tries }]);
    }
    case 'look': {
      const { listing } = decision.ground;
      const client = clientOf(house, errand.channel);
      const next = await goingOut({ sort: 'errand' }, () => askDoubt(house, listing, client));
      const nextTryAt = next === 'settled' ? house.steady() : next;
      return settle(house, errand, { state: 'waiting', nextTryAt, costs: false, error: errand.lastError }, lead, null);
    }
    case 'send': {
      const { ground, op, changes, followed } = decision;
      const work: Work = { house, errand, ground, op, changes };
      const outcome = await goingOut({ sort: 'errand', ...guard(work, lead) }, () => carryOut(work));
      const { lodged } = outcome.remote;
      if (lodged === undefined) return settleDone(work, outcome, followed, lead);
      // Handed over: what becomes of it is asked for later; until then nothing else is done to this listing.
      const { written, stood } = outcome;
      const handed = { ticket: lodged, op, changes: written, stood, revision: ground.record.record.revision };
      return settle(
        house,
        errand,
        { state: 'lodged', lodged: handed, nextTryAt: house.steady() + askEveryMs },
        lead,
        ['lodged', { ticket: lodged }],
        // What is known of it already, by its reference alone, others need not wait for.
        { also: (tx) => giveOn(tx, ground.channel.rules, ground.listing, outcome.remote, false, house.steady()) },
      );
    }
  }
}

/** True where an earlier try may have been carried out: no answer came to it, or the process ended in it. */
function asked({ tries, lastError }: Errand): boolean {
  return tries > 1 || lastError?.kind === 'unknown-outcome';
}

const noRemote = { id: '', publicUrl: null, etag: null, link: null, lapsesAt: null };

/** Asks what became of an errand that was handed over, and settles it where there is an answer. */
export async function collectErrand(house: House, errand: Errand, lead: Leadership): Promise<void> {
  const { lodged } = errand;
  const listing = listingById(house.db, errand.listingId);
  const channel = channelById(house, errand.channel);
  const record = surveyById(house, errand.recordId);
  const surveyed = record?.survey.listings.find((one) => one.id === errand.listingId);
  if (!lodged || !listing || !channel || !record || !surveyed) return;
  const mine = { ...errand, fence: lead.fence() };
  try {
    const remote = await goingOut(
      { sort: 'reading' },
      async () => (await clientOf(house, errand.channel).collect?.(lodged.ticket)) ?? null,
    );
    if (remote === null)
      return whole(house.db, (tx) => askLater(tx, errand.id, house.steady() + askEveryMs), { quiet: true });
    const { op, changes, stood } = lodged;
    const work: Work = { house, errand: mine, ground: { channel, record, surveyed, listing }, op, changes };
    settleDone(work, { remote, written: changes, stood, edited: [], idle: false }, null, lead);
  } catch (error) {
    if (!isOutsideError(error)) throw error;
    // No answer to the question is no answer to the errand.
    if (error.kind === 'again-later' || error.kind === 'unknown-outcome')
      return whole(house.db, (tx) => askLater(tx, errand.id, house.steady() + askEveryMs), { quiet: true });
    // The row was turned down: nothing of it stands there, and what it was to give it does not give.
    whole(
      house.db,
      (tx) => {
        putDoubt(tx, listing.id, null, null);
        if (listing.remote === null) giveOn(tx, channel.rules, listing, noRemote, true, house.steady());
      },
      { quiet: true },
    );
    settleFailed(house, mine, error, lead);
  }
}

/** Asked before each writing: whether this process still leads, and whether what the record says still allows it. A first writing is kept in mind before it is begun. */
function guard({ house, errand, ground, op, changes }: Work, lead: Leadership) {
  const fence = errand.fence ?? 0;
  let seen = pulseRow(house.db).writes;
  let answered = 0;
  let doubted = false;
  const before = (_: HttpRequest) => {
    if (!lead.stillLeads(fence)) throw stoppedBy('another process leads now');
    const { writes } = pulseRow(house.db);
    if (writes !== seen && !mayGoOn(house, errand, op, changes))
      throw stoppedBy('the record does not allow it any more');
    seen = writes;
    if (op !== 'place' || doubted) return;
    doubted = true;
    const shown = withChanges({}, changes);
    const since = house.steady();
    whole(
      house.db,
      (tx) =>
        putDoubt(
          tx,
          ground.listing.id,
          { since, errand: errand.id, looks: 0, lookedAt: null, shown, begunOn: house.machine(), lookedOn: null },
          since + 15_000,
        ),
      { quiet: true },
    );
  };
  const done = () => {
    answered += 1;
  };
  /** A placing that was refused outright left nothing there. */
  const clear = (error: OutsideError) => {
    if (!doubted || answered > 0 || error.kind === 'unknown-outcome') return;
    whole(house.db, (tx) => putDoubt(tx, ground.listing.id, null, null), { quiet: true });
  };
  clears.set(errand, clear);
  return { before, done };
}

/** How the doubt of an errand's placing is cleared, where it is known that nothing came of it. */
const clears = new WeakMap<Errand, (error: OutsideError) => void>();

function settleDone(
  { house, errand, ground, op }: Work,
  outcome: Outcome,
  followed: string | null,
  lead: Leadership,
): void {
  const { listing } = ground;
  if (errand.twin !== null) return settleTwin(house, errand, errand.twin, ground, lead);
  const { remote, written, stood, edited, idle } = outcome;
  const at = house.clock.now();
  const now = house.steady();
  whole(house.db, (tx) => {
    if (tooLate(house, errand, lead, tx, { remote, op })) return;
    const fresh = listingById(tx, listing.id) ?? listing;
    const placed = op === 'place' || fresh.sent === null;
    const times = Object.fromEntries(
      Object.keys(fresh.sent ?? {}).map((key) => [key, fresh.sentTimes[key] ?? fresh.sentAt ?? now]),
    );
    for (const { key } of written) times[key] = now;
    // A first placing has nothing before it but that it was not to be seen.
    const before = written.map(({ key }) => ({ key, before: null, after: stood[key] ?? null }));
    const previous = placed ? takenDown : withChanges(fresh.previous ?? {}, before);
    noteSent(tx, fresh, {
      sent: withChanges(placed ? {} : (fresh.sent ?? {}), written),
      sentTimes: times,
      previous,
      believed: withChanges(placed ? {} : stood, written),
      remote,
      revision: ground.record.record.revision,
      at: now,
      readAt: now + firstLookMs,
    });
    const off = written.find((one) => one.key === listedField)?.after;
    const closed = off?.kind === 'state' && off.is !== 'public' && off.is !== 'unlisted';
    giveOn(tx, ground.channel.rules, fresh, remote, closed, now);
    sendOn(house, tx, ground, remote, now);
    if (op !== errand.op) noteOperation(tx, errand.id, op);
    // What may not be seen may not be seen in a second place either.
    if (op === 'unpublish' || op === 'cancel') followTwins(house, tx, fresh, errand.id);
    const detail = {
      remote,
      changes: written.length,
      op,
      revision: ground.record.record.revision,
      try: errand.tries,
      ...(followed === null ? {} : { followed }),
    };
    if (edited.length > 0) {
      const fields = edited.map((one) => one.key);
      const error = {
        kind: 'conflict' as const,
        message: `edited there: ${[...new Set(fields.map((key) => key.split('@')[0]))].join(', ')}`,
        field: fields[0] ?? null,
      };
      if (!idle) addReceipt(tx, errand.id, at, 'done in part', detail);
      settleErrand(tx, errand, errand.claim, { state: 'refused', error }, at);
      return addReceipt(tx, errand.id, at, 'refused', { ...error, try: errand.tries });
    }
    // What stands there already after a try without an answer was done by that try.
    const needless = idle && !asked(errand);
    settleErrand(tx, errand, errand.claim, { state: needless ? 'not needed' : 'done' }, at);
    if (needless) addReceipt(tx, errand.id, at, 'not needed', { why: 'the channel shows it already' });
    else addReceipt(tx, errand.id, at, 'done', detail);
  });
}

/** Another place where the listing stood is taken down: nothing else of it was touched. */
function settleTwin(house: House, errand: Errand, twin: string, { listing, record }: Work['ground'], lead: Leadership) {
  const at = house.clock.now();
  whole(house.db, (tx) => {
    if (tooLate(house, errand, lead, tx, { twin })) return;
    dropTwin(tx, listing, twin, house.steady() + firstLookMs);
    settleErrand(tx, errand, errand.claim, { state: 'done' }, at);
    const revision = record.record.revision;
    addReceipt(tx, errand.id, at, 'twin down', { places: [twin], op: 'unpublish', revision, try: errand.tries });
  });
}

function settleFailed(house: House, errand: Errand, error: OutsideError, lead: Leadership): void {
  clears.get(errand)?.(error);
  const now = house.steady();
  const cure = cureFor(error.kind, errand.tries, now);
  const detail = { kind: error.kind, message: error.message, field: error.field };
  if (cure.kind === 'final')
    return settle(
      house,
      errand,
      { state: 'refused', error: detail },
      lead,
      ['refused', { ...detail, try: errand.tries }],
      { read: error.kind === 'conflict' || error.kind === 'gone' },
    );
  const row = channelById(house, errand.channel)?.row;
  const { failures } = row === undefined ? calmAccount : house.outside.state(accountOf(row));
  // The account waits, not this errand: the first answer wakes all of its queue. Of each knock in vain, only the first is for the book.
  const known = errandById(house.db, errand.id)?.lastError?.message === error.message && failures > 1;
  const nextTryAt = cure.kind === 'again' ? cure.at : now;
  // A write whose answer was lost may have been carried out: what follows asks first.
  const costs = error.kind === 'unknown-outcome' || (cure.kind === 'again' && error.kind !== 'stopped');
  settle(
    house,
    errand,
    { state: 'waiting', nextTryAt, costs, error: detail },
    lead,
    known ? null : ['again', { ...detail, try: errand.tries }],
  );
}

function settle(
  house: House,
  errand: Errand,
  to: Settlement,
  lead: Leadership,
  receipt: [string, object] | null,
  { read = false, also }: { read?: boolean; also?: (tx: Parameters<typeof addReceipt>[0]) => void } = {},
): void {
  const at = house.clock.now();
  const quiet = to.state === 'waiting' && receipt === null;
  whole(
    house.db,
    (tx) => {
      if (tooLate(house, errand, lead, tx, { to: to.state })) return;
      settleErrand(tx, errand, errand.claim, to, at);
      if (receipt !== null) addReceipt(tx, errand.id, at, receipt[0], receipt[1]);
      if (read) askReading(tx, errand.listingId, house.steady());
      also?.(tx);
    },
    { quiet },
  );
}

/** Who lost the lease changes nothing any more: what it did is a receipt, and somebody looks. */
function tooLate(
  house: House,
  errand: Errand,
  lead: Leadership,
  tx: Parameters<typeof addReceipt>[0],
  what: object,
): boolean {
  if (lead.stillLeads(errand.fence ?? 0, tx)) return false;
  addReceipt(tx, errand.id, house.clock.now(), 'too late', what);
  askReading(tx, errand.listingId, house.steady());
  return true;
}
