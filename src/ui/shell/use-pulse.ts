'use client';

import { goTo } from '@/ui/go-to';
import { useEffect, useState } from 'react';

/** The house's state in a few numbers; `mark` changes whenever a screen may have something new to show. */
export interface Pulse {
  now: number;
  clock: 'real' | 'simulated';
  zone: string;
  toSend: number;
  asks: number;
  /** Listings that stand in public against their records, and that only a person can take back. */
  beyond: number;
  /** Listings that are to go and cannot, until a person has put something right. */
  held: number;
  /** What clashes in the season. */
  clashes: number;
  /** What keeps the queue from working. */
  trouble: 'disk-full' | 'locked' | 'failing' | null;
  /** Channels that do not answer, and since when. */
  silent: { name: string; since: number }[];
  mark: string;
}

const shape = {
  now: 'number',
  clock: 'string',
  zone: 'string',
  toSend: 'number',
  asks: 'number',
  beyond: 'number',
  held: 'number',
  clashes: 'number',
  trouble: 'object string',
  silent: 'object',
  mark: 'string',
} as const satisfies Record<keyof Pulse, string>;

/**
 * True for a pulse of this application's own; an answer of another shape (a stop page, another version) is passed over.
 * Not by a schema: it stands on every page.
 */
export function isPulse(said: unknown): said is Pulse {
  return (
    said !== null &&
    typeof said === 'object' &&
    Object.entries(shape).every(
      ([key, types]) => key in said && types.includes(typeof said[key as keyof typeof said]),
    ) &&
    Array.isArray((said as Pulse).silent)
  );
}

const everyMs = 1500;
/** After so long a screen that did not follow is asked to look once more. */
const overdueMs = 10_000;
const eventName = 'nuntiax-pulse';

/** The newest pulse: asked for every second and a half while the page is seen. */
export function usePulse(first: Pulse): Pulse {
  const [pulse, setPulse] = useState(first);
  useEffect(() => {
    let mark = first.mark;
    let askedAt = 0;
    const ask = async () => {
      if (document.hidden) return;
      const answer = await fetch('/api/pulse', { cache: 'no-store' }).catch(() => null);
      // The session has ended: nothing that is shown here is for whoever sits here now.
      if (answer?.status === 401) return goTo('/sign-in');
      const read: unknown = answer?.ok ? await answer.json().catch(() => null) : null;
      if (!isPulse(read)) return;
      setPulse(read);
      // A screen that was asked to look again and still shows the house as it was is asked once more: its request may
      // have been lost.
      const overdue = read.mark !== first.mark && Date.now() - askedAt > overdueMs;
      if (read.mark === mark && !overdue) return;
      mark = read.mark;
      askedAt = Date.now();
      window.dispatchEvent(new Event(eventName));
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
