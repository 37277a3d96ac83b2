import { fingerprint } from '@/core/base/hash';
import { wholeOver, withChanges, type Change } from '@/core/errands/steps';
import { equalOrAbsent } from '@/core/listing/compare';
import { effectsOf, type Operation } from '@/core/listing/operations';
import { readListing, theirItems, writeListing, type TheirItems } from '@/core/listing/listing-codec';
import { isKeptDraft, isOff, listedField, splitKey, type Shown } from '@/core/listing/shown';
import { droppedBy } from '@/channels/survey';
import { isOutsideError, OutsideError } from '@/channels/kit/http';
import type { ChannelClient, Remote, Sending } from '@/channels/kit/kind';
import { clientOf } from '@/house/clients';
import type { House } from '@/house/house';
import { documentFile, makeFigure, makeRendition } from '@/house/renditions';
import type { Errand } from '@/store/errands';
import { lookFor, readAndNote } from '../look';
import type { ListingContext } from './walk';
import { itemsOf, restOf, restOver, standing, surprising } from './writing';

/** What was done there: the changes that were written, what stood there before, and what was not gone over. */
export interface Outcome {
  remote: Remote;
  written: Change[];
  /** What stood there before the writing, by what was read or believed. */
  stood: Shown;
  /** Fields that somebody else had changed: they were left. */
  edited: Change[];
  /** Nothing needed to be written: it stood there already. */
  idle: boolean;
}

/** What is carried out: an operation with its changes, on the ground as it is now. */
export interface Work {
  house: House;
  errand: Errand;
  context: ListingContext;
  op: Operation;
  changes: Change[];
  /** Told of a step of several that is done. */
  step(outcome: Outcome, step: Operation): void;
}

/** Carries an operation out. Throws an `OutsideError` where that fails. */
export async function carryOut(work: Work): Promise<Outcome> {
  const { house, errand, context, op, changes } = work;
  const client = clientOf(house, errand.channel);
  const { remote } = context.listing;
  if (errand.twin !== null) return takeTwinAway(work, client, errand.twin);
  if (op === 'place' || remote === null) {
    const placed = await client.place(
      writeListing(context.channel.rules, withChanges({}, changes)),
      await sending(work, changes, 'place'),
    );
    return { remote: placed, written: changes, stood: {}, edited: [], idle: false };
  }
  if (op === 'remove') return deleteThere(work, client, remote);
  if (op === 'unpublish' || op === 'cancel') return takeAway(work, client, remote);
  if (op === 'renew') return renew(work, client, remote);
  // What lies on our own shelf nobody else can have changed: it is what we put there, whatever is shown of it yet.
  if (context.channel.rules.answers === 'pulled')
    return write(work, client, remote, changes, context.listing.sent ?? {}, {});
  // Where each write carries a version mark, nobody's change can be gone over: it is refused and looked at first.
  if (
    context.channel.rules.conditional === 'version' &&
    remote.etag !== null &&
    errand.tries < 2 &&
    errand.over === null
  ) {
    try {
      const { believed, sent, others } = context.listing;
      return await write(work, client, remote, changes, believed ?? sent ?? {}, others);
    } catch (error) {
      if (!isOutsideError(error) || error.kind !== 'conflict') throw error;
    }
  }
  return readThenWrite(work, client, remote);
}

/** Reads what stands there right before the write, and sends only what nobody else has changed. */
async function readThenWrite(work: Work, client: ChannelClient, remote: Remote): Promise<Outcome> {
  const { house, errand, context, changes } = work;
  const { channel, listing, surveyed } = context;
  const answer = await client.fetch(remote, { page: false });
  if (answer === null) return wentFrom(work, client);
  const ours = itemsOf(listing, surveyed.wanted);
  const dropped = droppedBy(channel.rules);
  const read = standing(readListing(channel.rules, answer.wire, ours), listing.sent, dropped);
  // Of what is not to be seen yet, or any more, a place may say nothing: what was sent is what stands there.
  const there =
    isOff(read[listedField]) && !isKeptDraft(surveyed.wanted)
      ? { ...listing.sent, ...listing.believed, ...read }
      : read;
  // What was not to be expected there is kept in a reading before anything is written.
  if (surprising(there, listing, dropped)) await readAndNote(house, listing, client);
  const rest = errand.over === null ? restOf(changes, there, listing) : restOver(changes, there, errand.changes);
  if (rest.send.length === 0)
    return {
      remote: answer.remote,
      written: changes.filter((change) => !rest.edited.includes(change)),
      stood: there,
      edited: rest.edited,
      idle: true,
    };
  const done = await write(work, client, answer.remote, rest.send, there, theirItems(channel.rules, answer.wire, ours));
  const already = changes.filter((change) => !rest.send.includes(change) && !rest.edited.includes(change));
  return { ...done, written: [...done.written, ...already], edited: rest.edited };
}

