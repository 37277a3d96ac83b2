import { fail } from '@/core/base/result';
import { noAnswer } from '@/ui/no-answer';
import { Select } from '@mantine/core';
import { WhereOpen } from '@/ui/may/Fields';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { knownDayWords } from '@/core/dates/date-words';
import classes from './Directory.module.css';
import type { DirectoryDoings } from './doings';

interface EntryFootProps {
  sort: 'venue' | 'artist' | 'organiser';
  id: string;
  name: string;
  others: readonly { id: string; name: string; town?: string }[];
  doings: DirectoryDoings;
}

/** Where an entry is used, and making one of two that are the same. */
export function EntryFoot({ sort, id, name, others, doings }: EntryFootProps) {
  const [uses, setUses] = useState<{ id: string; code: string; title: string; date: string }[] | null>(null);
  const [into, setInto] = useState<string | null>(null);
  const [said, setSaid] = useState('');
  useEffect(() => {
    let gone = false;
    void doings.whereUsed(sort, id).then((found) => !gone && setUses(found));
    return () => {
      gone = true;
    };
  }, [doings, sort, id]);
  const other = others.find((other) => other.id === into);
  const merge = async () => {
    if (!into) return;
    const done = await doings.merge(sort, id, into).catch(() => fail(noAnswer));
    setSaid(
      done.ok ? `${name} is ${other?.name} now; ${done.value} events were changed, each as a revision.` : done.error,
    );
  };
  return (
    <>
      <h3>Where used</h3>
      {uses === null ? (
        <p className={classes.muted}>Looking …</p>
      ) : uses.length === 0 ? (
        <p className={classes.muted}>No event uses it.</p>
      ) : (
        <ul className={classes.uses}>
          {uses.slice(0, 60).map((item) => (
            <li key={item.id}>
              <Link href={`/records/${item.id}`}>{item.title}</Link>, {knownDayWords(item.date)}
            </li>
          ))}
        </ul>
      )}
      <WhereOpen>
        <h3>The same as another?</h3>
        <div className={classes.row}>
          <Select
            w={300}
            label={`${name} is the same as`}
            data={others
              .filter((other) => other.id !== id)
              .map((other) => ({ value: other.id, label: other.town ? `${other.name}, ${other.town}` : other.name }))}
            value={into}
            onChange={setInto}
            searchable
            clearable
            clearSectionMode="clear"
            limit={50}
            placeholder="pick the one that stays"
          />
          {other ? (
            <button type="button" className="quietButton" onClick={() => void merge()}>
              Make one of them: {uses?.length ?? 0} {uses?.length === 1 ? 'event goes' : 'events go'} to {other.name}
            </button>
          ) : null}
        </div>
      </WhereOpen>
      {said === '' ? null : (
        <p className={classes.muted} role="status">
          {said}
        </p>
      )}
    </>
  );
}
