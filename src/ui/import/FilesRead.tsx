'use client';

import { useState, useTransition } from 'react';
import { momentWords } from '@/core/dates/date-words';
import { noAnswer } from '@/ui/no-answer';
import type { FileRead } from '@/views/files';
import classes from './ImportForm.module.css';

interface FilesReadProps {
  files: readonly FileRead[];
  zone: string;
  takeBack: (which: Pick<FileRead, 'reason' | 'at'>) => Promise<{ ok: boolean; words: string }>;
}

/** Files that were read in, each of which can be taken back as a whole until something of it went out. */
export function FilesRead({ files, zone, takeBack }: FilesReadProps) {
  const [asked, setAsked] = useState<string | null>(null);
  const [said, setSaid] = useState<{ ok: boolean; words: string } | null>(null);
  const [busy, start] = useTransition();
  if (files.length === 0 && said === null) return null;
  return (
    <section className={classes.report} aria-label="Files that were read in">
      <h2>Read in before</h2>
      {said === null ? null : (
        <p className={said.ok ? undefined : 'problem'} role={said.ok ? 'status' : 'alert'}>
          {said.words}
        </p>
      )}
      <ul className={classes.files}>
        {files.map((file) => {
          const key = `${file.at} ${file.reason}`;
          const events = file.records === 1 ? '1 event' : `${file.records} events`;
          return (
            <li key={key}>
              <b>{file.reason.replace(/^read from /, '')}</b> {momentWords(file.at, zone)}: {events}
              {file.changed === 0 ? '' : `, ${file.changed} changed since`}{' '}
              {asked === key ? (
                <>
                  <button
                    type="button"
                    className="quietButton"
                    disabled={busy}
                    onClick={() =>
                      start(async () => {
                        setSaid(await takeBack(file).catch(() => ({ ok: false, words: noAnswer })));
                        setAsked(null);
                      })
                    }
                  >
                    Delete {events} for good
                  </button>{' '}
                  <button type="button" className="plainButton" onClick={() => setAsked(null)}>
                    Keep
                  </button>
                </>
              ) : (
                <button type="button" className="plainButton" onClick={() => setAsked(key)}>
                  Take it back
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
