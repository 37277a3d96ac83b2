'use client';

import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';

/** What was typed into a field and is nothing that it can hold. */
interface Unread {
  text: string;
  problem: string;
  /** Puts what the field holds in the place of what was typed. */
  drop: () => void;
}

/** What cannot be read in the fields of a form. */
interface UnreadKept {
  /** Keeps what cannot be read of a field; `null`: it can. */
  tell: (field: string, unread: Unread | null) => void;
  of: (field: string) => Unread | undefined;
}

const UnreadContext = createContext<UnreadKept>({ tell: () => undefined, of: () => undefined });

/** What was typed into the fields of a form and cannot be read: a save waits until it is put right, or dropped. */
export function useUnreadFields(): {
  problems: () => string[];
  drop: () => void;
  kept: UnreadKept;
} {
  const fields = useRef(new Map<string, Unread>());
  return useMemo(
    () => ({
      problems: () => [...fields.current.values()].map(({ problem }) => problem),
      drop: () => {
        [...fields.current.values()].forEach(({ drop }) => drop());
        fields.current.clear();
      },
      kept: {
        tell: (field: string, unread: Unread | null) => {
          if (unread === null) fields.current.delete(field);
          else fields.current.set(field, unread);
        },
        of: (field: string) => fields.current.get(field),
      },
    }),
    [],
  );
}

export function UnreadFields({ kept, children }: { kept: UnreadKept; children: ReactNode }) {
  return <UnreadContext.Provider value={kept}>{children}</UnreadContext.Provider>;
}

/**
 * Tells the form what cannot be read in one field, and gives what could not be read when the field was last seen. A
 * field that is gone tells nothing, but for one that stands in what is closed and opened again: `stays`.
 */
export function useUnread(field: string, stays: boolean): [tell: (unread: Unread | null) => void, before?: Unread] {
  const kept = useContext(UnreadContext);
  useEffect(
    () => () => {
      if (!stays) kept.tell(field, null);
    },
    [kept, field, stays],
  );
  const [before] = useState(() => (stays ? kept.of(field) : undefined));
  return [useCallback((unread: Unread | null) => kept.tell(field, unread), [kept, field]), before];
}
