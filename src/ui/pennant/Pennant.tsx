import type { ReactElement } from 'react';
import { standingWords, type Standing } from '@/core/listing/standing';
import classes from './Pennant.module.css';

const staff = <path d="M5 1.5V20.5" className={classes.line} />;

/** The shape of each standing: the pennant on its staff says it, colour only repeats it. */
const shapes: Record<Standing, ReactElement> = {
  instep: (
    <>
      {staff}
      <path d="M5 2.2 18.5 6.4 5 10.6Z" fill="currentColor" />
    </>
  ),
  unplaced: (
    <>
      {staff}
      <path d="M5 2.6 17 6.4 5 10.2Z" className={classes.hollow} />
    </>
  ),
  due: (
    <>
      {staff}
      <path d="M5 11.4 18.5 15.6 5 19.8Z" className={classes.marigold} />
    </>
  ),
  underway: (
    <>
      {staff}
      <g className={classes.moving}>
        <path d="M5 6.4 18.5 10.6 5 14.8Z" className={classes.marigold} />
        <path d="M11.8 17.6v2.6M15.2 17v2.6" className={classes.thin} />
      </g>
    </>
  ),
  unread: (
    <>
      {staff}
      <path d="M5 6.6 18.5 10.8 5 15Z" fill="currentColor" />
    </>
  ),
  late: (
    <>
      {staff}
      <path d="M5 4.6C10.6 5.8 14 10.6 14.6 19.8 10.8 15.4 8 13.2 5 12.2Z" fill="currentColor" />
    </>
  ),
  drifted: (
    <>
      {staff}
      <path d="M5 2.2 19.5 2.2 13.4 6.4 19.5 10.6 5 10.6Z" fill="currentColor" />
    </>
  ),
  atodds: (
    <>
      <path d="M11 1.5V20.5" className={classes.line} />
      <path d="M11 2 20.5 5.4 11 8.8ZM11 10 1.5 13.4 11 16.8Z" fill="currentColor" />
    </>
  ),
  refused: (
    <>
      <path d="M5 20.5V12.4M5.6 9.4 11.8 2.6" className={classes.line} />
      <path d="M11.8 2.6 20.4 9.4 8.4 6.4Z" fill="currentColor" />
    </>
  ),
  embargoed: (
    <>
      {staff}
      <path d="M5 2.2C11 4.4 11 12.6 5 15.4Z" fill="currentColor" />
      <path d="M9.4 8.8 13.2 7M9.4 8.8 13.2 10.6" className={classes.thin} />
    </>
  ),
  withdrawn: (
    <>
      {staff}
      <path d="M2 20.5h6" className={classes.line} />
    </>
  ),
};

interface PennantProps {
  /** How the listing stands; `null`: not wanted on this channel. */
  standing: Standing | null;
  /** The channel, for the words on hover and for screen readers. */
  channel?: string;
  /** Set where the words stand beside it anyway. */
  silent?: boolean;
  /** Size in pixels. */
  size?: number;
}

/** A listing's standing as a pennant on a staff. */
export function Pennant({ standing, channel, silent = false, size = 22 }: PennantProps) {
  const words =
    standing === null ? 'not wanted here' : `${standingWords[standing].name}: ${standingWords[standing].meaning}`;
  const label = channel === undefined ? words : `${channel}: ${words}`;
  return (
    <svg
      viewBox="0 0 22 22"
      width={size}
      height={size}
      className={classes.pennant}
      data-standing={standing ?? 'none'}
      {...(silent ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label })}
    >
      {silent ? null : <title>{label}</title>}
      {standing === null ? <circle cx="5" cy="19.4" r="1.1" fill="currentColor" /> : shapes[standing]}
    </svg>
  );
}
