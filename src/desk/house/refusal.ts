import { sqliteCode } from '@/store/database';

/**
 * Why the data folder took nothing, with the way out; `null` where the error is another. Nothing is half-written: a
 * use-case is one transaction.
 */
function refusalWords(error: unknown): string | null {
  const code = sqliteCode(error);
  if (code === null) return null;
  if (code === 'SQLITE_FULL' || code.startsWith('SQLITE_IOERR'))
    return 'The disk of the data folder is full: nothing was kept. Make room, then do it again.';
  if (code.startsWith('SQLITE_BUSY') || code.startsWith('SQLITE_LOCKED'))
    return 'Another program holds the data: nothing was kept. Do it again in a moment.';
  if (code.startsWith('SQLITE_READONLY')) return 'The data folder may not be written to: nothing was kept.';
  return `The database did not take it (${code}): nothing was kept.`;
}

/** Does a person's wish; where the data folder takes nothing, that is said in the answer that `refused` makes of it. */
export function orRefused<T>(work: () => T, refused: (words: string) => T): T {
  try {
    return work();
  } catch (error) {
    const words = refusalWords(error);
    if (words === null) throw error;
    console.error(words, error);
    return refused(words);
  }
}
