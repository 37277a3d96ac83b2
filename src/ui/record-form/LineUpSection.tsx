import { Select, TextInput } from '@mantine/core';
import { roles, type RecordContent } from '@/core/record';
import { freshPartId, Section, type FieldError } from './form-parts';
import classes from './RecordForm.module.css';

type LineUp = RecordContent['lineUp'];

interface LineUpSectionProps {
  lineUp: LineUp;
  onChange: (lineUp: LineUp) => void;
  error: FieldError;
}

/** Who is on, in billing order. */
export function LineUpSection({ lineUp, onChange, error }: LineUpSectionProps) {
  const set = (index: number, part: Partial<LineUp[number]>) => onChange(lineUp.map((one, i) => (i === index ? { ...one, ...part } : one)));
  const move = (index: number, by: number) => {
    const next = [...lineUp];
    const [one] = next.splice(index, 1);
    if (one) next.splice(index + by, 0, one);
    onChange(next);
  };
  return (
    <Section id="line-up" title="Line-up">
      {lineUp.map((one, i) => (
        <div key={one.id} className={classes.line}>
          <TextInput label="Name" value={one.name} onChange={(e) => set(i, { name: e.currentTarget.value })} error={error(`lineUp.${i}.name`)} />
          <Select label="Role" data={[...roles]} value={one.role} allowDeselect={false} onChange={(role) => set(i, { role: (role ?? 'headliner') as LineUp[number]['role'] })} />
          <button type="button" className="plainButton" disabled={i === 0} aria-label={`Bill ${one.name} higher`} onClick={() => move(i, -1)}>up</button>
          <button type="button" className="plainButton" disabled={i === lineUp.length - 1} aria-label={`Bill ${one.name} lower`} onClick={() => move(i, 1)}>down</button>
          <button type="button" className="plainButton" onClick={() => onChange(lineUp.filter((p) => p.id !== one.id))}>Take out</button>
        </div>
      ))}
      <div className={classes.inline}>
        <button type="button" className="plainButton" onClick={() => onChange([...lineUp, { id: freshPartId(), name: '', role: lineUp.length === 0 ? 'headliner' : 'support' }])}>Add a name</button>
      </div>
    </Section>
  );
}
