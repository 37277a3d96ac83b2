import { compareListing, equalOrAbsent, settle, type ListingState } from '@/core/listing/compare';
import { narrowing } from '@/core/errands/narrowing';
import { theirItems } from '@/core/listing/listing-codec';
import { isOff, listedField, takenDown, type Shown } from '@/core/listing/shown';
import { droppedBy, looksAgain, settledBy } from '@/channels/survey';
import type { Channel } from '@/channels/channels';
import type { Answer, ChannelClient, Remote } from '@/channels/kit/kind';
import { readAny } from '@/channels/kit/read';
import { channelById, type House } from '@/house/house';
import { listingNow, surveyById } from '@/house/survey';
import { noteDelay } from '@/store/delays';
import { noteForetold } from '@/store/foretold';
import { noteGift } from '@/store/gifts';
import { transaction, type Tx } from '@/store/database';
import type { ChannelRules } from '@/core/listing/channel-rules';
import {
  addErrand,
  addReceipt,
  errandById,
  errandsWhere,
  newestErrandOf,
  wakeDecided,
  type Wish,
} from '@/store/errands';
import {
  adoptFound,
  forgetLost,
  giveUpPendingOutcome,
  listingById,
  noteObserved,
  noteSent,
  putPendingOutcome,
  thoroughly,
  type PendingOutcome,
  type Listing,
} from '@/store/listings';
import { noteSale, noteSources } from '@/store/sales';
import { markStale } from '@/store/pulse';
import { sendOn } from './errand/mirrors';
import { itemsOf, standing } from './errand/writing';
import { followNarrowing } from './follow';

const minuteMs = 60_000;
const hourMs = 60 * minuteMs;
const dayMs = 24 * hourMs;
const soonestMs = 2_000;
/** A placing that no answer came to is looked for twice, so far apart, before it counts as not carried out. */
const lookAgainMs = 10_000;
/**
 * A placing that has not been found is not given up before so long after it was begun: longer than a call is waited
 * for.
 */
const slowestMs = 20_000;
/** So many other places of one listing are asked about; more than two were never met. */
const mostTwins = 8;

/** Of so many readings one looks, too, whether somebody doubled it there. */
const everyReading = 8;

/** A person asked for this reading, or it is the turn of one that looks whether it stands there twice. */
function looksTwice({ readAt, sights }: Listing): boolean {
  return readAt === thoroughly || sights % everyReading === everyReading - 1;
}

/** Everything that stands there under our reference. */
export function lookFor(house: House, { id }: Pick<Listing, 'id'>, client: ChannelClient): Promise<Remote[]> {
  return client.find(id);
}

/**
 * Reads a listing back and notes what is shown there. What was written meanwhile is not touched by it: an answer to a
 * request that began before our last writing says nothing of that. A listing that is not found by its id is looked for
 * by our reference.
 */
