import { customType } from 'drizzle-orm/sqlite-core';
import { LRUCache } from 'lru-cache';
import type { z } from 'zod';

/** So many characters of one column's texts are kept read, where the column does not say otherwise. */
const usuallyKept = 12_000_000;

/**
 * Reads JSON texts by `schema`. The same text gives the same frozen value again, without being read and checked anew:
 * what is asked for around each request are the same few rows. `kept`: how many characters of texts are remembered, the
 * least used are forgotten first. What is returned throws a `SyntaxError` for what is no JSON and a `ZodError` for what
 * is not of the schema, each time.
 */
export function jsonReader<S extends z.ZodType>(schema: S, kept = usuallyKept): (text: string) => z.output<S> {
  // A box, for a value may be null.
  const known = new LRUCache<string, { value: z.output<S> }>({
    maxSize: kept,
    sizeCalculation: (_, text) => text.length + 1,
  });
  return (text) => {
    const before = known.get(text);
    if (before) return before.value;
    const value = frozen(schema.parse(JSON.parse(text))) as z.output<S>;
    known.set(text, { value });
    return value;
  };
}

/** The same value, which nobody can change any more. */
function frozen(value: unknown): unknown {
  if (value === null || typeof value !== 'object' || Object.isFrozen(value)) return value;
  Object.values(value).forEach(frozen);
  return Object.freeze(value);
}

/**
 * A column that keeps a value as JSON text and gives it back checked by `schema`, frozen. A null of SQL stands for what
 * is not there and does not meet the schema. `name`: the column's, where it is not the property's.
 */
export function jsonText<S extends z.ZodType>(schema: S, name?: string, kept?: number) {
  const read = jsonReader(schema, kept);
  const column = customType<{ data: z.output<S>; driverData: string }>({
    dataType: () => 'text',
    toDriver: (value) => JSON.stringify(value),
    fromDriver: read,
  });
  return name === undefined ? column() : column(name);
}
