import { useState } from 'react';
import { momentWords } from '@/core/dates/date-words';
import type { Facts } from '@/core/facts/facts';
import type { SheetTick } from '@/core/listing/sale-sheet';
import { trialLine, trialWish } from '@/core/listing/trial';
import { noAnswer } from '@/ui/no-answer';
import classes from '../RecordForm.module.css';

interface Check {
  what: string;
  should: string;
  is: string;
  right: boolean;
}

/** Tries a purchase on a channel; gives what it was held against, or why it could not be tried. */
export type TryPurchase = (channel: string) => Promise<{ ok: true; value: Check[] } | { ok: false; error: string }>;

interface TrialPurchaseProps {
  channel: { id: string; name: string };
  facts: Facts;
  ticks: readonly SheetTick[];
  trial: TryPurchase;
  zone: string;
}

/** One ticket, bought to try it and paid back: what came of it beside what it should have been. */
export function TrialPurchase({ channel, facts, ticks, trial, zone }: TrialPurchaseProps) {
  const [checks, setChecks] = useState<Check[] | null>(null);
  const [problem, setProblem] = useState('');
  const [busy, setBusy] = useState(false);
  const kept = ticks.find((tick) => tick.line === trialLine(channel.id));
  const holds = kept !== undefined && kept.value === trialWish({ ...facts, here: channel.id }, channel.id)?.words;
  const go = async () => {
    setBusy(true);
    const answer = await trial(channel.id).catch(() => ({ ok: false as const, error: noAnswer }));
    setBusy(false);
    setChecks(answer.ok ? answer.value : null);
    setProblem(answer.ok ? '' : answer.error);
  };
  return (
    <div role="group" aria-label={`Trial purchase on ${channel.name}`}>
      <p>
        <button type="button" className="quietButton" disabled={busy} onClick={() => void go()}>
          {busy ? 'Buying …' : `Try a purchase on ${channel.name}`}
        </button>{' '}
        <span className={classes.muted}>
          {kept === undefined
            ? 'one ticket, paid back at once and counted nowhere'
            : holds
              ? `all was right when ${kept.by} tried it, ${momentWords(kept.at, zone)}`
              : `tried by ${kept.by} when it was “${kept.value}”: the facts have moved since`}
        </span>
      </p>
      {checks === null ? null : (
        <table className={classes.links} aria-label="What the trial came to" role="table">
          <tbody>
            {checks.map(({ what, should, is, right }) => (
              <tr key={what}>
                <td>{what}</td>
                <td>{is}</td>
                <td className={right ? undefined : 'problem'}>{right ? 'right' : `should be ${should}`}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {problem === '' ? null : (
        <p className="problem" role="alert">
          {problem}
        </p>
      )}
    </div>
  );
}
