/** JSON with object keys in order, so that equal data gives equal text. */
export function stableText(value: unknown): string {
  if (value === null || typeof value !== 'object') return JSON.stringify(value) ?? 'null';
  if (Array.isArray(value)) return `[${value.map(stableText).join(',')}]`;
  const entries = Object.entries(value as Record<string, unknown>).filter(([, v]) => v !== undefined);
  entries.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
  return `{${entries.map(([key, v]) => `${JSON.stringify(key)}:${stableText(v)}`).join(',')}}`;
}

/**
 * A 64-bit fingerprint (FNV-1a, 16 hex digits) of any JSON data. Same data, same fingerprint, on server and
 * browser alike. It names things; it does not protect them.
 */
export function fingerprint(value: unknown): string {
  const text = stableText(value);
  let hash = 0xcbf29ce484222325n;
  for (let i = 0; i < text.length; i += 1) {
    hash ^= BigInt(text.charCodeAt(i));
    hash = BigInt.asUintN(64, hash * 0x100000001b3n);
  }
  return hash.toString(16).padStart(16, '0');
}
