import { SegmentedControl, TextInput } from '@mantine/core';
import type { Audience } from '@/core/record/record';
import classes from '../RecordForm.module.css';

interface AudienceFieldProps {
  audience: Audience;
  onChange: (audience: Audience) => void;
  /** What is said beside it. */
  note: string;
  error: string | undefined;
}

/** For whom something is: everyone, members, or a group that is named. */
export function AudienceField({ audience, onChange, note, error }: AudienceFieldProps) {
  const choose = (who: string) =>
    onChange(who === 'group' ? { who, name: '' } : { who: who === 'members' ? 'members' : 'everyone' });
  return (
    <div className={classes.inline}>
      <SegmentedControl
        aria-label="For whom"
        value={audience.who}
        data={[
          { value: 'everyone', label: 'for everyone' },
          { value: 'members', label: 'for members' },
          { value: 'group', label: 'for a group' },
        ]}
        onChange={choose}
      />
      {audience.who === 'group' ? (
        <TextInput
          w={170}
          aria-label="Name of the group"
          placeholder="name of the group"
          autoFocus={audience.name === ''}
          value={audience.name}
          error={error}
          onChange={(e) => onChange({ who: 'group', name: e.currentTarget.value })}
        />
      ) : null}
      <span>{note}</span>
    </div>
  );
}
