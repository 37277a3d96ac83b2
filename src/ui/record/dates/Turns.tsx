import { Select, TextInput } from '@mantine/core';
import { useId, useLayoutEffect, useState } from 'react';
import { shortDate } from '@/core/dates/date-words';
import type { PerformanceDraft, RecordDraft } from '@/core/record/draft';
import type { Venue } from '@/core/record/directory';
import { DateField, useUnread } from '@/ui/date-field';
import { LeftNote, useTyped } from '@/ui/typed';
import { placedAt } from './placed-at';
import classes from '../RecordForm.module.css';

const doings = { postpone: 'Postpone', move: 'Move', cancel: 'Cancel' } as const;
type Doing = keyof typeof doings;

/** What is chosen of a turn before it is put into the record. */
interface Chosen {
  which: string;
  date: string | null;
  start: string;
  venueId: string | null;
}

interface TurnsProps {
  recordId: string;
  performances: readonly PerformanceDraft[];
  venues: ReadonlyMap<string, Venue>;
  today: string;
  onChange: (part: (draft: RecordDraft) => Partial<RecordDraft>) => void;
}

/** What befalls an event that stands outside, in plain sight: what is chosen is part of the record, and goes by *Save*. */
export function Turns(props: TurnsProps) {
  const [doing, setDoing] = useState<Doing | null>(null);
  const [said, setSaid] = useState('');
  return (
    <div className={classes.turns}>
      <p className={classes.inline}>
        {(Object.keys(doings) as Doing[]).map((name) => (
          <button
            key={name}
            type="button"
            className="plainButton"
            aria-expanded={doing === name}
            onClick={() => {
              setSaid('');
              setDoing(doing === name ? null : name);
            }}
          >
            {doings[name]}
          </button>
        ))}
        <span role="status">{said}</span>
      </p>
      {doing === null ? null : (
        <Turn
          key={doing}
          doing={doing}
          {...props}
          onDone={(words) => {
            setSaid(words);
            setDoing(null);
          }}
        />
      )}
    </div>
  );
}

/** One of them: for which dates, and what must be known of it. */
function Turn({
  doing,
  recordId,
  performances,
  venues,
  today,
  onChange,
  onDone,
}: TurnsProps & { doing: Doing; onDone: (words: string) => void }) {
  const ahead = performances
    .filter(({ date, turn, precision }) => turn !== 'cancelled' && (date >= today || precision === 'open'))
    .toSorted((a, b) => (a.date + a.start < b.date + b.start ? -1 : 1));
  const kept = useTyped<Chosen>(`${doing}-${recordId}`, {
    which: ahead.length === 1 || doing === 'move' ? (ahead[0]?.id ?? '') : 'all',
    date: null,
    start: '',
    venueId: null,
  });
  const { which, date, start, venueId } = kept.typed;
  const set = (part: Partial<Chosen>) => kept.setTyped((now) => ({ ...now, ...part }));
  const id = useId();
  useHeld(doing, ahead.length > 0 && (date !== null || venueId !== null || start !== ''), () => {
    kept.forget();
    onDone('');
  });
  if (ahead.length === 0) return <p className={classes.muted}>No date is left to {doing}.</p>;
  const chosen = ahead.filter((item) => which === 'all' || item.id === which);
  const venue = venueId === null ? undefined : venues.get(venueId);
  const waits = doing === 'move' && venue === undefined;
  const turned = (item: PerformanceDraft): PerformanceDraft => {
    if (doing === 'cancel') return { ...item, turn: 'cancelled' };
    if (doing === 'move') return venue ? { ...item, ...placedAt(venue), turn: 'moved' } : item;
    if (date === null) return { ...item, turn: 'postponed' };
    return { ...item, date, repeat: null, start: start.trim() === '' ? item.start : start, turn: 'rescheduled' };
  };
  const put = () => {
    const ids = new Set(chosen.map((item) => item.id));
    onChange((draft) => ({
      performances: draft.performances.map((item) => (ids.has(item.id) ? turned(item) : item)),
    }));
    kept.forget();
    const what = chosen.length === 1 && chosen[0] ? shortDate(chosen[0].date) : `${chosen.length} dates`;
    onDone(`${what}: in the record as typed. Look at the proof, then save.`);
  };
  return (
    <div className={classes.turn} role="group" aria-labelledby={id}>
      <LeftNote form={kept} name="It" />
      <p id={id}>
        <b>{doings[doing]}</b> {doing === 'postpone' ? 'Without a new date it is said to follow.' : ''}
        {doing === 'cancel' ? 'It stays where it stands, and says that it does not take place.' : ''}
      </p>
      {ahead.length === 1 ? null : (
        <Select
          label="Which dates"
          data={[
            ...(doing === 'postpone' && date !== null ? [] : [{ value: 'all', label: `all ${ahead.length} to come` }]),
            ...ahead.slice(0, 200).map((item) => ({ value: item.id, label: `${shortDate(item.date)} ${item.start}` })),
          ]}
          value={which}
          allowDeselect={false}
          onChange={(value) => set({ which: value ?? 'all' })}
        />
      )}
      {doing === 'postpone' ? (
        <Postponed
          one={chosen.length === 1}
          date={date}
          start={start}
          usual={chosen[0]?.start ?? ''}
          onDate={(date) => set({ date })}
          onStart={(start) => set({ start })}
        />
      ) : null}
      {doing === 'move' ? <ToVenue venues={venues} value={venueId} onChange={(venueId) => set({ venueId })} /> : null}
      <button type="button" className="quietButton" disabled={waits} onClick={put}>
        {doings[doing]} {chosen.length === 1 && chosen[0] ? shortDate(chosen[0].date) : `${chosen.length} dates`}
      </button>
    </div>
  );
}

/** What is chosen and not put in yet holds the save: it would be lost behind a word that all is saved. */
function useHeld(doing: Doing, held: boolean, drop: () => void) {
  const [tell] = useUnread(useId(), false);
  // Before anything else is heard: a save by key may follow within the same moment.
  useLayoutEffect(() => {
    const name = doings[doing];
    const problem = `${name}: what is chosen there is not in the record yet. Press the button under it, or ${name} above to leave it.`;
    tell(held ? { text: '', problem, drop } : null);
  });
}

/** Where it moves to. */
function ToVenue({
  venues,
  value,
  onChange,
}: {
  venues: TurnsProps['venues'];
  value: string | null;
  onChange: (id: string | null) => void;
}) {
  return (
    <Select
      label="To which venue"
      data={[...venues.values()].map(({ id, name, town }) => ({
        value: id,
        label: town === '' ? name : `${name}, ${town}`,
      }))}
      value={value}
      searchable
      limit={60}
      nothingFoundMessage="Not in the directory: make it under Dates and place."
      onChange={onChange}
    />
  );
}

interface PostponedProps {
  /** One date alone is postponed: it may get a new one. */
  one: boolean;
  date: string | null;
  start: string;
  /** The start as it is. */
  usual: string;
  onDate: (date: string | null) => void;
  onStart: (start: string) => void;
}

/** To when, where that is known. */
function Postponed({ one, date, start, usual, onDate, onStart }: PostponedProps) {
  if (!one) return null;
  return (
    <>
      <DateField
        label="New date, where it is known"
        placeholder="to follow"
        value={date}
        onDate={onDate}
        onClear={() => onDate(null)}
      />
      {date === null ? null : (
        <TextInput label="Start" placeholder={usual} value={start} onChange={(e) => onStart(e.currentTarget.value)} />
      )}
    </>
  );
}
