import { plan } from '@/core/errands/plan';
import type { House } from '@/house/house';
import { seasonLine } from '@/house/season-line';
import { plannableOf, surveyGround, surveyOne, type SurveyedRecord } from '@/house/survey';
import { whole, writeMark } from '@/store/database';
import { putTallies, staleRecords } from '@/store/pulse';
import { allRecords } from '@/store/records';

/** Milliseconds of counting after which everything else has its turn; and how many records are counted on one ground. */
const sliceMs = 25;
const perGround = 40;
const asking = new Set<string | null>(['drifted', 'atodds', 'late', 'refused']);

const under = new WeakMap<House['outside'], Promise<void>>();

/**
 * Counts anew what changed: records that were written to, and those whose own moment has come. In slices (of `slice`
 * milliseconds), so that however many there are, nothing else waits for it. One counting at a time.
 */
export function countStale(house: House, slice = sliceMs): Promise<void> {
  const running = under.get(house.outside);
  if (running) return running;
  const made = count(house, slice).finally(() => under.delete(house.outside));
  under.set(house.outside, made);
  return made;
}

async function count(house: House, slice: number): Promise<void> {
  for (
    let ids = staleRecords(house.db, house.clock.now(), perGround);
    ids.length > 0;
    ids = staleRecords(house.db, house.clock.now(), perGround)
  ) {
    let began = performance.now();
    let counted: ReturnType<typeof tallyOf>[] = [];
    const ground = surveyGround(house, ids);
    for (const record of allRecords(house.db, ids)) {
      counted.push(tallyOf(house, surveyOne(record, ground, house.kinds)));
      if (performance.now() - began < slice) continue;
      put(house, counted);
      counted = [];
      const mark = writeMark(house.db);
      await new Promise((resolve) => setImmediate(resolve));
      // What was written meanwhile may be about those that were read and not counted yet: they are read anew.
      if (writeMark(house.db) !== mark) break;
      began = performance.now();
    }
    put(house, counted);
  }
}

function put(house: House, counted: ReturnType<typeof tallyOf>[]): void {
  if (counted.length > 0) whole(house.db, (tx) => putTallies(tx, counted), { quiet: true });
}

/** What one record adds to the numbers, and the next moment at which the clock by itself may change that. */
export function tallyOf(house: House, surveyed: SurveyedRecord) {
  const { survey, record } = surveyed;
  const { errands } = plan(plannableOf(surveyed, house.kinds));
  const [now, steady] = [house.clock.now(), house.steady()];
  const { until, steadyUntil } = surveyed.holds;
  const nextAt = Math.min(until, now + Math.max(0, steadyUntil - steady));
  return {
    recordId: record.id,
    toSend: errands.filter((one) => one.notBefore === null).length,
    asks: survey.listings.filter((one) => asking.has(one.standing)).length,
    nextAt: Number.isFinite(nextAt) ? nextAt : null,
    line: JSON.stringify(seasonLine(surveyed, now)),
  };
}
