import { equalOrAbsent } from '../listing/compare';
import type { Shown } from '../listing/shown';
import type { PlannedErrand } from './plan';
import type { SurveyedListing } from './surveyed';

/**
 * True where an errand could be of the clock's making: it only words anew what stands in its place, waits for nothing,
 * tells nobody by itself, and can be taken back.
 */
export function maybeByClock({ standing, rules }: SurveyedListing, errand: PlannedErrand): boolean {
  if (errand.op !== 'amend' || errand.awaits !== null || errand.notBefore !== null || standing !== 'due') return false;
  const row = rules.operations.find((operation) => operation.op === errand.op);
  return row !== undefined && row.tells === 'nobody' && row.undo.how !== 'never';
}

/**
 * True where the clock, and what was counted as sold, alone make what an errand would change: at the moment of the last
 * sending the record, as it is now, asked for just what was sent then.
 *
 * @param then what the record as it is now asked for at that moment, with what was sold by then
 */
export function byClockAlone({ state }: SurveyedListing, errand: PlannedErrand, then: Shown): boolean {
  return errand.changes.every(({ key }) => equalOrAbsent(then[key], state.sent?.[key]));
}
