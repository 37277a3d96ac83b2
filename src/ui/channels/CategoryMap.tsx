'use client';

import { Select } from '@mantine/core';
import { useState, useTransition } from 'react';
import classes from './ChannelCard.module.css';

/** A channel's own categories, and in which of them each of our kinds stands. */
export interface Categories {
  theirs: readonly string[];
  /** A person chose; where not, this is what is proposed and used. */
  chosen: boolean;
  /** So many of them one event may stand in. */
  most: number;
  map: readonly { kind: string; name: string }[];
}

export type MapCategories = (
  id: string,
  map: Record<string, string>,
) => Promise<{ ok: true; value: null } | { ok: false; error: string }>;

/** Chooses for each kind of event the category that it stands in there. Kept at once. */
export function CategoryMap({ id, categories, keep }: { id: string; categories: Categories; keep: MapCategories }) {
  const [map, setMap] = useState(() => Object.fromEntries(categories.map.map((item) => [item.kind, item.name])));
  const [said, setSaid] = useState('');
  const [busy, start] = useTransition();
  const none = categories.map.filter(({ kind }) => (map[kind] ?? '') === '').length;
  const choose = (kind: string, name: string) => {
    const next = { ...map, [kind]: name };
    setMap(next);
    start(async () => {
      const answer = await keep(id, next).catch(() => ({
        ok: false as const,
        error: 'The house did not answer. Try once more.',
      }));
      setSaid(answer.ok ? 'Kept. What stands elsewhere now is to send.' : answer.error);
    });
  };
  return (
    <>
      <h3>
        Their names for our kinds{' '}
        <small>
          {categories.map.length - none} of {categories.map.length}
          {categories.chosen ? '' : ', as proposed: look once whether they fit'}
          {categories.most === 1 ? '; an event stands in one' : '; an event may stand in several'}
        </small>
      </h3>
      <div className={classes.categories}>
        {categories.map.map(({ kind }) => (
          <Select
            key={kind}
            size="xs"
            label={kind}
            data={[{ value: '', label: 'in none' }, ...categories.theirs.map((name) => ({ value: name, label: name }))]}
            value={map[kind] ?? ''}
            allowDeselect={false}
            disabled={busy}
            onChange={(name) => choose(kind, name ?? '')}
          />
        ))}
      </div>
      <p role="status" className={classes.through}>
        {said}
      </p>
    </>
  );
}
