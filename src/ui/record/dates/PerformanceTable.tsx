import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { PerformanceDraft } from '@/core/record/draft';
import { knownDay } from '@/core/facts/performance-facts';
import { knownDayWords, parseTimeOfDay, shortDate } from '@/core/dates/date-words';
import type { Performance } from '@/core/record/record';
import { editBetween, planEdit, type EditScope } from '@/core/recurrence/recurrence';
import type { DatesSectionProps } from './dates-props';
import type { FieldError } from '../form-parts';
import { PerformanceEditor } from './PerformanceEditor';
import classes from '../RecordForm.module.css';

const rowHeight = 31;
const shownRows = 9;

/**
 * A run as a table: only the rows in sight are drawn. A row opens in place below the table; its edit asks for which it
 * is.
 */
export function PerformanceTable(props: DatesSectionProps) {
  const table = useRowsInSight(props);
  const { scroller, sorted, virtual, opened, setOpen } = table;
  return (
    <>
      <div
        ref={scroller}
        className={classes.runTable}
        style={{ height: Math.min(sorted.length, shownRows) * rowHeight + 2 }}
        role="list"
        aria-label="Performances"
      >
        <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {virtual.getVirtualItems().map((item) => (
            <Row key={item.key} table={table} item={item} />
          ))}
        </div>
      </div>
      {opened ? (
        <OpenPerformance
          key={opened.performance.id}
          {...props}
          performance={opened.performance}
          index={opened.index}
          onClose={() => setOpen(null)}
        />
      ) : null}
    </>
  );
}

/** The rows that are in sight. */
function useRowsInSight(props: DatesSectionProps) {
  const { performances, venues, error, onChange } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const [open, setOpen] = useState<string | null>(null);
  const sorted = useMemo(
    () =>
      performances
        .map((performance, index) => ({ performance, index }))
        .sort((a, b) => (a.performance.date + a.performance.start < b.performance.date + b.performance.start ? -1 : 1)),
    [performances],
  );
  // eslint-disable-next-line react-hooks/incompatible-library -- read anew at each render, as they must be
  const virtual = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 8,
  });
  const opened = sorted.find(({ performance }) => performance.id === open);
  const mostFaults = useMemo(() => faultsByRow(error), [error]);
  return { sorted, open, setOpen, venues, mostFaults, onChange, performances, scroller, virtual, opened, props };
}

type RowsInSight = ReturnType<typeof useRowsInSight>;

/** One date in the table. */
function Row({
  table: { sorted, open, setOpen, venues, mostFaults, onChange, performances },
  item,
}: {
  table: RowsInSight;
  item: { index: number; start: number; size: number; key: React.Key };
}) {
  const row = sorted[item.index];
  if (!row) return null;
  const { performance, index } = row;
  return (
    <div
      role="listitem"
      className={classes.runRow}
      data-open={performance.id === open || undefined}
      data-turn={performance.turn === 'none' ? undefined : performance.turn}
      style={{ transform: `translateY(${item.start}px)` }}
    >
      <button
        type="button"
        className={classes.runPick}
        aria-label={`Open ${shortDate(performance.date)} ${performance.start}`}
        aria-expanded={performance.id === open}
        onClick={() => setOpen(performance.id === open ? null : performance.id)}
      >
        <b>{knownDayWords(knownDay({ ...performance, turn: 'none' }))}</b>
        <span>
          {performance.start}
          {performance.end === '' ? '' : `–${performance.end}`}
        </span>
        <span>{placeOf(performance, venues)}</span>
        <span>
          {[
            performance.pencilled ? 'pencilled' : '',
            performance.turn === 'none' ? '' : performance.turn,
            performance.soldOut ? 'sold out' : '',
            performance.note,
          ]
            .filter((part) => part !== '')
            .join(', ')}
        </span>
      </button>
      {mostFaults.has(index) ? <i title={mostFaults.get(index)}>!</i> : null}
      <button
        type="button"
        className="plainButton"
        aria-label={`Take ${shortDate(performance.date)} ${performance.start} out`}
        onClick={() => onChange(performances.filter((p) => p.id !== performance.id))}
      >
        out
      </button>
    </div>
  );
}

function placeOf(performance: PerformanceDraft, venues: DatesSectionProps['venues']): string {
  const venue = performance.venueId === null ? undefined : venues.get(performance.venueId);
  return venue?.rooms.find((room) => room.id === performance.roomId)?.name ?? venue?.name ?? '';
}

