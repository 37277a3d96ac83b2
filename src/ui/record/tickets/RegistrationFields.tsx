import { noAnswer } from '@/ui/no-answer';
import { Checkbox, Textarea, TextInput } from '@mantine/core';
import type { TicketsDraft } from '@/core/record/draft';
import { useState } from 'react';
import { registrationCount, type Places } from '@/core/facts/tickets/registering';
import { DateField } from '@/ui/date-field';
import { type FieldError } from '../form-parts';
import type { NoteSold } from './outlet-props';
import classes from '../RecordForm.module.css';

interface RegistrationFieldsProps {
  tickets: TicketsDraft;
  onChange: (part: Partial<TicketsDraft>) => void;
  error: FieldError;
  /** Places of the next performance. */
  places: Places | null;
  /** The next performance; `null`: there is none. */
  performance: string | null;
  noteSold: NoteSold | null;
  /** How many dates the event has. */
  dates: number;
}

/** How many have registered for the next performance: counted by a person, where no channel does. */
function Registered({
  places,
  performance,
  noteSold,
}: {
  places: Places | null;
  performance: string;
  noteSold: NoteSold;
}) {
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const note = async () => {
    const words = /^\s*\d{1,6}\s*$/.test(typed)
      ? await noteSold({
          performanceId: performance,
          levelId: registrationCount,
          outletId: registrationCount,
          sold: Number(typed),
        }).catch(() => noAnswer)
      : 'Write a whole number.';
    setProblem(words);
    if (words === null) setTyped('');
  };
  return (
    <div className={classes.inline}>
      <span>{places === null ? '' : `${places.taken} registered, ${places.left} left`}</span>
      <TextInput
        w={80}
        aria-label="Registered so far"
        placeholder="count"
        value={typed}
        error={problem}
        onChange={(e) => setTyped(e.currentTarget.value)}
      />
      <button type="button" className="plainButton" onClick={() => void note()}>
        Note how many have registered
      </button>
    </div>
  );
}

/** Free with registration: where, how many, and what is written to whom. */
export function RegistrationFields(props: RegistrationFieldsProps) {
  const fields = useFields(props);
  const { noteSold, performance, registration, places, set, dates, text } = fields;
  return (
    <>
      <Places fields={fields} />
      {noteSold !== null && performance !== null && registration.limit !== '' ? (
        <Registered places={places} performance={performance} noteSold={noteSold} />
      ) : null}
      <div className={classes.inline}>
        <Checkbox
          label="a person says yes to each"
          checked={registration.approval}
          onChange={(e) => set({ approval: e.currentTarget.checked })}
        />
        <Checkbox
          label="waiting list when full"
          checked={registration.waitingList}
          onChange={(e) => set({ waitingList: e.currentTarget.checked })}
        />
        {dates > 1 || registration.onceForAll ? (
          <Checkbox
            label="one registration counts for all dates"
            checked={registration.onceForAll}
            onChange={(e) => set({ onceForAll: e.currentTarget.checked })}
          />
        ) : null}
      </div>
      {text('yes', 'Written to those who have a place')}
      {text('no', 'Written to those who do not')}
      {registration.waitingList ? text('waiting', 'Written to those who wait') : null}
    </>
  );
}

/** What registering is changed with. */
function useFields({ tickets, onChange, error, places, performance, noteSold, dates }: RegistrationFieldsProps) {
  const { registration } = tickets;
  const set = (part: Partial<typeof registration>) => onChange({ registration: { ...registration, ...part } });
  const text = (key: 'yes' | 'no' | 'waiting', label: string) => (
    <Textarea
      mt={8}
      label={label}
      autosize
      minRows={1}
      maxRows={6}
      value={registration[key]}
      error={error(`tickets.registration.${key}`)}
      onChange={(e) => set({ [key]: e.currentTarget.value })}
    />
  );
  return { tickets, error, onChange, registration, set, noteSold, performance, places, dates, text };
}

type Fields = ReturnType<typeof useFields>;

/** How many places there are, until when, and for how long. */
function Places({ fields: { tickets, error, onChange, registration, set } }: { fields: Fields }) {
  return (
    <div className={classes.grid}>
      <TextInput
        className={classes.w4}
        label="Registration page"
        value={tickets.link}
        placeholder="https://"
        error={error('tickets.link')}
        onChange={(e) => onChange({ link: e.currentTarget.value })}
      />
      <TextInput
        className={classes.w2}
        label="or how, in public words"
        value={registration.contact}
        placeholder="write to …, call …"
        error={error('tickets.registration.contact')}
        onChange={(e) => set({ contact: e.currentTarget.value })}
      />
      <TextInput
        className={classes.w2}
        label="Registrations at most"
        value={registration.limit}
        placeholder="no limit"
        error={error('tickets.registration.limit')}
        onChange={(e) => set({ limit: e.currentTarget.value })}
      />
      <DateField
        className={classes.w2}
        label="Last day to register"
        value={registration.closes}
        placeholder="until it begins"
        onDate={(closes) => set({ closes })}
        onClear={() => set({ closes: null })}
        error={error('tickets.registration.closes')}
      />
    </div>
  );
}
