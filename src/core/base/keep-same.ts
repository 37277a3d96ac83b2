/**
 * `after`, with every part of it that says the same as `before` did at its place being the very part of before;
 * `before` itself where nothing differs. Of plain data (objects, lists, maps): whoever draws by identity then draws
 * only what differs.
 */
export function keepSame<T>(before: unknown, after: T): T {
  if (Object.is(before, after)) return after;
  if (Array.isArray(before) && Array.isArray(after)) return keptList(before, after) as T;
  if (before instanceof Map && after instanceof Map) return keptMap(before, after) as T;
  return isParts(before) && isParts(after) ? (keptParts(before, after) as T) : after;
}

type Parts = Record<string, unknown>;

function isParts(value: unknown): value is Parts {
  if (typeof value !== 'object' || value === null) return false;
  const made: unknown = Object.getPrototypeOf(value);
  return made === Object.prototype || made === null;
}

function keptList(before: readonly unknown[], after: readonly unknown[]): readonly unknown[] {
  const kept = after.map((item, i) => keepSame(before[i], item));
  return before.length === after.length && kept.every((candidate, i) => Object.is(candidate, before[i]))
    ? before
    : kept;
}

function keptMap(before: ReadonlyMap<unknown, unknown>, after: ReadonlyMap<unknown, unknown>) {
  const kept = new Map([...after].map(([key, item]) => [key, keepSame(before.get(key), item)]));
  const order = [...before.keys()];
  const same = [...kept].every(([key, item], i) => Object.is(order[i], key) && Object.is(before.get(key), item));
  return before.size === kept.size && same ? before : kept;
}

function keptParts(before: Parts, after: Parts): Parts {
  const keys = Object.keys(after);
  const kept: Parts = {};
  // What is drawn in the order of its keys is another where that is another.
  const order = Object.keys(before);
  let same = order.length === keys.length;
  keys.forEach((key, i) => {
    const part = (kept[key] = keepSame(before[key], after[key]));
    same &&= order[i] === key && Object.is(part, before[key]);
  });
  return same ? before : kept;
}
