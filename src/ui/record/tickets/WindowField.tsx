import { Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { parseTimeOfDay } from '@/core/dates/date-words';
import type { WindowEnd } from '@/core/record/ticket-schema';
import { DateField } from '@/ui/date-field';
import classes from '../RecordForm.module.css';

interface WindowFieldProps {
  label: string;
  end: WindowEnd | null;
  /** What is so where nothing is said. */
  otherwise: string;
  /** The day that a moment is first offered on. */
  start: string;
  onChange: (end: WindowEnd | null) => void;
  error: string | undefined;
}

/** One end of a time of sale: a moment, or so long before the start. */
export function WindowField({ label, end, otherwise, start, onChange, error }: WindowFieldProps) {
  const [time, setTime] = useState(end?.kind === 'at' ? end.time : '10:00');
  const kind = end === null ? 'always' : end.kind;
  const choose = (next: string | null) =>
    onChange(
      next === 'at'
        ? { kind: 'at', date: start, time: '10:00' }
        : next === 'before'
          ? { kind: 'before', amount: 3, unit: 'days' }
          : null,
    );
  return (
    <div className={classes.inline}>
      <Select
        w={170}
        label={label}
        data={[
          { value: 'always', label: otherwise },
          { value: 'at', label: 'a moment' },
          { value: 'before', label: 'so long before the start' },
        ]}
        value={kind}
        allowDeselect={false}
        onChange={choose}
      />
      {end?.kind === 'at' ? (
        <>
          <DateField w={150} label="Date" value={end.date} onDate={(date) => onChange({ ...end, date })} />
          <TextInput
            w={70}
            label="At"
            value={time}
            error={error}
            onChange={(e) => {
              setTime(e.currentTarget.value);
              const read = parseTimeOfDay(e.currentTarget.value);
              if (read) onChange({ ...end, time: read });
            }}
          />
          <span>local time of each date</span>
        </>
      ) : null}
      {end?.kind === 'before' ? (
        <>
          <TextInput
            w={60}
            label="So many"
            value={String(end.amount)}
            onChange={(e) =>
              onChange({ ...end, amount: Math.min(1000, Number(e.currentTarget.value.replace(/\D/g, '')) || 0) })
            }
          />
          <Select
            w={90}
            label="Unit"
            data={['days', 'hours']}
            value={end.unit}
            allowDeselect={false}
            onChange={(unit) => onChange({ ...end, unit: unit === 'hours' ? 'hours' : 'days' })}
          />
          <span>before the start</span>
        </>
      ) : null}
    </div>
  );
}
