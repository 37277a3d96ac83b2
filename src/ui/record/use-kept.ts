import { useCallback, useEffect, useRef } from 'react';
import type { RecordDraft } from '@/core/record/draft';
import { haveZones } from '@/ui/zones/every-zone';
import { sameData } from '@/core/base/same-data';

/** Rises whenever a draft gets other fields than before. */
const draftForm = 3;

/** A draft as it is kept in the browser, with the revision that it grew from. */
interface Kept {
  form?: number;
  revision: number;
  draft: RecordDraft;
}

const nameOf = (id: string | null) => `nuntiax-draft-${id ?? 'new'}`;

/** Keeps a draft in the browser; where that has no room for it, the draft still stands on the screen. */
function keepDraft(id: string | null, kept: Kept): void {
  try {
    sessionStorage.setItem(nameOf(id), JSON.stringify(kept));
  } catch {
    sessionStorage.removeItem(nameOf(id));
  }
}

function keptDraft(id: string | null): Kept | null {
  const text = sessionStorage.getItem(nameOf(id));
  try {
    const kept = text === null ? null : (JSON.parse(text) as Kept);
    // One that an earlier form of the screen kept has other fields.
    return kept?.form === draftForm ? kept : null;
  } catch {
    return null;
  }
}

/**
 * Keeps the draft in the browser while it differs from what was saved: a moment after each change, and when one leaves.
 * What was kept is taken up again when the screen opens. Gives back what forgets it, with whatever was about to be
 * kept.
 */
export function useKept(
  id: string | null,
  now: Kept,
  saved: RecordDraft,
  take: (draft: RecordDraft) => void,
  pauseMs: number,
): () => void {
  const { revision, draft } = now;
  const pending = useRef<(() => void) | null>(null);
  /** What was kept stands on the screen: until then it is not let go. */
  const taken = useRef(false);
  const forget = useCallback(() => {
    pending.current = null;
    sessionStorage.removeItem(nameOf(id));
  }, [id]);
  useEffect(() => {
    const kept = keptDraft(id);
    if (kept?.revision !== revision) {
      taken.current = true;
      return;
    }
    const { draft } = kept;
    // What another tab or an earlier hour chose may stand in a zone that this page was not given.
    void haveZones(draft.performances.map((performance) => performance.zone)).then(
      () => {
        taken.current = true;
        take(draft);
      },
      () => undefined,
    );
    // Only once, when the screen opens.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  useEffect(() => {
    const keep = () => {
      pending.current = null;
      if (sameData(draft, saved)) {
        if (taken.current) sessionStorage.removeItem(nameOf(id));
      } else keepDraft(id, { form: draftForm, revision, draft });
    };
    pending.current = keep;
    const timer = setTimeout(() => pending.current === keep && keep(), pauseMs);
    return () => clearTimeout(timer);
  }, [id, revision, draft, saved, pauseMs]);
  useEffect(() => {
    const leave = () => pending.current?.();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, []);
  return forget;
}
