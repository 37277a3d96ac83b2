'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { useMay } from '@/ui/may/May';
import { noAnswer } from '@/ui/no-answer';
import changes from '@/ui/record/change/Change.module.css';
import type { ManyChoices, ManySaved } from '@/views/many';
import { EditFields } from './EditFields';
import { editOf, nameOfEdit, type Typed } from './edits';
import classes from './Many.module.css';
import type { ManyDoings } from './many-doings';
import { nothingSaid, sumOfSaid, type Said } from './said';
import { AsksRows, EventRows, FollowsRows, GoesRows, LockedRows, StoppedNote, TellsRows } from './SumRows';
import { useMany } from './use-many';

interface ManyPanelProps extends ManyDoings {
  ids: readonly string[];
  /** What was chosen to be done. */
  begun: Typed;
  zone: string;
  channels: readonly { id: string; name: string }[];
  onLeaveOut: (ids: string[]) => void;
  onBack: () => void;
  /** It was saved, and nothing was sent. */
  onSaved: () => void;
}

const noChoices: ManyChoices = { places: [], eventTypes: [], posts: [] };

/** What is typed and said of an edit, what it does, and its saving. */
function useEdit({ ids, begun, zone, save, onSaved }: ManyPanelProps) {
  const router = useRouter();
  const [typed, setTyped] = useState<Typed>(begun);
  const [said, setSaid] = useState<Said>(nothingSaid);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const edit = editOf(typed, zone);
  const wish = edit === null ? null : JSON.stringify({ ids, edit });
  const many = useMany(wish);
  const view = wish === null ? null : many.view;
  const ready = view !== null && many.of === wish && many.at === null;
  const finish = async (send: boolean) => {
    if (!ready || busy) return;
    setBusy(true);
    const { out, asked, corrected, ways, seen } = said;
    const picks = send ? { out: [...out], asked: [...asked], corrected: [...corrected], ways, seen } : null;
    const answer = await save({ ids, edit, seal: view.seal, picks }).catch((): ManySaved => ({
      kind: 'stopped',
      messages: [noAnswer],
    }));
    if (answer.kind === 'done') {
      if (answer.dispatchId !== null) return router.push(`/dispatch/${answer.dispatchId}`);
      return onSaved();
    }
    setBusy(false);
    setProblem(
      answer.kind === 'other'
        ? 'It does something else by now, and nothing was saved: this is how it is. Look again.'
        : answer.messages.join(' '),
    );
    many.again();
  };
  return {
    ...{ typed, said, busy, problem, view, ready, many },
    hasAll: wish !== null,
    fail: () => setProblem(noAnswer),
    finish: (send: boolean) => void finish(send),
    put: (part: Partial<Said>) => {
      setProblem(null);
      setSaid((at) => ({ ...at, ...part }));
    },
    type: (part: Partial<Typed>) => {
      setProblem(null);
      setTyped((at) => ({ ...at, ...part }));
    },
  };
}

/** One edit of many events: what it asks for, and what it does to all of them as it is typed; then the yes. */
export function ManyPanel(props: ManyPanelProps) {
  const { ids, channels, choices, onLeaveOut, onBack } = props;
  const [offered, setOffered] = useState(noChoices);
  const form = useRef<HTMLFormElement>(null);
  const { typed, said, busy, problem, view, ready, many, hasAll, fail, finish, put, type } = useEdit(props);
  useEffect(() => {
    void choices().then(setOffered, fail);
    form.current?.querySelector<HTMLElement>('[data-autofocus], textarea, input')?.focus();
    const onKey = (event: KeyboardEvent) => event.key === 'Escape' && !event.defaultPrevented && onBack();
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
    // Once, when it opens: going back is the same throughout.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  return (
    <>
      <div className={changes.page} data-work>
        <form
          ref={form}
          className={classes.form}
          onSubmit={(event) => {
            event.preventDefault();
            many.again();
          }}
        >
          <header>
            <h1>{nameOfEdit(typed, channels)}</h1>
            <p>{ids.length === 1 ? 'one event' : `${ids.length} events`} · nothing is saved or sent yet</p>
          </header>
          <EditFields typed={typed} choices={offered} onTyped={type} />
        </form>
        {many.problems.map((words) => (
          <p key={words} className="problem" role="alert">
            {words}
          </p>
        ))}
        {many.at === null && hasAll ? null : (
          <p role="status" className={changes.quiet}>
            {many.at === null || !hasAll
              ? 'What it does is shown here, as soon as it is clear what it is to be.'
              : many.at.of === 0
                ? 'Looking at what it does …'
                : `Looking at ${many.at.done} of ${many.at.of} …`}
          </p>
        )}
        {view === null ? null : (
          <div data-stale={!ready || undefined} className={classes.sum}>
            <StoppedNote events={view.events} onLeaveOut={onLeaveOut} />
            <GoesRows {...{ view, said, put }} />
            <LockedRows {...{ view, said, put }} />
            <AsksRows view={view} />
            <TellsRows {...{ view, said, put }} />
            <FollowsRows {...{ view, said, put }} />
            <EventRows events={view.events} onLeaveOut={onLeaveOut} />
          </div>
        )}
      </div>
      <Foot {...{ said, put, busy, problem, onBack }} view={ready ? view : null} onFinish={finish} />
    </>
  );
}

interface FootProps {
  view: Parameters<typeof sumOfSaid>[0] | null;
  said: Said;
  put: (part: Partial<Said>) => void;
  busy: boolean;
  problem: string | null;
  onBack: () => void;
  onFinish: (send: boolean) => void;
}

function Foot({ view, said, put, busy, problem, onBack, onFinish }: FootProps) {
  const sends = useMay('send');
  const { errands, why } = view === null ? { errands: 0, why: '' } : sumOfSaid(view, said);
  const changing = view?.events.filter(({ state }) => state === 'changes').length ?? 0;
  const stopped = view?.events.some(({ state }) => state === 'stopped') ?? false;
  return (
    <div className={changes.bar} role="region" aria-label="Save and send">
      <p aria-live="polite">
        {problem !== null ? (
          <span className={changes.stop} role="alert">
            {problem}
          </span>
        ) : view === null ? null : (
          <>
            {changing} {changing === 1 ? 'record changes' : 'records change'}. {errands}{' '}
            {errands === 1 ? 'errand' : 'errands'}. {why}
          </>
        )}
      </p>
      {view !== null && view.unseen.length > 0 ? (
        <label className={changes.acknowledge}>
          <input type="checkbox" checked={said.seen} onChange={() => put({ seen: !said.seen })} />
          <span>I have seen the {view.unseen.length === 1 ? 'warning' : `${view.unseen.length} warnings`} above</span>
        </label>
      ) : null}
      <button type="button" className="quietButton" onClick={onBack}>
        Back to the season
      </button>
      <button
        type="button"
        className="quietButton"
        disabled={busy || changing === 0 || stopped}
        onClick={() => onFinish(false)}
      >
        Save only
      </button>
      {sends ? (
        <button
          type="button"
          className="sendButton"
          title={why === '' ? undefined : why}
          disabled={busy || changing === 0 || why !== '' || errands === 0}
          onClick={() => onFinish(true)}
        >
          Save and send
        </button>
      ) : null}
    </div>
  );
}
