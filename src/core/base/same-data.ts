const known = new WeakMap<object, object>();

/**
 * True where two values are the same JSON data (key order and absent-or-undefined properties count for nothing), as
 * `stableText` would tell. Objects found equal are remembered as pairs, so that a run of thousands costs what changed:
 * what is compared must not be changed afterwards.
 */
export function sameData(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (a === null || b === null || typeof a !== 'object' || typeof b !== 'object') return plain(a) === plain(b);
  if (known.get(a) === b) return true;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const same = Array.isArray(a) && Array.isArray(b) ? sameItems(a, b) : sameParts(a as Parts, b as Parts);
  if (same) known.set(a, b);
  return same;
}

type Parts = Record<string, unknown>;

/** JSON knows no undefined and no number that is none. */
function plain(value: unknown): unknown {
  return value === undefined || (typeof value === 'number' && !Number.isFinite(value)) ? null : value === 0 ? 0 : value;
}

function sameItems(a: readonly unknown[], b: readonly unknown[]): boolean {
  return a.length === b.length && a.every((item, i) => sameData(item, b[i]));
}

function sameParts(a: Parts, b: Parts): boolean {
  const keys = Object.keys(a).filter((key) => a[key] !== undefined);
  return (
    keys.length === Object.keys(b).filter((key) => b[key] !== undefined).length &&
    keys.every((key) => b[key] !== undefined && sameData(a[key], b[key]))
  );
}
