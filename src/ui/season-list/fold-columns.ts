import type { Standing } from '@/core/listing/standing';
import type { ListedEvent } from '@/views/season';

/** With more channels than these, those on which all is well fold into one column. */
const mostColumns = 16;

/** Which channels have a column, by their places; and which are folded into the last one. */
export interface Columns {
  shown: number[];
  folded: number[];
}

/** True where nobody need look: it is in step, was taken down, or has no business there. */
const isCalm = (standing: Standing | null | undefined) =>
  standing === null || standing === undefined || standing === 'instep' || standing === 'withdrawn';

/**
 * The columns of a list: every channel, or where there are many those on which something of the rows is to be looked
 * at; the rest is one column that counts.
 */
export function foldColumns(channels: number, rows: readonly Pick<ListedEvent, 'standings'>[] | null): Columns {
  const all = Array.from({ length: channels }, (_, i) => i);
  if (rows === null || channels <= mostColumns) return { shown: all, folded: [] };
  const shown = all.filter((i) => rows.some((row) => !isCalm(row.standings[i])));
  return shown.length === channels ? { shown, folded: [] } : { shown, folded: all.filter((i) => !shown.includes(i)) };
}
