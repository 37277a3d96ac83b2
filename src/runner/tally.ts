import { standsBeyond } from '@/core/errands/narrowing';
import { plan, waitsInPeace } from '@/core/errands/plan';
import { asksPerson } from '@/core/listing/standing';
import type { House } from '@/house/house';
import { seasonLine } from '@/house/season-line';
import { surveysOf, type SurveyedRecord } from '@/house/survey';
import { transaction } from '@/store/database';
import { putTallies, staleRecords, type Tally } from '@/store/pulse';
import { followShelves } from './follow';
import { followClock } from './standing-leave';

/** Milliseconds of counting after which everything else has its turn; and how many records are read at once. */
const sliceMs = 25;
const atOnce = 40;

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
    let ids = staleRecords(house.db, house.clock.now(), atOnce);
    ids.length > 0;
    ids = staleRecords(house.db, house.clock.now(), atOnce)
  ) {
    let began = performance.now();
    let counted: SurveyedRecord[] = [];
    // What is written meanwhile has another mark: it is not put down, and counted anew.
    for (const surveyed of surveysOf(house, ids)) {
      counted.push(surveyed);
      if (performance.now() - began < slice) continue;
      put(house, counted);
      counted = [];
      await new Promise((resolve) => setImmediate(resolve));
      began = performance.now();
    }
    put(house, counted);
  }
}

function put(house: House, counted: readonly SurveyedRecord[]): void {
  if (counted.length === 0) return;
  const leads = house.lead.fence() !== 0;
  transaction(
    house.db,
    (tx) => {
      putTallies(
        tx,
        counted.map((record) => tallyOf(house, record)),
      );
      // What others read at our own house says no more than the record does.
      if (leads) for (const { survey, record } of counted) followShelves(house, tx, survey.listings, record.revision);
    },
    { quiet: true },
  );
  followClock(house, counted);
}

/** What one record adds to the numbers, and the next moment at which the clock by itself may change that. */
function tallyOf(house: House, surveyed: SurveyedRecord): Tally {
  const { survey, record, mark } = surveyed;
  const { errands, locked, held } = plan(survey.listings);
  const [now, monotonic] = [house.clock.now(), house.monotonic()];
  const { until, monotonicUntil } = surveyed.holds;
  const nextAt = Math.min(until, now + Math.max(0, monotonicUntil - monotonic));
  return {
    ...{ recordId: record.id, mark, house: surveyed.house },
    // What is locked and undecided is to be seen to there, too: it is never left in silence.
    toSend: errands.filter((errand) => errand.notBefore === null).length + locked.length,
    asks: survey.listings.filter((listing) => asksPerson(listing.standing)).length,
    beyond: survey.listings.filter(standsBeyond).length,
    held: held.filter((listing) => !waitsInPeace(listing)).length,
    nextAt: Number.isFinite(nextAt) ? nextAt : null,
    line: JSON.stringify(seasonLine(surveyed, now)),
  };
}
