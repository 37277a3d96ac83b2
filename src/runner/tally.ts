import { plan } from '@/core/errands/plan';
import type { House } from '@/house/house';
import { plannableOf, surveyGround, surveyOne, type SurveyedRecord } from '@/house/survey';
import { whole } from '@/store/database';
import { putTallies, staleRecords } from '@/store/pulse';
import { recordAt } from '@/store/records';

/** Milliseconds of counting after which everything else has its turn; and how many records are counted on one ground. */
const sliceMs = 25;
const perGround = 200;
const asking = new Set<string | null>(['drifted', 'atodds', 'late', 'refused']);

const under = new WeakMap<House['outside'], Promise<void>>();

/**
 * Counts anew what changed: records that were written to, and those whose own moment has come. In slices, so that however
 * many there are, nothing else waits for it. One counting at a time.
 */
export function countStale(house: House): Promise<void> {
  const running = under.get(house.outside);
  if (running) return running;
  const made = count(house).finally(() => under.delete(house.outside));
  under.set(house.outside, made);
  return made;
}

async function count(house: House): Promise<void> {
  for (
    let ids = staleRecords(house.db, house.clock.now(), perGround);
    ids.length > 0;
    ids = staleRecords(house.db, house.clock.now(), perGround)
  ) {
    let slice = performance.now();
    let counted: ReturnType<typeof tallyOf>[] = [];
    // Of a few records the ground of each is read alone; of many, that of all at once.
    const ground = ids.length > 20 ? surveyGround(house) : null;
    for (const id of ids) {
      const record = recordAt(house.db, id);
      if (record !== null)
        counted.push(tallyOf(house, surveyOne(record, ground ?? surveyGround(house, id), house.kinds)));
      if (performance.now() - slice < sliceMs) continue;
      put(house, counted);
      counted = [];
      await new Promise((resolve) => setImmediate(resolve));
      slice = performance.now();
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
  const now = house.clock.now();
  const moments: number[] = [];
  for (const one of survey.listings) {
    if (one.embargoUntil !== null) moments.push(one.embargoUntil);
    // What was sent and is not seen becomes late when the usual delay has passed.
    const waits = one.comparison.some((field) => field.outcome === 'not-yet');
    if (waits && one.state.sentAt !== null)
      moments.push(one.state.sentAt + delayOf(surveyed, house, one.channel) + 1_000);
    if (one.state.lapsesAt !== null) moments.push(one.state.lapsesAt);
  }
  for (const one of survey.facts.performances) if (Number.isFinite(one.over)) moments.push(one.over + 1);
  for (const level of survey.facts.levels)
    moments.push(...[level.opens, level.closes].flatMap((at) => (at === null ? [] : [at + 1])));
  // What the clock changes otherwise (a price that steps, a registration that ends) is found within the hour.
  const ahead = moments.filter((at) => at > now);
  const hourly = survey.listings.some((one) => one.standing !== null && one.standing !== 'withdrawn')
    ? now + 3_600_000
    : Infinity;
  const nextAt = Math.min(...ahead, hourly);
  return {
    recordId: record.id,
    toSend: errands.filter((one) => one.notBefore === null).length,
    asks: survey.listings.filter((one) => asking.has(one.standing)).length,
    nextAt: Number.isFinite(nextAt) ? nextAt : null,
  };
}

function delayOf({ channels }: SurveyedRecord, house: House, id: string): number {
  const row = channels.find((one) => one.id === id);
  return house.kinds.find((kind) => kind.id === row?.kind)?.rules(row?.settings ?? {}).delayMs ?? 0;
}