export async function readAndNote(house: House, listing: Listing, client: ChannelClient): Promise<void> {
  const channel = channelById(house, listing.channel);
  if (!channel || listing.remote === null) return;
  const began = house.monotonic();
  const asked = listingNow(house, listing.recordId, listing.id);
  const allowed = asked !== null && narrowing(asked.surveyed) === null;
  const { lost } = listing;
  const { answer, twins } = await readThere(house, channel, listing, listing.remote, client);
  const record = surveyById(house, listing.recordId);
  const before = record?.survey.listings.find((surveyedListing) => surveyedListing.id === listing.id) ?? null;
  const wanted = before?.wanted ?? takenDown;
  const ours = itemsOf(listing, wanted);
  const shown = answer === null ? takenDown : readAny(channel.rules, answer, { items: ours });
  transaction(house.db, (tx) => {
    const now = listingById(tx, listing.id);
    // Something was written while the answer was on its way: it is read again.
    if (!now || now.writes !== listing.writes) return;
    const { sent, previous } = settle(now, shown, wanted);
    const next: ListingState = { ...now, sent, previous, observed: shown, observedAt: began };
    const news = noteObserved(tx, now, {
      shown,
      sent,
      previous,
      believed: standing(shown, sent, droppedBy(channel.rules)),
      others: answer === null ? {} : theirItems(channel.rules, answer.wire, ours),
      remote: answer?.remote ?? null,
      at: began,
      readAt: soonest(
        nextLook(
          house,
          next,
          shown,
          { delayMs: channel.rules.delayMs, settled: settledBy(channel.rules) },
          nearest(record),
        ),
        // What comes of a placing that was given up is looked for ever more rarely.
        lost === null ? null : began + Math.max(lookAgainMs, began - lost.since),
      ),
      gone: answer === null,
      ...(twins === undefined ? {} : { twins }),
    });
    // What was locked by what stood there may be free by now.
    if (news) wakeDecided(tx, now.recordId);
    // What came late and must not be seen is taken down by itself.
    if (lost !== null && twins !== undefined && isOff(wanted[listedField]))
      followTwins(house, tx, { ...now, twins }, lost.errand);
    // After a day nothing is expected any more of what was given up.
    if (lost !== null && began >= lost.since + dayMs) forgetLost(tx, now.id);
    if (now.sentAt !== null)
      noteForetold(tx, now.id, now.sentAt, showsSent(house, next, channel.rules), house.clock.now());
    // What was sent is seen for the first time: how long that took is what is to be expected.
    if (now.sentAt !== null && awaitsSight(now) && !awaitsSight(next))
      noteDelay(tx, listing.channel, began - now.sentAt, house.clock.now());
    if (answer !== null) giveOn(tx, channel.rules, now, answer.remote, isOff(shown[listedField]), began);
    if (answer !== null) noteCounts(house, tx, channel, listing, answer);
    // The record came to say less while the answer was on its way: what stands beyond it is taken back.
    const newest = allowed ? newestErrandOf(tx, now.id) : null;
    if (newest)
      followNarrowing(house, tx, { listingId: now.id, recordId: now.recordId, dispatchId: newest.dispatchId });
  });
}

/**
 * What stands there, by its id or by our reference, and in which other places. Whoever looks for it by our reference
 * sees, too, whether it stands there twice; what comes of a placing that was given up would. `twins`: missing where
 * nobody looked.
 */
async function readThere(
  house: House,
  channel: Channel,
  listing: Listing,
  remote: Remote,
  client: ChannelClient,
): Promise<{ answer: Answer | null; twins: Remote[] | undefined }> {
  const answer = await client.fetch(remote, { page: true });
  const looks = answer === null || listing.twins.length > 0 || listing.lost !== null || looksTwice(listing);
  if (!looks) return { answer, twins: undefined };
  const found = await lookFor(house, listing, client);
  const [first] = found;
  const there = answer === null && first ? await client.fetch(first, { page: true }) : answer;
  const others = found.filter((place) => place.id !== there?.remote.id);
  return { answer: there, twins: await seenOf(channel, others, client) };
}

/** Notes what the channel counts: what was sold, and from where those came who bought. */
function noteCounts(house: House, tx: Tx, { kind, rules }: Channel, listing: Listing, answer: Answer): void {
  const { recordId, channel: outlet } = listing;
  const at = house.clock.now();
  const sources = kind.sources?.(answer) ?? null;
  if (sources !== null && noteSources(tx, listing, sources, at)) markStale(tx, recordId);
  for (const count of kind.sales?.(answer) ?? [])
    if (noteSale(tx, { ...count, recordId, outlet, at, by: rules.name })) markStale(tx, recordId);
}

/** True where all that was sent is seen there. */
function showsSent(house: House, state: ListingState, rules: ChannelRules): boolean {
  if (awaitsSight(state)) return false;
  const fields = compareListing(state.sent ?? {}, state, {
    now: house.monotonic(),
    delayMs: rules.delayMs,
    dropped: droppedBy(rules),
    settled: settledBy(rules),
    looks: looksAgain(rules),
    lapse: null,
  });
  return fields.every(({ outcome }) => outcome !== 'not-yet' && outcome !== 'late');
}

