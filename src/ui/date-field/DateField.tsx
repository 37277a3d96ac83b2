'use client';

import { Popover, TextInput, UnstyledButton, type TextInputProps } from '@mantine/core';
import dynamic from 'next/dynamic';
import { memo, useCallback, useEffect, useId, useRef, useState } from 'react';
import { shortDate } from '@/core/dates/date-words';
import type { typedDate } from '@/core/dates/paste-dates';
import { notFetched } from '@/ui/not-fetched';
import { useToday } from '@/ui/shell/Today';
import classes from './DateField.module.css';
import { useUnread } from './unread';

const Calendar = dynamic(() => import('./Calendar').then(({ Calendar }) => Calendar, notFetched), { ssr: false });

interface DateFieldProps extends Pick<
  TextInputProps,
  'className' | 'label' | 'error' | 'disabled' | 'w' | 'placeholder' | 'aria-label'
> {
  /** YYYY-MM-DD. */
  value: string | null;
  onDate: (date: string) => void;
  /** Takes the day out; without it, the field always holds one. */
  onClear?: () => void;
  /** Whose day it is, where it may be closed and opened again: what is no day is then kept under this name. */
  keepAs?: string;
}

let readDate: typeof typedDate | null = null;
/** What reads a day as people write one is fetched when the first of these fields is entered. */
const reading = async () => (readDate ??= (await import('@/core/dates/paste-dates')).typedDate);

const noAnswer = 'The house did not answer. Type the day once more.';
const stillReading = 'The day is still being read. Try again in a moment.';

/**
 * A day, typed in whichever way people write one or picked from the calendar. What is no day stays as it was typed, is
 * told when one leaves the field, and holds a save until it is put right.
 */
export const DateField = memo(function DateField({ value, onDate, onClear, keepAs, error, ...rest }: DateFieldProps) {
  const field = useRef<HTMLInputElement>(null);
  const typing = useTypedDay({ value, onDate, onClear, keepAs });
  const [open, setOpen] = useState(false);
  const name = rest['aria-label'] ?? (typeof rest.label === 'string' ? rest.label : 'the day');
  const close = useCallback(() => {
    setOpen(false);
    field.current?.focus();
  }, []);
  const picker = (
    <Popover opened={open} onChange={setOpen} onDismiss={close} position="bottom-end" trapFocus withinPortal>
      <Popover.Target>
        <UnstyledButton
          className={classes.open}
          aria-label={`Calendar for ${name}`}
          disabled={rest.disabled === true}
          tabIndex={-1}
          onClick={() => setOpen((before) => !before)}
        >
          ▾
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown>
        {open ? (
          <Calendar
            value={value}
            onDate={(date) => {
              typing.put(() => onDate(date));
              close();
            }}
            onClear={
              onClear &&
              (() => {
                typing.put(onClear);
                close();
              })
            }
          />
        ) : null}
      </Popover.Dropdown>
    </Popover>
  );
  return (
    <TextInput
      {...rest}
      ref={field}
      value={typing.text}
      error={typing.wrong ?? error}
      autoComplete="off"
      rightSection={picker}
      onFocus={typing.enter}
      onBlur={typing.leave}
      onChange={(e) => typing.type(e.currentTarget.value)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') typing.leave();
        if (e.key === 'Escape') typing.put(() => undefined);
        if (e.key !== 'ArrowDown') return;
        e.preventDefault();
        setOpen(true);
      }}
    />
  );
});

/** What is typed into the field, and what it was read as. */
function useTypedDay({
  value,
  onDate,
  onClear,
  keepAs,
}: Pick<DateFieldProps, 'value' | 'onDate' | 'onClear' | 'keepAs'>) {
  const today = useToday();
  const id = useId();
  const [tell, before] = useUnread(keepAs ?? id, keepAs !== undefined);
  /** What stands in the field as it was typed; `null`: the day that it holds. */
  const [typed, setTyped] = useState<string | null>(before?.text ?? null);
  const [wrong, setWrong] = useState<string | null>(before?.problem ?? null);
  const near = useRef(value);
  const latest = useRef<string | null>(before?.text ?? null);
  // What was typed may be read a moment later, when the field's owner has been drawn anew.
  const owner = useRef({ onDate, onClear });
  useEffect(() => void (owner.current = { onDate, onClear }));
  const drop = () => {
    latest.current = null;
    setTyped(null);
    setWrong(null);
    tell(null);
  };
  const stand = (text: string, problem: string | null) => {
    latest.current = text;
    setTyped(text);
    tell(problem === null ? null : { text, problem, drop });
  };
  /** Reads what was typed; the problem of what is no day. */
  const read = (text: string, reader: typeof typedDate) => {
    if (text.trim() === '') {
      owner.current.onClear?.();
      return null;
    }
    const said = reader(text, near.current, today);
    if (said.ok) owner.current.onDate(said.value);
    return said.ok ? null : `“${text.slice(0, 40)}” is no date: ${said.error}`;
  };
  const settle = (problem: string | null) => {
    if (problem === null) drop();
    else setWrong(problem);
  };
  return {
    text: typed ?? (value === null || value === '' ? '' : shortDate(value, true)),
    wrong,
    enter: () => {
      if (latest.current === null) near.current = value;
      void reading().then(
        (reader) => latest.current !== null && stand(latest.current, read(latest.current, reader)),
        () => undefined,
      );
    },
    type: (text: string) => {
      setWrong(null);
      const problem = readDate === null ? stillReading : read(text, readDate);
      stand(text, problem);
    },
    leave: () => {
      const text = latest.current;
      if (text === null) return;
      if (readDate !== null) return settle(read(text, readDate));
      // Typed before it could be read.
      void reading().then(
        (reader) => latest.current === text && settle(read(text, reader)),
        () => latest.current === text && setWrong(noAnswer),
      );
    },
    /** Another way than by typing. */
    put: (set: () => void) => {
      set();
      drop();
    },
  };
}
