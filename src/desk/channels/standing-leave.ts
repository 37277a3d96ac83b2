import { fail, ok, type Result } from '@/core/base/result';
import type { DispatchId } from '@/core/base/ids';
import { mayDo, type Doer } from '@/core/people/doer';
import type { House } from '@/house/house';
import { firstOfLeave, noteLeaveSaid } from '@/house/standing-leave';
import { allChannels, putStandingLeave } from '@/store/channels';
import { transaction } from '@/store/database';
import { noteDoing } from '@/store/persons';
import { asks } from '../people/rights-of-verbs';

/** Says whether what the clock alone changes is sent to a channel without asking. */
export function giveLeave(house: House, doer: Doer, id: string, given: boolean): Result<null, string> {
  asks(doer, 'giveLeave');
  return transaction(house.db, (tx) => {
    const row = allChannels(tx).find((channel) => channel.id === id);
    if (!row) return fail('There is no such channel.');
    putStandingLeave(tx, row.id, given);
    const words = `${given ? 'gave' : 'took back'} the standing leave for ${row.name}`;
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'channel', words });
    return ok(null);
  });
}

/** The first dispatch under standing leave, for who may say otherwise, until somebody read of it; else `null`. */
export function leaveToTell(house: House, doer: Doer): DispatchId | null {
  asks(doer, 'leaveToTell');
  return mayDo(doer, 'keep') ? firstOfLeave(house.db) : null;
}

/** Somebody read of what goes under standing leave: it is not told again. */
export function leaveRead(house: House, doer: Doer): void {
  asks(doer, 'leaveRead');
  transaction(house.db, (tx) => noteLeaveSaid(tx, doer.name));
}
