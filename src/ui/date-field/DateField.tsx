'use client';

import { DateInput, type DateInputProps } from '@mantine/dates';
import { memo, useRef, useState } from 'react';
import { typedDate } from '@/core/dates/paste-dates';
import { useToday } from './Today';

interface DateFieldProps extends Pick<
  DateInputProps,
  'className' | 'label' | 'error' | 'disabled' | 'w' | 'placeholder'
> {
  /** YYYY-MM-DD. */
  value: string | null;
  onDate: (date: string) => void;
  /** Takes the day out; without it, the field always holds one. */
  onClear?: () => void;
}

/** A day, typed in whichever way people write one or picked from the calendar; what is no day is said when one leaves the field. */
export const DateField = memo(function DateField({ value, onDate, onClear, error, ...rest }: DateFieldProps) {
  const today = useToday();
  const near = useRef(value);
  const typed = useRef<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const parse = (text: string) => {
    const read = typedDate(text, near.current, today);
    typed.current = read.ok || text.trim() === '' ? null : `“${text.slice(0, 40)}” was left out: ${read.error}`;
    return read.ok ? read.value : null;
  };
  return (
    <DateInput
      {...rest}
      value={value}
      valueFormat="ddd D MMM YYYY"
      firstDayOfWeek={1}
      clearable={onClear !== undefined}
      dateParser={parse}
      error={wrong ?? error}
      onFocus={() => {
        near.current = value;
        typed.current = null;
        setWrong(null);
      }}
      onBlur={() => setWrong(typed.current)}
      onChange={(date) => {
        typed.current = null;
        setWrong(null);
        if (date !== null) onDate(date.slice(0, 10));
        else onClear?.();
      }}
    />
  );
});
