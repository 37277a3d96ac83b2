'use client';

import { createContext, useCallback, useContext, useEffect, useMemo, useRef, type ReactNode } from 'react';

/** What was typed into a field and is nothing that it can hold. */
interface Unread {
  problem: string;
  /** Puts what the field holds in the place of what was typed. */
  drop: () => void;
}

/** Keeps what cannot be read of a field; `null`: it can. */
type Tell = (field: string, unread: Unread | null) => void;

const UnreadContext = createContext<Tell>(() => undefined);

/** What was typed into the fields of a form and cannot be read: a save waits until it is put right, or dropped. */
export function useUnreadFields(): { problems: () => string[]; drop: () => void; tell: Tell } {
  const fields = useRef(new Map<string, Unread>());
  return useMemo(
    () => ({
      problems: () => [...fields.current.values()].map(({ problem }) => problem),
      drop: () => [...fields.current.values()].forEach(({ drop }) => drop()),
      tell: (field: string, unread: Unread | null) => {
        if (unread === null) fields.current.delete(field);
        else fields.current.set(field, unread);
      },
    }),
    [],
  );
}

export function UnreadFields({ tell, children }: { tell: Tell; children: ReactNode }) {
  return <UnreadContext.Provider value={tell}>{children}</UnreadContext.Provider>;
}

/** Tells the form what cannot be read in one field; a field that is gone tells nothing. */
export function useUnread(field: string): (unread: Unread | null) => void {
  const tell = useContext(UnreadContext);
  useEffect(() => () => tell(field, null), [tell, field]);
  return useCallback((unread: Unread | null) => tell(field, unread), [tell, field]);
}
