import { Checkbox, Textarea, TextInput } from '@mantine/core';
import type { RecordDraft } from '@/core/record/draft';
import type { FieldError } from '../form-parts';
import classes from '../RecordForm.module.css';

interface AfterFieldsProps {
  draft: Pick<RecordDraft, 'after' | 'pictures'>;
  onChange: (part: Partial<RecordDraft>) => void;
  error: FieldError;
}

/** What there is after the show; each is kept in the house until it is set to be shown. */
export function AfterFields({ draft: { after, pictures }, onChange, error }: AfterFieldsProps) {
  const { recording, setList, pictures: shots } = after;
  const put = (part: Partial<RecordDraft['after']>) => onChange({ after: { ...after, ...part } });
  const toggle = (id: string) =>
    put({
      pictures: {
        ...shots,
        ids: shots.ids.includes(id) ? shots.ids.filter((candidate) => candidate !== id) : [...shots.ids, id],
      },
    });
  return (
    <>
      <div className={classes.inline}>
        <TextInput
          style={{ flex: 1 }}
          label="Recording, its address"
          value={recording.href ?? ''}
          placeholder="https://"
          error={error('after.recording.href')}
          onChange={(e) => put({ recording: { ...recording, href: e.currentTarget.value } })}
        />
        <Checkbox
          label="show the recording"
          checked={recording.shown}
          disabled={(recording.href ?? '') === ''}
          onChange={(e) => put({ recording: { ...recording, shown: e.currentTarget.checked } })}
        />
      </div>
      <div className={classes.inline}>
        <Textarea
          style={{ flex: 1 }}
          label="Set list"
          autosize
          minRows={1}
          maxRows={8}
          value={setList.text}
          error={error('after.setList.text')}
          onChange={(e) => put({ setList: { ...setList, text: e.currentTarget.value } })}
        />
        <Checkbox
          label="show the set list"
          checked={setList.shown}
          disabled={setList.text.trim() === ''}
          onChange={(e) => put({ setList: { ...setList, shown: e.currentTarget.checked } })}
        />
      </div>
      {pictures.length > 0 ? (
        <div className={classes.inline} role="group" aria-label="Pictures of the night">
          <span>Pictures of the night:</span>
          {pictures.map((picture, i) => (
            <Checkbox
              key={picture.pictureId}
              label={picture.alt || `picture ${i + 1}`}
              checked={shots.ids.includes(picture.pictureId)}
              onChange={() => toggle(picture.pictureId)}
            />
          ))}
          <Checkbox
            label="show them"
            checked={shots.shown}
            disabled={shots.ids.length === 0}
            onChange={(e) => put({ pictures: { ...shots, shown: e.currentTarget.checked } })}
          />
        </div>
      ) : (
        <p className={classes.muted}>Pictures of the night are added under Pictures, and marked here.</p>
      )}
    </>
  );
}
