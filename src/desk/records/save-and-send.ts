import { quotesOf, saidOfQuotes } from '@/core/errands/quotes';
import { findingWords } from '@/core/findings/finding-words';
import type { Doer } from '@/core/people/doer';
import type { House } from '@/house/house';
import { surveyById, type SurveyedRecord } from '@/house/survey';
import { transaction } from '@/store/database';
import { noteDoing } from '@/store/persons';
import { exportedAt } from '@/store/records';
import type { SentAnswer } from '@/views/change';
import { makeDispatch, type Along } from '../dispatch/make-dispatch';
import { asks } from '../people/rights-of-verbs';
import { groundOf } from './change-view';
import { saveRecord, type SaveRequest } from './save-record';

export const lockedFirst =
  'Nothing can go before it is decided what becomes of what is locked: pick a way, or say that it stays.';

/** Thrown within a transaction, so that what was saved in it is not: it could not be sent. */
export class NotSent extends Error {
  override name = 'NotSent';
}

/**
 * Saves a change and sends what was chosen of it, as one: where it cannot be sent, nothing is saved, and the reason is
 * told. `listings`: what goes; ways that were picked, warnings that were seen; `mended`: what quotes the old fact beyond
 * the channels and is seen to by whoever saves.
 */
export function saveAndSend(
  house: House,
  doer: Doer,
  request: SaveRequest,
  listings: ReadonlySet<string>,
  along: Along & { mended?: readonly string[] },
): SentAnswer {
  asks(doer, 'saveAndSend');
  try {
    return transaction(house.db, (): SentAnswer => {
      const before = request.id === null ? null : surveyById(house, request.id);
      const saved = saveRecord(house, doer, request);
      if (saved.kind === 'stopped') return { kind: 'stopped', messages: saved.findings.map(findingWords) };
      if (saved.kind === 'merge') return { kind: 'merge' };
      if (saved.kind === 'missing') return { kind: 'stopped', messages: ['This record is not there any more.'] };
      const made = makeDispatch(house, doer, listings, along);
      if (!made.ok) throw new NotSent(made.error);
      if (made.value.dispatchId === null && listings.size > 0) throw new NotSent(lockedFirst);
      noteQuotes(house, doer, before, along.mended ?? []);
      return { kind: 'sent', dispatchId: made.value.dispatchId, revision: saved.revision };
    });
  } catch (error) {
    if (error instanceof NotSent) return { kind: 'stopped', messages: [error.message, 'Nothing was saved or sent.'] };
    throw error;
  }
}

/** Notes what is seen to of what quotes the old fact beyond the channels, and what is left. */
function noteQuotes(house: House, doer: Doer, before: SurveyedRecord | null, mended: readonly string[]): void {
  const after = before === null ? null : surveyById(house, before.record.id);
  if (before === null || after === null) return;
  const { id } = before.record;
  const quotes = quotesOf(groundOf(before), groundOf(after), exportedAt(house.db, id));
  const words = saidOfQuotes(quotes, new Set(mended));
  if (words !== null) noteDoing(house.db, doer, { at: house.clock.now(), sort: 'decision', words, recordId: id });
}
