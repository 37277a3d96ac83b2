import { sells, type ChannelRules } from '../listing/channel-rules';
import { equalOrAbsent, type FieldComparison, type ListingState } from '../listing/compare';
import {
  closed,
  lockWords,
  operationWords,
  type LockContext,
  type LockRow,
  type Operation,
  type OperationRow,
  type Undo,
} from '../listing/operations';
import {
  isDown,
  isKeptDraft,
  isOff,
  listedField,
  listedState,
  splitKey,
  type Shown,
  type ShownValue,
} from '../listing/shown';

/** One field that an errand changes. */
export interface Change {
  key: string;
  before: ShownValue | null;
  after: ShownValue | null;
}

/** A change that the channel does not let be made as an amendment, and why. */
export interface LockedChange extends Change {
  label: string;
  why: string;
}

/**
 * A way through where no plain one is: a row of operations, with what it does and to whom. A person picks one; nothing
 * is picked for them.
 */
export interface Way {
  /** The operation that it turns on; `leave`: nothing is done about it. */
  id: Operation | 'leave';
  title: string;
  does: string;
  tells: OperationRow['tells'];
  undo: Undo;
  /** What it needs of the person: a reason in public words, the event's code typed. */
  needs: readonly ('reason' | 'code')[];
  /** What stays wrong on the channel. */
  leaves: string;
}

/**
 * What is to be done about one listing: the operation that goes without asking, and what only goes by a way that a
 * person picks.
 */
export interface Steps {
  op: Operation;
  changes: Change[];
  locked: LockedChange[];
  ways: Way[];
  /** What it is to delete it there, beside taking it down; `null`: it is not to be taken down, or cannot be deleted. */
  deleting: Way | null;
}

/** What the steps of a listing are worked out from. */
export interface StepsContext {
  rules: ChannelRules;
  wanted: Shown;
  state: ListingState;
  comparison: readonly FieldComparison[];
  lock: LockContext;
}

/** Nothing is to be done. */
export const nothingToDo: Steps = { op: 'amend', changes: [], locked: [], ways: [], deleting: null };

/**
 * The cheapest row of operations from what is observed to what is wanted that the locks allow. What has drifted or is
 * at odds is never gone over unasked, and what was deleted there is not placed again by itself.
 */
export function stepsFor(context: StepsContext): Steps {
  const { wanted, state, comparison } = context;
  const off = isDown(wanted);
  // What only shows what another channel says is never placed by us.
  if (state.sent === null)
    return off || !context.rules.operations.some((row) => row.op === 'place')
      ? nothingToDo
      : { ...nothingToDo, op: 'place', changes: allOf(wanted, null) };
  const toSend = comparison.filter((field) => field.outcome === 'to-send');
  // What shows another channel's word is put right there.
  if (state.gone || context.rules.mirrors !== null) return nothingToDo;
  if (toSend.length === 0) {
    // What lapses is renewed by an errand of its own, when nothing else is to say.
    const lapsing = comparison.filter((field) => field.outcome === 'lapsing').map(changeOf);
    return lapsing.length === 0 ? nothingToDo : { ...nothingToDo, op: 'renew', changes: lapsing };
  }
  if (off) return offSteps(context, toSend.map(changeOf));
  // A draft again: out of sight first; what else changed follows as to any draft.
  const hiding = isKeptDraft(wanted) ? toSend.filter((field) => field.key === listedField) : [];
  if (hiding.length > 0) return offSteps(context, hiding.map(changeOf));
  // Coming back after being taken down: what changed meanwhile was not compared, so all of it goes, and what the record
  // no longer says is cleared.
  if (isOff(state.sent[listedField]) && !isKeptDraft(wanted)) return backSteps(context);
  return sortByLock(context, toSend.map(changeOf));
}

/** What must go over the whole listing anew: everything wanted, and nothing of what it said before. */
export function wholeOver(wanted: Shown, before: Shown | null): Change[] {
  const cleared = Object.keys(before ?? {}).filter((key) => wanted[key] === undefined);
  return [...allOf(wanted, before), ...cleared.map((key) => ({ key, before: before?.[key] ?? null, after: null }))];
}

/** Parts changes into those that the locks let be made, and those that they do not. */
export function sortByLock(context: Pick<StepsContext, 'rules' | 'lock' | 'state'>, changes: readonly Change[]): Steps {
  const { rules, lock } = context;
  const locked: LockedChange[] = [];
  const plain: Change[] = [];
  for (const change of changes) {
    const shut = lockOf(rules.locks, change, lock);
    if (shut === null) plain.push(change);
    else locked.push({ ...change, label: labelOf(rules, change.key), why: lockWords(shut, lock) });
  }
  const op = plain.some((change) => change.key === listedField) ? 'publish' : 'amend';
  // What can be said once only stays as it was said.
  if (plain.length > 0 && !rules.operations.some((row) => row.op === op)) {
    locked.push(
      ...plain.splice(0).map((change) => ({
        ...change,
        label: labelOf(rules, change.key),
        why: 'it cannot be changed there once it was sent',
      })),
    );
  }
  return { ...nothingToDo, op, changes: plain, locked, ways: locked.length === 0 ? [] : waysFor(rules, locked) };
}

