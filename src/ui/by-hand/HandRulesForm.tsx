import { NativeSelect, TextInput } from '@mantine/core';
import { useState, useTransition } from 'react';
import type { Result } from '@/core/base/result';
import { handFields, handMoments, handRulesSchema, type HandField, type HandFieldRow } from '@/core/listing/hand-rules';
import { noAnswer } from '@/ui/no-answer';
import { LeftNote, useTyped } from '@/ui/typed';
import classes from './ByHand.module.css';

interface HandRulesFormProps {
  id: string;
  name: string;
  settings: Record<string, unknown>;
  keep: (id: string, rules: unknown) => Promise<Result<null, Record<string, string>>>;
}

type RowDraft = Omit<HandFieldRow, 'limit'> & { limit: string };

const asTyped = (row: HandFieldRow): RowDraft => ({ ...row, limit: row.limit === null ? '' : String(row.limit) });

/** What a place that is filled in by hand asks for: its fields in its own order, with its names and limits. */
export function HandRulesForm({ id, name, settings, keep }: HandRulesFormProps) {
  const known = handRulesSchema.parse(settings);
  const kept = useTyped(`by-hand-${id}`, {
    rows: known.fields.map(asTyped),
    leadDays: String(known.leadDays),
    where: known.where,
  });
  const { rows, leadDays, where } = kept.typed;
  const set = (part: Partial<typeof kept.typed>) => kept.setTyped((now) => ({ ...now, ...part }));
  const setRows = (next: RowDraft[]) => set({ rows: next });
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [said, setSaid] = useState('');
  const [busy, start] = useTransition();
  const left = (Object.keys(handFields) as HandField[]).filter((field) => rows.every((row) => row.field !== field));
  const put = (at: number, part: Partial<RowDraft>) =>
    setRows(rows.map((row, i) => (i === at ? { ...row, ...part } : row)));
  const move = (at: number, by: number) => {
    const next = rows.filter((_, i) => i !== at);
    const row = rows[at];
    if (row) setRows([...next.slice(0, at + by), row, ...next.slice(at + by)]);
  };
  const save = () =>
    start(async () => {
      const fields = rows.map(({ limit, ...row }) => ({ ...row, limit: limit.trim() === '' ? null : Number(limit) }));
      const answer = await keep(id, { fields, leadDays: Number(leadDays), where }).catch(() => ({
        ok: false as const,
        error: { fields: noAnswer },
      }));
      setErrors(answer.ok ? {} : answer.error);
      if (answer.ok) kept.settle({ rows, leadDays, where });
      setSaid(answer.ok ? 'Kept.' : '');
    });
  return (
    <div className={classes.rules} role="group" aria-label={`What ${name} asks for`}>
      <LeftNote form={kept} name="What it asks for" />
      <h3>What it asks for, in its own order</h3>
      {rows.map((row, at) => (
        <RuleRow
          key={row.field}
          row={row}
          at={at}
          last={at === rows.length - 1}
          errors={errors}
          onChange={(part) => put(at, part)}
          onMove={(by) => move(at, by)}
          onRemove={() => setRows(rows.filter((_, i) => i !== at))}
        />
      ))}
      <AddField left={left} onAdd={(field) => setRows([...rows, { field, label: handFields[field], limit: '' }])} />
      <TextInput
        label="Days before the event that it wants to have it"
        inputMode="numeric"
        value={leadDays}
        error={errors.leadDays}
        onChange={(e) => set({ leadDays: e.currentTarget.value })}
      />
      <TextInput
        label="Where its form is, or to whom one writes"
        value={where}
        error={errors.where}
        onChange={(e) => set({ where: e.currentTarget.value })}
      />
      {errors.fields ? (
        <p className="problem" role="alert">
          {errors.fields}
        </p>
      ) : null}
      <p>
        <button type="button" className="quietButton" disabled={busy} onClick={save}>
          Keep what it asks for
        </button>{' '}
        <span role="status">{said}</span>
      </p>
    </div>
  );
}

/** Puts one more field of the record behind what it asks for. */
function AddField({ left, onAdd }: { left: readonly HandField[]; onAdd: (field: HandField) => void }) {
  if (left.length === 0) return null;
  return (
    <NativeSelect
      aria-label="Add a field"
      value=""
      data={[{ value: '', label: 'Add a field …' }, ...left.map((value) => ({ value, label: handFields[value] }))]}
      onChange={(e) => {
        const field = left.find((candidate) => candidate === e.currentTarget.value);
        if (field) onAdd(field);
      }}
    />
  );
}

function RuleRow({
  row: { field, label, limit },
  at,
  last,
  errors,
  onChange,
  onMove,
  onRemove,
}: {
  row: RowDraft;
  at: number;
  last: boolean;
  errors: Record<string, string>;
  onChange: (part: Partial<RowDraft>) => void;
  onMove: (by: number) => void;
  onRemove: () => void;
}) {
  const name = handFields[field];
  return (
    <div className={classes.rule}>
      <span>{name}</span>
      <TextInput
        aria-label={`What it calls ${name}`}
        value={label}
        maxLength={40}
        error={errors[`fields.${at}.label`]}
        onChange={(e) => onChange({ label: e.currentTarget.value })}
      />
      {handMoments.has(field) ? (
        <span />
      ) : (
        <TextInput
          aria-label={`Most characters of ${name}`}
          placeholder="no limit"
          inputMode="numeric"
          value={limit}
          error={errors[`fields.${at}.limit`]}
          onChange={(e) => onChange({ limit: e.currentTarget.value })}
        />
      )}
      <span>
        <button
          type="button"
          className="plainButton"
          aria-label={`${name} up`}
          disabled={at === 0}
          onClick={() => onMove(-1)}
        >
          up
        </button>{' '}
        <button
          type="button"
          className="plainButton"
          aria-label={`${name} down`}
          disabled={last}
          onClick={() => onMove(1)}
        >
          down
        </button>{' '}
        {field === 'title' ? null : (
          <button type="button" className="plainButton" aria-label={`Leave ${name} out`} onClick={onRemove}>
            leave out
          </button>
        )}
      </span>
    </div>
  );
}
