import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { z } from 'zod';
import { recordIdSchema } from '@/core/base/ids';
import { fail, ok, type Result } from '@/core/base/result';
import { sheetLines } from '@/core/listing/sale-sheet';
import type { House } from '@/house/house';
import { surveyById } from '@/house/survey';
import { transaction } from '@/store/database';
import { dropTick, putTick } from '@/store/sheets';
import { markStale } from '@/store/pulse';

const inputSchema = z.object({
  recordId: recordIdSchema,
  line: z.string().max(20),
  /** What the person read when ticking it. */
  value: z.string().max(4_000),
  on: z.boolean(),
});

/**
 * Ticks a line of the sheet before a sale opens, with the name of who did, or takes the tick back. Only what the saved
 * record says is ticked.
 */
export function tickSheet(house: House, doer: Doer, input: unknown): Result<null, string> {
  asks(doer, 'tickSheet');
  const { recordId, line, value, on } = inputSchema.parse(input);
  return transaction(house.db, (tx) => {
    const surveyed = surveyById({ ...house, db: tx }, recordId);
    const found = surveyed && sheetLines(surveyed.survey.facts).find((sheetLine) => sheetLine.id === line);
    if (!found) return fail('This record is not there any more.');
    if (!on) dropTick(tx, recordId, line);
    else if (found.value !== value)
      return fail(
        `Save the record first: as it is saved, ${found.label.toLowerCase()} reads “${found.value || 'nothing'}”.`,
      );
    else putTick(tx, recordId, { line, value, by: doer.name, at: house.clock.now() });
    markStale(tx, recordId);
    return ok(null);
  });
}
