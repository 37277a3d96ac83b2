/** JSON with object keys in order, so that equal data gives equal text. */
export function stableText(value: unknown): string {
  if (value === null || typeof value !== 'object') return JSON.stringify(value) ?? 'null';
  if (Array.isArray(value)) return `[${value.map(stableText).join(',')}]`;
  const entries = Object.entries(value as Record<string, unknown>).filter(([, v]) => v !== undefined);
  entries.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
  return `{${entries.map(([key, v]) => `${JSON.stringify(key)}:${stableText(v)}`).join(',')}}`;
}

/**
 * A 64-bit fingerprint (two FNV-1a hashes of 32 bits from different starts, 16 hex digits) of any JSON data. Same
 * data, same fingerprint, on server and browser alike. It names things; it does not protect them.
 */
export function fingerprint(value: unknown): string {
  const text = stableText(value);
  let [a, b] = [0x811c9dc5, 0x9e3779b9];
  for (let i = 0; i < text.length; i += 1) {
    const code = text.charCodeAt(i);
    a = Math.imul(a ^ code, 0x01000193);
    b = Math.imul(b ^ (code + i), 0x01000193);
  }
  const hex = (n: number) => (n >>> 0).toString(16).padStart(8, '0');
  return hex(a) + hex(b);
}
