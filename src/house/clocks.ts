import { z } from 'zod';
import type { Clock } from '@/core/base/clock';
import type { Tx } from '@/store/database';
import { putSetting, setting } from '@/store/settings';

/** A clock, and how to bring it up to date. */
export interface FollowedClock extends Clock {
  /** Asks where the time comes from. Resolves to false where no answer came; the last known time then goes on. */
  follow(): Promise<boolean>;
}

/** The machine's own clock: the one place that asks it. */
export const realClock: FollowedClock = { kind: 'real', now: () => Date.now(), follow: () => Promise.resolve(true) };

const answerSchema = z.object({ now: z.number() });
const settingName = 'simulated-clock-offset';

const addressName = 'clock-address';

/**
 * Where the time of this data comes from, as the application that was opened on it last was told; `null`: the machine's
 * own.
 */
export function keptClockAddress(db: Tx): string | null {
  return setting(db, addressName) || null;
}

/** Remembers where the time of this data comes from, so that a script beside the application goes by the same. */
export function keepClockAddress(db: Tx, url: string | null): void {
  if (keptClockAddress(db) === url) return;
  try {
    putSetting(db, addressName, url ?? '');
  } catch (error) {
    // A disk that is full takes nothing; the next opening says it again.
    console.error('clock:', error);
  }
}

/** The simulated clock of the outside services: its distance from the machine's clock is asked for and remembered. */
export function outsideClock(db: Tx, url: string): FollowedClock {
  let offset = Number(setting(db, settingName) ?? 0);
  return {
    kind: 'simulated',
    now: () => Date.now() + offset,
    async follow() {
      try {
        const answer = await fetch(url, { signal: AbortSignal.timeout(2000), cache: 'no-store' });
        const { now } = answerSchema.parse(await answer.json());
        const next = now - Date.now();
        // Small differences are the way there and back; following them would only make time tremble.
        if (Math.abs(next - offset) > 500) {
          offset = next;
          putSetting(db, settingName, String(offset));
        }
        return true;
      } catch {
        return false;
      }
    },
  };
}
