'use client';

import { createContext, useContext, useState, useTransition, type ReactNode } from 'react';
import type { CalendarFeed } from '@/views/feeds';
import { FeedAddress } from './FeedAddress';
import classes from './Subscribe.module.css';

interface Feeds {
  feeds: readonly CalendarFeed[];
  /** Makes one of a part of the house; `null`: this person may not. */
  make: ((holds: string) => Promise<{ ok: true; value: string } | { ok: false; error: string }>) | null;
}

const HouseFeeds = createContext<Feeds>({ feeds: [], make: null });

/** The calendars of the house, for whatever stands below. */
export function HaveFeeds({ children, ...feeds }: Feeds & { children: ReactNode }) {
  return <HouseFeeds value={feeds}>{children}</HouseFeeds>;
}

/** Where the calendar of a part of the house lies; where there is none yet, it is made here. */
export function Subscribe({ holds, name }: { holds: string; name: string }) {
  const { feeds, make } = useContext(HouseFeeds);
  const [problem, setProblem] = useState('');
  const [made, setMade] = useState(false);
  const [busy, start] = useTransition();
  const mine = feeds.filter((feed) => feed.holds === holds);
  if (mine.length === 0 && make === null) return null;
  return (
    <details className={classes.subscribe}>
      <summary>Subscribe</summary>
      {mine.map((feed) => (
        <FeedAddress key={feed.id} feed={feed} />
      ))}
      {mine.length > 0 || make === null ? null : (
        <p>
          There is no calendar of {name} to subscribe to yet.{' '}
          <button
            type="button"
            className="quietButton"
            disabled={busy}
            onClick={() =>
              start(async () => {
                const answer = await make(holds).catch(() => ({
                  ok: false as const,
                  error: 'The house did not answer. Try once more.',
                }));
                setProblem(answer.ok ? '' : answer.error);
                setMade(answer.ok);
              })
            }
          >
            Make one
          </button>
        </p>
      )}
      {made ? (
        <p role="status">It is empty until what belongs in it is sent, in Dispatch like everything else.</p>
      ) : null}
      {problem === '' ? null : (
        <p className="problem" role="alert">
          {problem}
        </p>
      )}
    </details>
  );
}
