'use client';

import { useEffect, useRef, useState } from 'react';
import { noAnswer } from '@/ui/no-answer';
import type { ManyLine, ManyView } from '@/views/many';

/** What is known of what an edit does. */
export interface Seen {
  view: ManyView | null;
  /** What the view is of; another while it is being reckoned anew. */
  of: string;
  /** How far it is, while it is being reckoned. */
  at: { done: number; of: number } | null;
  problems: string[];
}

const nothing: Seen = { view: null, of: '', at: null, problems: [] };
/** So long nobody types before it is reckoned. */
const restMs = 300;

/** Reads the lines of an answer as they come. */
async function* linesOf(answer: Response): AsyncGenerator<ManyLine> {
  const reader = answer.body?.pipeThrough(new TextDecoderStream()).getReader();
  let left = '';
  while (reader) {
    const { done, value } = await reader.read();
    if (done) break;
    const lines = (left + value).split('\n');
    left = lines.pop() ?? '';
    for (const line of lines) yield JSON.parse(line) as ManyLine;
  }
  if (left !== '') yield JSON.parse(left) as ManyLine;
}

/**
 * What an edit of many events does, reckoned anew whenever it is another: `wish` is the edit with the events as JSON,
 * `null` where something of it is missing. `again` reckons the same once more.
 */
export function useMany(wish: string | null) {
  const [seen, setSeen] = useState<Seen>(nothing);
  const [round, setRound] = useState(0);
  const first = useRef(true);
  useEffect(() => {
    if (wish === null) return undefined;
    const stop = new AbortController();
    const ask = async () => {
      setSeen((was) => ({ ...was, at: { done: 0, of: 0 }, problems: [] }));
      const answer = await fetch('/api/many', { method: 'POST', body: wish, signal: stop.signal });
      const kept = { view: null as ManyView | null, problems: [noAnswer] };
      for await (const line of linesOf(answer)) {
        if (line.kind === 'at') setSeen((was) => ({ ...was, at: line }));
        else if (line.kind === 'view') Object.assign(kept, { view: line.view, problems: [] });
        else if (line.kind === 'stopped') kept.problems = line.messages;
        // Whoever is not signed in any more, or may not, is told so in a word of another shape.
        else kept.problems = [(line as { message?: string }).message ?? noAnswer];
      }
      setSeen({ ...kept, of: wish, at: null });
    };
    // What needs no typing is reckoned at once.
    const wait = setTimeout(
      () => void ask().catch(() => stop.signal.aborted || setSeen({ ...nothing, of: wish, problems: [noAnswer] })),
      first.current ? 0 : restMs,
    );
    first.current = false;
    return () => {
      clearTimeout(wait);
      stop.abort();
    };
  }, [wish, round]);
  return { ...seen, again: () => setRound((at) => at + 1) };
}
