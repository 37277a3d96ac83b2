import type { ChannelRules, FieldRow, Wire } from './channel-rules';
import { groupNames, type Group } from './groups';
import { shownKey, splitKey, type Shown } from './shown';

/**
 * Shown fields as the channel's wire format. With `only`, just the wire keys that those shown keys touch are
 * written (a repeated group is always written whole, with `others` in it), which is what an amendment sends.
 */
export function writeListing(
  rules: ChannelRules,
  shown: Shown,
  only?: readonly string[],
  others: TheirItems = {},
): Wire {
  const rows = new Map(rules.rows.map((row) => [row.field, row]));
  const touched = only && touchedBy(rows, only);
  const wire: Wire = {};
  for (const [key, value] of Object.entries(shown)) {
    const { field, item } = splitKey(key);
    const row = rows.get(field);
    // An item of somebody else's is never written back under a reference of our making.
    if (!row || value.kind === 'awaited' || isTheirs(key)) continue;
    if (touched && !touched.has(row.each === 'event' ? field : row.each)) continue;
    if (row.each === 'event') Object.assign(wire, row.put(value));
    else if (item !== null) {
      const list = rules.lists?.[row.each];
      if (rules.lists !== null && list !== undefined)
        Object.assign(itemOf(wire, list, rules.lists.ref, item), row.put(value));
    }
  }
  if (touched) writeCleared(rules, rows, shown, only ?? [], wire);
  for (const [list, items] of Object.entries(others))
    if (Array.isArray(wire[list])) wire[list] = [...(wire[list] as Wire[]), ...items];
  return wire;
}

/** Event fields and groups that a set of keys touches. */
function touchedBy(rows: ReadonlyMap<string, FieldRow>, keys: readonly string[]): Set<string> {
  return new Set(
    keys.map((key) => {
      const { field } = splitKey(key);
      const text = rows.get(field)?.each ?? 'event';
      return text === 'event' ? field : text;
    }),
  );
}

/** A touched field that has no value any more is written as null; a touched group without items as an empty list. */
function writeCleared(
  rules: ChannelRules,
  rows: ReadonlyMap<string, FieldRow>,
  shown: Shown,
  only: readonly string[],
  wire: Wire,
): void {
  for (const key of only) {
    const row = rows.get(splitKey(key).field);
    if (!row || shown[key] !== undefined) continue;
    if (row.each === 'event') for (const name of wireKeys(row)) wire[name] ??= null;
    else {
      const list = rules.lists?.[row.each];
      if (list !== undefined) wire[list] ??= [];
    }
  }
}

function wireKeys(row: FieldRow): string[] {
  switch (row.kind) {
    case 'text':
      return Object.keys(row.put({ kind: 'text', text: '' }));
    case 'rich':
      return Object.keys(row.put({ kind: 'rich', html: '' }));
    case 'url':
      return Object.keys(row.put({ kind: 'url', href: '' }));
    case 'picture':
      return Object.keys(row.put({ kind: 'picture', name: '', alt: '', source: null }));
    case 'count':
      return Object.keys(row.put({ kind: 'count', n: 0 }));
    case 'refs':
      return Object.keys(row.put({ kind: 'refs', refs: [], any: null, words: '' }));
    case 'file':
      return Object.keys(row.put({ kind: 'file', name: '', source: null }));
    case 'instant':
    case 'price':
    case 'flag':
    case 'state':
    case 'awaited':
      return [];
  }
}

function itemOf(wire: Wire, list: string, refKey: string, ref: string): Wire {
  const items = (wire[list] ??= []) as Wire[];
  let item = items.find((wire) => wire[refKey] === ref);
  if (!item) items.push((item = { [refKey]: ref }));
  return item;
}

/** Which key of an item that is not ours it is shown under: `theirs-1`, in the channel's own order. */
const theirs = /^theirs-\d+$/;

/** True where a key belongs to an item that somebody else put there. */
function isTheirs(key: string): boolean {
  return theirs.test(splitKey(key).item ?? '');
}

/**
 * The channel's answer as shown fields. `ours` are the references that this listing holds by our doing; an item under
 * another reference, or none, is somebody else's. What cannot be understood is kept as text, never dropped.
 */
export function readListing(rules: ChannelRules, wire: Wire, ours: ReadonlySet<string>): Shown {
  const shown: Shown = {};
  for (const row of rules.rows) {
    if (row.each === 'event') {
      const value = row.take(wire);
      if (value !== null) shown[row.field] = value;
      continue;
    }
    for (const [ref, item] of itemsOf(rules, wire, row.each, ours)) {
      const value = row.take(item);
      if (value !== null) shown[shownKey(row.field, ref)] = value;
    }
  }
  return shown;
}

/** The items of a group, each under our reference or under a name of its own. */
function itemsOf({ lists }: ChannelRules, wire: Wire, group: Group, ours: ReadonlySet<string>): [string, Wire][] {
  const list = lists?.[group];
  const items = list === undefined ? null : wire[list];
  if (lists === null || !Array.isArray(items)) return [];
  let count = 0;
  return items.flatMap((item: unknown): [string, Wire][] => {
    if (item === null || typeof item !== 'object') return [];
    const ref = (item as Wire)[lists.ref];
    const mine = typeof ref === 'string' && ours.has(ref);
    return [[mine ? ref : `theirs-${(count += 1)}`, item as Wire]];
  });
}

/** Items of repeated groups that somebody else put there, as they came: by the wire name of their group. */
export type TheirItems = Readonly<Record<string, readonly Wire[]>>;

/** Somebody else's items in an answer, untouched: a group that is written whole takes them along. */
export function theirItems(rules: ChannelRules, wire: Wire, ours: ReadonlySet<string>): TheirItems {
  if (rules.lists === null) return {};
  const out: Record<string, Wire[]> = {};
  for (const group of groupNames) {
    const list = rules.lists[group];
    const found = itemsOf(rules, wire, group, ours).filter(([ref]) => theirs.test(ref));
    if (list !== undefined && found.length > 0) out[list] = found.map(([, item]) => item);
  }
  return out;
}
