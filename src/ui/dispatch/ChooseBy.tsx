import { useEffect, useRef, useState } from 'react';
import { momentWords } from '@/core/dates/date-words';
import { useChannelNames } from '@/ui/use-channels/channel-names';
import type { EventToSend } from '@/views/dispatch';
import { choicesBy, choosers, type Chooser } from './by-change';
import classes from './Dispatch.module.css';
import { TickAll } from './TickAll';
import type { Choices } from './use-choices';

/** Chooses many at once: none, all, or by event, tour, channel, kind of change, moment. */
export function ChooseBy({ events, choices }: { events: readonly EventToSend[]; choices: Choices }) {
  const [by, setBy] = useState<Chooser | null>(null);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (by === null) return;
    const onKey = (event: KeyboardEvent) => event.key === 'Escape' && setBy(null);
    const onDown = (event: MouseEvent) => {
      if (event.target instanceof Node && box.current?.contains(event.target) !== true) setBy(null);
    };
    window.addEventListener('keydown', onKey);
    window.addEventListener('mousedown', onDown);
    return () => {
      window.removeEventListener('keydown', onKey);
      window.removeEventListener('mousedown', onDown);
    };
  }, [by]);
  const every = events.flatMap((event) => event.errands.map(({ listing }): string => listing));
  if (every.length < 2) return null;
  return (
    <div ref={box} className={classes.choose} role="group" aria-label="Choose">
      <span>choose</span>
      <button type="button" className="plainButton" onClick={() => choices.choose(every, false)}>
        none
      </button>
      <button type="button" className="plainButton" onClick={() => choices.choose(every, true)}>
        all
      </button>
      <span>by</span>
      {choosers.map((name) => (
        <button
          key={name}
          type="button"
          className="plainButton"
          aria-expanded={by === name}
          onClick={() => setBy(by === name ? null : name)}
        >
          {name}
        </button>
      ))}
      {by === null ? null : <Values by={by} events={events} choices={choices} />}
    </div>
  );
}

/** The values that one chooses by, each with how many errands it has; ticked where all of them are. */
function Values({ by, events, choices }: { by: Chooser; events: readonly EventToSend[]; choices: Choices }) {
  const channels = useChannelNames();
  const values = choicesBy(by, events, channels.name, momentWords);
  return (
    <ul className={classes.values} aria-label={`By ${by}`}>
      {values.map(({ name, listings }) => (
        <li key={name}>
          <label>
            <TickAll listings={listings} choices={choices} />
            <span>{name}</span>
            <span className={classes.cost}>{listings.length}</span>
          </label>
        </li>
      ))}
    </ul>
  );
}
