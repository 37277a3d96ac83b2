import { useEffect, useMemo, useState } from 'react';
import { useReady } from '@/ui/ready';
import type { ListedEvent } from '@/views/season';
import { unpackRows } from './packed';

/** Lines of the season as far as they are here. */
export interface RowsHere {
  rows: readonly ListedEvent[];
  /** `first`: only those that came with the page, the rest is on its way; `failed`: it did not come. */
  state: 'waiting' | 'first' | 'failed' | 'whole';
}

/**
 * The lines of the season: those that came with the page, and then all of them. `rest`: what the rest is asked for by,
 * another with every change; `null`: all came with the page. Until the new ones are here, those of before stand.
 */
export function useRows(packed: string, rest: string | null): RowsHere {
  // Which lines are in sight only the browser knows: they are not drawn before.
  const ready = useReady();
  const first = useMemo(() => (ready ? unpackRows(packed) : []), [packed, ready]);
  const [all, setAll] = useState<readonly ListedEvent[] | null>(null);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    if (rest === null) return undefined;
    const stop = new AbortController();
    fetch('/api/season', { signal: stop.signal })
      .then(async (answer) => {
        if (!answer.ok) throw new Error(`the season answered ${answer.status}`);
        const rows = unpackRows(await answer.text());
        setAll(rows);
        setFailed(false);
      })
      .catch(() => stop.signal.aborted || setFailed(true));
    return () => stop.abort();
  }, [rest]);
  if (!ready) return { rows: [], state: 'waiting' };
  if (rest === null) return { rows: first, state: 'whole' };
  if (all !== null) return { rows: all, state: failed ? 'failed' : 'whole' };
  return { rows: first, state: failed ? 'failed' : 'first' };
}