/** The first fault of each performance, by its place in the record. */
function faultsByRow(error: FieldError): Map<number, string> {
  const found = new Map<number, string>();
  for (const path of error.paths) {
    const at = Number(/^performances\.(\d+)\./.exec(path)?.[1] ?? -1);
    const words = error(path);
    if (at >= 0 && words !== undefined && !found.has(at)) found.set(at, words);
  }
  return found;
}

/** One performance of a run, edited apart from the record until it is said for which performances the edit is. */
function OpenPerformance(
  props: DatesSectionProps & { performance: PerformanceDraft; index: number; onClose: () => void },
) {
  const { performance: performanceDraft, index, performances, onChange, onClose } = props;
  const [working, setWorking] = useState(performanceDraft);
  const [scope, setScope] = useState<EditScope>('this');
  const set = useCallback((part: Partial<PerformanceDraft>) => setWorking((at) => ({ ...at, ...part })), []);
  const panel = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // Newer browsers answer with a promise, which must not become the effect's clean-up.
    void panel.current?.scrollIntoView({ block: 'nearest' });
  }, []);
  const edit = useMemo(() => editBetween(asRead(performanceDraft), asRead(working)), [performanceDraft, working]);
  const changed = Object.keys(edit).length > 0;
  const plans = useMemo(() => {
    const list = performances.map(asRead);
    return Object.fromEntries(
      (['this', 'later', 'all'] as const).map((text) => [text, planEdit(list, performanceDraft.id, text, edit)]),
    ) as Record<EditScope, ReturnType<typeof planEdit>>;
  }, [performances, performanceDraft.id, edit]);
  const dates = new Map(
    performances.map((performance) => [performance.id, `${shortDate(performance.date)} ${performance.start}`]),
  );
  const touched = plans[scope].touched.filter((candidate) => candidate.changes.length > 0);
  const keeping = plans[scope].touched.filter((candidate) => candidate.keepsOwn.length > 0);
  const apply = () => {
    const next = new Map(plans[scope].performances.map((performance) => [performance.id, performance]));
    const moved = new Set(touched.map((item) => item.id));
    onChange(
      performances.map((performance) =>
        moved.has(performance.id)
          ? asDraft(next.get(performance.id), performance, performance.id === performanceDraft.id ? working : null)
          : performance,
      ),
    );
    onClose();
  };
  return (
    <div ref={panel} className={classes.openRow} role="group" aria-label={`Performance ${index + 1}`}>
      <PerformanceEditor {...props} performance={working} path={`performances.${index}`} set={set} />
      <div className={classes.scope}>
        <span>Change</span>
        {(['this', 'later', 'all'] as const).map((text) => (
          <button key={text} type="button" aria-pressed={scope === text} onClick={() => setScope(text)}>
            {text === 'this' ? 'this one' : text === 'later' ? 'this and later' : 'all'}{' '}
            <b>{plans[text].touched.filter((t) => t.changes.length > 0).length}</b>
          </button>
        ))}
        <button type="button" className="quietButton" disabled={!changed} onClick={apply}>
          Apply
        </button>
        <button type="button" className="plainButton" onClick={onClose}>
          Never mind
        </button>
      </div>
      {changed ? (
        <p className={classes.muted} aria-live="polite">
          Touches{' '}
          {touched
            .slice(0, 8)
            .map((item) => dates.get(item.id))
            .join(', ')}
          {touched.length > 8 ? ` and ${touched.length - 8} more` : ''}.
          {keeping.length > 0
            ? ` Keeps its own: ${keeping
                .slice(0, 4)
                .map((item) => dates.get(item.id))
                .join(', ')}${keeping.length > 4 ? ` and ${keeping.length - 4} more` : ''}.`
            : ''}
        </p>
      ) : null}
    </div>
  );
}

const time = (text: string) => (text.trim() === '' ? null : (parseTimeOfDay(text) ?? text));

/** A draft as the core edits it; a time that cannot be read stays as typed. */
function asRead(performance: PerformanceDraft): Performance {
  return {
    ...performance,
    start: time(performance.start),
    end: time(performance.end),
    doors: time(performance.doors),
    link: performance.link.trim() || null,
  };
}

function asDraft(
  next: Performance | undefined,
  before: PerformanceDraft,
  typed: PerformanceDraft | null,
): PerformanceDraft {
  if (typed) return typed;
  return next
    ? { ...next, start: next.start ?? '', end: next.end ?? '', doors: next.doors ?? '', link: next.link ?? '' }
    : before;
}
