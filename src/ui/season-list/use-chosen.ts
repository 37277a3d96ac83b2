import { useState } from 'react';

/** Events that are chosen, in the order of the list, and how they are. */
export interface Chosen {
  ids: ReadonlySet<string>;
  flip: (id: string) => void;
  /** Chooses all from the one that was chosen last to this one, as they stand in the list. */
  upTo: (id: string) => void;
  put: (ids: Iterable<string>) => void;
  leaveOut: (ids: readonly string[]) => void;
}

/** Rows from one to another, both with them, whichever comes first; the second alone where the first is not there. */
export function between(order: readonly string[], from: string | null, to: string): string[] {
  const [a, b] = [from === null ? -1 : order.indexOf(from), order.indexOf(to)];
  if (b < 0) return [];
  return a < 0 ? [to] : order.slice(Math.min(a, b), Math.max(a, b) + 1);
}

/** Choosing of events in a list that stands in this order. */
export function useChosen(order: readonly string[]): Chosen {
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set());
  const [last, setLast] = useState<string | null>(null);
  return {
    ids,
    flip: (id) => {
      setLast(id);
      setIds((was) => {
        const next = new Set(was);
        if (!next.delete(id)) next.add(id);
        return next;
      });
    },
    upTo: (id) => {
      setLast(id);
      setIds((was) => new Set([...was, ...between(order, last, id)]));
    },
    put: (next) => {
      setLast(null);
      setIds(new Set(next));
    },
    leaveOut: (out) => setIds((was) => new Set([...was].filter((id) => !out.includes(id)))),
  };
}
