'use client';

import { useEffect, useRef } from 'react';
import { useMay } from '@/ui/may/May';
import { DateBlock } from '@/ui/date-block';
import type { ChangeView } from '@/views/change';
import type { Saving } from '../use-save-record';
import classes from './Change.module.css';
import { sumOfPicks, unseenOf } from './change-picks';
import { AtOnceRow, LaterRow, LockedRow } from './GoingRows';
import { ApartRow, AsksRow, HoldersRow, MovesRow, SaidRow, WrongRow } from './TellingRows';
import type { Changing } from './use-change';

interface ChangePanelProps {
  view: ChangeView;
  changing: Changing;
  saving: Saving;
}

/** What a change does: by channel and by when, what is locked, what was said already; then the save, and the yes. */
export function ChangePanel({ view, changing, saving }: ChangePanelProps) {
  const head = useRef<HTMLHeadingElement>(null);
  const { back } = changing;
  useEffect(() => {
    head.current?.focus();
    const onKey = (event: KeyboardEvent) => event.key === 'Escape' && !event.defaultPrevented && back();
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
    // Once, when it opens: going back is the same throughout.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const rows = { view, picks: changing.picks, put: changing.put };
  return (
    <>
      <div className={classes.page} data-work>
        <header className={classes.head}>
          <DateBlock date={view.date} size="large" thisYear={new Date(view.now).getUTCFullYear()} />
          <div>
            <h1 ref={head} tabIndex={-1}>
              What this change does
            </h1>
            <p>{view.title} · nothing is saved or sent yet</p>
          </div>
          <Facts facts={view.facts} />
        </header>
        <AtOnceRow {...rows} />
        <LockedRow {...rows} />
        <LaterRow {...rows} />
        <AsksRow {...rows} />
        <SaidRow {...rows} />
        <ApartRow {...rows} />
        <MovesRow view={view} />
        <HoldersRow {...rows} />
        <WrongRow view={view} />
      </div>
      <Foot view={view} changing={changing} saving={saving} />
    </>
  );
}

/** What is said otherwise, before and after. */
function Facts({ facts }: Pick<ChangeView, 'facts'>) {
  return (
    <dl className={classes.facts}>
      {facts.slice(0, 4).map(({ label, before, after }) => (
        <div key={label}>
          <dt>{label}</dt>
          <dd>
            <ins>{brief(after)}</ins> <del>{brief(before)}</del>
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Foot({ view, changing, saving }: ChangePanelProps) {
  const sends = useMay('send');
  const { picks, put, busy, problem, back, send } = changing;
  const { errands, open } = sumOfPicks(view, picks);
  const letters = view.holders.filter(({ listing, told }) => told === 'step' || toldByWay(view, picks.ways, listing));
  const buyers = letters.reduce((sum, { sold }) => sum + sold, 0);
  const unseen = unseenOf(view, picks);
  const waits = unseen.length > 0 && !picks.seen;
  const why = open.length > 0 ? openWords(open, picks.ways) : waits ? 'Say first that you have seen the warnings.' : '';
  return (
    <div className={classes.bar} role="region" aria-label="Save and send">
      <p aria-live="polite">
        {problem === null ? (
          <>
            Revision {view.revision}. {errands} {errands === 1 ? 'errand' : 'errands'}
            {buyers > 0 ? `, ${buyers} ${buyers === 1 ? 'buyer is' : 'buyers are'} written to` : ''}. {why}
          </>
        ) : (
          <span className={classes.stop} role="alert">
            {problem}
          </span>
        )}
      </p>
      {unseen.length > 0 ? (
        <label className={classes.acknowledge}>
          <input type="checkbox" checked={picks.seen} onChange={() => put({ seen: !picks.seen })} />
          <span>I have seen the {unseen.length === 1 ? 'warning' : `${unseen.length} warnings`} above</span>
        </label>
      ) : null}
      <button type="button" className="quietButton" onClick={back}>
        Back to the form
      </button>
      <button
        type="button"
        className="quietButton"
        disabled={busy || saving.busy}
        onClick={() => {
          back();
          saving.submit('stay');
        }}
      >
        Save only
      </button>
      {sends ? (
        <button
          type="button"
          className="sendButton"
          title={why === '' ? undefined : why}
          disabled={busy || saving.busy || why !== '' || errands === 0}
          onClick={send}
        >
          Save and send in this order
        </button>
      ) : null}
    </div>
  );
}

/** What is still to be said of what is locked. */
function openWords(open: readonly { listing: string }[], ways: Changing['picks']['ways']): string {
  return open.every(({ listing }) => ways[listing] !== undefined)
    ? 'Fill in what the way asks for.'
    : 'Pick a way for what is locked first.';
}

/** True where the way that was picked for a listing tells those who bought. */
function toldByWay(view: ChangeView, ways: Changing['picks']['ways'], listing: string): boolean {
  const offered = view.locked.find((item) => item.listing === listing)?.ways;
  return offered?.find(({ id }) => id === ways[listing]?.way)?.tells === 'buyers';
}

const brief = (words: string) => (words.length > 60 ? `${words.slice(0, 59)}…` : words);
