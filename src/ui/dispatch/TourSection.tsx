import Link from 'next/link';
import { useState } from 'react';
import { groupBy } from '@/core/base/group-by';
import { Pennant } from '@/ui/pennant';
import { useChannelNames } from '@/ui/use-channels/channel-names';
import { byChange, groupWords, type TourGroup } from './by-change';
import { FactWords } from './ChangeRow';
import classes from './Dispatch.module.css';
import { TickAll } from './TickAll';
import type { Choices } from './use-choices';

/** Dates of a tour that change alike: the change once, with how many listings of each channel; date by date on demand. */
export function TourSection({ group: { tour, events }, choices }: { group: TourGroup; choices: Choices }) {
  const channels = useChannelNames();
  const [open, setOpen] = useState(false);
  const errands = events.flatMap((event) => event.errands);
  const groups = byChange(events[0]?.errands ?? []);
  const ids = (items: readonly { listing: string }[]) => items.map(({ listing }) => listing);
  return (
    <section className={classes.event} aria-label={`${tour}, ${events.length} dates`}>
      <span className={classes.dates}>
        <b>{events.length}</b> dates
      </span>
      <div>
        <h2>
          {tour} <span className="code">{events.length} records</span>
        </h2>
        {groups.map(({ sort, facts }) => (
          <div key={sort} className={classes.groupHead}>
            <TickAll listings={ids(errands)} choices={choices} name={`All of ${tour}`} />
            <span className={classes.groupFacts}>
              {facts.length === 0 ? <b>{groupWords[sort] || 'each in its own words'}</b> : null}
              <FactWords facts={facts} />
            </span>
            <span className={classes.cost}>{errands.length} listings</span>
          </div>
        ))}
        <div className={classes.strip}>
          {[...groupBy(errands, ({ channel }) => channel)].map(([channel, mine]) => (
            <label key={channel} className={classes.item}>
              <TickAll listings={ids(mine)} choices={choices} />
              <Pennant standing="due" silent size={20} />
              <b>{channels.name(channel)}</b> <span>{mine.length}</span>
            </label>
          ))}
        </div>
        <button type="button" className="plainButton" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Fold the dates' : 'Date by date'}
        </button>
        {open ? (
          <ul className={classes.tourDates}>
            {events.map((event) => (
              <li key={event.recordId}>
                <label className={classes.item}>
                  <TickAll listings={ids(event.errands)} choices={choices} />
                  <Link href={`/records/${event.recordId}`}>{event.title}</Link>{' '}
                  <span className="code">{event.code}</span>
                </label>
              </li>
            ))}
          </ul>
        ) : null}
      </div>
    </section>
  );
}
