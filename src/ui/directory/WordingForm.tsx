import { noFormAnswer } from '@/ui/no-answer';
import { LeftNote, useTyped } from '@/ui/typed';
import { Textarea, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Wording } from '@/core/record/directory';
import { tokens, tokenText, type Token } from '@/core/words/tokens';
import classes from './Directory.module.css';
import type { DirectoryDoings } from './doings';

interface WordingFormProps {
  wording: Wording;
  doings: DirectoryDoings;
}

/** A reusable text: its tokens are filled from the facts of the event whose words it is put into. */
export function WordingForm({ wording, doings }: WordingFormProps) {
  const kept = useTyped(wording.id, wording);
  const { typed, setTyped } = kept;
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [saved, setSaved] = useState(false);
  const set = (part: Partial<Wording>) => {
    setTyped({ ...typed, ...part });
    setSaved(false);
  };
  const save = async () => {
    const answer = await doings.savePerson('wording', typed).catch(noFormAnswer);
    setErrors(answer.ok ? {} : answer.error);
    setSaved(answer.ok);
    if (answer.ok) kept.settle(typed);
  };
  return (
    <>
      <h2>{typed.name || 'Wording'}</h2>
      <LeftNote form={kept} name="It" />
      <TextInput
        mt={10}
        label="Name"
        value={typed.name}
        error={errors.name}
        onChange={(e) => set({ name: e.currentTarget.value })}
      />
      <Textarea
        mt={10}
        label="Text"
        autosize
        minRows={4}
        maxRows={18}
        value={typed.text}
        error={errors.text}
        onChange={(e) => set({ text: e.currentTarget.value })}
      />
      <p className={classes.muted}>
        Press one to put it at the end:{' '}
        {(Object.keys(tokens) as Token[])
          .map((token) => (
            <button
              key={token}
              type="button"
              className="plainButton"
              title={tokens[token]}
              onClick={() =>
                set({
                  text: `${typed.text}${typed.text.endsWith(' ') || typed.text === '' ? '' : ' '}${tokenText(token)}`,
                })
              }
            >
              {token}
            </button>
          ))
          .flatMap((item, i) => (i === 0 ? [item] : [' ', item]))}
      </p>
      <div className={classes.row}>
        <button type="button" className="quietButton" onClick={() => void save()}>
          Save
        </button>
        {saved ? (
          <span className={classes.saved} role="status">
            Saved.
          </span>
        ) : null}
      </div>
      <p className={classes.muted}>In a record, “put in a wording” under Words adds it to the full text.</p>
    </>
  );
}
