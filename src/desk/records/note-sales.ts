import { asks, asksReach } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { recordIdSchema } from '@/core/base/ids';
import { z } from 'zod';
import { registrationCount } from '@/core/facts/tickets/registering';
import { fail, ok, type Result } from '@/core/base/result';
import type { House } from '@/house/house';
import { transaction } from '@/store/database';
import { recordAt } from '@/store/records';
import { noteSale } from '@/store/sales';

const inputSchema = z.object({
  recordId: recordIdSchema,
  performanceId: z.string(),
  levelId: z.string(),
  outletId: z.string(),
  sold: z.number().int().min(0).max(1_000_000),
});

/** Notes how many an outlet that no channel reads has sold, as a person counted them. */
export function noteSales(house: House, doer: Doer, input: unknown): Result<null, string> {
  asks(doer, 'noteSales');
  const parsed = inputSchema.safeParse(input);
  if (!parsed.success) return fail('Sold: write a whole number, 0 or more.');
  const { recordId, performanceId, levelId, outletId, sold } = parsed.data;
  return transaction(house.db, (tx) => {
    const record = recordAt(tx, recordId);
    asksReach(doer, record);
    const { content } = record ?? {};
    if (levelId === registrationCount) {
      if (
        content?.tickets.mode !== 'registration' ||
        !content.performances.some((performance) => performance.id === performanceId)
      )
        return fail('Save the record first: it is not free with registration yet, or this date is not in it.');
      noteSale(tx, {
        recordId,
        performanceId,
        levelId,
        outlet: registrationCount,
        sold,
        at: house.clock.now(),
        by: doer.name,
      });
      return ok(null);
    }
    const outlet = content?.tickets.outlets.find((outlet) => outlet.id === outletId);
    if (
      !content ||
      !outlet ||
      !content.performances.some((performance) => performance.id === performanceId) ||
      !content.tickets.levels.some((level) => level.id === levelId)
    ) {
      return fail('Save the record first: this outlet, price level or date is not in it yet.');
    }
    if (outlet.channel !== null) return fail(`${outlet.name} is counted by reading the channel.`);
    noteSale(tx, { recordId, performanceId, levelId, outlet: outletId, sold, at: house.clock.now(), by: doer.name });
    return ok(null);
  });
}