/** True while something that was sent has not been seen there yet. */
function awaitsSight(state: ListingState): boolean {
  const read = state.observedAt !== null && state.sentAt !== null && state.observedAt >= state.sentAt;
  return !read || isOff(state.observed?.[listedField]) !== isOff(state.sent?.[listedField]);
}

/** Those that the public sees: what was taken down in a second place does not stand twice any more. */
async function seenOf(channel: Channel, others: readonly Remote[], client: ChannelClient): Promise<Remote[]> {
  const seen: Remote[] = [];
  for (const remote of others.slice(0, mostTwins)) {
    const answer = await client.fetch(remote, { page: false });
    const state = answer && readAny(channel.rules, answer, { items: new Set() })[listedField];
    if (answer && !isOff(state ?? undefined)) seen.push(remote);
  }
  return seen;
}

/**
 * Notes what a listing gives to others, by the channel's own word: whoever awaits it is woken. One that is closed gives
 * nothing.
 */
export function giveOn(
  tx: Tx,
  rules: Pick<ChannelRules, 'gives'>,
  listing: Pick<Listing, 'id' | 'recordId' | 'channel'>,
  remote: Remote,
  closed: boolean,
  at: number,
): void {
  for (const gift of rules.gives) {
    const value =
      gift === 'ticket link'
        ? remote.link
        : gift === 'public address'
          ? remote.publicUrl
          : (remote.gifts?.[gift] ?? null);
    if (value !== null || closed) noteGift(tx, listing, gift, closed ? null : value, at);
  }
}

/** The earlier of two moments, where there are any. */
function soonest(a: number | null, b: number | null): number | null {
  return a === null || b === null ? (a ?? b) : Math.min(a, b);
}

/** How far away the nearest show is, in milliseconds: negative where all is over; `Infinity` where nothing is known. */
function nearest(record: ReturnType<typeof surveyById>): (now: number) => number {
  const times = record?.survey.facts.performances ?? [];
  return (now) => {
    const ahead = times.filter((time) => time.over >= now).map((time) => Math.max(0, time.at - now));
    if (ahead.length > 0) return Math.min(...ahead);
    return times.length === 0 ? Infinity : Math.max(...times.map((time) => time.over)) - now;
  };
}

/** Some days after the last show nobody looks any more. */
const lookAfterMs = 3 * dayMs;

/**
 * Until it shows what was sent, it is looked at often; then the less often the further off the show is, and some days
 * after it not at all.
 */
function nextLook(
  house: House,
  state: Parameters<typeof compareListing>[1],
  shown: Shown,
  { delayMs, settled }: { delayMs: number; settled: ReadonlySet<string> },
  distance: (now: number) => number,
): number | null {
  const now = house.monotonic();
  const fields = compareListing(state.sent ?? {}, state, { now, delayMs, dropped: new Set(), settled, lapse: null });
  if (fields.some((field) => field.outcome === 'not-yet')) return now + Math.max(soonestMs, delayMs / 10);
  const away = distance(house.clock.now());
  if (away < -lookAfterMs) return null;
  // What is late is looked at the less often the longer it is so.
  if (fields.some((field) => field.outcome === 'late'))
    return now + Math.min(Math.max(delayMs / 2, (now - (state.sentAt ?? now)) / 3), 4 * hourMs);
  if (isOff(shown[listedField])) return now + 12 * hourMs;
  if (away < 3 * dayMs) return now + 15 * minuteMs;
  return now + (away < 14 * dayMs ? hourMs : 4 * hourMs);
}

/**
 * A writing in doubt, as the channel says it stands: what was found by our reference, and what the first of that shows.
 */
interface Found {
  places: Remote[];
  answer: Awaited<ReturnType<ChannelClient['fetch']>>;
}

/**
 * Looks whether what is in doubt was done: a placing by our reference, a word said anew by the newest there, anything
 * else by what stands there.
 */
