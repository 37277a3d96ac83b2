import type { ChannelClient, Remote, Sending } from '@/channels/kit/channel';
import { OutsideError } from '@/channels/kit/http';
import { channelById } from '@/channels/registry';
import { settledPrevious } from '@/core/listing/compare';
import { writeListing } from '@/core/listing/listing-codec';
import { noticePart } from '@/core/listing/parts';
import type { Change } from '@/core/errands/plan';
import type { RecordContent } from '@/core/record/record';
import { takenDown } from '@/core/listing/proof';
import { cureFor } from '@/core/errands/retry';
import { instantOf } from '@/core/base/zones';
import { whole } from '@/store/database';
import { addReceipt, settleErrand, type Errand, type Settlement } from '@/store/errands';
import { listingById, listingsOf, noteObserved, noteSent, askReading, type Listing } from '@/store/listings';
import { recordAt } from '@/store/records';
import { clientOf } from '../clients';
import type { House } from '../../house/house';
import { makeRendition } from '../../house/renditions';
import { amended, fillAwaited, remaining, withChanges } from './sending';

/** Time between a sending and the first reading, in milliseconds. */
const firstLookMs = 1_500;
/** How long an errand waits for a link that should have been there. */
const linkWaitMs = 2_000;

interface Work {
  house: House;
  errand: Errand;
  listing: Listing;
  client: ChannelClient;
  changes: Change[];
}

/**
 * Carries out a claimed errand and settles it: the walls first, then, where an earlier try may have been carried
 * out, a question to the channel, then the sending. Never throws for what happens outside; the receipt says it.
 */
export async function runErrand(house: House, errand: Errand): Promise<void> {
  const listing = listingById(house.db, errand.listingId);
  if (!listing) throw new Error(`errand ${errand.id} names listing ${errand.listingId}, which is not there`);
  const wall = wallFor(house, errand);
  if (wall !== null) return settle(house, errand, wall.to, wall.outcome, wall.detail);
  try {
    const filled = fillAwaited(errand.changes, linksOf(house, errand.recordId));
    if ('missing' in filled) {
      const nextTryAt = house.clock.now() + linkWaitMs;
      return settle(house, errand, { state: 'waiting', nextTryAt, doubtful: errand.doubtful, error: null }, 'waits', {
        for: filled.missing,
      });
    }
    const work: Work = { house, errand, listing, client: clientOf(house, errand.channel), changes: filled };
    const remote = await carryOut(work);
    settleDone(work, remote);
  } catch (error) {
    // A mistake of our own must not leave the errand claimed: it is shown to a person like any refusal.
    settleFailed(
      house,
      errand,
      error instanceof OutsideError ? error : new OutsideError('invalid', `a mistake of our own: ${String(error)}`),
    );
  }
}

interface Wall {
  to: Settlement;
  outcome: string;
  detail: object;
}

/** What the record says *now* decides whether anything may leave the house, whatever was queued before. */
function wallFor(house: House, errand: Errand): Wall | null {
  if (errand.op === 'withdraw') return null;
  const record = recordAt(house.db, errand.recordId);
  const visibility = record?.content.publicity.visibility ?? 'private';
  if (
    !record ||
    visibility === 'private' ||
    (visibility === 'unlisted' && !channelById(errand.channel).rules.takesUnlisted)
  ) {
    return { to: { state: 'dropped' }, outcome: 'dropped', detail: { why: `the record is ${visibility} now` } };
  }
  const until = heldUntil(record.content, errand);
  if (until === null || until <= house.clock.now()) return null;
  return {
    to: { state: 'waiting', nextTryAt: until, doubtful: errand.doubtful, error: null },
    outcome: 'held',
    detail: { until, why: 'under embargo' },
  };
}

/** The moment before which an errand may not go: the event's announce moment, and the notice's own. */
function heldUntil({ publicity, notices }: RecordContent, { channel, listingId: id }: Errand): number | null {
  const own =
    notices.find((one) => one.channel === channel && id.endsWith(`.${channel}.${noticePart(one.id)}`))?.notBefore ??
    null;
  const moments = [publicity.announce, own].flatMap((one) => (one === null ? [] : (instantOf(one, one.zone) ?? [])));
  return moments.length === 0 ? null : Math.max(...moments);
}

function linksOf(house: House, recordId: string): Map<string, string> {
  const links = new Map<string, string>();
  for (const { channel, remote } of listingsOf(house.db, recordId)) if (remote?.link) links.set(channel, remote.link);
  return links;
}

async function carryOut(work: Work): Promise<Remote> {
  const { errand, listing } = work;
  if (errand.op !== 'withdraw' && (listing.remote === null || listing.sent === null)) return placeOnce(work);
  if (listing.remote === null) throw new OutsideError('gone', 'it is not on the channel any more');
  if (errand.doubtful) return sendRest(work, listing.remote);
  try {
    return await send(work, listing.remote, work.changes);
  } catch (error) {
    // Somebody edited it there since we last looked. Look, and go on where it was another field.
    if (!(error instanceof OutsideError) || error.kind !== 'conflict') throw error;
    return sendRest(work, listing.remote);
  }
}

