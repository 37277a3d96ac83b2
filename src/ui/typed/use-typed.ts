import { useCallback, useEffect, useRef, useState } from 'react';
import { sameData } from '@/core/base/same-data';

/** What was typed into a form and neither saved nor taken back: when it was left, and whether its ground has moved. */
interface LeftTyping<T> {
  at: number;
  typed: T;
  /** What the form showed when it was typed over. */
  over: T;
}

/** What is typed into a form; what was left in it before, to go on with or to throw away. */
export interface Typed<T> {
  typed: T;
  setTyped: (next: T | ((now: T) => T)) => void;
  /** What this drawing of the form showed was saved so: there is nothing to keep of it. */
  settle: (saved: T) => void;
  /** It is not wanted: what was saved stands in the form again. */
  forget: () => void;
  left: readonly LeftTyping<T>[];
  /** What was left was typed over something else than the form shows now. */
  moved: (left: LeftTyping<T>) => boolean;
  goOn: (left: LeftTyping<T>) => void;
  throwAway: (left: LeftTyping<T>) => void;
}

/** So many are kept of one form. */
const mostLeft = 3;
/** How long after a change it is kept, in ms. */
const restMs = 300;

function keptOf<T>(name: string): LeftTyping<T>[] {
  try {
    const kept: unknown = JSON.parse(sessionStorage.getItem(name) ?? '[]');
    return Array.isArray(kept) ? (kept as LeftTyping<T>[]) : [];
  } catch {
    return [];
  }
}

function keep<T>(name: string, all: readonly LeftTyping<T>[]): void {
  try {
    if (all.length === 0) sessionStorage.removeItem(name);
    else sessionStorage.setItem(name, JSON.stringify(all.slice(0, mostLeft)));
  } catch {
    // Without room in the browser it still stands on the screen.
  }
}

/**
 * What is typed into a form, kept in the browser until it is saved or taken back: whatever door one leaves by, the form
 * offers it again. `name` is the form's own, with what it is about; `initial` is what was saved.
 */
export function useTyped<T>(name: string, initial: T): Typed<T> {
  const [typed, setTyped] = useState(initial);
  const [left, setLeft] = useState<readonly LeftTyping<T>[]>([]);
  const base = useRef(initial);
  const slot = `nuntiax-typed-${name}`;
  const now = useRef({ typed, left });
  useEffect(() => {
    now.current = { typed, left };
  }, [typed, left]);
  const keepNow = useCallback(() => {
    const { typed, left } = now.current;
    const mine = sameData(typed, base.current) ? [] : [{ at: Date.now(), typed, over: base.current }];
    keep(slot, [...mine, ...left]);
  }, [slot]);
  useEffect(() => {
    const found = keptOf<T>(slot).filter((kept) => !sameData(kept.typed, base.current));
    now.current = { ...now.current, left: found };
    setLeft(found);
    window.addEventListener('pagehide', keepNow);
    return () => {
      window.removeEventListener('pagehide', keepNow);
      keepNow();
    };
  }, [slot, keepNow]);
  useEffect(() => {
    const timer = setTimeout(keepNow, restMs);
    return () => clearTimeout(timer);
  }, [typed, left, keepNow]);
  const without = (gone: LeftTyping<T>) => setLeft((all) => all.filter((kept) => kept !== gone));
  return {
    typed,
    setTyped,
    settle: (saved) => {
      base.current = saved;
      // What was typed while it was being saved stands on top of it.
      if (now.current.typed === typed) now.current = { ...now.current, typed: saved };
      setTyped((current) => (current === typed ? saved : current));
    },
    forget: () => {
      now.current = { ...now.current, typed: base.current };
      setTyped(base.current);
    },
    left,
    moved: (kept) => !sameData(kept.over, base.current),
    goOn: (kept) => {
      setTyped(kept.typed);
      without(kept);
    },
    throwAway: without,
  };
}
