import { groupBy } from '@/core/base/group-by';
import { dateParts } from '@/core/dates/date-words';
import { addDays } from '@/core/base/zones';
import type { ListedEvent } from '@/views/season';

export type SeasonLine =
  { kind: 'heading'; key: string; title: string; count: number } | { kind: 'row'; key: string; row: ListedEvent };

/** The list with its headings: this week, next week, then month by month. Past events come newest first. */
export function groupRows(rows: readonly ListedEvent[], today: string, past: boolean): SeasonLine[] {
  const ordered = past ? [...rows].reverse() : rows;
  const weeks = weeksOf(today);
  // Many stand on one day: what a day stands under is worked out once.
  const byDate = new Map<string, string>();
  const groups = groupBy(ordered, ({ date }) => {
    const known = byDate.get(date);
    if (known !== undefined) return known;
    const made = headingOf(date, today, past, weeks);
    byDate.set(date, made);
    return made;
  });
  return [...groups].flatMap(([title, members]) => [
    { kind: 'heading' as const, key: `heading ${title}`, title, count: members.length },
    ...members.map((row) => ({ kind: 'row' as const, key: row.id, row })),
  ]);
}

/** The Mondays after this week and the next. */
function weeksOf(today: string): { next: string; after: string } {
  const monday = addDays(today, -((new Date(`${today}T00:00:00Z`).getUTCDay() + 6) % 7));
  return { next: addDays(monday, 7), after: addDays(monday, 14) };
}

function headingOf(date: string, today: string, past: boolean, weeks: ReturnType<typeof weeksOf>): string {
  if (date === '') return 'Date open';
  const week = !past && date.length > 7;
  if (week && date < weeks.next) return 'This week';
  if (week && date < weeks.after) return 'Next week';
  const { month, year } = dateParts(`${date}-01`.slice(0, 10));
  if (!past && date.slice(0, 7) === today.slice(0, 7)) return `Later in ${month}`;
  return year === Number(today.slice(0, 4)) ? month : `${month} ${year}`;
}
