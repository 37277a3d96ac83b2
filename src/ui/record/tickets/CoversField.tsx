import { MultiSelect, Select, TextInput } from '@mantine/core';
import type { Covers } from '@/core/record/ticket-schema';
import classes from '../RecordForm.module.css';

interface CoversFieldProps {
  covers: Covers;
  onChange: (covers: Covers) => void;
  /** The event's dates, in order. */
  dates: readonly { value: string; label: string }[];
  error: string | undefined;
}

/** Of several dates, which ones one purchase lets in to. */
export function CoversField({ covers, onChange, dates, error }: CoversFieldProps) {
  const choose = (kind: string | null) => {
    if (kind === 'all') onChange({ kind: 'all' });
    else if (kind === 'any') onChange({ kind: 'any', n: Math.min(2, dates.length) });
    else if (kind === 'chosen') onChange({ kind: 'chosen', ids: dates.slice(0, 2).map((date) => date.value) });
    else onChange({ kind: 'one' });
  };
  return (
    <div className={classes.inline}>
      <Select
        w={190}
        label="One purchase lets in to"
        data={[
          { value: 'one', label: 'one date' },
          { value: 'all', label: dates.length === 2 ? 'both dates' : `all ${dates.length} dates` },
          { value: 'any', label: 'any so many of them' },
          { value: 'chosen', label: 'the dates named here' },
        ]}
        value={covers.kind}
        allowDeselect={false}
        error={covers.kind === 'one' || covers.kind === 'all' ? error : undefined}
        onChange={choose}
      />
      {covers.kind === 'any' ? (
        <TextInput
          w={70}
          label="So many"
          value={String(covers.n)}
          error={error}
          onChange={(e) =>
            onChange({
              kind: 'any',
              n: Math.min(100, Math.max(2, Number(e.currentTarget.value.replace(/\D/g, '')) || 2)),
            })
          }
        />
      ) : null}
      {covers.kind === 'chosen' ? (
        <MultiSelect
          style={{ flex: 1, minWidth: 220 }}
          label="Dates"
          data={[...dates]}
          value={covers.ids}
          searchable
          limit={60}
          error={error}
          onChange={(ids) => onChange({ kind: 'chosen', ids })}
        />
      ) : null}
    </div>
  );
}
