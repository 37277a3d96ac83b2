import { stableText } from '../base/hash';

type Json = unknown;

/** One value on which two versions of a record differ. */
export interface MergeRow {
  /** Path of the value, e.g. `performances.p1.start`. */
  path: string;
  base: Json;
  mine: Json;
  theirs: Json;
  /** Who changed it. `both`: a person must choose. */
  changedBy: 'me' | 'them' | 'both';
}

/** Sentinel for "not there". */
const absent = undefined;

/** The part of a list's path that names the order of its items; no item has it as its id. */
const orderKey = 'order';

/**
 * Where `mine` and `theirs`, both grown from `base`, differ: every differing value with who changed it. Lists
 * whose items have an `id` are compared by id; a whole item that one side added or took out is one row, and so is
 * the order of those that both hold (`lineUp.order`, with the whole lists as its values).
 */
export function mergeRows(base: Json, mine: Json, theirs: Json): MergeRow[] {
  const rows: MergeRow[] = [];
  walk('', base, mine, theirs, rows);
  return rows;
}

function walk(path: string, base: Json, mine: Json, theirs: Json, rows: MergeRow[]): void {
  if (stableText(mine) === stableText(theirs) && (mine === absent) === (theirs === absent)) return;
  const [b, m, t] = [partsOf(base), partsOf(mine), partsOf(theirs)];
  if (m !== null && t !== null) {
    for (const key of new Set([...m.keys(), ...t.keys()])) {
      walk(path === '' ? key : `${path}.${key}`, b?.get(key), m.get(key), t.get(key), rows);
    }
    // Last, so that what was added and taken out is there already when an order is taken over.
    if (Array.isArray(mine) && Array.isArray(theirs)) orderRow(path, [base, mine, theirs], [b, m, t], rows);
    return;
  }
  const mineMoved = stableText(base) !== stableText(mine);
  const theirsMoved = stableText(base) !== stableText(theirs);
  rows.push({ path, base, mine, theirs, changedBy: mineMoved && theirsMoved ? 'both' : mineMoved ? 'me' : 'them' });
}

function orderRow(
  path: string,
  [base, mine, theirs]: [Json, Json, Json],
  [b, m, t]: [Map<string, Json> | null, Map<string, Json>, Map<string, Json>],
  rows: MergeRow[],
): void {
  const held = (item: Map<string, Json>) => (key: string) => item.has(key) && (b === null || b.has(key));
  const order = (item: Map<string, Json>, other: Map<string, Json>) => [...item.keys()].filter(held(other)).join(' ');
  if (order(m, t) === order(t, m)) return;
  const mineMoved = b === null || order(b, m) !== order(m, b);
  const theirsMoved = b === null || order(b, t) !== order(t, b);
  const changedBy = mineMoved && theirsMoved ? 'both' : mineMoved ? 'me' : 'them';
  rows.push({ path: `${path}.${orderKey}`, base, mine, theirs, changedBy });
}

/** The items of `list` in the order of `like`; one that `like` does not hold stays behind the one it stood behind. */
function inOrderOf(list: readonly Json[], like: readonly Json[]): Json[] {
  const ordered = like.flatMap((entry) => list.filter((item) => idOf(item) === idOf(entry)));
  list.forEach((item, i) => {
    if (!ordered.includes(item)) ordered.splice(i === 0 ? 0 : ordered.indexOf(list[i - 1]) + 1, 0, item);
  });
  return ordered;
}

/** The named parts of an object or of a list whose items carry ids; `null` for a plain value. */
function partsOf(value: Json): Map<string, Json> | null {
  if (value === null || typeof value !== 'object') return null;
  if (!Array.isArray(value)) return new Map(Object.entries(value));
  if (!value.every((item) => idOf(item) !== null)) return null;
  return new Map(value.map((item) => [idOf(item) ?? '', item]));
}

function idOf(item: Json): string | null {
  if (item === null || typeof item !== 'object') return null;
  const { id, pictureId } = item as { id?: unknown; pictureId?: unknown };
  return typeof id === 'string' ? id : typeof pictureId === 'string' ? pictureId : null;
}

/**
 * `mine` with the chosen rows taken from `theirs`. Rows that only they changed are always taken; rows both
 * changed are taken where `takeTheirs` says so.
 */
export function mergeVersions<T>(base: T, mine: T, theirs: T, takeTheirs: ReadonlySet<string>): T {
  const taken = mergeRows(base, mine, theirs).filter(
    (row) => row.changedBy === 'them' || (row.changedBy === 'both' && takeTheirs.has(row.path)),
  );
  return taken.reduce<Json>(
    (at, row) => takeAt(at, row.path.split('.'), theirs, row.theirs),
    structuredClone(mine),
  ) as T;
}

/** `at` with `value`, which stands in `theirs` at the same path, put in. */
function takeAt(at: Json, [key, ...rest]: string[], theirs: Json, value: Json): Json {
  if (key === undefined) return value;
  if (Array.isArray(at)) {
    if (key === orderKey && rest.length === 0 && Array.isArray(value)) return inOrderOf(at, value);
    const index = at.findIndex((item) => idOf(item) === key);
    const next = takeAt(index < 0 ? absent : at[index], rest, partsOf(theirs)?.get(key), value);
    if (next === absent) return at.filter((_, i) => i !== index);
    return index < 0
      ? at.toSpliced(placeOf(key, at, theirs), 0, next)
      : at.map((item, i) => (i === index ? next : item));
  }
  return {
    ...(at as Record<string, Json>),
    [key]: takeAt((at as Record<string, Json> | undefined)?.[key], rest, partsOf(theirs)?.get(key), value),
  };
}

/**
 * Where in `at` an item belongs that it does not hold yet: behind what it stands behind in `theirs`, else before what
 * follows.
 */
function placeOf(key: string, at: readonly Json[], theirs: Json): number {
  const order = Array.isArray(theirs) ? theirs.map(idOf) : [];
  const own = order.indexOf(key);
  const behind = at.findLastIndex((item) => order.slice(0, own).includes(idOf(item)));
  if (behind >= 0) return behind + 1;
  const before = at.findIndex((item) => order.slice(own + 1).includes(idOf(item)));
  return before < 0 ? at.length : before;
}