/** Writes changes over what stands there: what is locked by the channel's own step, the rest as an amendment. */
async function write(
  work: Work,
  client: ChannelClient,
  remote: Remote,
  changes: Change[],
  there: Shown,
  others: TheirItems,
): Promise<Outcome> {
  const { op, context } = work;
  const { rules } = context.channel;
  const row = rules.operations.find((operation) => operation.op === op);
  const step = op === 'reschedule' || op === 'correct' ? op : null;
  const byStep =
    step !== null && row && Array.isArray(row.fields)
      ? changes.filter((change) => row.fields.includes(splitKey(change.key).field))
      : [];
  let now = remote;
  let stands = there;
  if (step !== null && byStep.length > 0) {
    const take = client[step];
    if (!take) throw new OutsideError('our-fault', 'the channel has no such step');
    stands = withChanges(stands, byStep);
    // What says a thing anew says all of it, with its pictures; what moves it names what is moved.
    const said = step === 'correct' ? wholeOver(asWanted(stands, context.surveyed.wanted), null) : byStep;
    const keys = said.map((change) => change.key);
    now = await take(now, writeListing(rules, stands, keys, others), await sending(work, said, step));
    const rest = changes.length > byStep.length;
    if (rest) work.step({ remote: now, written: byStep, stood: there, edited: [], idle: false }, step);
  }
  const plain = changes.filter((change) => !byStep.includes(change));
  if (plain.length > 0) {
    const wire = writeListing(
      rules,
      withChanges(stands, plain),
      plain.map((change) => change.key),
      others,
    );
    now = await client.amend(now, wire, await sending(work, plain, 'amend'));
  }
  return { remote: now, written: changes, stood: there, edited: [], idle: false };
}

/**
 * What stands there, in our own values where it is what we want: a picture that was seen there cannot be sent, ours
 * can.
 */
function asWanted(stands: Shown, wanted: Shown): Shown {
  return Object.fromEntries(
    Object.entries(stands).map(([key, value]) => [
      key,
      equalOrAbsent(wanted[key], value) ? (wanted[key] ?? value) : value,
    ]),
  );
}

async function takeAway(work: Work, client: ChannelClient, remote: Remote): Promise<Outcome> {
  const { op, changes, context } = work;
  const stood = context.listing.believed ?? context.listing.sent ?? {};
  const send = async (to: Remote) => {
    const step = (op === 'unpublish' ? client.unpublish : client.cancel)?.bind(client);
    if (!step) throw new OutsideError('our-fault', 'the channel has no such step');
    return step(to, await sending(work, changes, op));
  };
  try {
    return { remote: await send(remote), written: changes, stood, edited: [], idle: false };
  } catch (error) {
    if (!isOutsideError(error) || (error.kind !== 'gone' && error.kind !== 'conflict')) throw error;
    // What is gone need not be taken away; what was edited meanwhile is taken away all the same.
    const answer = await client.fetch(remote, { page: false });
    if (answer === null) return wentFrom(work, client);
    return { remote: await send(answer.remote), written: changes, stood, edited: [], idle: false };
  }
}

/**
 * Deletes it there. It is read right before: what somebody has edited there meanwhile is not deleted unseen. What is
 * gone need not be deleted. Afterwards it is looked for: only what is not found counts as deleted.
 */
