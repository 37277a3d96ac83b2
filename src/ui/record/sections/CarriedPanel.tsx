import { carriedGroup } from '@/core/record/copy-record';
import { asksOfTown } from '@/core/record/other-town';
import type { CarriedFact } from '@/core/record/choices';
import classes from '../RecordForm.module.css';

interface CarriedPanelProps {
  /** Code of the event that it was copied from. */
  from: string | null;
  carried: readonly CarriedFact[];
  /** Those that were replaced since, though not saved yet. */
  replaced: ReadonlySet<CarriedFact>;
  /** The price levels, for the names of their parts. */
  levels: readonly { id: string; name: string }[];
  onKeep: (facts: readonly CarriedFact[]) => void;
}

/** What a copy carried over, and what was said of a town that a date has left: each to be kept or replaced. */
export function CarriedPanel({ from, carried, replaced, levels, onKeep }: CarriedPanelProps) {
  const ofTown = carried.filter(asksOfTown);
  const copied = carried.filter((fact) => !asksOfTown(fact));
  return (
    <>
      <Asked
        label="Another town"
        facts={ofTown}
        {...{ replaced, levels, onKeep }}
        asks="A date moves to another town. What was said of the old one:"
        done="What was said of the old town has been looked at."
      />
      <Asked
        label="Carried over"
        facts={copied}
        {...{ replaced, levels, onKeep }}
        asks={`Carried over from ${from ?? 'another event'}:`}
        done="Everything carried over has been looked at."
      />
    </>
  );
}

interface AskedProps extends Pick<CarriedPanelProps, 'replaced' | 'levels' | 'onKeep'> {
  label: string;
  facts: readonly CarriedFact[];
  /** What is asked, and what stands there once all is answered. */
  asks: string;
  done: string;
}

/** Facts that a person keeps or replaces before anything may leave the house. */
function Asked({ label, facts, replaced, levels, onKeep, asks, done }: AskedProps) {
  const open = facts.filter((candidate) => !replaced.has(candidate));
  if (facts.length === 0) return null;
  return (
    <section className={classes.carried} aria-label={label}>
      <p>
        <b>{open.length === 0 ? done : asks}</b>{' '}
        {open.length === 0
          ? 'Save to let it leave the house.'
          : 'keep each, or replace it in its place. Until then nothing of it is sent.'}
      </p>
      <ul>
        {facts.map((fact) => {
          const group = carriedGroup(fact, levels);
          return (
            <li key={fact} data-done={replaced.has(fact) || undefined}>
              <a href={`#${group?.section ?? 'essentials'}`}>{group?.name ?? fact}</a>{' '}
              {replaced.has(fact) ? (
                'replaced'
              ) : (
                <button
                  type="button"
                  className="plainButton"
                  aria-label={`Keep ${group?.name ?? fact}`}
                  onClick={() => onKeep([fact])}
                >
                  keep
                </button>
              )}
            </li>
          );
        })}
        {open.length > 1 ? (
          <li>
            <button type="button" className="plainButton" onClick={() => onKeep(open)}>
              keep all {open.length}
            </button>
          </li>
        ) : null}
      </ul>
    </section>
  );
}
