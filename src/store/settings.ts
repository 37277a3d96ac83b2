import type { z } from 'zod';
import { ask, type Tx } from './database';
import { jsonReader } from './json-text';
import { settings } from './schema';

/** A setting by name. */
export function setting(db: Tx, name: string): string | null {
  return ask<{ value: string }>(db, 'SELECT value FROM settings WHERE name = ?', name)[0]?.value ?? null;
}

export function putSetting(db: Tx, name: string, value: string): void {
  db.insert(settings).values({ name, value }).onConflictDoUpdate({ target: settings.name, set: { value } }).run();
}

/** A setting that is kept as JSON and read through its schema. */
export interface JsonSetting<T> {
  /** What is kept, frozen; what was given for none where nothing is. */
  of(db: Tx): T;
  put(db: Tx, value: T): void;
}

/** The setting `name`, of `schema`; `none` where nothing was kept yet. */
export function jsonSetting<S extends z.ZodType>(name: string, schema: S, none: z.output<S>): JsonSetting<z.output<S>> {
  const read = jsonReader(schema);
  return {
    of(db) {
      const text = setting(db, name);
      return text === null ? none : read(text);
    },
    put: (db, value) => putSetting(db, name, JSON.stringify(value)),
  };
}
