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

/** Where it stands: the channel, and which part of a run it is there. */
function asked({ channelName, part }: ReadBackListing): string {
  return part === '' ? channelName : `${channelName}, ${part}`;
}

/** The listings of each event together, in the order in which the events first come. */
function byRecord(asks: readonly ReadBackListing[]): [first: ReadBackListing, all: ReadBackListing[]][] {
  const groups = new Map<string, [ReadBackListing, ReadBackListing[]]>();
  for (const asking of asks) {
    const group = groups.get(asking.recordId);
    if (group) group[1].push(asking);
    else groups.set(asking.recordId, [asking, [asking]]);
  }
  return [...groups.values()];
}

/** Every listing that shows something else than was sent, with its ways out. */
export function ReadBackList({ asks, year, zone, decide }: ReadBackListProps) {
  const [said, setSaid] = useState<Answer | null>(null);
  return (
    <div className={classes.list}>
      <Said answer={said} />
      {byRecord(asks).map(([first, listings]) => (
        <article key={first.recordId} className={classes.listing}>
          <DateBlock date={first.date} thisYear={year} />
          <div>
            <h2>
              <Link href={`/records/${first.recordId}`}>{first.title}</Link>
            </h2>
            {listings.map((asking) => (
              <section key={asking.listing} className={classes.part} aria-label={`${asking.title} on ${asked(asking)}`}>
                <h3>
                  <Pennant standing={asking.standing} channel={asking.channelName} /> {asked(asking)}{' '}
                  <span>{standingWords[asking.standing].name.toLowerCase()}</span>
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
                </h3>
                <DriftTable listing={asking} decide={decide} onSaid={setSaid} />
              </section>
            ))}
          </div>
        </article>
      ))}
    </div>
  );
}
