import { dataFolder, openHouse, type OpenHouse } from '@/house/house';
import { startRunner, type Runner, type Trouble } from '@/runner/runner';

interface Kept {
  nuntiaxHouse?: OpenHouse;
  nuntiaxRunner?: Runner;
  /** The queue is to be worked in this process as soon as the house can be opened. */
  nuntiaxRuns?: boolean;
}
const kept = globalThis as typeof globalThis & Kept;

/** The one house of this process, opened at first use. Where that fails, the next use tries again. */
export function theHouse(): OpenHouse {
  kept.nuntiaxHouse ??= openHouse(dataFolder(), process.env.NUNTIAX_CLOCK ?? null);
  if (kept.nuntiaxRuns && !kept.nuntiaxRunner) kept.nuntiaxRunner = startRunner(kept.nuntiaxHouse);
  return kept.nuntiaxHouse;
}

const againMs = 5_000;

/** Starts the queue's runner in this process, once; where the house cannot be opened yet, as soon as it can. */
export function startTheRunner(): void {
  kept.nuntiaxRuns = true;
  try {
    theHouse();
  } catch (error) {
    console.error('the house cannot be opened; tried again:', error);
    setTimeout(startTheRunner, againMs).unref();
  }
}

/** Why nothing goes out; `null`: nothing is wrong, or another process works the queue. */
export function troubleNow(): Trouble {
  return kept.nuntiaxRunner?.trouble() ?? null;
}
