import type { Entry } from '@/core/record/directory';
import type { Result } from '@/core/base/result';

/** Puts an artist or organiser in the directory; the error names fields. */
export type SavePerson = (
  sort: 'artist' | 'organiser',
  input: unknown,
) => Promise<Result<Entry, Record<string, string>>>;
