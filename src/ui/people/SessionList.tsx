'use client';

import { useState } from 'react';
import { momentWords } from '@/core/dates/date-words';
import type { SessionRow } from '@/views/people';
import classes from './People.module.css';

interface SessionListProps {
  sessions: readonly (SessionRow & { this?: boolean })[];
  zone: string;
  /** Ends one; gives a word where it could not. */
  end: (session: string) => Promise<string | null>;
}

/** Sessions that are open, each with its end. */
export function SessionList({ sessions, zone, end }: SessionListProps) {
  const [said, setSaid] = useState('');
  if (sessions.length === 0) return <p>Nowhere now.</p>;
  return (
    <>
      <ul className={classes.sessions}>
        {sessions.map((session) => (
          <li key={session.id}>
            {session.browser}, since {momentWords(session.since, zone)}
            {session.this ? ' (here)' : ''}
            {session.this ? null : (
              <button
                type="button"
                className="plainButton"
                onClick={() => void end(session.id).then((words) => setSaid(words ?? 'Ended.'))}
              >
                End it
              </button>
            )}
          </li>
        ))}
      </ul>
      <p role="status">{said}</p>
    </>
  );
}
