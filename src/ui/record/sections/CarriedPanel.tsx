import { carriedGroup } from '@/core/record/copy-record';
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

/** What a copy carried over: each to be kept or replaced, before it may leave the house. */
export function CarriedPanel({ from, carried, replaced, levels, onKeep }: CarriedPanelProps) {
  const open = carried.filter((candidate) => !replaced.has(candidate));
  if (carried.length === 0) return null;
  return (
    <section className={classes.carried} aria-label="Carried over">
      <p>
        <b>
          {open.length === 0
            ? 'Everything carried over has been looked at.'
            : `Carried over from ${from ?? 'another event'}:`}
        </b>{' '}
        {open.length === 0
          ? 'Save to let it leave the house.'
          : 'keep each, or replace it in its place. Until then nothing of it is sent.'}
      </p>
      <ul>
        {carried.map((fact) => {
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
