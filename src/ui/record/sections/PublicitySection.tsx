import { Checkbox, SegmentedControl, TextInput } from '@mantine/core';
import type { Survey } from '@/channels/survey';
import type { RecordDraft } from '@/core/record/draft';
import { Section, type FieldError } from '../form-parts';
import { useChannels } from '@/ui/use-channels';
import { DateField } from '@/ui/date-field';
import classes from '../RecordForm.module.css';

interface PublicitySectionProps {
  draft: RecordDraft;
  onChange: (part: Partial<RecordDraft>) => void;
  error: FieldError;
  survey: Survey;
  slugs: readonly string[];
}

const visibilityWords = {
  private: 'It never leaves the house.',
  unlisted: 'Only where it is found by its link alone.',
  public: 'It may be sent once you send it.',
};

/** Who may know, from when, on which channels, and which ticket link each of them carries. */
export function PublicitySection({ draft, onChange, error, survey, slugs }: PublicitySectionProps) {
  const channels = useChannels();
  const { visibility, announce } = draft.publicity;
  const first = draft.performances[0];
  const setAnnounce = (next: typeof announce) => onChange({ publicity: { visibility, announce: next } });
  return (
    <Section id="publicity" title="Publicity">
      <div className={classes.inline}>
        <SegmentedControl
          aria-label="Visibility"
          value={visibility}
          data={['private', 'unlisted', 'public']}
          onChange={(value) => onChange({ publicity: { announce, visibility: value as typeof visibility } })}
        />
        <span>{visibilityWords[visibility]}</span>
      </div>
      <div className={classes.inline}>
        <Checkbox
          label="nothing before an announce moment"
          checked={announce !== null}
          onChange={(e) =>
            setAnnounce(
              e.currentTarget.checked
                ? { date: first?.date ?? '2027-01-01', time: '10:00', zone: first?.zone ?? 'UTC' }
                : null,
            )
          }
        />
      </div>
      {announce === null ? null : (
        <div className={classes.grid}>
          <DateField
            className={classes.w3}
            label="Announce on"
            value={announce.date}
            onDate={(date) => setAnnounce({ ...announce, date })}
            error={error('publicity.announce.date')}
          />
          <TextInput
            className={classes.w1}
            label="At"
            value={announce.time}
            onChange={(e) => setAnnounce({ ...announce, time: e.currentTarget.value })}
            error={error('publicity.announce.time')}
          />
          <p className={`${classes.w2} ${classes.muted}`}>{announce.zone}</p>
        </div>
      )}
      <div className={classes.inline} role="group" aria-label="Wanted on">
        <span>Wanted on</span>
        {channels.all
          .filter(({ rules }) => rules.notice === null)
          .map(({ rules }) => (
            <Checkbox
              key={rules.id}
              label={rules.name}
              checked={!draft.leftOff.includes(rules.id)}
              onChange={(e) =>
                onChange({
                  leftOff: e.currentTarget.checked
                    ? draft.leftOff.filter((id) => id !== rules.id)
                    : [...draft.leftOff, rules.id],
                })
              }
            />
          ))}
      </div>
      <LinkTable survey={survey} />
      {slugs.length > 0 ? (
        <p className={classes.muted}>
          Its address here: <code>/e/{slugs[0]}</code>
          {slugs.length > 1
            ? `; ${slugs.length - 1} older ${slugs.length === 2 ? 'one leads' : 'ones lead'} here too`
            : ''}
          .
        </p>
      ) : null}
    </Section>
  );
}

/** Which ticket link goes where, and why that one. */
function LinkTable({ survey }: { survey: Survey }) {
  const channels = useChannels();
  const rows = survey.links.filter((one) => one.choice !== null);
  if (rows.length === 0) return null;
  return (
    <table className={classes.links} aria-label="Which ticket link goes where">
      <tbody>
        {rows.map(({ channel, choice }) => (
          <tr key={channel}>
            <th scope="row">{channels.name(channel)}</th>
            <td>
              {choice?.link.kind === 'known' ? (
                <code>{choice.link.href}</code>
              ) : choice?.link.kind === 'awaited' ? (
                `the link that ${choice.link.name} will give`
              ) : (
                'none'
              )}
            </td>
            <td>
              {choice?.outlet}
              {choice && choice.passed.length > 0
                ? `; not ${choice.passed.map((one) => `${one.outlet} (${one.why})`).join(', ')}`
                : ''}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
