import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { DispatchId, ListingId } from '@/core/base/ids';
import { fail, ok, type Result } from '@/core/base/result';
import type { House } from '@/house/house';
import { takingDown, twinDown } from '@/runner/look';
import { transaction } from '@/store/database';
import { makeDispatch } from '@/store/errands';
import { listingById, takeTwinForOurs } from '@/store/listings';
import { recordAt } from '@/store/records';

/**
 * A listing stands in two places on a channel, since an answer was lost: takes the one of them down that the channel
 * knows as
 * `place`. Where that is the one that was held for ours, the other is ours from now on. Gives the dispatch.
 */
export function takeTwinDown(
  house: House,
  doer: Doer,
  listingId: ListingId,
  place: string,
): Result<DispatchId, string> {
  asks(doer, 'takeTwinDown');
  return transaction(house.db, (tx) => {
    const listing = listingById(tx, listingId);
    const [other] = listing?.twins ?? [];
    if (!listing || !other) return fail('It does not stand there twice any more. Look again.');
    if (listing.remote?.id === place) takeTwinForOurs(tx, listing, other.id, house.monotonic());
    else if (!listing.twins.some((twin) => twin.id === place))
      return fail('It does not stand at that place any more. Look again.');
    const revision = recordAt(tx, listing.recordId)?.revision ?? 0;
    const wish = takingDown(listing, revision, twinDown, place);
    return ok(makeDispatch(tx, [wish], doer.name, house.clock.now(), house.monotonic()));
  });
}
