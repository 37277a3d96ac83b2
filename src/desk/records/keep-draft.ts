import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import { findingWords } from '@/core/findings/finding-words';
import type { House } from '@/house/house';
import { transaction } from '@/store/database';
import { recordAt } from '@/store/records';
import { saveRecord } from './save-record';

/**
 * Keeps an event a draft on a channel, or lets it be shown there: the record's next revision. Gives a word where that
 * cannot be.
 */
export function keepDraft(house: House, doer: Doer, id: RecordId, channel: string, on: boolean): string | null {
  asks(doer, 'keepDraft');
  return transaction(house.db, (tx) => {
    const record = recordAt(tx, id);
    if (!record) return 'This event is not there any more.';
    const others = record.content.draftOn.filter((candidate) => candidate !== channel);
    const content = { ...record.content, draftOn: on ? [...others, channel] : others };
    const reason = on ? 'stays a draft' : 'no draft any more';
    const saved = saveRecord({ ...house, db: tx as House['db'] }, doer, { id, base: record.revision, content, reason });
    if (saved.kind === 'stopped') return `The record does not take it: ${saved.findings.map(findingWords).join(' ')}`;
    return saved.kind === 'merge' || saved.kind === 'missing' ? 'The record was changed meanwhile. Look again.' : null;
  });
}
