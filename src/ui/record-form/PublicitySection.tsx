import { Checkbox, SegmentedControl, TextInput } from '@mantine/core';
import { DateInput } from '@mantine/dates';
import { channels } from '@/channels/registry';
import type { RecordDraft } from '@/core/draft';
import { Section, type FieldError } from './form-parts';
import classes from './RecordForm.module.css';

interface PublicitySectionProps {
  draft: RecordDraft;
  onChange: (part: Partial<RecordDraft>) => void;
  error: FieldError;
}

/** Who may know, from when, and on which channels. */
export function PublicitySection({ draft, onChange, error }: PublicitySectionProps) {
  const { visibility, announce } = draft.publicity;
  const first = draft.performances[0];
  const setAnnounce = (next: typeof announce) => onChange({ publicity: { visibility, announce: next } });
  return (
    <Section id="publicity" title="Publicity">
      <div className={classes.inline}>
        <SegmentedControl aria-label="Visibility" value={visibility} data={['private', 'public']} onChange={(value) => onChange({ publicity: { announce, visibility: value as typeof visibility } })} />
        <span>{visibility === 'private' ? 'It never leaves the house.' : 'It may be sent once you send it.'}</span>
      </div>
      <div className={classes.inline}>
        <Checkbox
          label="nothing before an announce moment" checked={announce !== null}
          onChange={(e) => setAnnounce(e.currentTarget.checked ? { date: first?.date ?? '2027-01-01', time: '10:00', zone: first?.zone ?? 'UTC' } : null)}
        />
      </div>
      {announce === null ? null : (
        <div className={classes.grid}>
          <DateInput className={classes.w3} label="Announce on" value={announce.date} valueFormat="ddd D MMM YYYY" firstDayOfWeek={1} onChange={(date) => (date === null ? undefined : setAnnounce({ ...announce, date: String(date).slice(0, 10) }))} error={error('publicity.announce.date')} />
          <TextInput className={classes.w1} label="At" value={announce.time} onChange={(e) => setAnnounce({ ...announce, time: e.currentTarget.value })} error={error('publicity.announce.time')} />
          <p className={`${classes.w2} ${classes.muted}`}>{announce.zone}</p>
        </div>
      )}
      <div className={classes.inline} role="group" aria-label="Wanted on">
        <span>Wanted on</span>
        {channels.map(({ rules }) => (
          <Checkbox
            key={rules.id} label={rules.name} checked={!draft.leftOff.includes(rules.id)}
            onChange={(e) => onChange({ leftOff: e.currentTarget.checked ? draft.leftOff.filter((id) => id !== rules.id) : [...draft.leftOff, rules.id] })}
          />
        ))}
      </div>
    </Section>
  );
}
