'use client';

import { May, useMay } from '@/ui/may/May';
import { useVirtualizer } from '@tanstack/react-virtual';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { Fragment, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { formatNames, whatFilesLeaveOut } from '@/core/formats/format-words';
import { DateBlock } from '@/ui/date-block';
import { notFetched } from '@/ui/not-fetched';
import { Pennant } from '@/ui/pennant';
import type { ListedEvent } from '@/views/season';
import { foldColumns, type Columns } from './fold-columns';
import { groupRows, type SeasonLine } from './group-rows';
import { inView, matches, views, type View } from './narrow';
import { useChosen, type Chosen } from './use-chosen';
import { useRows } from './use-rows';
import type { ManyDoings, Typed } from '../many/many-doings';
import { LastEdit, type LastEditProps } from './LastEdit';
import classes from './SeasonList.module.css';

interface SeasonListProps {
  /** Events in the order of dates, as `packRows` makes one text of them: all, or the first that are to come. */
  packed: string;
  /** What the rest is asked for by; `null`: all are here. */
  rest: string | null;
  /** How many there are in each view, and in all. */
  counts: readonly number[];
  all: number;
  channels: { id: string; name: string; heading: string; group: string }[];
  /** Today's date in the house's zone. */
  today: string;
  /** Lines that stand as they were counted last, and are being counted anew. */
  behind: number;
  /** The house's zone. */
  zone: string;
  many: ManyDoings;
  /** The edit of many that was made last and may be taken back. */
  last: LastEditProps | null;
}

/** Fetched when something is chosen, and when something is done with it. */
const ManyBar = dynamic(() => import('../many/ManyBar').then(({ ManyBar }) => ManyBar, notFetched), { ssr: false });
const ManyPanel = dynamic(() => import('../many/ManyPanel').then(({ ManyPanel }) => ManyPanel, notFetched), {
  ssr: false,
});

const viewNames: Record<View, string> = {
  upcoming: 'Upcoming',
  past: 'Past',
  asking: 'Needs a look',
  away: 'Put away',
};

/** What is on, by date, with each channel's pennant, and what is done with many of them at once. */
export function SeasonList(props: SeasonListProps) {
  const { channels, zone, many } = props;
  const listed = useListed(props);
  const { order } = listed;
  const chosen = useChosen(order);
  const [edit, setEdit] = useState<Typed | null>(null);
  const [said, setSaid] = useState('');
  const ids = useMemo(() => [...chosen.ids], [chosen.ids]);
  const hidden = useMemo(() => {
    const shown = new Set(order);
    return ids.filter((id) => !shown.has(id)).length;
  }, [ids, order]);
  const isEditing = edit !== null && ids.length > 0;
  return (
    <div className={classes.whole}>
      <div hidden={isEditing} className={classes.list}>
        <List {...props} {...listed} chosen={chosen} said={said} onSaid={setSaid} />
      </div>
      {isEditing ? (
        <ManyPanel
          {...{ ids, zone, channels }}
          {...many}
          begun={edit}
          onLeaveOut={chosen.leaveOut}
          onBack={() => setEdit(null)}
          onSaved={() => {
            setEdit(null);
            chosen.put([]);
          }}
        />
      ) : ids.length > 0 ? (
        <ManyBar
          {...{ ids, hidden, channels }}
          shown={order.length}
          onAll={() => chosen.put(order)}
          onNone={() => chosen.put([])}
          onEdit={(begun) => {
            setSaid('');
            setEdit(begun);
          }}
        />
      ) : null}
    </div>
  );
}

/** What of the season is listed, and how. */
function useListed({ packed, rest, today }: Pick<SeasonListProps, 'packed' | 'rest' | 'today'>) {
  const find = useSearchParams().get('find') ?? '';
  const { rows, state } = useRows(packed, rest);
  const [view, setView] = useState<View>('upcoming');
  const seen = useMemo(() => rows.filter((row) => inView(row, view) && matches(row, find)), [rows, view, find]);
  const lines = useMemo(() => groupRows(seen, today, view === 'past' || view === 'away'), [seen, view, today]);
  const order = useMemo(() => lines.flatMap((line) => (line.kind === 'row' ? [line.row.id] : [])), [lines]);
  return { find, rows, state, view, setView, seen, lines, order };
}

interface ListProps extends SeasonListProps, ReturnType<typeof useListed> {
  chosen: Chosen;
  /** What came of taking the last edit of many back. */
  said: string;
  onSaid: (words: string) => void;
}

/** The list itself. Only the lines in sight are drawn. */
function List(props: ListProps) {
  const { counts, all, channels, today, behind, last, chosen, said, onSaid } = props;
  const { find, rows, state, view, setView, seen, lines } = props;
  const [unfolded, setUnfolded] = useState(false);
  const laid = useMemo(
    () => ({ channels, columns: foldColumns(channels.length, unfolded ? null : seen) }),
    [channels, unfolded, seen],
  );
  // Where nothing was put away, nobody looks for it.
  const shownViews = views.filter((which) => which !== 'away' || view === 'away' || counts[views.indexOf(which)] !== 0);
  return (
    <div className={classes.season} data-channels={channels.length > 8 ? 'many' : undefined}>
      <h1 className="visuallyHidden">Season</h1>
      <div className={classes.head}>
        <div role="tablist" aria-label="Which events" className={classes.tabs}>
          {shownViews.map((which) => (
            <button key={which} type="button" role="tab" aria-selected={view === which} onClick={() => setView(which)}>
              {viewNames[which]} <span>{counts[views.indexOf(which)]}</span>
            </button>
          ))}
        </div>
        <p className={classes.narrowed}>
          {said === '' ? null : <span role="status">{said} · </span>}
          {last === null ? null : <LastEdit {...last} onSaid={onSaid} />}
          {behind === 0 ? null : <span role="status">{behind} are being looked at anew · </span>}
          {find === '' ? null : (
            <>
              narrowed to “{find}” · <Link href="/season">show all</Link> ·{' '}
            </>
          )}
          <May right="export">
            <SaveAs view={view} find={find} />
          </May>
        </p>
        <Headings laid={laid} onUnfold={() => setUnfolded(true)} />
      </div>
      {state === 'failed' ? (
        <p role="alert" className={classes.partly}>
          Only the first {rows.length} of {all} events are here: the house did not answer. Load the page anew.
        </p>
      ) : null}
      {state === 'first' && (find !== '' || view !== 'upcoming') ? (
        <p role="status" className={classes.partly}>
          Reading all {all} events …
        </p>
      ) : null}
      {state === 'waiting' || (state === 'first' && lines.length === 0) ? null : lines.length === 0 ? (
        <Empty all={all} find={find} />
      ) : (
        <Lines lines={lines} laid={laid} year={Number(today.slice(0, 4))} chosen={chosen} />
      )}
    </div>
  );
}

/** What the list shows, as a file. */
function SaveAs({ view, find }: { view: View; find: string }) {
  const address = (format: string) =>
    `/api/export?${new URLSearchParams({ format, view, ...(find === '' ? {} : { find }) }).toString()}`;
  return (
    <>
      as a file:{' '}
      {(['csv', 'ics', 'json'] as const).map((format) => (
        <Fragment key={format}>
          <a href={address(format)} title={whatFilesLeaveOut} aria-describedby="files-leave-out" download>
            {formatNames[format]}
          </a>{' '}
        </Fragment>
      ))}
      <span id="files-leave-out" hidden>
        {whatFilesLeaveOut}
      </span>
    </>
  );
}

function Empty({ all, find }: { all: number; find: string }) {
  const writes = useMay('write');
  if (all === 0) {
    if (!writes) return <p className={classes.empty}>Nothing is on yet.</p>;
    return (
      <p className={classes.empty}>
        Nothing is on yet. <Link href="/records/new">Make the first record</Link>, or{' '}
        <Link href="/import">read your events from a CSV, iCalendar or JSON file, or a saved web page</Link>.
      </p>
    );
  }
  if (find === '') return <p className={classes.empty}>Nothing here.</p>;
  return (
    <p className={classes.empty}>
      No event fits “{find}”. <Link href="/season">Show all</Link>
    </p>
  );
}

/** The channels, and which of them have a column of their own. */
interface Laid {
  channels: SeasonListProps['channels'];
  columns: Columns;
}

/** True where a column begins another group of channels than the one before it. */
function beginsGroup({ channels, columns: { shown } }: Laid, at: number): boolean {
  const group = (i: number | undefined) => (i === undefined ? undefined : channels[i]?.group);
  return group(shown[at]) !== group(shown[at - 1]);
}

/** The names above the columns; those that are folded away can be opened. */
function Headings({ laid, onUnfold }: { laid: Laid; onUnfold: () => void }) {
  const { channels, columns } = laid;
  return (
    <div className={classes.channels}>
      {columns.shown.map((i, at) => (
        <span key={channels[i]?.id} aria-hidden="true" data-first={beginsGroup(laid, at) || undefined}>
          <i>{channels[i]?.heading}</i>
        </span>
      ))}
      {columns.folded.length === 0 ? null : (
        <button
          type="button"
          className={classes.unfold}
          title={columns.folded.map((i) => channels[i]?.name).join(', ')}
          onClick={onUnfold}
        >
          <i>+{columns.folded.length} in step</i>
        </button>
      )}
    </div>
  );
}

interface LinesProps {
  lines: SeasonLine[];
  laid: Laid;
  year: number;
  chosen: Chosen;
}

function Lines({ lines, laid, year, chosen }: LinesProps) {
  const scroller = useRef<HTMLDivElement>(null);
  // The React Compiler is not used here; the virtualizer's functions are read anew at each render, as they must be.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (lines[i]?.kind === 'heading' ? 34 : 47),
    overscan: 12,
    getItemKey: (i) => lines[i]?.key ?? i,
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const at = document.activeElement instanceof HTMLElement ? document.activeElement.dataset.row : undefined;
    if (at !== undefined && event.key.toLowerCase() === 'x' && !event.ctrlKey && !event.metaKey && !event.altKey) {
      event.preventDefault();
      return event.shiftKey ? chosen.upTo(at) : chosen.flip(at);
    }
    if (event.key === 'Escape' && chosen.ids.size > 0) return chosen.put([]);
    if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
    const links = [...(scroller.current?.querySelectorAll<HTMLAnchorElement>('a[data-row]') ?? [])];
    const place = links.indexOf(document.activeElement as HTMLAnchorElement);
    const next = links[event.key === 'ArrowDown' ? place + 1 : place - 1];
    if (!next) return;
    event.preventDefault();
    next.focus();
  };
  return (
    <div ref={scroller} className={classes.scroller} onKeyDown={onKeyDown} data-testid="season">
      <div className={classes.runway} style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const line = lines[item.index];
          if (!line) return null;
          return (
            <div
              key={item.key}
              className={classes.slot}
              style={{ transform: `translateY(${item.start}px)`, height: item.size }}
            >
              {line.kind === 'heading' ? (
                <h2 className={classes.heading}>
                  {line.title}{' '}
                  <span>
                    {line.count} {line.count === 1 ? 'event' : 'events'}
                  </span>
                </h2>
              ) : (
                <Row row={line.row} laid={laid} year={year} chosen={chosen} />
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

function Row({ row, laid, year, chosen }: { row: ListedEvent; laid: Laid; year: number; chosen: Chosen }) {
  const isChosen = chosen.ids.has(row.id);
  return (
    <div className={classes.line} data-chosen={isChosen || undefined}>
      <input
        type="checkbox"
        className={classes.choose}
        aria-label={`Choose ${row.title}`}
        tabIndex={-1}
        checked={isChosen}
        onChange={() => undefined}
        onClick={(event) => (event.shiftKey ? chosen.upTo(row.id) : chosen.flip(row.id))}
      />
      <RowLink row={row} laid={laid} year={year} isChosen={isChosen} />
    </div>
  );
}

function RowLink({ row, laid, year, isChosen }: { row: ListedEvent; laid: Laid; year: number; isChosen: boolean }) {
  return (
    <Link
      href={`/records/${row.id}`}
      className={classes.row}
      data-row={row.id}
      aria-keyshortcuts="x"
      aria-description={isChosen ? 'chosen' : undefined}
      prefetch={false}
    >
      <DateBlock date={row.date} thisYear={year} />
      <span className={classes.time}>{row.time}</span>
      <span className={classes.title}>
        <b>{row.title}</b>
        <span>{row.under}</span>
      </span>
      <span className={classes.place}>
        {row.room}
        <span>{row.town}</span>
      </span>
      <span className={classes.stage} data-stage={row.stage}>
        {row.stage}
        <span>{row.cue}</span>
      </span>
      <span className={classes.price}>
        {row.price}
        <span>{row.left}</span>
      </span>
      <Pennants standings={row.standings} laid={laid} />
    </Link>
  );
}

/** How an event stands on each channel that has a column; a channel that it has no business on shows nothing. */
function Pennants({ standings, laid }: { standings: ListedEvent['standings']; laid: Laid }) {
  const { channels, columns } = laid;
  const quiet = columns.folded.filter((i) => standings[i] === 'instep');
  return (
    <span className={classes.pennants}>
      {columns.shown.map((i, at) => {
        const standing = standings[i] ?? null;
        return (
          <span
            key={channels[i]?.id}
            data-first={beginsGroup(laid, at) || undefined}
            data-calm={standing === null || standing === 'instep' || undefined}
          >
            {standing === null ? null : (
              <Pennant standing={standing} channel={channels[i]?.name ?? ''} size={channels.length > 8 ? 20 : 22} />
            )}
          </span>
        );
      })}
      {columns.folded.length === 0 ? null : (
        <span className={classes.folded} data-calm>
          {quiet.length === 0 ? null : (
            <>
              <Pennant standing="instep" channel={quiet.map((i) => channels[i]?.name).join(', ')} size={20} />
              {quiet.length}
            </>
          )}
        </span>
      )}
    </span>
  );
}