async function lookInto(house: House, listing: Listing, { op }: PendingOutcome, client: ChannelClient): Promise<Found> {
  if (op !== 'place' && op !== 'correct' && listing.remote !== null) {
    const answer = await client.fetch(listing.remote, { page: false });
    return { places: [], answer };
  }
  const found = await lookFor(house, listing, client);
  // What is said anew is another thing than what it puts right.
  const places = op === 'correct' ? found.filter((remote) => remote.id !== listing.remote?.id) : found;
  const [first] = places;
  // How far it came is seen there: what was made and never opened is to be opened still.
  return { places, answer: first ? await client.fetch(first, { page: false }) : null };
}

/** True where what was to be brought about is what stands there, by its content. */
function cameAbout(shown: Shown, { shown: wanted, op }: PendingOutcome): boolean {
  const keys = Object.keys(wanted ?? {}).filter((key) => op !== 'correct' || key !== listedField);
  return keys.length > 0 && keys.every((key) => equalOrAbsent(shown[key], wanted?.[key]));
}

/** Notes that a writing without an answer was carried out after all, in the transaction given. */
function noteFound(
  house: House,
  tx: Tx,
  channel: Channel,
  fresh: Listing,
  pendingOutcome: PendingOutcome,
  found: Found,
): void {
  const [first] = found.places;
  const now = house.monotonic();
  const items = new Set<string>();
  // Where it can stay a draft, how far it came is seen there; elsewhere what was sent comes to be seen in its own time.
  const steps = channel.rules.states.includes('draft');
  const state = found.answer && steps ? readAny(channel.rules, found.answer, { items })[listedField] : undefined;
  if (pendingOutcome.op === 'place') {
    adoptFound(tx, fresh, pendingOutcome, found.places, state, now);
    if (first) giveOn(tx, channel.rules, fresh, first, isOff(state), now);
  } else {
    const written = pendingOutcome.shown ?? {};
    const remote = found.answer?.remote ?? first ?? fresh.remote;
    if (remote === null) return;
    noteSent(tx, fresh, {
      sent: { ...fresh.sent, ...written },
      sentTimes: {
        ...fresh.sentTimes,
        ...Object.fromEntries(Object.keys(written).map((key) => [key, pendingOutcome.since])),
      },
      previous: { ...fresh.previous },
      believed: { ...fresh.believed, ...written },
      remote,
      revision: fresh.sentRevision ?? 0,
      at: pendingOutcome.since,
      readAt: now,
    });
  }
  const stands = listingNow({ ...house, db: tx as House['db'] }, fresh.recordId, fresh.id);
  const after = listingById(tx, fresh.id);
  // Who shows what stands there is told as if the answer had come.
  if (stands && after?.remote) sendOn(house, tx, { channel, ...stands, listing: after }, after.remote, now);
}

/**
 * Asks the channel what became of a writing that no answer came to. Found: it counts as done, and is taken back where
 * it must not stand. Not found, twice, and where answers come later not before their time: it counts as not carried
 * out. What lies on our own shelf is looked for there, once. Gives what is to be done: `settled`, or to look again at a
 * moment.
 */
