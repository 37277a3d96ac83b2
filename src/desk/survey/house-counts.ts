import { plan } from '@/core/errands/plan';
import { plannable } from '@/channels/survey';
import { rulesById } from '@/channels/registry';
import type { House } from '@/house/house';
import { hasUnread } from '@/store/listings';
import { pulseMark } from '@/store/pulse';
import { recordAt, recordsToWatch } from '@/store/records';
import { surveyGround, surveyOne } from './survey';

/** What the whole house comes to, in numbers. */
export interface HouseCounts {
  /** Errands that could go now, without those under embargo. */
  toSend: number;
  /** Listings that ask a person. */
  asks: number;
}

interface Kept {
  mark: string;
  counts: HouseCounts;
  /** The counting that is under way; `null`: none. */
  under: Promise<void> | null;
  /** How long the last counting took, and when it ended. */
  tookMs: number;
  endedAt: number;
}

const kept = new Map<string, Kept>();
const asking = new Set(['drifted', 'atodds', 'late', 'refused']);

/** Milliseconds of counting after which everything else has its turn; and for which one who asks waits at the most. */
const sliceMs = 25;
const patienceMs = 700;
/** A counting that takes long is not begun anew before so many times its own length have passed. */
const restFactor = 4;

function markOf(house: House): string {
  return `${pulseMark(house.db)}.${Math.floor(house.clock.now() / (hasUnread(house.db) ? 1_000 : 60_000))}`;
}

/**
 * The numbers of the house. They are counted in slices, so that however many records there are, nothing else waits for it; of
 * a house that takes longer to count than one who asks can wait, those of a moment ago are given. Records that are private and
 * never stood anywhere are not looked at.
 */
export async function houseCounts(house: House, patience = patienceMs): Promise<HouseCounts> {
  const one = kept.get(house.folder) ?? {
    mark: '',
    counts: { toSend: 0, asks: 0 },
    under: null,
    tookMs: 0,
    endedAt: 0,
  };
  kept.set(house.folder, one);
  const mark = markOf(house);
  const rests = one.mark !== '' && one.tookMs > patienceMs && Date.now() - one.endedAt < restFactor * one.tookMs;
  if (one.under === null && one.mark !== mark && !rests)
    one.under = count(house, mark, one)
      .catch((error: unknown) => console.error('house counts:', error))
      .finally(() => (one.under = null));
  if (one.under !== null) {
    let timer: ReturnType<typeof setTimeout> | undefined;
    await Promise.race([one.under, new Promise((resolve) => (timer = setTimeout(resolve, patience)))]);
    clearTimeout(timer);
  }
  return one.counts;
}

async function count(house: House, mark: string, one: Kept): Promise<void> {
  const began = Date.now();
  const counts: HouseCounts = { toSend: 0, asks: 0 };
  const ids = recordsToWatch(house.db);
  const ground = surveyGround(house);
  let slice = performance.now();
  for (const id of ids) {
    const record = recordAt(house.db, id);
    if (record === null) continue;
    const { survey, errands } = surveyOne(record, ground);
    counts.toSend += plan(plannable(id, survey, errands), rulesById).errands.filter(
      (each) => each.notBefore === null,
    ).length;
    counts.asks += survey.listings.filter((each) => each.standing !== null && asking.has(each.standing)).length;
    if (performance.now() - slice > sliceMs) {
      await new Promise((resolve) => setImmediate(resolve));
      slice = performance.now();
    }
  }
  Object.assign(one, { counts, mark, tookMs: Date.now() - began, endedAt: Date.now() });
}
