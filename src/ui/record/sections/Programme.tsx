import { Autocomplete, Select, TextInput } from '@mantine/core';
import { useMemo } from 'react';
import { shortDate } from '@/core/dates/date-words';
import type { ProgrammeDraft, RecordDraft } from '@/core/record/draft';
import { freshPartId, narrow, RowProblems, type FieldError } from '../form-parts';
import classes from '../RecordForm.module.css';

interface ProgrammeProps {
  programme: ProgrammeDraft[];
  performances: RecordDraft['performances'];
  onChange: (programme: ProgrammeDraft[]) => void;
  error: FieldError;
  roles: readonly string[];
}

/** The parts of an event, in their order: speakers, films, workshops, each with its time where it is known. */
export function Programme(props: ProgrammeProps) {
  const list = useProgrammeChanges(props);
  const { programme, onChange } = list;
  return (
    <>
      {programme.map((programmeDraft, i) => (
        <ProgrammeRow key={programmeDraft.id} list={list} programmeDraft={programmeDraft} i={i} />
      ))}
      <div className={classes.inline}>
        <button
          type="button"
          className="plainButton"
          onClick={() =>
            onChange([
              ...programme,
              { id: freshPartId(), start: '', end: '', title: '', names: '', role: '', room: '', performanceId: null },
            ])
          }
        >
          Add a part of the programme
        </button>
      </div>
    </>
  );
}

/** What the programme is changed with. */
function useProgrammeChanges({ programme, performances, onChange, error, roles }: ProgrammeProps) {
  const set = (id: string, part: Partial<ProgrammeDraft>) =>
    onChange(programme.map((programme) => (programme.id === id ? { ...programme, ...part } : programme)));
  const up = (i: number) => {
    const next = [...programme];
    const [programmeDraft] = next.splice(i, 1);
    if (programmeDraft) next.splice(i - 1, 0, programmeDraft);
    onChange(next);
  };
  const dates = useMemo(
    () =>
      performances.map((performance) => ({
        value: performance.id,
        label: `${shortDate(performance.date)} ${performance.start}`.trim(),
      })),
    [performances],
  );
  return { error, set, roles, dates, up, onChange, programme };
}

type ProgrammeChanges = ReturnType<typeof useProgrammeChanges>;

/** One part of the programme: when, what, by whom. */
function ProgrammeRow({
  list: { error, set, roles, dates, up, onChange, programme },
  programmeDraft,
  i,
}: {
  list: ProgrammeChanges;
  programmeDraft: ProgrammeDraft;
  i: number;
}) {
  const text = (key: 'start' | 'end' | 'title' | 'names' | 'room', label: string, width: number | string) => (
    <TextInput
      {...(typeof width === 'number' ? { w: width } : { style: { flex: width, minWidth: 120 } })}
      label={label}
      autoFocus={key === 'title' && programmeDraft.title === ''}
      value={programmeDraft[key]}
      {...(key === 'start' || key === 'end'
        ? narrow(error, `programme.${i}`, key)
        : { error: error(`programme.${i}.${key}`) })}
      onChange={(e) => set(programmeDraft.id, { [key]: e.currentTarget.value })}
    />
  );
  return (
    <div role="group" aria-label={`Programme ${i + 1}`}>
      <div className={classes.inline}>
        {text('start', 'From', 64)}
        {text('end', 'To', 64)}
        {text('title', 'What', '2 1 0')}
        {text('names', 'Who', '1 1 0')}
        <Autocomplete
          w={104}
          label="as"
          data={[...roles]}
          value={programmeDraft.role}
          onChange={(role) => set(programmeDraft.id, { role })}
        />
        {text('room', 'Where', 84)}
        {dates.length > 1 ? (
          <Select
            w={130}
            label="On"
            data={dates}
            value={programmeDraft.performanceId}
            searchable
            limit={60}
            clearable
            clearSectionMode="clear"
            placeholder="each date"
            error={error(`programme.${i}.performanceId`)}
            onChange={(performanceId) => set(programmeDraft.id, { performanceId })}
          />
        ) : null}
        <span className={classes.rowTools}>
          <button
            type="button"
            className="plainButton"
            disabled={i === 0}
            aria-label={`${programmeDraft.title || 'This part'} before the others`}
            onClick={() => up(i)}
          >
            up
          </button>
          <button
            type="button"
            className="plainButton"
            aria-label={`Remove ${programmeDraft.title || 'this part'}`}
            onClick={() => onChange(programme.filter((programme) => programme.id !== programmeDraft.id))}
          >
            remove
          </button>
        </span>
      </div>
      <RowProblems error={error} row={`programme.${i}`} fields={['start', 'end']} />
    </div>
  );
}
