import { noteDoing } from '@/store/persons';
import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { z } from 'zod';
import type { RecordId } from '@/core/base/ids';
import { fail, ok, type Result } from '@/core/base/result';
import type { House } from '@/house/house';
import { transaction } from '@/store/database';
import { filesRead, recordsOfFile, removeRecord } from '@/store/records';
import type { FileRead } from '@/views/files';
import { keptBecause } from '../records/endings';

const whichSchema = z.object({ reason: z.string().min(1).max(400), at: z.number().int() });
/** So many files are offered: the newest. */
const mostShown = 12;

/** Files whose events are records here, newest first, with how many of them are left. */
export function filesReadIn(house: House, doer: Doer): FileRead[] {
  asks(doer, 'filesReadIn');
  return filesRead(house.db, mostShown);
}

/**
 * Takes a file back as a whole: every record that it made is deleted, as long as nothing of any was outside. Gives how
 * many there were; the error says what stands in the way, and then nothing is deleted.
 */
export function takeFileBack(house: House, doer: Doer, input: unknown): Result<number, string> {
  asks(doer, 'takeFileBack');
  const read = whichSchema.safeParse(input);
  if (!read.success) return fail('This file is not known.');
  return transaction(house.db, (tx) => {
    const made = recordsOfFile(tx, read.data);
    if (made.length === 0) return fail('Nothing of this file is here any more.');
    const kept = made.filter(({ id }) => keptBecause(tx, id) !== null);
    if (kept.length > 0)
      return fail(
        `${kept.length} of its ${made.length} events were sent or went out in a file (${kept
          .slice(0, 3)
          .map(({ code }) => code)
          .join(
            ', ',
          )}${kept.length > 3 ? ', …' : ''}). Nothing was deleted: put those away, or delete the others one by one.`,
      );
    for (const { id } of made) removeRecord(tx, id satisfies RecordId);
    noteDoing(tx, doer, {
      at: house.clock.now(),
      sort: 'decision',
      words: `took a file back, with ${made.length} events: ${read.data.reason}`,
    });
    return ok(made.length);
  });
}
