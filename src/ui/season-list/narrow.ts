import { asksPerson } from '@/core/listing/standing';
import { putAway } from '@/core/record/choices';
import type { ListedEvent } from '@/views/season';

/** Which of the events a list shows. */
export const views = ['upcoming', 'past', 'asking', 'away'] as const;
export type View = (typeof views)[number];

/** Whether an event belongs to a view of the season. */
export function inView(row: Pick<ListedEvent, 'past' | 'stage' | 'standings'>, view: View): boolean {
  if (view === 'away' || row.stage === putAway) return view === 'away' && row.stage === putAway;
  if (view === 'asking') return row.standings.some(asksPerson);
  return view === 'past' ? row.past : !row.past;
}

/** Whether every word of `find` stands somewhere in what the list shows of an event. */
export function matches(row: ListedEvent, find: string): boolean {
  if (find === '') return true;
  const words = find
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  const text =
    `${row.title} ${row.under} ${row.room} ${row.town} ${row.stage} ${row.code} ${row.price} ${row.also}`.toLowerCase();
  return words.every((word) => text.includes(word));
}