async function placeOnce(work: Work): Promise<Remote> {
  const { errand, listing, client, changes } = work;
  // A first try is sure; after one without an answer, it may stand there already.
  if (errand.doubtful) {
    const standing = await client.find(listing.id);
    if (standing !== null) return sendRest(work, standing);
  }
  const { rules } = channelById(errand.channel);
  return client.place(writeListing(rules, withChanges({}, changes)), await sending(work, changes));
}

/** Asks what the channel shows and sends only what is missing there. */
async function sendRest(work: Work, remote: Remote): Promise<Remote> {
  const { house, errand, listing, client } = work;
  const answer = await client.fetch(remote);
  if (answer === null) throw new OutsideError('gone', 'it is not on the channel any more');
  const observed = channelById(errand.channel).read(answer);
  noteObserved(house.db, listing.id, {
    shown: observed,
    previous: settledPrevious(listing, observed),
    remote: answer.remote,
    at: house.clock.now(),
    readAt: listing.readAt,
  });
  // A placing has no earlier state there: whatever differs from the wish is what the lost try did not get done.
  const rest =
    listing.sent === null
      ? remaining(
          work.changes.map((one) => ({ ...one, before: observed[one.key] ?? null })),
          observed,
        )
      : remaining(work.changes, observed);
  if (rest.kind === 'conflict')
    throw new OutsideError('conflict', `edited there: ${rest.keys.map((key) => key.split('@')[0]).join(', ')}`);
  // Whether a renewal was carried out is told by its moment: what it renews shows the same before and after.
  const open = errand.op === 'renew' && (answer.remote.lapsesAt ?? 0) <= (listing.remote?.lapsesAt ?? 0);
  return rest.changes.length === 0 && !open ? answer.remote : send(work, answer.remote, rest.changes);
}

async function send(work: Work, remote: Remote, changes: Change[]): Promise<Remote> {
  const { errand, listing, client } = work;
  if (errand.op === 'withdraw') return client.withdraw(remote, await sending(work, []));
  if (errand.op === 'renew') {
    if (!client.renew) throw new OutsideError('invalid', 'nothing lapses there');
    return client.renew(remote, await sending(work, []));
  }
  const { rules } = channelById(errand.channel);
  const fresh = listingById(work.house.db, listing.id) ?? listing;
  return client.amend(
    remote,
    writeListing(
      rules,
      amended(fresh, changes),
      changes.map((one) => one.key),
    ),
    await sending(work, changes),
  );
}

async function sending({ house, errand, listing }: Work, changes: readonly Change[]): Promise<Sending> {
  const pictures = [];
  for (const { after } of changes)
    if (after?.kind === 'picture' && after.source !== null) pictures.push(await makeRendition(house.folder, after));
  return { reference: listing.id, key: errand.key, pictures };
}

function settleDone({ house, errand, listing, changes }: Work, remote: Remote): void {
  const at = house.clock.now();
  whole(house.db, (tx) => {
    const now = listingById(tx, listing.id) ?? listing;
    // A first placing has nothing before it, and so has one that had gone from there. Of an amendment, only what
    // it changed may show its older value for a while.
    const placed = now.remote === null || now.sent === null;
    const previous = placed
      ? takenDown
      : withChanges(
          now.previous ?? {},
          changes.map(({ key }) => ({ key, before: null, after: now.observed?.[key] ?? now.sent?.[key] ?? null })),
        );
    const shown = withChanges(errand.op === 'withdraw' ? { ...now.sent } : (now.sent ?? {}), changes);
    noteSent(tx, listing.id, { shown, previous, remote, revision: errand.revision, at, readAt: at + firstLookMs });
    settleErrand(tx, errand.id, errand.claim, { state: 'done' }, at);
    addReceipt(tx, errand.id, at, 'done', { remote, changes: changes.length, try: errand.tries });
  });
}

function settleFailed(house: House, errand: Errand, error: OutsideError): void {
  const now = house.clock.now();
  const cure = cureFor(error.kind, errand.tries, now, error.waitMs === null ? null : now + error.waitMs);
  const detail = { kind: error.kind, message: error.message, field: error.field };
  const doubtful = errand.doubtful || error.kind === 'unknown-outcome';
  const to: Settlement =
    cure.kind === 'again'
      ? { state: 'waiting', nextTryAt: cure.at, doubtful, error: detail }
      : { state: 'refused', error: detail };
  settle(house, errand, to, cure.kind === 'again' ? 'again' : 'refused', { ...detail, try: errand.tries });
  if (error.kind === 'conflict' || error.kind === 'gone') askReading(house.db, errand.listingId, now);
}

function settle(house: House, errand: Errand, to: Settlement, outcome: string, detail: object): void {
  const at = house.clock.now();
  whole(house.db, (tx) => {
    settleErrand(tx, errand.id, errand.claim, to, at);
    addReceipt(tx, errand.id, at, outcome, detail);
  });
}
