import { SegmentedControl } from '@mantine/core';
import { useMemo, useState } from 'react';
import type { Facts } from '@/core/facts/facts';
import { fitWords } from '@/core/words/fit';
import { writeNotice } from '@/core/words/notice';
import classes from '../RecordForm.module.css';

/** How a short notice of this event comes out: the worthiest parts that fit, with what was dropped. */
export function NoticeFit({ facts }: { facts: Facts }) {
  const [limit, setLimit] = useState('340');
  const fitted = useMemo(
    () => writeNotice(facts, { limit: Number(limit), linkLength: 18, unit: 'graphemes' }),
    [facts, limit],
  );
  const reason = fitWords(fitted);
  return (
    <div className={classes.noticeFit} role="group" aria-label="Short post">
      <div className={classes.inline}>
        <span>A post of at most</span>
        <SegmentedControl aria-label="Longest post" data={['340', '160', '90']} value={limit} onChange={setLimit} />
        <span>characters, a link counting 18</span>
      </div>
      {fitted.ok ? (
        <p className={classes.noticeText}>
          {fitted.text}{' '}
          <span>
            {fitted.length} of {limit}
          </span>
        </p>
      ) : null}
      {reason === '' ? null : <p className={classes.muted}>{reason}</p>}
    </div>
  );
}
