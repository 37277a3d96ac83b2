import type { ListedState } from './listed-states';
import type { Shown, ShownKind, ShownValue } from './shown-schema';

export type { ListedState, Shown, ShownKind, ShownValue };

/** Key of a field of one item of a repeated group. */
export function shownKey(field: string, item?: string): string {
  return item === undefined ? field : `${field}@${item}`;
}

/** Takes a key apart again. */
export function splitKey(key: string): { field: string; item: string | null } {
  const at = key.indexOf('@');
  return at < 0 ? { field: key, item: null } : { field: key.slice(0, at), item: key.slice(at + 1) };
}

/** The field that says whether a listing stands in public at all. */
export const listedField = 'listed';

/** A listing's state by its shown fields; where none is shown, what is there stands in public. */
export function listedState(shown: Shown): ListedState {
  const value = shown[listedField];
  return value?.kind === 'state' ? value.is : 'public';
}

/** True where nobody is to find it, or nobody can get in by it any more. */
export function isOff(value: ShownValue | undefined): boolean {
  return value?.kind === 'state' && value.is !== 'public' && value.is !== 'unlisted';
}

/** True where it is wanted there with all that it says, and not seen yet: a person keeps it a draft. */
export function isKeptDraft(wanted: Shown): boolean {
  return listedState(wanted) === 'draft';
}

/** True where nothing is wanted there but that it is not seen, or no longer gets anybody in. */
export function isDown(wanted: Shown): boolean {
  return isOff(wanted[listedField]) && !isKeptDraft(wanted);
}

/** The listing that is wanted where an event must not stand: nothing but that it is taken down. */
export const takenDown: Shown = { [listedField]: { kind: 'state', is: 'closed' } };
