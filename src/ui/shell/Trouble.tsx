import Link from 'next/link';
import { momentWords } from '@/core/dates/date-words';
import classes from './Shell.module.css';
import type { Pulse } from './use-pulse';

const troubleWords: Record<NonNullable<Pulse['trouble']>, string> = {
  'disk-full':
    'The disk of the data folder is full: nothing is kept and nothing goes out. Make room on it; the queue then goes on by itself.',
  locked:
    'Another program holds the database: nothing is kept and nothing goes out. It is tried again by itself; close what else has the data folder open.',
  failing: 'The queue fails by a mistake of our own, and is tried again by itself. The log says where.',
};

/**
 * The house's trouble, on every screen: what keeps it from working, who does not answer, and what stands in public
 * against its record.
 */
export function Trouble({ pulse: { trouble, silent, beyond, zone } }: { pulse: Pulse }) {
  if (trouble === null && silent.length === 0 && beyond === 0) return null;
  return (
    <div className={classes.trouble} role="status" aria-label="Trouble">
      {trouble === null ? null : <p>{troubleWords[trouble]}</p>}
      {beyond === 0 ? null : (
        <p>
          {beyond === 1 ? 'One listing stands' : `${beyond} listings stand`} in public against{' '}
          {beyond === 1 ? 'its record' : 'their records'}, and cannot be taken back by{' '}
          {beyond === 1 ? 'itself' : 'themselves'}. <Link href="/dispatch">Decide in Dispatch</Link>
        </p>
      )}
      {silent.slice(0, 3).map(({ name, since }) => (
        <p key={name}>
          {name} does not answer, since {momentWords(since, zone)}. What waits for it goes by itself.{' '}
          <Link href="/channels">Channels</Link>
        </p>
      ))}
      {silent.length > 3 ? <p>and {silent.length - 3} more channels do not answer.</p> : null}
    </div>
  );
}
