import { useMay } from '@/ui/may/May';
import { Select, TextInput } from '@mantine/core';
import { useState, useTransition } from 'react';
import { isRedirect } from '@/ui/is-redirect';
import { noAnswer } from '@/ui/no-answer';
import type { Endings as Ways } from '@/views/record';
import classes from '../RecordForm.module.css';
import type { RecordScreenProps } from '../record-screen-props';

interface EndingsProps {
  endings: Ways;
  saved: NonNullable<RecordScreenProps['saved']>;
  code: string;
  /** Something was typed and not saved: it would be lost. */
  changed: boolean;
}

/** How a record ends: the tie to a channel is cut, it is put away, or, where nothing was ever outside, deleted. */
export function Endings({ endings, saved, code, changed }: EndingsProps) {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, start] = useTransition();
  const doing = (work: () => Promise<string | null>) =>
    start(async () => setProblem(await work().catch((error: unknown) => (isRedirect(error) ? null : noAnswer))));
  const sends = useMay('send');
  const held = busy || changed;
  return (
    <div className={classes.endings}>
      {changed ? <p className={classes.muted}>Save or undo your changes first.</p> : null}
      {problem === null ? null : (
        <p className="problem" role="alert">
          {problem}
        </p>
      )}
      {endings.ties.length === 0 || !sends ? null : (
        <CutTie ties={endings.ties} held={held} onCut={(channel) => doing(() => saved.cutTie(channel))} />
      )}
      {endings.openBecause === null ? (
        <p>
          <button
            type="button"
            className="quietButton"
            disabled={held}
            onClick={() => doing(() => saved.putAway(true))}
          >
            Put away
          </button>{' '}
          It leaves the season, and is found under “put away”.
        </p>
      ) : (
        <p className={classes.muted}>{endings.openBecause}</p>
      )}
      {endings.keptBecause === null ? (
        <Delete code={code} held={held} onDelete={(typed) => doing(() => saved.remove(typed))} />
      ) : (
        <p className={classes.muted}>It cannot be deleted. {endings.keptBecause}</p>
      )}
    </div>
  );
}

/** What stands somewhere and is to stay as it is, with nobody of this house tending it. */
function CutTie({ ties, held, onCut }: { ties: Ways['ties']; held: boolean; onCut: (channel: string) => void }) {
  const [channel, setChannel] = useState<string | null>(null);
  const tie = ties.find((candidate) => candidate.channel === channel);
  return (
    <div>
      <Select
        label="Cut the tie to"
        placeholder="what stands there stays"
        data={ties.map((candidate) => ({ value: candidate.channel, label: candidate.name }))}
        value={channel}
        clearable
        clearSectionMode="clear"
        onChange={setChannel}
      />
      {tie ? (
        <p>
          What stands on {tie.name} stays as it is{tie.address === '' ? '' : ` (${tie.address})`}. It is no longer ours:
          changes, a cancellation, or making it private do not reach it any more. This cannot be undone.{' '}
          <button type="button" className="quietButton" disabled={held} onClick={() => onCut(tie.channel)}>
            Cut the tie to {tie.name}
          </button>
        </p>
      ) : null}
    </div>
  );
}

/** Deleting for good, with the code typed. */
function Delete({ code, held, onDelete }: { code: string; held: boolean; onDelete: (code: string) => void }) {
  const [typed, setTyped] = useState('');
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onDelete(typed);
      }}
    >
      <TextInput
        label="Delete it for good"
        description={`Nothing of it was ever outside. Type its code, ${code}.`}
        value={typed}
        onChange={(e) => setTyped(e.currentTarget.value)}
      />
      <button type="submit" className="quietButton" disabled={held || typed.trim().toUpperCase() !== code}>
        Delete
      </button>
    </form>
  );
}
