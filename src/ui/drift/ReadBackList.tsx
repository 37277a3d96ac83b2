'use client';

import Link from 'next/link';
import { useState } from 'react';
import { momentWords } from '@/core/dates/date-words';
import { standingWords } from '@/core/listing/standing';
import { DateBlock } from '@/ui/date-block';
import { Pennant } from '@/ui/pennant';
import classes from './Drift.module.css';
import type { ReadBackListing } from '@/views/drift';
import { DriftTable, Said, type Answer, type Decisions } from './DriftTable';

interface ReadBackListProps {
  asks: ReadBackListing[];
  year: number;
  zone: string;
  decide: Decisions;
}

/** Every listing that shows something else than was sent, with its ways out. */
export function ReadBackList({ asks, year, zone, decide }: ReadBackListProps) {
  const [said, setSaid] = useState<Answer | null>(null);
  return (
    <div className={classes.list}>
      <Said answer={said} />
      {asks.map((one) => (
        <section
          key={one.listing}
          className={classes.listing}
          aria-label={`${one.title} on ${one.channelName}${one.part === '' ? '' : `, ${one.part}`}`}
        >
          <DateBlock date={one.date ?? ''} thisYear={year} />
          <div>
            <h2>
              <Pennant standing={one.standing} channel={one.channelName} /> {one.channelName}
              {one.part === '' ? '' : `, ${one.part}`} <span>{standingWords[one.standing].name.toLowerCase()}</span>
              <Link href={`/records/${one.recordId}`}>{one.title}</Link>
              <span className={classes.read}>
                {one.observedAt === null ? 'not read yet' : `read ${momentWords(one.observedAt, zone)}`}
                {one.publicUrl === null ? null : (
                  <>
                    {' '}
                    ·{' '}
                    <a href={one.publicUrl} target="_blank" rel="noopener">
                      public page
                    </a>
                  </>
                )}
              </span>
            </h2>
            <DriftTable one={one} decide={decide} onSaid={setSaid} />
          </div>
        </section>
      ))}
    </div>
  );
}
