import { MultiSelect, Select, TextInput } from '@mantine/core';
import { guestRoles, roles, type Role } from '@/core/people/doer';
import type { PeopleView } from '@/views/people';

/** A role, and for which events alone, as it is typed. */
export interface TypedReach {
  role: Role;
  /** In the whole house, or for the tours and events named alone. */
  whole: boolean;
  tours: string[];
  /** Codes of events, as they were typed. */
  codes: string;
}

/** What is typed, as it is asked for. */
export function asked({ role, whole, tours, codes }: TypedReach) {
  const records = codes.split(/[\s,;]+/).filter((code) => code !== '');
  return { role, only: whole ? null : { tours, records } };
}

interface ReachFieldsProps {
  value: TypedReach;
  onChange: (next: TypedReach) => void;
  tours: PeopleView['tours'];
  errors: Record<string, string>;
}

const may: Record<Role, string> = {
  reader: 'looks, and takes out what it sees as a file',
  writer: 'looks, and writes records, tours, directory, pictures, files in',
  sender: 'writes, sends, and decides what is read back',
  'box office': 'looks; counts, seats of outlets, holds',
  keeper: 'everything: also channels and people',
};

/** A role, and whether it holds in the whole house or for some events alone. */
export function ReachFields({ value, onChange, tours, errors }: ReachFieldsProps) {
  return (
    <>
      <Select
        label="Role"
        description={may[value.role]}
        data={(value.whole ? roles : guestRoles).map((role) => ({ value: role, label: role }))}
        value={value.role}
        allowDeselect={false}
        onChange={(role) => role && onChange({ ...value, role: role as Role })}
        error={errors.role}
      />
      <Select
        label="Where"
        description={value.whole ? 'every event of the house' : 'sends nothing, and sees nothing else'}
        data={[
          { value: 'whole', label: 'in the whole house' },
          { value: 'some', label: 'for some events alone' },
        ]}
        value={value.whole ? 'whole' : 'some'}
        allowDeselect={false}
        onChange={(where) =>
          onChange({
            ...value,
            whole: where === 'whole',
            role: where === 'some' && !(guestRoles as readonly string[]).includes(value.role) ? 'writer' : value.role,
          })
        }
        error={value.whole ? errors.only : undefined}
      />
      {value.whole ? null : (
        <>
          <MultiSelect
            label="Tours"
            data={tours.map(({ id, name }) => ({ value: id, label: name }))}
            value={value.tours}
            onChange={(next) => onChange({ ...value, tours: next })}
            searchable
          />
          <TextInput
            label="Events, by their codes"
            placeholder="WT-0012, SS-0044"
            value={value.codes}
            onChange={(e) => onChange({ ...value, codes: e.currentTarget.value })}
            error={errors.only}
          />
        </>
      )}
    </>
  );
}
