import { Radio } from '@mantine/core';
import { useState } from 'react';
import { mergeRows, mergeVersions } from '@/core/record/merge';
import type { RecordContent } from '@/core/record/record';
import { pathWords, plainWords } from '../path-words';
import classes from '../RecordForm.module.css';

interface MergePanelProps {
  base: RecordContent;
  mine: RecordContent;
  theirs: RecordContent;
  /** Who saved meanwhile, and the number of their revision. */
  by: string;
  revision: number;
  /** Takes the merged content back into the form. */
  onMerged: (content: RecordContent) => void;
}

/** Two people saved the same revision: every field on which they differ, with a choice where both changed it. */
export function MergePanel({ base, mine, theirs, by, revision, onMerged }: MergePanelProps) {
  const rows = mergeRows(base, mine, theirs);
  const both = rows.filter((row) => row.changedBy === 'both');
  const [taken, setTaken] = useState<ReadonlyMap<string, 'mine' | 'theirs'>>(new Map());
  const choose = (path: string, which: 'mine' | 'theirs') => setTaken(new Map(taken).set(path, which));
  const open = both.filter((row) => !taken.has(row.path)).length;
  const finish = () =>
    onMerged(
      mergeVersions(
        base,
        mine,
        theirs,
        new Set([...taken].filter(([, which]) => which === 'theirs').map(([path]) => path)),
      ),
    );
  return (
    <section className={classes.merge} role="alert" aria-label="Merge">
      <h2>
        Revision {revision} was saved meanwhile, by {by}
      </h2>
      <p>
        Nothing is lost: yours is still in the form and not saved yet.{' '}
        {both.length === 0
          ? 'You changed different fields; both go together.'
          : 'Choose where you both changed the same field.'}
      </p>
      <table>
        <thead>
          <tr>
            <th>field</th>
            <th>yours</th>
            <th>theirs</th>
            <th>keep</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.path}>
              <td>{pathWords(row.path)}</td>
              <td>{plainWords(row.mine)}</td>
              <td>{plainWords(row.theirs)}</td>
              <td>
                {row.changedBy !== 'both' ? (
                  row.changedBy === 'me' ? (
                    'yours'
                  ) : (
                    'theirs'
                  )
                ) : (
                  <Radio.Group
                    aria-label={`Keep for ${pathWords(row.path)}`}
                    value={taken.get(row.path) ?? ''}
                    onChange={(value) => choose(row.path, value === 'theirs' ? 'theirs' : 'mine')}
                  >
                    <span className={classes.inline}>
                      <Radio value="mine" label="yours" />
                      <Radio value="theirs" label="theirs" />
                    </span>
                  </Radio.Group>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button type="button" className="quietButton" disabled={open > 0} onClick={finish}>
        Put them together{open > 0 ? ` (${open} to choose)` : ''}
      </button>
    </section>
  );
}
