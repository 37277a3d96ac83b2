'use client';

import { noAnswer } from '@/ui/no-answer';
import { groupBy } from '@/core/base/group-by';
import Link from 'next/link';
import { useState, useTransition } from 'react';
import { momentWords } from '@/core/dates/date-words';
import { outsideErrorWords } from '@/core/errands/retry';
import { standingWords, type Standing } from '@/core/listing/standing';
import { useChannelNames } from '@/ui/use-channels/channel-names';
import { Pennant } from '@/ui/pennant';
import { ChangeLines } from './ChangeLines';
import type { DispatchView, ErrandState, ErrandView } from '@/views/dispatch';
import classes from './Dispatch.module.css';

interface DispatchWatchProps {
  errands: ErrandView[];
  /** What goes on standing there against the record, by somebody's word. */
  stays: DispatchView['stays'];
  zone: string;
  /** Tries an errand again now, lets it go without its link, or drops it. */
  /** A person's word on an errand; gives a word where that cannot be. */
  decide: (errandId: number, verdict: 'again' | 'drop' | 'without') => Promise<string | null>;
}

const pennantOf: Record<Exclude<ErrandState, 'done'>, Standing> = {
  waiting: 'due',
  running: 'underway',
  lodged: 'underway',
  refused: 'refused',
  dropped: 'withdrawn',
  'not needed': 'instep',
};
const stateWords: Record<ErrandState, string> = {
  waiting: 'waits',
  running: 'going out',
  done: 'sent, not read back yet',
  refused: 'refused',
  lodged: 'handed over, its answer is to come',
  dropped: 'dropped',
  'not needed': 'not needed: it stood there already',
};

/** A dispatch going out, errand by errand, with its receipts. It goes on without this screen. */
export function DispatchWatch({ errands, stays, zone, decide }: DispatchWatchProps) {
  const channels = useChannelNames();
  const [busy, start] = useTransition();
  const [problem, setProblem] = useState<{ errand: number; words: string } | null>(null);
  const settle = (errand: number, verdict: 'again' | 'drop' | 'without') =>
    start(async () => {
      const words = await decide(errand, verdict).catch(() => noAnswer);
      setProblem(words === null ? null : { errand, words });
    });
  const done = errands.filter((errand) => errand.state === 'done' || errand.state === 'not needed').length;
  const events = groupBy(errands, (errand) => errand.recordId);
  return (
    <div className={classes.list}>
      <div
        className={classes.progress}
        role="progressbar"
        aria-valuenow={done}
        aria-valuemin={0}
        aria-valuemax={errands.length}
        aria-label="Errands sent"
      >
        <progress value={done} max={errands.length} />{' '}
        <span>
          {done} of {errands.length} sent
        </span>
      </div>
      {[...events].map(([recordId, mine]) => (
        <section key={recordId} className={classes.watched} aria-label={mine[0]?.title}>
          <h2>
            <Link href={`/records/${recordId}`}>{mine[0]?.title}</Link> <span className="code">{mine[0]?.code}</span>
          </h2>
          {stays
            .filter((candidate) => candidate.recordId === recordId)
            .map(({ channelName, why }) => (
              <p key={`${channelName} ${why}`} className={classes.error}>
                {channelName}: {why}
              </p>
            ))}
          {mine.map((errand) => (
            <div key={errand.id} className={classes.errand} data-channel={errand.channel} data-state={errand.state}>
              <div className={classes.errandHead}>
                <Pennant
                  standing={errand.state === 'done' ? errand.standing : pennantOf[errand.state]}
                  silent
                  size={20}
                />
                <b>{errand.channelName}</b>
                <span>
                  {errand.twin ? 'take a second one down' : channels.does(errand.channel, errand.op).toLowerCase()}
                  {errand.narrows ? ', by itself: the record came to say less' : ''} ·{' '}
                  {errand.state === 'done' && errand.standing !== null && errand.standing !== 'unread'
                    ? `sent, ${standingWords[errand.standing].name.toLowerCase()}`
                    : stateWords[errand.state]}
                  {whyWaiting(errand, zone)}
                </span>
                {errand.state === 'done' &&
                errand.publicUrl !== null &&
                errand.op !== 'unpublish' &&
                errand.op !== 'remove' ? (
                  <a href={errand.publicUrl} target="_blank" rel="noopener">
                    public page
                  </a>
                ) : null}
                {errand.canDrop ? (
                  <span className={classes.cost}>
                    {errand.waits?.for === 'link' && errand.waits.giver !== 'coming' ? (
                      <>
                        <button
                          type="button"
                          className="plainButton"
                          disabled={busy}
                          onClick={() => settle(errand.id, 'without')}
                        >
                          Go without the link
                        </button>
                        {' · '}
                      </>
                    ) : null}
                    {errand.state === 'lodged' ? null : (
                      <>
                        <button
                          type="button"
                          className="plainButton"
                          disabled={busy}
                          onClick={() => settle(errand.id, 'again')}
                        >
                          Try again now
                        </button>
                        {' · '}
                      </>
                    )}
                    <button
                      type="button"
                      className="plainButton"
                      disabled={busy}
                      onClick={() => settle(errand.id, 'drop')}
                    >
                      Drop it
                    </button>
                  </span>
                ) : null}
              </div>
              {problem?.errand === errand.id ? (
                <p className={classes.error} role="alert">
                  {problem.words}
                </p>
              ) : null}
              {errand.error && errand.state !== 'done' ? (
                <p className={classes.error}>
                  {errand.error.message}. {outsideErrorWords[errand.error.kind]}
                </p>
              ) : null}
              <details className={classes.more}>
                <summary>
                  {errand.changes.length} {errand.changes.length === 1 ? 'field' : 'fields'}, {errand.receipts.length}{' '}
                  {errand.receipts.length === 1 ? 'receipt' : 'receipts'}
                </summary>
                <ChangeLines channel={errand.channel} op={errand.op} changes={errand.changes} brief={false} />
                <ol className={classes.receipts}>
                  {errand.receipts.map((r) => (
                    <li key={r.id}>
                      <span>{momentWords(r.at, zone)}</span> <b>{r.outcome}</b> {r.words}
                    </li>
                  ))}
                </ol>
              </details>
            </div>
          ))}
        </section>
      ))}
    </div>
  );
}

function whyWaiting({ waits, tries }: ErrandView, zone: string): string {
  switch (waits?.for) {
    case undefined:
      return '';
    case 'link':
      return ` for the link from ${waits.channel}${waits.giver === 'refused' ? ', which refused it' : waits.giver === 'not sent' ? ', which is not being sent' : ''}`;
    case 'moment':
      return ` until ${momentWords(waits.at, zone)}`;
    case 'channel':
      return `: the channel does not answer, since ${momentWords(waits.since, zone)}. One errand knocks; the rest follows`;
    case 'try':
      return ` until ${momentWords(waits.at, zone)}, try ${tries + 1} follows`;
    case 'decision':
      return ': something is locked on another channel, and its answer or your decision comes first';
    case 'off':
      return ': the channel was taken off. It goes on when it is connected again';
    case 'turn':
      return ' its turn';
  }
}
