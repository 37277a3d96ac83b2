import { carriedParts } from '@/core/record/copy-record';
import type { CarriedFact } from '@/core/record/record';
import classes from '../RecordForm.module.css';

interface CarriedPanelProps {
  /** Code of the event that it was copied from. */
  from: string | null;
  carried: readonly CarriedFact[];
  /** Those that were replaced since, though not saved yet. */
  replaced: ReadonlySet<CarriedFact>;
  onKeep: (facts: readonly CarriedFact[]) => void;
}

const places: Record<CarriedFact, string> = {
  dates: 'dates',
  links: 'tickets',
  prices: 'tickets',
  tags: 'essentials',
  pictures: 'picture',
  words: 'words',
  overrides: 'publicity',
};

/** What a copy carried over: each to be kept or replaced, before it may leave the house. */
export function CarriedPanel({ from, carried, replaced, onKeep }: CarriedPanelProps) {
  const open = carried.filter((one) => !replaced.has(one));
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
        {carried.map((fact) => (
          <li key={fact} data-done={replaced.has(fact) || undefined}>
            <a href={`#${places[fact]}`}>{carriedParts[fact].name}</a>{' '}
            {replaced.has(fact) ? (
              'replaced'
            ) : (
              <button
                type="button"
                className="plainButton"
                aria-label={`Keep ${carriedParts[fact].name}`}
                onClick={() => onKeep([fact])}
              >
                keep
              </button>
            )}
          </li>
        ))}
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
