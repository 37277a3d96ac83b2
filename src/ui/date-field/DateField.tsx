'use client';

import { DateInput, type DateInputProps } from '@mantine/dates';
import { memo, useRef, useState } from 'react';
import type { typedDate } from '@/core/dates/paste-dates';
import { useToday } from '@/ui/shell/Today';

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

let readDate: typeof typedDate | null = null;
/** What reads a day as people write one is fetched when the first of these fields is entered. */
const reading = async () => (readDate ??= (await import('@/core/dates/paste-dates')).typedDate);

/**
 * A day, typed in whichever way people write one or picked from the calendar; what is no day is said when one leaves
 * the field.
 */
export const DateField = memo(function DateField({ value, onDate, onClear, error, ...rest }: DateFieldProps) {
  const today = useToday();
  const field = useRef<HTMLInputElement>(null);
  const near = useRef(value);
  const typed = useRef<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const early = useRef<string | null>(null);
  const read = (text: string, reader: typeof typedDate) => {
    const said = reader(text, near.current, today);
    typed.current = said.ok || text.trim() === '' ? null : `“${text.slice(0, 40)}” was left out: ${said.error}`;
    return said.ok ? said.value : null;
  };
  const parse = (text: string) => {
    if (readDate !== null) return read(text, readDate);
    early.current = text;
    return null;
  };
  /** What was typed before it could be read. */
  const readEarly = (reader: typeof typedDate) => {
    const text = early.current;
    early.current = null;
    const date = text === null || text.trim() === '' ? null : read(text, reader);
    if (date !== null) onDate(date);
    else if (document.activeElement !== field.current) setWrong(typed.current);
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
      ref={field}
      onFocus={() => {
        void reading().then(readEarly, () => setWrong('The house did not answer. Type the day once more.'));
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
