import type { ChannelRules, FieldRow, Wire } from './channel-rules';
import { shownKey, splitKey, type Shown } from './shown';

/**
 * Shown fields as the channel's wire format. With `only`, just the wire keys that those shown keys touch are
 * written (a repeated group is always written whole), which is what an amendment sends.
 */
export function writeListing(rules: ChannelRules, shown: Shown, only?: readonly string[]): Wire {
  const rows = new Map(rules.rows.map((row) => [row.field, row]));
  const touched = only && touchedBy(rows, only);
  const wire: Wire = {};
  for (const [key, value] of Object.entries(shown)) {
    const { field, item } = splitKey(key);
    const row = rows.get(field);
    if (!row || value.kind === 'awaited') continue;
    if (touched && !touched.has(row.each === 'event' ? field : row.each)) continue;
    if (row.each === 'event') Object.assign(wire, row.put(value));
    else Object.assign(itemOf(wire, rules.lists[row.each], rules.lists.ref, item ?? ''), row.put(value));
  }
  if (touched) writeCleared(rules, rows, shown, only ?? [], wire);
  return wire;
}

/** Event fields and groups that a set of keys touches. */
function touchedBy(rows: ReadonlyMap<string, FieldRow>, keys: readonly string[]): Set<string> {
  return new Set(
    keys.map((key) => {
      const { field } = splitKey(key);
      const each = rows.get(field)?.each ?? 'event';
      return each === 'event' ? field : each;
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
    else wire[rules.lists[row.each]] ??= [];
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
    case 'instant':
    case 'price':
    case 'flag':
    case 'awaited':
      return [];
  }
}

function itemOf(wire: Wire, list: string, refKey: string, ref: string): Wire {
  const items = (wire[list] ??= []) as Wire[];
  let item = items.find((one) => one[refKey] === ref);
  if (!item) items.push((item = { [refKey]: ref }));
  return item;
}

/** The channel's answer as shown fields. What cannot be understood is kept as text, never dropped. */
export function readListing(rules: ChannelRules, wire: Wire): Shown {
  const shown: Shown = {};
  for (const row of rules.rows) {
    if (row.each === 'event') {
      const value = row.take(wire);
      if (value !== null) shown[row.field] = value;
      continue;
    }
    const items = wire[rules.lists[row.each]];
    if (!Array.isArray(items)) continue;
    items.forEach((item: unknown, index) => {
      if (item === null || typeof item !== 'object') return;
      const ref = (item as Wire)[rules.lists.ref];
      const value = row.take(item as Wire);
      if (value !== null)
        shown[shownKey(row.field, typeof ref === 'string' && ref !== '' ? ref : `theirs-${index + 1}`)] = value;
    });
  }
  return shown;
}
