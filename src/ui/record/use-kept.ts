import { useCallback, useEffect, useRef, useState } from 'react';
import type { RecordDraft } from '@/core/record/draft';
import { haveZones } from '@/ui/zones/every-zone';
import { sameData } from '@/core/base/same-data';

/** Rises whenever a draft gets other fields than before. */
const draftForm = 4;

/** A draft as it is kept in the browser, with the revision that it grew from. */
interface Kept {
  form?: number;
  revision: number;
  draft: RecordDraft;
  /** When it was kept, by this machine's clock. */
  at?: number;
  /** It goes on on the screen that comes next, as one and the same writing. */
  goesOn?: boolean;
}

/** A draft that was left behind, to go on with or to throw away. */
export interface LeftDraft {
  name: string;
  at: number;
  /** The revision that it grew from. */
  revision: number;
  draft: RecordDraft;
}

/** Drafts of one record that are kept beside the one that is written. */
const mostLeft = 5;
const nameOf = (id: string | null) => `nuntiax-draft-${id ?? 'new'}`;
const leftName = (id: string | null) => `${nameOf(id)} left `;

/** Keeps a draft in the browser; where that has no room for it, the draft still stands on the screen. */
function keepDraft(name: string, kept: Kept): void {
  try {
    sessionStorage.setItem(name, JSON.stringify(kept));
  } catch {
    sessionStorage.removeItem(name);
  }
}

function keptDraft(name: string): Kept | null {
  const text = sessionStorage.getItem(name);
  try {
    const kept = text === null ? null : (JSON.parse(text) as Kept);
    // One that an earlier form of the screen kept has other fields.
    return kept?.form === draftForm ? kept : null;
  } catch {
    return null;
  }
}

/** What was left behind of a record, the newest first; older ones than a few are let go. */
function leftDrafts(id: string | null): LeftDraft[] {
  const names = Object.keys(sessionStorage).filter((name) => name.startsWith(leftName(id)));
  const found = names
    .flatMap((name): LeftDraft[] => {
      const kept = keptDraft(name);
      return kept ? [{ name, at: kept.at ?? 0, revision: kept.revision, draft: kept.draft }] : [];
    })
    .sort((a, b) => b.at - a.at);
  for (const { name } of found.slice(mostLeft)) sessionStorage.removeItem(name);
  return found.slice(0, mostLeft);
}

let loaded = false;
/** True once, for the first screen of a page that was loaded anew: what stood on it before stands there again. */
function isReload(): boolean {
  if (loaded) return false;
  loaded = true;
  const [entry] = performance.getEntriesByType('navigation');
  return entry !== undefined && 'type' in entry && entry.type === 'reload';
}

/**
 * Keeps the draft in the browser while it differs from what was saved: a moment after each change, and when one leaves.
 * A page that is loaded anew takes it up; a screen that is opened offers it. `take`: puts a draft on the screen, with the
 * revision that it grew from. Gives what forgets the draft, with whatever was about to be kept; and the drafts that are
 * offered.
 */
export function useKept(
  id: string | null,
  now: Kept,
  saved: RecordDraft,
  take: (draft: RecordDraft, revision: number) => void,
  pauseMs: number,
): {
  forget: () => void;
  left: readonly LeftDraft[];
  goOn: (left: LeftDraft) => void;
  drop: (left: LeftDraft) => void;
} {
  const { revision, draft, goesOn = false } = now;
  const pending = useRef<(() => void) | null>(null);
  const [left, setLeft] = useState<readonly LeftDraft[]>([]);
  /** What was kept stands on the screen, or is offered there: until then it is not let go. */
  const taken = useRef(false);
  const forget = useCallback(() => {
    pending.current = null;
    sessionStorage.removeItem(nameOf(id));
  }, [id]);
  useEffect(() => {
    const kept = keptDraft(nameOf(id));
    const again = isReload();
    const show = (put: () => void) => {
      // What another tab or an earlier hour chose may stand in a zone that this page was not given.
      const zones = [kept?.draft, ...leftDrafts(id).map((item) => item.draft)].flatMap(
        (item) => item?.performances ?? [],
      );
      void haveZones(zones.map((performance) => performance.zone)).then(
        () => {
          taken.current = true;
          put();
        },
        () => undefined,
      );
    };
    // A page may be loaded anew while its save is on its way: what was typed grew from the revision before, and stands.
    if (kept && (again || (kept.goesOn === true && kept.revision === revision)))
      return show(() => {
        take(kept.draft, kept.revision);
        setLeft(leftDrafts(id));
      });
    if (kept) {
      keepDraft(`${leftName(id)}${kept.at ?? 0}`, kept);
      sessionStorage.removeItem(nameOf(id));
    }
    show(() => setLeft(leftDrafts(id)));
    // Only once, when the screen opens.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  useEffect(() => {
    const keep = () => {
      pending.current = null;
      if (sameData(draft, saved)) {
        if (taken.current) sessionStorage.removeItem(nameOf(id));
      } else keepDraft(nameOf(id), { form: draftForm, revision, draft, at: Date.now(), goesOn });
    };
    pending.current = keep;
    const timer = setTimeout(() => pending.current === keep && keep(), pauseMs);
    return () => clearTimeout(timer);
  }, [id, revision, draft, saved, goesOn, pauseMs]);
  useEffect(() => {
    const leave = () => pending.current?.();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, []);
  const drop = useCallback((item: LeftDraft) => {
    sessionStorage.removeItem(item.name);
    setLeft((before) => before.filter((other) => other.name !== item.name));
  }, []);
  const goOn = useCallback(
    (item: LeftDraft) => {
      take(item.draft, item.revision);
      drop(item);
    },
    [take, drop],
  );
  return { forget, left, goOn, drop };
}
