import { findingWords } from '@/core/findings/finding-words';
import type { Doer } from '@/core/people/doer';
import type { House } from '@/house/house';
import { transaction } from '@/store/database';
import type { SentAnswer } from '@/views/change';
import { makeDispatch, type Along } from '../dispatch/make-dispatch';
import { asks } from '../people/rights-of-verbs';
import { saveRecord, type SaveRequest } from './save-record';

export const lockedFirst =
  'Nothing can go before it is decided what becomes of what is locked: pick a way, or say that it stays.';

/** Thrown within a transaction, so that what was saved in it is not: it could not be sent. */
export class NotSent extends Error {
  override name = 'NotSent';
}

/**
 * Saves a change and sends what was chosen of it, as one: where it cannot be sent, nothing is saved, and the reason is
 * told. `listings`: what goes; ways that were picked, warnings that were seen.
 */
export function saveAndSend(
  house: House,
  doer: Doer,
  request: SaveRequest,
  listings: ReadonlySet<string>,
  along: Along,
): SentAnswer {
  asks(doer, 'saveAndSend');
  try {
    return transaction(house.db, (): SentAnswer => {
      const saved = saveRecord(house, doer, request);
      if (saved.kind === 'stopped') return { kind: 'stopped', messages: saved.findings.map(findingWords) };
      if (saved.kind === 'merge') return { kind: 'merge' };
      if (saved.kind === 'missing') return { kind: 'stopped', messages: ['This record is not there any more.'] };
      const made = makeDispatch(house, doer, listings, along);
      if (!made.ok) throw new NotSent(made.error);
      if (made.value.dispatchId === null && listings.size > 0) throw new NotSent(lockedFirst);
      return { kind: 'sent', dispatchId: made.value.dispatchId, revision: saved.revision };
    });
  } catch (error) {
    if (error instanceof NotSent) return { kind: 'stopped', messages: [error.message, 'Nothing was saved or sent.'] };
    throw error;
  }
}
