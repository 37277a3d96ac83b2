import { useMay } from '@/ui/may/May';
import { noAnswer } from '@/ui/no-answer';
import { memo, useState } from 'react';
import { momentWords } from '@/core/dates/date-words';
import { Section } from '../form-parts';
import { pathWords, plainWords } from '../path-words';
import classes from '../RecordForm.module.css';

export interface HistoryActions {
  /** What a revision changed, field by field. */
  changes: (number: number) => Promise<{ path: string; before: unknown; after: unknown }[] | null>;
  /** Saves an earlier revision as the newest; gives a message where it cannot be. */
  restore: (number: number) => Promise<string | null>;
}

interface HistorySectionProps extends HistoryActions {
  log: { number: number; actor: string; at: number; reason: string }[];
  /** What was done with it beside, newest first. */
  deeds: { at: number; doer: string; words: string }[];
  zone: string;
  /** The draft differs from what was saved: restoring would throw that away. */
  changed: boolean;
}

/** Every revision: who, when and why; opened, what it changed; any of them can be brought back. */
export const HistorySection = memo(function HistorySection(props: HistorySectionProps) {
  const { log, deeds, zone, changed, changes, restore } = props;
  const [open, setOpen] = useState<{
    number: number;
    rows: { path: string; before: unknown; after: unknown }[] | null;
  } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const writes = useMay('write');
  if (log.length === 0)
    return (
      <Section id="history" title="History">
        <p className={classes.muted}>Not saved yet.</p>
      </Section>
    );
  const look = async (number: number) =>
    open?.number === number
      ? setOpen(null)
      : await changes(number).then(
          (rows) => setOpen({ number, rows }),
          () => setProblem(noAnswer),
        );
  const shown = all ? log : log.slice(0, 6);
  return (
    <Section id="history" title="History">
      {problem ? (
        <p className="problem" role="alert">
          {problem}
        </p>
      ) : null}
      <ol className={classes.log}>
        {shown.map((item, i) => (
          <li key={item.number}>
            <div className={classes.logRow}>
              <span>
                <b>Revision {item.number}</b> by {item.actor}, {momentWords(item.at, zone)}
                {item.reason === '' ? '' : `: ${item.reason}`}
              </span>
              <span className={classes.rowTools}>
                {item.number > 1 ? (
                  <button
                    type="button"
                    className="plainButton"
                    aria-expanded={open?.number === item.number}
                    onClick={() => void look(item.number)}
                  >
                    what changed
                  </button>
                ) : null}
                {i > 0 && writes ? (
                  <button
                    type="button"
                    className="plainButton"
                    disabled={changed}
                    title={changed ? 'Save or undo your changes first.' : undefined}
                    onClick={() => void restore(item.number).then(setProblem, () => setProblem(noAnswer))}
                  >
                    bring back
                  </button>
                ) : null}
              </span>
            </div>
            {open?.number === item.number ? <Changes rows={open.rows ?? []} /> : null}
          </li>
        ))}
      </ol>
      {log.length > shown.length ? (
        <button type="button" className="plainButton" onClick={() => setAll(true)}>
          Show all {log.length} revisions
        </button>
      ) : null}
      <Deeds deeds={deeds} zone={zone} />
    </Section>
  );
});

/** What was done with it that is no revision: sent, decided, taken out as a file. */
function Deeds({ deeds, zone }: Pick<HistorySectionProps, 'deeds' | 'zone'>) {
  if (deeds.length === 0) return null;
  return (
    <details className={classes.counts}>
      <summary>Sent, decided, taken out: {deeds.length}</summary>
      <ul className={classes.log}>
        {deeds.map(({ at, doer, words }, i) => (
          <li key={i}>
            <b>{doer}</b> {words}, {momentWords(at, zone)}
          </li>
        ))}
      </ul>
    </details>
  );
}

function Changes({ rows }: { rows: { path: string; before: unknown; after: unknown }[] }) {
  if (rows.length === 0) return <p className={classes.muted}>Nothing that is kept differs.</p>;
  return (
    <table className={classes.links}>
      <tbody>
        {rows.slice(0, 40).map((row) => (
          <tr key={row.path}>
            <th scope="row">{pathWords(row.path)}</th>
            <td>
              <del>{plainWords(row.before)}</del>
            </td>
            <td>{plainWords(row.after)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
