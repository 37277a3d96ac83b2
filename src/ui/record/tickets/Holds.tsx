import { TextInput } from '@mantine/core';
import type { HoldDraft } from '@/core/record/draft';
import { freshPartId, type FieldError } from '../form-parts';
import classes from '../RecordForm.module.css';

/** Seats that are kept back, each list with what it is for. */
export function Holds({
  label,
  add,
  list,
  at,
  error,
  onChange,
}: {
  label: string;
  add: string;
  list: HoldDraft[] | null;
  at: string;
  error: FieldError;
  onChange: (list: HoldDraft[] | null) => void;
}) {
  const all = list ?? [];
  const set = (id: string, part: Partial<HoldDraft>) =>
    onChange(all.map((hold) => (hold.id === id ? { ...hold, ...part } : hold)));
  return (
    <>
      {all.map((hold, i) => (
        <div key={hold.id} className={classes.inline}>
          <TextInput
            w={200}
            label={i === 0 ? `Name (${label})` : 'Name'}
            value={hold.name}
            error={error(`${at}.${i}.name`)}
            onChange={(e) => set(hold.id, { name: e.currentTarget.value })}
          />
          <TextInput
            w={80}
            label="Seats"
            value={hold.seats}
            error={error(`${at}.${i}.seats`)}
            onChange={(e) => set(hold.id, { seats: e.currentTarget.value })}
          />
          <button
            type="button"
            className="plainButton"
            onClick={() => onChange(all.length === 1 ? null : all.filter((holdDraft) => holdDraft.id !== hold.id))}
          >
            remove
          </button>
        </div>
      ))}
      <div className={classes.inline}>
        <button
          type="button"
          className="plainButton"
          onClick={() => onChange([...all, { id: freshPartId(), name: '', seats: '' }])}
        >
          {add}
        </button>
      </div>
    </>
  );
}
