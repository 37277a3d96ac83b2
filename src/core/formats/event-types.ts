import { quoted } from '../base/quoted';
import { eventTypes, mostCategories } from '../record/choices';
import type { RecordContent } from '../record/record';
import { refuse } from './csv-cells';
import type { FileNote } from './file-note';

/**
 * The kinds of an event in a cell, the first its own: `concert`, `concert; family`. Empty is a concert, as a new record
 * is. One that is not among the usual ones is taken as it is written, and told. Throws a `CellError` where there are
 * too many, or one is too long.
 */
export function readTypes(
  column: string,
  text: string,
  notes: FileNote[],
): Pick<RecordContent, 'eventType' | 'categories'> {
  const names = text
    .split(';')
    .map((name) => name.trim())
    .filter((name) => name !== '');
  const [eventType = 'concert', ...more] = [...new Set(names.map((name) => name.toLowerCase()))];
  const long = names.find((name) => name.length > 40);
  if (long !== undefined)
    refuse(column, `${quoted(long)} is too long for a kind of event. Keep it within 40 characters.`);
  if (more.length > mostCategories)
    refuse(
      column,
      `An event stands under at most ${mostCategories + 1} kinds. Leave ${more.length - mostCategories} out.`,
    );
  const own = [eventType, ...more].filter((name) => !eventTypes.some((type) => type === name));
  if (own.length > 0)
    notes.push({
      code: 'type-own',
      text: `${own.map(quoted).join(', ')} ${own.length === 1 ? 'is no usual kind of event: it was' : 'are no usual kinds of event: they were'} taken as written.`,
    });
  return { eventType, categories: more };
}