export async function askPendingOutcome(
  house: House,
  listing: Listing,
  client: ChannelClient,
): Promise<'settled' | number> {
  const pendingOutcome = listing.pendingOutcome ?? listing.lost;
  if (pendingOutcome === null) return 'settled';
  if (
    listing.pendingOutcome !== null &&
    pendingOutcome.lookedAt !== null &&
    house.monotonic() < pendingOutcome.lookedAt + lookAgainMs
  )
    return pendingOutcome.lookedAt + lookAgainMs;
  // However far a simulated clock leaps: what is slow there takes its real time.
  const waited = elapsed(pendingOutcome.lookedOn, house.machine());
  if (listing.pendingOutcome !== null && waited < lookAgainMs) return house.monotonic() + lookAgainMs - waited;
  const channel = channelById(house, listing.channel);
  if (!channel) return house.monotonic() + hourMs;
  const found = await lookInto(house, listing, pendingOutcome, client);
  const items = itemsOf(listing, pendingOutcome.shown ?? {});
  const came =
    pendingOutcome.op === 'place'
      ? found.places.length > 0
      : found.answer !== null && cameAbout(readAny(channel.rules, found.answer, { items }), pendingOutcome);
  const at = house.clock.now();
  const now = house.monotonic();
  return transaction(house.db, (tx): 'settled' | number => {
    const fresh = listingById(tx, listing.id);
    if (
      !fresh ||
      fresh.writes !== listing.writes ||
      (fresh.pendingOutcome ?? fresh.lost)?.since !== pendingOutcome.since
    )
      return 'settled';
    if (came) {
      noteFound(house, tx, channel, fresh, pendingOutcome, found);
      const places = found.places.length > 0 ? found.places : found.answer ? [found.answer.remote] : [];
      addReceipt(tx, pendingOutcome.errand, at, 'found', {
        places: places.map((place) => place.publicUrl ?? place.id),
      });
      const errand = errandById(tx, pendingOutcome.errand);
      const { id: listingId, recordId } = fresh;
      if (errand) followNarrowing(house, tx, { listingId, recordId, dispatchId: errand.dispatchId });
      return 'settled';
    }
    const lookedOn = house.machine();
    // Where answers come later, what was handed over is not to be found before its time.
    const patience = channel.rules.answers === 'later' ? channel.rules.delayMs : 0;
    const early = now < pendingOutcome.since + patience;
    const own = channel.rules.answers === 'pulled';
    if (!own && fresh.pendingOutcome !== null && (early || elapsed(pendingOutcome.begunOn, lookedOn) < slowestMs)) {
      const soon =
        now + (early ? Math.min(Math.max(lookAgainMs, (now - pendingOutcome.since) / 2), 10 * minuteMs) : lookAgainMs);
      putPendingOutcome(tx, fresh, { ...pendingOutcome, lookedAt: soon - lookAgainMs, lookedOn }, soon);
      return soon;
    }
    const looks = pendingOutcome.looks + 1;
    const next = { ...pendingOutcome, looks, lookedAt: now, lookedOn };
    if (looks < 2 && !own) {
      putPendingOutcome(tx, fresh, next, now + lookAgainMs);
      return now + lookAgainMs;
    }
    // What is slower than anybody's patience may still come: it is looked for ever more rarely, until a day has passed.
    const over = now >= pendingOutcome.since + dayMs || own || pendingOutcome.op !== 'place';
    giveUpPendingOutcome(
      tx,
      fresh,
      over ? null : next,
      over ? null : now + Math.min(lookAgainMs * 2 ** looks, 4 * hourMs),
    );
    if (fresh.pendingOutcome !== null) {
      addReceipt(tx, pendingOutcome.errand, at, 'not found', { looks });
    }
    return 'settled';
  });
}

/** Time between two moments of the machine's own clock; where it was put back, nobody knows, and enough. */
function elapsed(from: number | null, to: number): number {
  return from === null || to < from ? Infinity : to - from;
}

/** Where a listing is not to be seen and stands in a second place, that is taken down too. */
export function followTwins(house: House, tx: Tx, listing: Listing, errandId: number): void {
  const before = errandById(tx, errandId);
  const record = surveyById({ ...house, db: tx as House['db'] }, listing.recordId);
  if (!before || !record) return;
  const under = errandsWhere(tx, { states: ['waiting', 'running', 'lodged', 'refused'], listingId: listing.id });
  for (const { id } of listing.twins.filter((twin) => !under.some((errand) => errand.twin === twin.id)))
    addErrand(tx, before.dispatchId, takingDown(listing, record.record.revision, twinDown, id), house.monotonic());
}

/** What a second place is brought to. */
export const twinDown = { key: listedField, before: null, after: takenDown[listedField] ?? null };

/** The wish that a listing, or a second place of it, is not to be seen. */
export function takingDown(
  { id, recordId, channel }: Pick<Listing, 'id' | 'recordId' | 'channel'>,
  revision: number,
  change: Wish['changes'][number],
  twin?: string,
): Wish {
  return {
    listing: id,
    record: recordId,
    channel,
    revision,
    op: 'unpublish',
    changes: [change],
    awaits: null,
    notBefore: null,
    deadline: 0,
    gives: false,
    ...(twin === undefined ? {} : { twin }),
  };
}
