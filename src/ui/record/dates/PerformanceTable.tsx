import { Opener } from '@/ui/may/Opener';
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

interface PerformanceTableProps extends DatesSectionProps {
  /** The performance that is open; `null`: none. */
  open: string | null;
  setOpen: (id: string | null) => void;
  /** One that was added just now: the cursor goes into it. */
  fresh: string | null;
}

/**
 * A run as a table: only the rows in sight are drawn. A row opens in place below the table; its edit asks for which it
 * is.
 */
export function PerformanceTable(props: PerformanceTableProps) {
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
          fresh={opened.performance.id === props.fresh}
          onClose={() => setOpen(null)}
        />
      ) : null}
    </>
  );
}

/** The rows that are in sight. */
function useRowsInSight(props: PerformanceTableProps) {
  const { performances, venues, error, onChange, open, setOpen } = props;
  const scroller = useRef<HTMLDivElement>(null);
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
      <Opener
        className={classes.runPick}
        aria-expanded={performance.id === open}
        onClick={() => setOpen(performance.id === open ? null : performance.id)}
      >
        <b>{knownDayWords(knownDay({ ...performance, turn: 'none' }))}</b>{' '}
        <span>
          {performance.start}
          {performance.end === '' ? '' : `–${performance.end}`}
        </span>{' '}
        <span>{placeOf(performance, venues)}</span>{' '}
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
      </Opener>
      {mostFaults.has(index) ? <i title={mostFaults.get(index)}>!</i> : null}
      <button
        type="button"
        className="plainButton"
        aria-label={`Remove ${shortDate(performance.date)} ${performance.start}`}
        onClick={() => onChange(performances.filter((p) => p.id !== performance.id))}
      >
        remove
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

/** Which performances an edit reaches, as it is asked. */
const scopes = { this: 'this one', later: 'this and later', all: 'all' } as const satisfies Record<EditScope, string>;
const scopeNames = Object.keys(scopes) as EditScope[];

/**
 * One performance of a run. What is typed is part of the record at once; how many others it reaches is asked beside it,
 * and can be chosen anew for as long as it is open.
 */
function OpenPerformance(
  props: DatesSectionProps & { performance: PerformanceDraft; index: number; fresh: boolean; onClose: () => void },
) {
  const { performance, index, fresh, onClose } = props;
  const { before, scope, reach, changed, plans, set, undo } = useReachingEdit(props);
  const panel = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // Newer browsers answer with a promise, which must not become the effect's clean-up.
    void panel.current?.scrollIntoView({ block: 'nearest' });
    if (fresh) panel.current?.querySelector('input')?.select();
  }, [fresh]);
  const dates = new Map(before.map((item) => [item.id, `${shortDate(item.date)} ${item.start}`]));
  const named = (ids: readonly string[], most: number) =>
    `${ids
      .slice(0, most)
      .map((id) => dates.get(id))
      .join(', ')}${ids.length > most ? ` and ${ids.length - most} more` : ''}`;
  const touched = plans[scope].touched.filter((item) => item.changes.length > 0).map((item) => item.id);
  const keeping = plans[scope].touched.filter((item) => item.keepsOwn.length > 0).map((item) => item.id);
  return (
    <div ref={panel} className={classes.openRow} role="group" aria-label={`Performance ${index + 1}`}>
      <PerformanceEditor {...props} performance={performance} path={`performances.${index}`} set={set} />
      <div className={classes.scope} role="group" aria-label="What the change reaches">
        <span>The change is for</span>
        {scopeNames.map((name) => (
          <button key={name} type="button" aria-pressed={scope === name} onClick={() => reach(name)}>
            {scopes[name]} <b>{plans[name].touched.filter((item) => item.changes.length > 0).length}</b>
          </button>
        ))}
        <button type="button" className="quietButton" onClick={onClose}>
          Close
        </button>
        {changed ? (
          <button type="button" className="plainButton" onClick={undo}>
            Undo this change
          </button>
        ) : null}
      </div>
      {changed ? (
        <p className={classes.muted} aria-live="polite">
          Touches {named(touched, 8)}.{keeping.length > 0 ? ` Keeps its own: ${named(keeping, 4)}.` : ''}
        </p>
      ) : null}
    </div>
  );
}

/** An edit of one performance that reaches as many others as a person says, written to the draft as it is typed. */
function useReachingEdit({
  performance,
  performances,
  onChange,
}: DatesSectionProps & { performance: PerformanceDraft }) {
  /** What stood when it was opened: the change is what is otherwise since. */
  const [before, setBefore] = useState(performances);
  const [scope, setScope] = useState<EditScope>('this');
  const wrote = useRef(performances);
  // What was changed by another hand (undone, filled anew) is no part of this edit.
  useEffect(() => {
    if (wrote.current === performances) return;
    wrote.current = performances;
    setBefore(performances);
    setScope('this');
  }, [performances]);
  const { id } = performance;
  const was = before.find((item) => item.id === id) ?? performance;
  const edit = useMemo(() => editBetween(asRead(was), asRead(performance)), [was, performance]);
  const plans = useMemo(() => {
    const list = before.map(asRead);
    return Object.fromEntries(scopeNames.map((name) => [name, planEdit(list, id, name, edit)])) as Record<
      EditScope,
      ReturnType<typeof planEdit>
    >;
  }, [before, id, edit]);
  const write = useCallback(
    (part: Partial<PerformanceDraft>, reached: EditScope) =>
      onChange((all) => {
        const now = all.find((item) => item.id === id);
        if (!now) return all;
        const next = reaching(before, all, { ...now, ...part }, reached);
        wrote.current = next;
        return next;
      }),
    [onChange, before, id],
  );
  return {
    before,
    scope,
    plans,
    changed: Object.keys(edit).length > 0,
    set: useCallback((part: Partial<PerformanceDraft>) => write(part, scope), [write, scope]),
    reach: (name: EditScope) => {
      setScope(name);
      write({}, name);
    },
    undo: () => write(was, scope),
  };
}

/** All performances, with what `typed` changed of what stood `before` in all that the edit reaches. */
function reaching(
  before: readonly PerformanceDraft[],
  all: PerformanceDraft[],
  typed: PerformanceDraft,
  scope: EditScope,
): PerformanceDraft[] {
  const was = new Map(before.map((item) => [item.id, item]));
  const first = was.get(typed.id);
  if (!first) return all;
  const plan = planEdit(before.map(asRead), typed.id, scope, editBetween(asRead(first), asRead(typed)));
  const touched = new Set(plan.touched.filter((item) => item.changes.length > 0).map((item) => item.id));
  const next = new Map(plan.performances.map((item) => [item.id, item]));
  return all.map((item) => {
    if (item.id === typed.id) return typed;
    const stood = was.get(item.id);
    // What came meanwhile is not reached; what is not reached any more is as it was.
    return stood === undefined ? item : touched.has(item.id) ? asDraft(next.get(item.id), stood) : stood;
  });
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

function asDraft(next: Performance | undefined, before: PerformanceDraft): PerformanceDraft {
  return next
    ? { ...next, start: next.start ?? '', end: next.end ?? '', doors: next.doors ?? '', link: next.link ?? '' }
    : before;
}
