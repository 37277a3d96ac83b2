import type { z } from 'zod';

/*
 * Walks a schema, for tests that hold something of every place that it has.
 */

export type Schema = z.core.$ZodType;
export const defOf = (schema: Schema) => schema._zod.def as unknown as Record<string, unknown> & { type: string };

/** The schema beneath what only says how it may be missing. */
export function bare(schema: Schema): Schema {
  const def = defOf(schema);
  if (['nullable', 'optional', 'default', 'prefault', 'readonly', 'catch'].includes(def.type))
    return bare(def.innerType as Schema);
  return def.type === 'pipe'
    ? bare((defOf(def.in as Schema).type === 'transform' ? def.out : def.in) as Schema)
    : schema;
}

/** Every place of a value that the schema can hold, with its schema; `*` for each item of a list.
 * `lists`: the lists themselves too. */
export function leaves(schema: Schema, path: string[] = [], lists = false): { path: string; schema: Schema }[] {
  const inner = bare(schema);
  const def = defOf(inner);
  switch (def.type) {
    case 'object':
      return Object.entries(def.shape as Record<string, Schema>).flatMap(([key, item]) =>
        leaves(item, [...path, key], lists),
      );
    case 'array':
      return [
        ...(lists ? [{ path: path.join('.'), schema }] : []),
        ...leaves(def.element as Schema, [...path, '*'], lists),
      ];
    case 'union': {
      const all = (def.options as Schema[]).flatMap((option) => leaves(option, path, lists));
      return all.filter((leaf, i) => all.findIndex((other) => other.path === leaf.path) === i);
    }
    case 'record':
      return leaves(def.valueType as Schema, [...path, '?'], lists);
    case 'literal':
      return [];
    default:
      return [{ path: path.join('.'), schema }];
  }
}
