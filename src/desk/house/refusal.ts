import { sqliteCode } from '@/store/database';
import { NotAllowed } from '../people/rights-of-verbs';

/**
 * Why a wish was not done, where that is no fault of ours: the data folder took nothing, or the doer may not; with the
 * way out. `null` where the error is another. Nothing is half-written: a use-case is one transaction.
 */
export function refusalWords(error: unknown): string | null {
  if (error instanceof NotAllowed) return error.message;
  const code = sqliteCode(error);
  if (code === null) return null;
  console.error(error);
  if (code === 'SQLITE_FULL' || code.startsWith('SQLITE_IOERR'))
    return 'The disk of the data folder is full: nothing was kept. Make room, then do it again.';
  if (code.startsWith('SQLITE_BUSY') || code.startsWith('SQLITE_LOCKED'))
    return 'Another program holds the data: nothing was kept. Do it again in a moment.';
  if (code.startsWith('SQLITE_READONLY')) return 'The data folder may not be written to: nothing was kept.';
  return `The database did not take it (${code}): nothing was kept.`;
}

/** Does a person's wish; where it is refused, that is said in the answer that `refused` makes of it. */
export function orRefused<T>(work: () => T, refused: (words: string) => T): T {
  try {
    return work();
  } catch (error) {
    return refused(wordsOf(error));
  }
}

/** As `orRefused`, for what takes its time. */
export async function orRefusedLater<T>(work: () => Promise<T>, refused: (words: string) => T): Promise<T> {
  try {
    return await work();
  } catch (error) {
    return refused(wordsOf(error));
  }
}

/** The words of a refusal; anything else is a mistake of ours, and thrown on. */
function wordsOf(error: unknown): string {
  const words = refusalWords(error);
  if (words === null) throw error;
  return words;
}
