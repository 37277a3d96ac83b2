import { noFormAnswer } from '@/ui/no-answer';
import { LeftNote, useTyped } from '@/ui/typed';
import { Textarea, TextInput } from '@mantine/core';
import { useState } from 'react';
import classes from './Directory.module.css';
import type { DirectoryDoings } from './doings';

interface NewEntryProps {
  sort: 'artist' | 'organiser' | 'wording';
  doings: DirectoryDoings;
  onMade: (id: string) => void;
}

/** Puts a new artist, organiser or wording in the directory. */
export function NewEntry({ sort, doings, onMade }: NewEntryProps) {
  const kept = useTyped(`new-${sort}`, { name: '', text: '' });
  const { typed, setTyped } = kept;
  const [errors, setErrors] = useState<Record<string, string>>({});
  const make = async () => {
    const saved = await doings.savePerson(sort, sort === 'wording' ? typed : { name: typed.name }).catch(noFormAnswer);
    if (!saved.ok) return setErrors(saved.error);
    kept.settle(typed);
    onMade(saved.value.id);
  };
  return (
    <>
      <h2>New {sort}</h2>
      <LeftNote form={kept} name="It" />
      <TextInput
        mt={10}
        label="Name"
        value={typed.name}
        error={errors.name}
        onChange={(e) => setTyped({ ...typed, name: e.currentTarget.value })}
      />
      {sort === 'wording' ? (
        <Textarea
          mt={10}
          label="Text, with tokens such as {{ date }}"
          autosize
          minRows={3}
          maxRows={14}
          value={typed.text}
          error={errors.text}
          onChange={(e) => setTyped({ ...typed, text: e.currentTarget.value })}
        />
      ) : null}
      <div className={classes.row}>
        <button type="button" className="quietButton" onClick={() => void make()}>
          Put it in the directory
        </button>
      </div>
    </>
  );
}
