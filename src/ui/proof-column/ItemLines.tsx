import { Fragment } from 'react';
import { toLocal } from '@/core/base/zones';
import type { FieldRow } from '@/core/listing/channel-rules';
import type { FieldComparison } from '@/core/listing/compare';
import { shownKey, splitKey, type Shown } from '@/core/listing/shown';
import { Changed } from './Changed';
import classes from './ProofColumn.module.css';

interface ItemLinesProps {
  /** Rows of one group: the first says what an item is called. */
  rows: readonly FieldRow[];
  proof: Shown;
  byKey: ReadonlyMap<string, FieldComparison>;
}

/** Items beyond these are counted. */
const mostItems = 6;

/** What a listing has several of, an item a line: each with all that is said of it, and what changes in it. */
export function ItemLines({ rows, proof, byKey }: ItemLinesProps) {
  const fields = new Set(rows.map((row) => row.field));
  const ids = [
    ...new Set(
      [...Object.keys(proof), ...byKey.keys()].flatMap((key) => {
        const { field, item } = splitKey(key);
        return item !== null && fields.has(field) ? [item] : [];
      }),
    ),
  ];
  const [first] = rows;
  if (!first || ids.length === 0) return null;
  const said = (row: FieldRow, id: string) => {
    const key = shownKey(row.field, id);
    const comparison = byKey.get(key);
    const value = proof[key];
    return value === undefined && (comparison === undefined || comparison.outcome === 'same')
      ? null
      : { row, value, comparison };
  };
  return (
    <>
      {ids.slice(0, mostItems).map((id, i) => (
        <div key={id} className={classes.field}>
          <dt>{i === 0 ? first.label : ''}</dt>
          <dd>
            {rows
              .map((row) => said(row, id))
              .filter((candidate) => candidate !== null)
              .map(({ row, value, comparison }, n) => (
                <Fragment key={row.field}>
                  {n === 0 ? '' : ' · '}
                  {value?.kind === 'instant' && row.each === 'item' && comparison?.outcome === 'same' ? (
                    <span title={row.label}>{toLocal(value.at, value.zone).time}</span>
                  ) : value?.kind === 'flag' && comparison?.outcome !== 'drifted' ? (
                    <Changed value={{ kind: 'text', text: row.label }} comparison={undefined} />
                  ) : (
                    <span title={row.label}>
                      <Changed value={value} comparison={comparison} />
                    </span>
                  )}
                </Fragment>
              ))}
          </dd>
        </div>
      ))}
      {ids.length > mostItems ? (
        <div className={classes.field}>
          <dt />
          <dd>and {ids.length - mostItems} more</dd>
        </div>
      ) : null}
    </>
  );
}
