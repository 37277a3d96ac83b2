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
      {asks.map((asking) => (
        <section
          key={asking.listing}
          className={classes.listing}
          aria-label={`${asking.title} on ${asking.channelName}${asking.part === '' ? '' : `, ${asking.part}`}`}
        >
          <DateBlock date={asking.date} thisYear={year} />
          <div>
            <h2>
              <Pennant standing={asking.standing} channel={asking.channelName} /> {asking.channelName}
              {asking.part === '' ? '' : `, ${asking.part}`}{' '}
              <span>{standingWords[asking.standing].name.toLowerCase()}</span>
              <Link href={`/records/${asking.recordId}`}>{asking.title}</Link>
              <span className={classes.read}>
                {asking.observedAt === null ? 'not read yet' : `read ${momentWords(asking.observedAt, zone)}`}
                {asking.publicUrl === null ? null : (
                  <>
                    {' '}
                    ·{' '}
                    <a href={asking.publicUrl} target="_blank" rel="noopener">
                      public page
                    </a>
                  </>
                )}
              </span>
            </h2>
            <DriftTable listing={asking} decide={decide} onSaid={setSaid} />
          </div>
        </section>
      ))}
    </div>
  );
}
