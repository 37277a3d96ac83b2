import Link from 'next/link';
import { lates } from '@/core/record/tonight';
import type { ListedEvent } from '@/views/season';

/** So many shows of a day are named; the rest stands in the list below. */
const most = 8;

/** What takes place today, each with what may go otherwise: one press leads to what that does. */
export function TonightList({ rows, today }: { rows: readonly ListedEvent[]; today: string }) {
  const on = rows.filter(
    ({ date, past, stage, standings }) =>
      date === today && !past && !/cancelled|postponed/i.test(stage) && standings.some((standing) => standing !== null),
  );
  if (on.length === 0) return null;
  return (
    <ul className="told" aria-label="Today">
      {on.slice(0, most).map(({ id, title, time, room }) => (
        <li key={id}>
          Today {time} <b>{title}</b>
          {room === '' ? '' : `, ${room}`}: later by{' '}
          {lates.map((minutes) => (
            <span key={minutes}>
              <Link href={`/records/${id}#tonight-${minutes}`} aria-label={`Later by ${minutes} minutes`}>
                {minutes} min
              </Link>{' '}
            </span>
          ))}
          · <Link href={`/records/${id}#tonight`}>something else</Link>
        </li>
      ))}
    </ul>
  );
}
