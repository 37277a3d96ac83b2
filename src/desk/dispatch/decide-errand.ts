import { noteDoing } from '@/store/persons';
import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { withChanges } from '@/core/errands/steps';
import { channelById, type House } from '@/house/house';
import { transaction } from '@/store/database';
import { decideErrands, errandById, wakeErrands } from '@/store/errands';
import { giveUpPendingOutcome, listingById, putPendingOutcome } from '@/store/listings';

const decided = {
  again: 'tried an errand again',
  drop: 'dropped an errand',
  without: 'let an errand go without its link',
};

/**
 * A person's word on an errand that was refused or waits: try it again now, let it go without the link that it waits
 * for, or drop it. What waits for a dropped errand's link goes on waiting, and says so. Nothing is stuck with a channel
 * that was taken off: there, what was handed over or is in doubt can be dropped too, and is looked for when the channel
 * comes back. Gives the number changed.
 */
export function decideErrand(
  house: House,
  doer: Doer,
  errandId: number,
  verdict: 'again' | 'drop' | 'without',
): number {
  asks(doer, 'decideErrand');
  return transaction(house.db, (tx) => {
    const errand = errandById(tx, errandId);
    const off =
      errand !== null && channelById({ ...house, db: tx as House['db'] }, errand.channel)?.row.connected !== true;
    const changed = decideErrands(tx, [errandId], verdict, house.monotonic(), off);
    if (changed === 0 || errand === null) return changed;
    noteDoing(tx, doer, {
      ...{ at: house.clock.now(), sort: 'decision', recordId: errand.recordId },
      words: `${decided[verdict]} (${errand.op} on ${errand.channel})`,
    });
    // Others may have waited for what it was to do.
    if (errand.way !== null) wakeErrands(tx, errand.recordId);
    const listing = listingById(tx, errand.listingId);
    if (!off || verdict !== 'drop' || listing === null) return changed;
    const asked = { looks: 0, lookedAt: null, begunOn: house.machine(), lookedOn: null };
    if (errand.lodged !== null) {
      const { op, changes } = errand.lodged;
      const shown = withChanges({}, changes);
      putPendingOutcome(
        tx,
        listing,
        { since: house.monotonic(), errand: errandId, op, shown, ...asked },
        house.monotonic(),
      );
    }
    const pendingOutcome = listingById(tx, errand.listingId)?.pendingOutcome ?? null;
    // Of a first writing there is nothing yet: it is given up, and looked for when the channel is back.
    if (pendingOutcome?.op === 'place') giveUpPendingOutcome(tx, listing, pendingOutcome, house.monotonic());
    return changed;
  });
}
