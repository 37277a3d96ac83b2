import type { ListingId } from '@/core/base/ids';
import { isOutsideError } from '@/channels/kit/http';
import { clientOf } from '@/house/clients';
import type { House } from '@/house/house';
import { goingOut } from '@/house/outside-door';
import { transaction } from '@/store/database';
import { askReading, listingById, noteUnreadable } from '@/store/listings';
import { askPendingOutcome, readAndNote } from './look';

const soonestMs = 2_000;
const longestMs = 15 * 60_000;

/**
 * Reads one listing back from its channel, or asks what became of a placing in doubt; notes it, and when to look again.
 */
export async function readListingBack(house: House, id: ListingId): Promise<void> {
  const listing = listingById(house.db, id);
  if (!listing) return;
  try {
    await goingOut({ sort: 'reading' }, async () => {
      const client = clientOf(house, listing.channel);
      if (listing.pendingOutcome !== null || (listing.remote === null && listing.lost !== null)) {
        // Asked too early: it is due again when it may be asked.
        const next = await askPendingOutcome(house, listing, client);
        if (next !== 'settled') transaction(house.db, (tx) => askReading(tx, id, next), { quiet: true });
      } else if (listing.remote !== null) await readAndNote(house, listing, client);
      else transaction(house.db, (tx) => noteUnreadable(tx, id, 0, house.monotonic() + longestMs), { quiet: true });
    });
  } catch (error) {
    const again = house.monotonic() + Math.min(soonestMs * 2 ** Math.min(listing.readTries + 1, 12), longestMs);
    transaction(house.db, (tx) => noteUnreadable(tx, id, listing.readTries + 1, again), { quiet: true });
    if (!isOutsideError(error)) throw error;
  }
}
