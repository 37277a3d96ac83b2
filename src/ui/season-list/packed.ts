import { standings } from '@/core/listing/standing';
import type { ListedEvent } from '@/views/season';

/*
 * Ten thousand lines as objects cost a page more to write and to read than to reckon: they go over as one text, each
 * line a list, standings by their place in the list of names.
 */

const keys = [
  'id',
  'code',
  'date',
  'time',
  'title',
  'under',
  'room',
  'town',
  'stage',
  'price',
  'left',
  'cue',
  'also',
] as const;
const blank = Object.fromEntries(keys.map((key) => [key, ''])) as Record<(typeof keys)[number], string>;
type Packed = [past: 0 | 1, standings: string, ...texts: string[]];
/** Where nothing is wanted. */
const none = '.';
const letterOf = (i: number) => String.fromCharCode(97 + i);

/** Lines as one text. */
export function packRows(rows: readonly ListedEvent[]): string {
  return JSON.stringify(
    rows.map((row): Packed => [
      row.past ? 1 : 0,
      row.standings.map((standing) => (standing === null ? none : letterOf(standings.indexOf(standing)))).join(''),
      ...keys.map((key) => row[key]),
    ]),
  );
}

/** The lines of such a text: what `packRows` was given. */
export function unpackRows(text: string): ListedEvent[] {
  return (JSON.parse(text) as Packed[]).map(([past, marks, ...texts]) => {
    const row = { ...blank };
    keys.forEach((key, i) => (row[key] = texts[i] ?? ''));
    return {
      ...row,
      past: past === 1,
      standings: [...marks].map((mark) => (mark === none ? null : (standings[mark.charCodeAt(0) - 97] ?? null))),
    };
  });
}
