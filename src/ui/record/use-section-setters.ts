import { useMemo } from 'react';
import type { RecordDraft } from '@/core/record/draft';
import type { DraftState } from './use-record-draft';

/**
 * What each section calls with its changed part: the same functions at every render, so that only what changed is
 * drawn.
 */
export function useSectionSetters(change: DraftState['change']) {
  return useMemo(
    () => ({
      performances: (
        next: RecordDraft['performances'] | ((at: RecordDraft['performances']) => RecordDraft['performances']),
        rule?: string | null,
      ) =>
        change((at) => ({
          performances: typeof next === 'function' ? next(at.performances) : next,
          ...(rule === undefined ? {} : { rule }),
        })),
      lineUp: (lineUp: RecordDraft['lineUp']) => change({ lineUp }),
      tickets: (tickets: RecordDraft['tickets']) => change({ tickets }),
      words: (words: RecordDraft['words']) => change({ words }),
      pictures: (pictures: RecordDraft['pictures']) => change({ pictures }),
      programme: (programme: RecordDraft['programme']) => change({ programme }),
      documents: (documents: RecordDraft['documents']) => change({ documents }),
      toFollow: (toFollow: RecordDraft['toFollow']) => change({ toFollow }),
      notices: (notices: RecordDraft['notices']) => change({ notices }),
    }),
    [change],
  );
}