async function deleteThere(work: Work, client: ChannelClient, remote: Remote): Promise<Outcome> {
  const { house, changes, context } = work;
  const { channel, listing, surveyed } = context;
  if (!client.remove) throw new OutsideError('our-fault', 'the channel has no such step');
  const answer = await client.fetch(remote, { page: false });
  if (answer === null) return wentFrom(work, client);
  const dropped = droppedBy(channel.rules);
  const read = readListing(channel.rules, answer.wire, itemsOf(listing, surveyed.wanted));
  const there = standing(read, listing.sent, dropped);
  if (!isOff(read[listedField]) && surprising(there, listing, dropped)) {
    await readAndNote(house, listing, client);
    throw new OutsideError('conflict', 'it was edited there since it was read: look at it before it is deleted');
  }
  await client.remove(answer.remote, await sending(work, changes, 'remove'));
  if ((await client.fetch(answer.remote, { page: false })) !== null)
    throw new OutsideError('again-later', 'it was deleted, and stands there still');
  return { remote: answer.remote, written: changes, stood: there, edited: [], idle: false };
}

/**
 * Takes down another place where the listing stands; where nothing is ever taken down, it is called off there. What is
 * gone need not be taken down.
 */
async function takeTwinAway(work: Work, client: ChannelClient, id: string): Promise<Outcome> {
  const { listing } = work.context;
  const twin = listing.twins.find((twin) => twin.id === id) ?? { ...nowhere, id };
  const done = { written: work.changes, stood: {}, edited: [] };
  const answer = await client.fetch(twin, { page: false });
  if (answer === null) return { ...done, remote: twin, idle: true };
  const step = (client.unpublish ?? client.cancel)?.bind(client);
  if (!step) throw new OutsideError('locked', 'nothing is taken down there: ask whoever keeps the place to do it');
  return { ...done, remote: await step(answer.remote, await sending(work, [], 'unpublish')), idle: false };
}

/** Whether a renewal was carried out is told by its moment: what it renews shows the same before and after. */
async function renew(work: Work, client: ChannelClient, remote: Remote): Promise<Outcome> {
  const { errand, context, changes } = work;
  const stood = context.listing.believed ?? context.listing.sent ?? {};
  if (!client.renew) throw new OutsideError('our-fault', 'nothing lapses there');
  if (errand.tries > 1) {
    const answer = await client.fetch(remote, { page: false });
    if (answer === null) return wentFrom(work, client);
    if ((answer.remote.lapsesAt ?? 0) > (context.listing.lapsesAt ?? 0))
      return { remote: answer.remote, written: changes, stood, edited: [], idle: true };
  }
  return {
    remote: await client.renew(remote, await sending(work, changes, 'renew')),
    written: changes,
    stood,
    edited: [],
    idle: false,
  };
}

/**
 * It was not found by its id: it is looked for by our reference before it counts as gone. Under another id it is read
 * there, and tried again; what is nowhere keeps its id.
 */
async function wentFrom({ house, context, changes, op }: Work, client: ChannelClient): Promise<Outcome> {
  const found = await lookFor(house, context.listing, client);
  const [first] = found;
  if (first) {
    // What is noted by this reading is where it stands now: the next try goes there.
    await readAndNote(house, context.listing, client);
    throw new OutsideError('stopped', 'it stands there under another id: it was looked at again');
  }
  if (op === 'unpublish' || op === 'remove')
    return { remote: context.listing.remote ?? nowhere, written: changes, stood: {}, edited: [], idle: true };
  throw new OutsideError('gone', 'it is not on the channel any more');
}

/** Where nothing stands. */
export const nowhere: Remote = { id: '', publicUrl: null, etag: null, link: null, lapsesAt: null };

/**
 * What goes with a write. The key is made of listing, operation, content and the number of attempts whose outcome is
 * known: what was lost is asked again under the same key, what was refused or done is never.
 */
async function sending({ house, errand, context }: Work, changes: readonly Change[], op: Operation): Promise<Sending> {
  const pictures = [];
  for (const { after } of changes) {
    if (after?.kind === 'picture' && after.source !== null) pictures.push(await makeRendition(house.folder, after));
    if (after?.kind === 'rich')
      for (const figure of after.figures ?? []) pictures.push(await makeFigure(house.folder, figure));
    if (after?.kind === 'file' && after.source !== null)
      pictures.push(await documentFile(house.folder, after.name, after.source.fileId));
  }
  const { id, attempts } = context.listing;
  const wish = changes.map(({ key, after }) => [key, after]);
  return {
    reference: id,
    key: fingerprint([id, op, attempts, wish, errand.reason, ...(errand.twin === null ? [] : [errand.twin])]),
    pictures,
    reason: errand.reason,
    effects: effectsOf(context.channel.rules.operations, op, errand.effects).map((effect) => effect.id),
  };
}
