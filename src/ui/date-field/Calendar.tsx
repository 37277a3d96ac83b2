'use client';

import { DatePicker } from '@mantine/dates';
import { useEffect, useRef } from 'react';
import classes from './DateField.module.css';
import { useToday } from '@/ui/shell/Today';

interface CalendarProps {
  /** YYYY-MM-DD. */
  value: string | null;
  onDate: (date: string) => void;
  /** Takes the day out, where the field may be without one. */
  onClear: (() => void) | undefined;
}

/** A month to pick a day from. */
export function Calendar({ value, onDate, onClear }: CalendarProps) {
  const today = useToday();
  const ground = useRef<HTMLDivElement>(null);
  // The focus begins on the day that stands there, also where the calendar came later than what it opens in.
  useEffect(() => ground.current?.querySelector<HTMLElement>('[data-autofocus]')?.focus(), []);
  return (
    <div ref={ground}>
      <DatePicker
        value={value}
        defaultDate={value ?? today}
        firstDayOfWeek={1}
        size="xs"
        // Colour is kept for what it means: no day of the week is another one.
        weekendDays={[]}
        classNames={{ day: classes.day ?? '' }}
        getDayProps={(date) => (date === (value ?? today) ? { 'data-autofocus': true } : {})}
        onChange={(date) => date !== null && onDate(date.slice(0, 10))}
      />
      {onClear && value !== null ? (
        <button type="button" className="plainButton" onClick={onClear}>
          No day
        </button>
      ) : null}
    </div>
  );
}
