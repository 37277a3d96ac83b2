import Link from 'next/link';
import { momentWords } from '@/core/dates/date-words';
import type { HandTask } from '@/views/by-hand';
import classes from './ByHand.module.css';

/** What a person is to do at places without an interface, the most pressing first. */
export function HandTasks({ tasks, zone, now }: { tasks: readonly HandTask[]; zone: string; now: number }) {
  if (tasks.length === 0) return null;
  return (
    <section className="told" aria-label="To be done by hand">
      <h2 className={classes.head}>To be done by hand</h2>
      <ul className={classes.tasks}>
        {tasks.map(({ errand, title, channelName, does, due, stop }) => (
          <li key={errand}>
            <Link href={`/dispatch/by-hand/${errand}`}>
              {channelName}: {title}
            </Link>{' '}
            {does.toLowerCase()}
            {due === null ? '' : ', '}
            {due === null ? null : (
              <span className={due < now ? classes.late : undefined}>
                {due < now ? 'was to be there by' : 'to be there by'} {momentWords(due, zone)}
              </span>
            )}
            {stop === null ? null : <b className={classes.late}>. {stop}</b>}
          </li>
        ))}
      </ul>
    </section>
  );
}
