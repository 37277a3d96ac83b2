import { useMay } from '@/ui/may/May';
import { useState, type ReactNode } from 'react';
import { fieldOf } from '@/core/findings/finding';
import type { Standing } from '@/core/listing/standing';
import { withStop } from '@/core/base/with-stop';
import { FindingLine } from '@/ui/finding-line';
import { noAnswer } from '@/ui/no-answer';
import { Pennant } from '@/ui/pennant';
import { useChannelNames } from '@/ui/use-channels/channel-names';
import type { HeldToSend } from '@/views/dispatch';
import type { ReadBackListing } from '@/views/drift';
import { ChangeLines } from './ChangeLines';
import classes from './Dispatch.module.css';
import { whereRight } from './where-right';

/** A listing in the list that no box is ticked for. */
export function Listing({
  channel,
  part,
  standing,
  says,
  children,
}: {
  channel: string;
  part: string;
  standing: Standing;
  says: string;
  children: ReactNode;
}) {
  const channels = useChannelNames();
  return (
    <div className={classes.errand} data-channel={channel}>
      <div className={classes.errandHead}>
        <span className={classes.noBox} />
        <Pennant standing={standing} silent size={20} />
        <b>{channels.name(channel)}</b>
        {part === '' ? '' : ` ${part}`}
        <span>{says}</span>
      </div>
      {children}
    </div>
  );
}

/** What changed while an errand is under way: it goes behind that one. */
export function Behind({ channel, chosen, onFlip }: { channel: string; chosen: boolean; onFlip: () => void }) {
  const channels = useChannelNames();
  return (
    <div className={classes.errand} data-channel={channel}>
      <label className={classes.errandHead}>
        <input type="checkbox" checked={chosen} onChange={onFlip} />
        <Pennant standing="underway" silent size={20} />
        <b>{channels.name(channel)}</b>
        <span>an errand is under way; what changed since goes behind it</span>
      </label>
    </div>
  );
}

/** What waits for nothing but a decision on what is locked elsewhere: chosen as soon as that is made. */
export function Freed({
  held,
  ready,
  chosen,
  onFlip,
}: {
  held: HeldToSend;
  ready: boolean;
  chosen: boolean;
  onFlip: () => void;
}) {
  const channels = useChannelNames();
  return (
    <div className={classes.errand} data-channel={held.channel}>
      <label className={classes.errandHead}>
        <input type="checkbox" checked={chosen} disabled={!ready} onChange={onFlip} />
        <Pennant standing="due" silent size={20} />
        <b>{channels.name(held.channel)}</b>
        <span>
          {channels.does(held.channel, held.op).toLowerCase()}
          {ready ? ', after what was picked above' : ': waits until something is picked for what is locked'}
        </span>
      </label>
      <ChangeLines channel={held.channel} op={held.op} changes={held.changes} brief={held.op === 'place'} />
    </div>
  );
}

export function Held({
  record,
  channel,
  reasons,
  waitsFor,
}: Pick<HeldToSend, 'channel' | 'reasons' | 'waitsFor'> & { record: string }) {
  const channels = useChannelNames();
  return (
    <>
      {reasons.map((f) => (
        <FindingLine
          key={fieldOf(f) + f.code}
          finding={f}
          about={channels.label(channel, fieldOf(f))}
          href={whereRight(record, f)}
        />
      ))}
      {waitsFor === null ? null : <p className={classes.wait}>waits for the ticket link from {waitsFor}</p>}
    </>
  );
}

export function Refused({
  refused,
  decide,
}: {
  refused: NonNullable<ReadBackListing['refused']>;
  decide: (errandId: number, verdict: 'again' | 'drop') => Promise<string | null>;
}) {
  const sends = useMay('send');
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const settle = async (verdict: 'again' | 'drop') => {
    setBusy(true);
    setProblem(await decide(refused.errand, verdict).catch(() => noAnswer));
    setBusy(false);
  };
  if (!sends) return <p className={classes.error}>{withStop(refused.message)}</p>;
  return (
    <p className={classes.error}>
      {withStop(refused.message)}{' '}
      <button type="button" className="plainButton" disabled={busy} onClick={() => void settle('again')}>
        Try again now
      </button>
      {' · '}
      <button type="button" className="plainButton" disabled={busy} onClick={() => void settle('drop')}>
        Drop it
      </button>
      {problem === null ? null : <span role="alert"> {problem}</span>}
    </p>
  );
}
