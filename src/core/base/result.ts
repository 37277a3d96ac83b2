/** Either a value or an error, never both. */
export type Result<T, E> = { ok: true; value: T } | { ok: false; error: E };

/** A good result. */
export function ok<T>(value: T): { ok: true; value: T } {
  return { ok: true, value };
}

/** A failed result. */
export function fail<E>(error: E): { ok: false; error: E } {
  return { ok: false, error };
}
