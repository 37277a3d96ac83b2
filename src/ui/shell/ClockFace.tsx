'use client';

import { useEffect, useState, useTransition } from 'react';
import { shortDate, zonePlace } from '@/core/dates/date-words';
import { toLocal } from '@/core/base/zones';
import classes from './ClockFace.module.css';
import type { Pulse } from './use-pulse';

const hourMs = 3_600_000;

interface ClockFaceProps {
  /** The house's time and zone. */
  pulse: Pulse;
  /** Moves the simulated clock on by so many milliseconds. */
  moveClock: (ms: number) => Promise<void>;
}

/** The house's time. In demo mode it says that it is simulated, and can be moved on. */
export function ClockFace({ pulse, moveClock }: ClockFaceProps) {
  const [now, setNow] = useState(pulse.now);
  const [moving, startMove] = useTransition();
  useEffect(() => {
    const from = performance.now();
    const tick = () => setNow(pulse.now + performance.now() - from);
    tick();
    const timer = setInterval(tick, 1000);
    return () => clearInterval(timer);
  }, [pulse.now]);
  const { date, time } = toLocal(now, pulse.zone);
  return (
    <div className={classes.clock}>
      <span>
        {shortDate(date).slice(0, 3)}{' '}
        <b>
          {shortDate(date, true).slice(4)}, {time}
        </b>{' '}
        {zonePlace(pulse.zone)}
      </span>
      {pulse.clock === 'simulated' ? (
        <>
          <span>· simulated</span>
          {(
            [
              ['+1 h', hourMs],
              ['+1 day', 24 * hourMs],
            ] as const
          ).map(([label, ms]) => (
            <button
              key={label}
              type="button"
              className="plainButton"
              disabled={moving}
              onClick={() => startMove(() => moveClock(ms))}
            >
              {label}
            </button>
          ))}
        </>
      ) : null}
    </div>
  );
}
