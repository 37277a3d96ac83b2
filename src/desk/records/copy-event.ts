import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import { copyRecord } from '@/core/record/copy-record';
import { slugOf } from '@/core/record/slug';
import { fail, ok, type Result } from '@/core/base/result';
import type { House } from '@/house/house';
import { transaction } from '@/store/database';
import { freshId } from '@/store/ids';
import { makeRecord, recordAt } from '@/store/records';
import { noteSlug } from '@/store/slugs';

/** Copies an event to make the next one from; what it carries over is marked. Gives the new record's id. */
export function copyEvent(house: House, doer: Doer, id: RecordId): Result<RecordId, string> {
  asks(doer, 'copyEvent');
  return transaction(house.db, (tx) => {
    const source = recordAt(tx, id);
    if (!source) return fail('The event to copy is not there any more.');
    const content = copyRecord(source.content, source.code, () => freshId('p'));
    const made = makeRecord(tx, content, doer, house.clock.now(), `copied from ${source.code}`);
    noteSlug(tx, slugOf(content), made.id, house.clock.now());
    return ok(made.id);
  });
}
