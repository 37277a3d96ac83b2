import dynamic from 'next/dynamic';
import type { RecordId } from '@/core/base/ids';
import { memo, useCallback, useState } from 'react';
import type { Clash } from '@/core/clashes/clashes';
import { clashWords, sideWords } from '@/core/clashes/clash-words';
import type { PerformanceDraft } from '@/core/record/draft';
import { addDays } from '@/core/base/zones';
import { freshPartId, Section } from '../form-parts';
import { PerformanceEditor } from './PerformanceEditor';
import classes from '../RecordForm.module.css';
import type { DatesSectionProps } from './dates-props';
import { notFetched } from '@/ui/not-fetched';

/** Fetched when somebody fills dates by a pattern, or pastes them. */
const FillDates = dynamic(() => import('./FillDates').then(({ FillDates }) => FillDates, notFetched), { ssr: false });
/** Fetched where there are so many dates that a table holds them. */
const PerformanceTable = dynamic(() =>
  import('./PerformanceTable').then(({ PerformanceTable }) => PerformanceTable, notFetched),
);

/** When and where: one performance with all its fields, or a run as a table in which one is opened at a time. */
export const DatesSection = memo(function DatesSection(props: DatesSectionProps) {
  const { performances, onChange, error, lineUp, venues, makeVenue, addVenue, doorsBefore } = props;
  const [filling, setFilling] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  /** One that was added just now: the cursor goes into it. */
  const [fresh, setFresh] = useState<string | null>(null);
  const [only] = performances;
  const set = useCallback(
    // By its id: an answer that comes late must not take out what was added meanwhile.
    (part: Partial<PerformanceDraft>) =>
      onChange((all) =>
        all.map((performance) => (performance.id === only?.id ? { ...performance, ...part } : performance)),
      ),
    [onChange, only?.id],
  );
  const add = () => {
    const last = performances[performances.length - 1];
    if (!last) return;
    const id = freshPartId();
    onChange([
      ...performances,
      { ...last, id, date: addDays(last.date, 1), repeat: null, soldOut: false, turn: 'none' },
    ]);
    setOpen(id);
    setFresh(id);
  };
  return (
    <Section
      id="dates"
      title="Dates and place"
      aside={performances.length > 1 ? `${performances.length} performances` : null}
    >
      {performances.length === 1 && only ? (
        <div className={classes.performance} role="group" aria-label="Performance 1">
          <PerformanceEditor
            performance={only}
            path="performances.0"
            error={error}
            set={set}
            {...{ venues, makeVenue, addVenue, lineUp, doorsBefore }}
          />
        </div>
      ) : (
        <PerformanceTable {...props} open={open} setOpen={setOpen} fresh={fresh} />
      )}
      <div className={classes.inline}>
        <button type="button" className="plainButton" onClick={add}>
          Add a performance
        </button>
        <button type="button" className="plainButton" aria-expanded={filling} onClick={() => setFilling(!filling)}>
          Fill by pattern, or paste dates
        </button>
      </div>
      {filling ? (
        <FillDates
          performances={performances}
          today={props.today}
          onFill={(next, rule) => {
            onChange(next, rule);
            setFilling(false);
          }}
          onCancel={() => setFilling(false)}
        />
      ) : null}
      {error('performances') ? <p className="problem">{error('performances')}</p> : null}
      {props.clashes.map((clash) => (
        <ClashLine
          key={`${clash.code} ${clash.a.performance} ${clash.b?.performance}`}
          clash={clash}
          recordId={props.recordId}
        />
      ))}
    </Section>
  );
});

const ClashLine = memo(function ClashLine({ clash, recordId }: { clash: Clash; recordId: RecordId | null }) {
  const other = clash.b === null ? null : clash.a.record === recordId ? clash.b : clash.a;
  return (
    <p className={classes.clash} data-weight={clash.weight}>
      <b>{clash.weight}</b> {clashWords(clash)}
      {other && other.record !== recordId ? (
        <>
          {' '}
          The other is <a href={`/records/${other.record}`}>{sideWords(other)}</a>.
        </>
      ) : null}
    </p>
  );
});