function lockOf(locks: readonly LockRow[], { key, before, after }: Change, context: LockContext): LockRow | null {
  const { field, item } = splitKey(key);
  for (const row of locks) {
    if (!row.fields.includes(field) || !closed(row, context, item)) continue;
    // What only may rise is not locked on its way up, nor what had no bound and still has none.
    const rises =
      row.lets === 'only up' &&
      before?.kind === 'count' &&
      (after === null || (after.kind === 'count' && after.n >= before.n));
    // What is new there was never locked; a sale is of what stood there.
    if (rises || before === null || (row.lets === 'only away' && after === null)) continue;
    return row;
  }
  return null;
}

/** Every operation that can change all of what is locked; and leaving it, which is always one. */
function waysFor(rules: ChannelRules, locked: readonly LockedChange[]): Way[] {
  const fields = new Set(locked.map((change) => splitKey(change.key).field));
  const able = rules.operations.filter(
    (row) => row.op !== 'amend' && Array.isArray(row.fields) && [...fields].some((field) => row.fields.includes(field)),
  );
  const ways = able.map((row) => {
    const over = locked.filter((change) => !row.fields.includes(splitKey(change.key).field));
    return wayOf(row, over.length === 0 ? '' : `${listOf(over)} stays as it is there.`);
  });
  return [...ways, leaving(`${listOf(locked)} stays as it is there.`)];
}

function offSteps({ rules, wanted }: StepsContext, changes: Change[]): Steps {
  const state = listedState(wanted);
  const row = rules.operations.find((operation) => operation.leadsTo?.includes(state));
  if (row === undefined) {
    const stays = changes.map((change) => ({
      ...change,
      label: labelOf(rules, change.key),
      why: 'it cannot be taken back there',
    }));
    return { ...nothingToDo, op: 'unpublish', locked: stays, ways: [leaving('It goes on standing there.')] };
  }
  if (row.needs.length === 0) {
    const deleting = rules.operations.find((operation) => operation.op === 'remove');
    return {
      ...nothingToDo,
      op: row.op,
      changes,
      deleting: deleting && mayDelete(wanted) ? wayOf(deleting, '') : null,
    };
  }
  // It cannot be taken back, or it writes to people: a person says so, or chooses the plainer step.
  const plainer = rules.operations.find(
    (operation) => operation.leadsTo?.includes('closed') && operation.needs.length === 0,
  );
  const locked = changes.map((change) => ({
    ...change,
    label: labelOf(rules, change.key),
    why: row.does.replace(/\.$/, ''),
  }));
  const ways = [
    wayOf(row, ''),
    ...(plainer ? [wayOf(plainer, 'Who holds a ticket is told nothing by the channel.')] : []),
  ];
  return {
    ...nothingToDo,
    op: row.op,
    locked,
    ways: [...ways, leaving(sells(rules) ? 'It stays on sale there.' : 'It goes on standing there.')],
  };
}

/** True where nothing of it is to stand there: a draft is kept, and what is cancelled is said. */
export function mayDelete(wanted: Shown): boolean {
  return isDown(wanted) && listedState(wanted) !== 'cancelled';
}

function backSteps({ rules, wanted, state }: StepsContext): Steps {
  // What was sent before it was taken down may not be seen while it is, and stands there all the same.
  const changes = wholeOver(wanted, { ...state.sent, ...state.observed });
  if (listedState(state.sent ?? {}) !== 'cancelled') return { ...nothingToDo, op: 'publish', changes };
  const locked = changes
    .filter((change) => change.key === listedField)
    .map((change) => ({
      ...change,
      label: labelOf(rules, change.key),
      why: 'it was cancelled there, which is for ever',
    }));
  return { ...nothingToDo, op: 'publish', locked, ways: [leaving('It stays cancelled there.')] };
}

function wayOf(row: OperationRow, leaves: string): Way {
  const { op, called, does, tells, undo, needs } = row;
  return { id: op, title: called ?? operationWords[op], does, tells, undo, needs, leaves };
}

function leaving(leaves: string): Way {
  return {
    id: 'leave',
    title: 'Leave it',
    does: 'Nothing is sent.',
    tells: 'nobody',
    undo: { how: 'wholly' },
    needs: [],
    leaves,
  };
}

function listOf(changes: readonly LockedChange[]): string {
  const list = [...new Set(changes.map((change) => change.label))].join(', ');
  return list.charAt(0).toUpperCase() + list.slice(1);
}

function labelOf({ rows }: Pick<ChannelRules, 'rows'>, key: string): string {
  const { field } = splitKey(key);
  return rows.find((row) => row.field === field)?.label ?? field;
}

function changeOf({ key, wanted, sent, observed, late }: FieldComparison): Change {
  // What is late still shows what was there before: that is what the new value goes over.
  const before = late ? (observed ?? sent) : sent;
  return { key, before: before ?? null, after: wanted ?? null };
}

function allOf(wanted: Shown, before: Shown | null): Change[] {
  return Object.entries(wanted).map(([key, after]) => ({ key, before: before?.[key] ?? null, after }));
}

/** True where two rows of changes wish for the same. */
export function sameWish(
  a: readonly Pick<Change, 'key' | 'after'>[],
  b: readonly Pick<Change, 'key' | 'after'>[],
): boolean {
  const other = new Map(b.map((item) => [item.key, item.after]));
  return (
    a.length === b.length &&
    a.every((candidate) => other.has(candidate.key) && equalOrAbsent(candidate.after, other.get(candidate.key)))
  );
}

/** Fields with changes laid over them; a change to nothing takes the field out. */
export function withChanges(shown: Shown, changes: readonly Change[]): Shown {
  const out: Shown = { ...shown };
  for (const { key, after } of changes) {
    if (after === null) delete out[key];
    else out[key] = after;
  }
  return out;
}
