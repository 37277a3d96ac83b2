import { TextInput } from '@mantine/core';
import { useState } from 'react';
import type { ToFollow } from '@/core/record/record';
import { followable } from '@/core/record/choices';
import { usualFollowWords } from '@/core/facts/performance-facts';
import { useMay } from '@/ui/may/May';
import { noAnswer } from '@/ui/no-answer';
import type { FieldError } from '../form-parts';
import classes from '../RecordForm.module.css';

/** Keeps words for the whole house; gives a message where that cannot be. */
export type KeepFollow = (words: ToFollow) => Promise<string | null>;

interface FollowWordsProps {
  words: ToFollow;
  onChange: (words: ToFollow) => void;
  /** What the house says where the record says nothing. */
  house: ToFollow;
  keep: KeepFollow;
  error: FieldError;
}

const labels: Record<(typeof followable)[number], string> = {
  date: 'no date yet',
  time: 'no time yet',
  place: 'no place yet',
  lineUp: 'no line-up yet',
  price: 'no price yet',
};

/** What the public reads where something is not known yet; the house has words of its own, and these go before them. */
export function FollowWords({ words, onChange, house, keep, error }: FollowWordsProps) {
  const [said, setSaid] = useState('');
  const writes = useMay('write');
  const keepAll = async () => {
    const problem = await keep({ ...house, ...words }).catch(() => noAnswer);
    setSaid(problem ?? 'From now on the house says so.');
  };
  return (
    <>
      <div className={classes.grid}>
        {followable.map((key) => (
          <TextInput
            key={key}
            className={classes.w2}
            label={`Where there is ${labels[key]}`}
            value={words[key] ?? ''}
            placeholder={house[key] || usualFollowWords[key] || 'nothing'}
            error={error(`toFollow.${key}`)}
            onChange={(e) => {
              const { [key]: _, ...others } = words;
              onChange(e.currentTarget.value === '' ? others : { ...others, [key]: e.currentTarget.value });
            }}
          />
        ))}
      </div>
      {writes && Object.keys(words).length > 0 ? (
        <div className={classes.inline}>
          <button type="button" className="plainButton" onClick={() => void keepAll()}>
            Say so in every record of the house
          </button>
          {said === '' ? null : <span role="status">{said}</span>}
        </div>
      ) : null}
    </>
  );
}
