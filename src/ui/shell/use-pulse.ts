'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';

/** The house's state in a few numbers; `mark` changes whenever a screen may have something new to show. */
const pulseSchema = z.object({
  now: z.number(),
  clock: z.enum(['real', 'simulated']),
  zone: z.string(),
  toSend: z.number(),
  asks: z.number(),
  /** Listings that stand in public against their records, and that only a person can take back. */
  beyond: z.number(),
  /** What keeps the queue from working. */
  trouble: z.enum(['disk-full', 'locked', 'failing']).nullable(),
  /** Channels that do not answer, and since when. */
  silent: z.array(z.object({ name: z.string(), since: z.number() })),
  mark: z.string(),
});
export type Pulse = z.infer<typeof pulseSchema>;

const everyMs = 1500;
const eventName = 'nuntiax-pulse';

/** The newest pulse: asked for every second and a half while the page is seen. */
export function usePulse(first: Pulse): Pulse {
  const [pulse, setPulse] = useState(first);
  useEffect(() => {
    let mark = first.mark;
    const ask = async () => {
      if (document.hidden) return;
      const answer = await fetch('/api/pulse', { cache: 'no-store' }).catch(() => null);
      const read = answer?.ok ? pulseSchema.safeParse(await answer.json().catch(() => null)) : null;
      if (!read?.success) return;
      setPulse(read.data);
      if (read.data.mark !== mark) window.dispatchEvent(new Event(eventName));
      mark = read.data.mark;
    };
    const timer = setInterval(() => void ask(), everyMs);
    window.addEventListener('nuntiax-ask', ask);
    return () => {
      clearInterval(timer);
      window.removeEventListener('nuntiax-ask', ask);
    };
  }, [first.mark]);
  return pulse;
}

/** Calls `onPulse` whenever the house has something new. */
export function useOnPulse(onPulse: () => void): void {
  useEffect(() => {
    window.addEventListener(eventName, onPulse);
    return () => window.removeEventListener(eventName, onPulse);
  }, [onPulse]);
}
