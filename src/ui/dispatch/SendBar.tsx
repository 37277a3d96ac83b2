import { whoMay } from '@/core/people/doer';
import { useMay } from '@/ui/may/May';
import classes from './Dispatch.module.css';
import type { Choices } from './use-choices';

/** What would be sent, what still keeps something from it, and the one button. Nothing where nothing can go. */
export function SendBar({
  choices,
  busy,
  problem,
  onAcknowledge,
  onSend,
}: {
  choices: Choices;
  busy: boolean;
  problem: string | null;
  onAcknowledge: () => void;
  onSend: () => void;
}) {
  const sends = useMay('send');
  const { all, count, picked, unseen, acknowledged, changes } = choices;
  if (all === 0) return null;
  if (!sends)
    return (
      <div className={classes.bar} role="region" aria-label="Send">
        <p>
          <b>{all}</b> {all === 1 ? 'errand is' : 'errands are'} to send. {firstUp(whoMay('send'))} send this; it stands
          here until they do.
        </p>
      </div>
    );
  const onlyStays = count > 0 && picked.length === count && picked.every(([, item]) => item.way === 'leave');
  return (
    <div className={classes.bar} role="region" aria-label="Send">
      <p>
        {problem === null ? (
          <>
            <Missing {...choices} />
            <b>{count}</b> of {all} {all === 1 ? 'errand' : 'errands'} chosen, of {changes}{' '}
            {changes === 1 ? 'event' : 'events'}. Links first, the rest beside each other.
          </>
        ) : (
          <span role="alert">{problem}</span>
        )}
      </p>
      {unseen.length > 0 ? (
        <label className={classes.acknowledge}>
          <input type="checkbox" checked={acknowledged} onChange={onAcknowledge} />
          <span>I have seen the {unseen.length === 1 ? 'warning' : `${unseen.length} warnings`} above</span>
        </label>
      ) : null}
      <button type="button" className="sendButton" disabled={busy || count === 0} onClick={onSend}>
        {onlyStays ? 'Keep as decided' : `Send ${count} ${count === 1 ? 'errand' : 'errands'}`}
      </button>
    </div>
  );
}

/** What a person has still to say before all of it can go. */
function Missing({ undecided, unfilled, uncoded }: Pick<Choices, 'undecided' | 'unfilled' | 'uncoded'>) {
  return (
    <>
      {undecided.length === 0 ? null : (
        <>
          {undecided.length === 1 ? 'One thing is' : `${undecided.length} things are`} locked:{' '}
          {unfilled ? 'fill in what the way asks for' : 'pick a way, or say that it stays'}. Until then nothing else of
          that event goes.{' '}
        </>
      )}
      {uncoded.length === 0 ? null : (
        <>
          {uncoded.length === 1 ? 'One is' : `${uncoded.length} are`} to be deleted there: type the event’s code. Until
          then nothing becomes of {uncoded.length === 1 ? 'it' : 'them'}.{' '}
        </>
      )}
    </>
  );
}

const firstUp = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
