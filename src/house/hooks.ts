import { randomBytes } from 'node:crypto';
import type { ListingId } from '@/core/base/ids';
import { hookSecret, readHook } from '@/channels/kit/hooks';
import { accountOf, allChannels, keepAt, keptAt } from '@/store/channels';
import { transaction } from '@/store/database';
import { askReading, listingById } from '@/store/listings';
import { ownOrigin } from './feeds';
import type { House } from './house';

/** What is kept of an account: the part of the address that its calls come to which nobody can guess. */
export const hookKey = 'hook key';

/** The address to which an account makes its calls; made at first use. */
export function hookAddress(house: Pick<House, 'db'>, account: string): string {
  let key = keptAt(house.db, account, hookKey, 'key');
  if (key === null) {
    const made = randomBytes(18).toString('base64url');
    transaction(house.db, (tx) => keepAt(tx, account, hookKey, 'key', made), { quiet: true });
    key = made;
  }
  return `${ownOrigin()}/api/hooks/${key}`;
}

/**
 * Takes a call that a channel makes to us. It is believed in nothing but that there is something to read: the listing
 * that it names is read at once, by our own door. So one that is lost costs time alone, one that comes twice costs a
 * reading, and a forged one nothing.
 */
export function takeHook(house: House, key: string, signature: string, body: string): 'taken' | 'refused' | 'unknown' {
  const row = allChannels(house.db).find((channel) => keptAt(house.db, accountOf(channel), hookKey, 'key') === key);
  const secret = row && keptAt(house.db, accountOf(row), hookSecret, 'secret');
  if (!row?.connected || !secret) return 'unknown';
  const said = readHook(secret, signature, body, house.clock.now());
  if (said === null) return 'refused';
  const listing = listingById(house.db, said.reference as ListingId);
  if (listing?.channel !== row.id || listing.remote === null) return 'refused';
  transaction(house.db, (tx) => askReading(tx, listing.id, house.monotonic()), { quiet: true });
  return 'taken';
}
