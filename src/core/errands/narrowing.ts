import type { Operation, OperationRow } from '../listing/operations';
import { isDown, isKeptDraft, listedField, listedState, splitKey, type Shown } from '../listing/shown';
import { mayDelete, sortByLock, type Change } from './steps';
import type { SurveyedListing } from './surveyed';

/** What takes back what stands beyond the record. */
export interface Narrowing {
  op: Operation;
  changes: Change[];
  /** It cannot be taken back without loss, or not at all: a person decides. */
  asks: boolean;
}

/**
 * What is to be taken back of a listing because the record, as it is now, does not allow it to be seen: the whole of
 * it, or how far it is seen, or performances that are told to nobody any more. `null`: nothing stands beyond the
 * record. What is cancelled is no narrowing: it is said by the step that was said yes to, never by taking down.
 */
export function narrowing(listing: SurveyedListing): Narrowing | null {
  const { rules, state, wanted, down } = listing;
  const { sent } = state;
  if (sent === null || state.gone || rules.mirrors !== null) return null;
  const [is, should] = [listedState(sent), listedState(wanted)];
  if (is !== 'public' && is !== 'unlisted') return null;
  const listed: Change = { key: listedField, before: sent[listedField] ?? null, after: wanted[listedField] ?? null };
  if ((down !== null && isDown(wanted)) || isKeptDraft(wanted)) return byRow(rules.operations, should, [listed]);
  if (isDown(wanted)) return null;
  if (should === 'unlisted' && is === 'public') return byRow(rules.operations, should, [listed]);
  const shown = performancesIn(rules, wanted);
  const gone = Object.keys(sent).filter((key) => {
    const item = performanceOf(rules, key);
    return item !== null && !shown.has(item);
  });
  if (gone.length === 0) return null;
  const { op, changes, locked } = sortByLock(
    listing,
    gone.map((key) => ({ key, before: sent[key] ?? null, after: null })),
  );
  return locked.length > 0 ? { op: 'amend', changes: locked, asks: true } : { op, changes, asks: false };
}

function byRow(rows: readonly OperationRow[], state: ReturnType<typeof listedState>, changes: Change[]): Narrowing {
  const row = rows.find((operation) => operation.leadsTo?.includes(state));
  if (!row) return { op: 'unpublish', changes, asks: true };
  return { op: row.op, changes, asks: row.needs.length > 0 || row.undo.how === 'never' };
}

const perPerformance = new WeakMap<SurveyedListing['rules'], ReadonlySet<string>>();

/** Fields of which a listing has one for each performance; found once for each kind's rules. */
function performanceFields(rules: SurveyedListing['rules']): ReadonlySet<string> {
  let known = perPerformance.get(rules);
  if (!known) {
    known = new Set(rules.rows.flatMap((row) => (row.each === 'performance' ? [row.field] : [])));
    perPerformance.set(rules, known);
  }
  return known;
}

/** The performance that a field belongs to; `null`: none. */
function performanceOf(rules: SurveyedListing['rules'], key: string): string | null {
  const { field, item } = splitKey(key);
  if (item === null || item.startsWith('theirs-')) return null;
  return performanceFields(rules).has(field) ? item : null;
}

function performancesIn(rules: SurveyedListing['rules'], shown: Shown): ReadonlySet<string> {
  return new Set(Object.keys(shown).flatMap((key) => performanceOf(rules, key) ?? []));
}

/**
 * True where it stands in public beyond the record and nothing is being done about it: only a person can take it back,
 * or let it stand.
 */
export function standsBeyond(listing: SurveyedListing): boolean {
  return listing.errand !== 'open' && !listing.left.includes(listedField) && narrowing(listing)?.asks === true;
}

/**
 * Why changes may not leave by an operation, as the record is at this moment; `null`: they may. Taking out of sight
 * always may; deleting may as long as nothing of it is to stand there, cancelling as long as the record is cancelled.
 */
export function refusalOf(
  listing: SurveyedListing | undefined,
  op: Operation,
  changes: readonly Change[],
): string | null {
  if (op === 'unpublish') return null;
  if (!listing) return 'the record, or this part of it, is not there any more';
  const { wanted, rules, findings, embargoUntil } = listing;
  if (op === 'remove') return mayDelete(wanted) ? null : 'the record is to be seen there by now';
  if (op === 'cancel') return listedState(wanted) === 'cancelled' ? null : 'the record is not cancelled any more';
  const shown = performancesIn(rules, wanted);
  const told = changes.filter(({ after }) => after !== null);
  // What only takes away may go whatever else the record says.
  if (told.length === 0 && changes.length > 0) return null;
  if (isDown(wanted) && listedState(wanted) !== 'cancelled') return 'the record does not allow it to be seen any more';
  const opens = told.some(
    ({ key, after }) =>
      key === listedField && after?.kind === 'state' && (after.is === 'public' || after.is === 'unlisted'),
  );
  // What is to stay a draft is not opened by what was asked for before; nor what is to be unlisted shown to everybody.
  if (opens && isKeptDraft(wanted)) return 'the record keeps it a draft there';
  const wide = told.some(({ key, after }) => key === listedField && after?.kind === 'state' && after.is === 'public');
  if (wide && listedState(wanted) === 'unlisted') return 'the record is unlisted there by now';
  if (embargoUntil !== null) return 'the record is under embargo by now';
  if (findings.some((finding) => finding.weight === 'stops' && finding.code !== 'lock-undecided'))
    return 'the record stops it by now';
  const held = told.some(({ key }) => {
    const item = performanceOf(rules, key);
    return item !== null && !shown.has(item);
  });
  return held ? 'a performance is not to be told any more' : null;
}
