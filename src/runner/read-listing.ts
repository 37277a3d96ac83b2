import { OutsideError } from '@/channels/kit/http';
import { channelById } from '@/channels/registry';
import { compareListing, settledPrevious } from '@/core/listing/compare';
import { takenDown } from '@/core/listing/proof';
import { noteObserved, noteUnreadable, type Listing } from '@/store/listings';
import { noteSale } from '@/store/sales';
import { clientOf } from './clients';
import type { House } from '../house/house';

const hourMs = 3_600_000;
const soonestMs = 2_000;

/** Reads one listing back from its channel, notes what is shown there, and says when to look again. */
export async function readListingBack(house: House, listing: Listing): Promise<void> {
  const channel = channelById(listing.channel);
  try {
    if (listing.remote === null) return;
    const answer = await clientOf(house, listing.channel).fetch(listing.remote);
    const at = house.clock.now();
    const shown = answer === null ? takenDown : channel.read(answer);
    const readAt = answer === null ? null : at + pauseAfter(listing, shown, at, channel.rules.delayMs);
    noteObserved(house.db, listing.id, {
      shown,
      previous: settledPrevious(listing, shown),
      remote: answer?.remote ?? null,
      at,
      readAt,
    });
    for (const count of answer === null ? [] : (channel.sales?.(answer) ?? []))
      noteSale(house.db, { ...count, recordId: listing.recordId, outlet: listing.channel, at, by: channel.rules.name });
  } catch (error) {
    if (!(error instanceof OutsideError)) throw error;
    const tries = listing.readTries + 1;
    noteUnreadable(
      house.db,
      listing.id,
      tries,
      house.clock.now() + Math.min(soonestMs * 2 ** Math.min(tries, 8), hourMs / 4),
    );
  }
}

/** Until it shows what was sent, look often; then patrol once an hour. */
function pauseAfter(listing: Listing, observed: Listing['observed'], now: number, delayMs: number): number {
  const fields = compareListing(
    listing.sent ?? {},
    { ...listing, observed, observedAt: now },
    { now, delayMs, dropped: new Set(), lapse: null },
  );
  return fields.some((one) => one.outcome === 'not-yet' || one.outcome === 'late')
    ? Math.max(soonestMs, delayMs / 10)
    : hourMs;
}
