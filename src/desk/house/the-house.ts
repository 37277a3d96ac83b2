import { dataFolder, openHouse } from '@/house/house';
import { startRunner, type Runner } from '@/runner/runner';

type OpenHouse = ReturnType<typeof openHouse>;
const kept = globalThis as typeof globalThis & { nuntiaxHouse?: OpenHouse; nuntiaxRunner?: Runner };

/** The one house of this process, opened at first use. */
export function theHouse(): OpenHouse {
  kept.nuntiaxHouse ??= openHouse(dataFolder(), process.env.NUNTIAX_CLOCK ?? null);
  return kept.nuntiaxHouse;
}

/** Starts the queue's runner in this process, once. */
export function startTheRunner(): void {
  kept.nuntiaxRunner ??= startRunner(theHouse());
}

/** Who acts. There is one person for now; every write says who it was. */
export function actor(): string {
  return process.env.NUNTIAX_ACTOR ?? 'the house';
}
