import { mayDo, type Doer } from '../people/doer';
import { mergeRows } from './merge';
import type { RecordContent } from './record';

/** Facts that decide how far an event is told and whose it is: whoever is let in for some events alone leaves them. */
const ofTheHouse: ReadonlySet<string> = new Set([
  'publicity',
  'audience',
  'leftOff',
  'unlistedOn',
  'draftOn',
  'oneLineOn',
  'notices',
  'tourId',
  'radius',
]);

/** What the box office keeps of a record: the seats of outlets, and holds. */
const ofBoxOffice = /^tickets\.(?:outlets\.[^.]+\.allocation|holds(?:\..+)?)$/;

/** True where a doer may change what stands at a path of a record that it is let in for. */
function mayChange(doer: Doer, path: string): boolean {
  if (mayDo(doer, 'correct')) return doer.only === null || !ofTheHouse.has(path.split('.')[0] ?? '');
  return mayDo(doer, 'count') && ofBoxOffice.test(path);
}

/** The paths that differ between two contents and that a doer may not change, as `mergeRows` names them. */
export function mayNotChange(doer: Doer, before: RecordContent, after: RecordContent): string[] {
  if (doer.only === null && mayDo(doer, 'correct')) return [];
  return mergeRows(before, before, after)
    .map(({ path }) => path)
    .filter((path) => !mayChange(doer, path));
}
