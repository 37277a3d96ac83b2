'use client';

import { useMay } from '@/ui/may/May';
import { noAnswer } from '@/ui/no-answer';
import { groupBy } from '@/core/base/group-by';
import Link from 'next/link';
import { Fragment, useState, useTransition } from 'react';
import { momentWords } from '@/core/dates/date-words';
import { outsideErrorWords } from '@/core/errands/retry';
import { standingWords, type Standing } from '@/core/listing/standing';
import { useChannelNames } from '@/ui/use-channels/channel-names';
import { Pennant } from '@/ui/pennant';
import { ChangeLines } from './ChangeLines';
import type { DispatchView, ErrandState, ErrandView } from '@/views/dispatch';
import classes from './Dispatch.module.css';

/** What a person decides of an errand: it is tried again now, goes without its link, or is dropped. */
type Verdict = 'again' | 'drop' | 'without';

interface DispatchWatchProps {
  errands: ErrandView[];
  /** What goes on standing there against the record, by somebody's word. */
  stays: DispatchView['stays'];
  zone: string;
  /** A person's word on an errand; gives a word where that cannot be. */
  decide: (errandId: number, verdict: Verdict) => Promise<string | null>;
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
  const [busy, start] = useTransition();
  const [problem, setProblem] = useState<{ errand: number; words: string } | null>(null);
  const settle = (errand: number, verdict: Verdict) =>
    start(async () => {
      const words = await decide(errand, verdict).catch(() => noAnswer);
      setProblem(words === null ? null : { errand, words });
    });
  const done = errands.filter((errand) => errand.state === 'done' || errand.state === 'not needed').length;
  const events = groupBy(errands, (errand) => errand.recordId);
  return (
    <div className={classes.list}>
      <Progress done={done} all={errands.length} />
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
            <Watched
              key={errand.id}
              errand={errand}
              zone={zone}
              busy={busy}
              problem={problem?.errand === errand.id ? problem.words : null}
              onDecide={(verdict) => settle(errand.id, verdict)}
            />
          ))}
        </section>
      ))}
    </div>
  );
}

function Progress({ done, all }: { done: number; all: number }) {
  return (
    <div
      className={classes.progress}
      role="progressbar"
      aria-valuenow={done}
      aria-valuemin={0}
      aria-valuemax={all}
      aria-label="Errands sent"
    >
      <progress value={done} max={all} />{' '}
      <span>
        {done} of {all} sent
      </span>
    </div>
  );
}

interface WatchedProps {
  errand: ErrandView;
  zone: string;
  busy: boolean;
  /** What kept the decision from being taken. */
  problem: string | null;
  onDecide: (verdict: Verdict) => void;
}

/** One errand on its way: how it stands, what a person can decide of it, and its receipts. */
function Watched(props: WatchedProps) {
  const { errand, zone, problem } = props;
  const channels = useChannelNames();
  const { state, op, publicUrl } = errand;
  const shows = state === 'done' && op !== 'unpublish' && op !== 'remove';
  return (
    <div className={classes.errand} data-channel={errand.channel} data-state={state}>
      <div className={classes.errandHead}>
        <Pennant standing={state === 'done' ? errand.standing : pennantOf[state]} silent size={20} />
        <b>{errand.channelName}</b>
        <span>
          {errand.twin ? 'take a second one down' : channels.does(errand.channel, op).toLowerCase()}
          {errand.narrows ? ', by itself: the record came to say less' : ''} · {howItStands(errand)}
          {whyWaiting(errand, zone)}
        </span>
        {shows && publicUrl !== null ? (
          <a href={publicUrl} target="_blank" rel="noopener">
            public page
          </a>
        ) : null}
        {errand.canDrop ? <Verdicts {...props} /> : null}
      </div>
      {problem === null ? null : (
        <p className={classes.error} role="alert">
          {problem}
        </p>
      )}
      {errand.error && state !== 'done' ? (
        <p className={classes.error}>
          {errand.error.message}. {outsideErrorWords[errand.error.kind]}
        </p>
      ) : null}
      <Foretold errand={errand} zone={zone} />
      <Receipts errand={errand} zone={zone} />
    </div>
  );
}

/** What was foretold of it, held against what came. */
function Foretold({ errand: { foretold, state }, zone }: { errand: ErrandView; zone: string }) {
  if (foretold === null || state === 'dropped' || state === 'refused') return null;
  const { asRule, atLatest, seenAt, unseenAt, passedOver } = foretold;
  const said = (at: number) => momentWords(at, zone);
  if (passedOver) return <p className={classes.wait}>foreseen by {said(asRule)}; something newer was sent meanwhile</p>;
  const late = seenAt === null ? (unseenAt ?? 0) > atLatest : (unseenAt ?? 0) > asRule;
  return (
    <p className={late ? classes.error : classes.wait}>
      foreseen by {said(asRule)}
      {atLatest > asRule ? `, by ${said(atLatest)} at the latest` : ''}
      {seenAt === null ? '' : `; seen ${said(seenAt)}`}
      {late ? ': later than foreseen' : ''}
    </p>
  );
}

function Verdicts({ errand, busy, onDecide }: WatchedProps) {
  const sends = useMay('send');
  const noLink = errand.waits?.for === 'link' && errand.waits.giver !== 'coming';
  const verdicts: [Verdict, string][] = [
    ...(noLink ? [['without', 'Go without the link'] as [Verdict, string]] : []),
    ...(errand.state === 'lodged' ? [] : [['again', 'Try again now'] as [Verdict, string]]),
    ['drop', 'Drop it'],
  ];
  if (!sends) return null;
  return (
    <span className={classes.cost}>
      {verdicts.map(([verdict, label], i) => (
        <Fragment key={verdict}>
          {i === 0 ? null : ' · '}
          <button type="button" className="plainButton" disabled={busy} onClick={() => onDecide(verdict)}>
            {label}
          </button>
        </Fragment>
      ))}
    </span>
  );
}

function Receipts({ errand, zone }: Pick<WatchedProps, 'errand' | 'zone'>) {
  const { changes, receipts } = errand;
  return (
    <details className={classes.more}>
      <summary>
        {changes.length} {changes.length === 1 ? 'field' : 'fields'}, {receipts.length}{' '}
        {receipts.length === 1 ? 'receipt' : 'receipts'}
      </summary>
      <ChangeLines channel={errand.channel} op={errand.op} changes={changes} brief={false} />
      <ol className={classes.receipts}>
        {receipts.map((receipt) => (
          <li key={receipt.id}>
            <span>{momentWords(receipt.at, zone)}</span> <b>{receipt.outcome}</b> {receipt.words}
          </li>
        ))}
      </ol>
    </details>
  );
}

/** How an errand stands; once it is done, how its listing does. */
function howItStands({ state, standing, op }: ErrandView): string {
  if (state !== 'done') return stateWords[state];
  if (op === 'remove') return 'deleted: it was looked for after that, and is not there any more';
  return standing !== null && standing !== 'unread'
    ? `sent, ${standingWords[standing].name.toLowerCase()}`
    : stateWords.done;
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
