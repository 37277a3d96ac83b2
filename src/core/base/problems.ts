import { z } from 'zod';

/** What a schema says of a value that it refuses: a fact with its evidence, as findings have them. */
export type Problem =
  | { code: 'date-malformed' | 'time-malformed' | 'link-malformed'; text: string }
  | { code: 'start-empty' | 'title-empty' | 'name-empty' }
  | { code: 'zone-unknown'; zone: string }
  | { code: 'price-malformed'; text: string; currency: string }
  | { code: 'number-malformed'; text: string; what: string }
  | { code: 'value-refused'; detail: string };

/** `value` is what was given, whatever it is. */
type ProblemOf = (value: unknown) => Problem;

const problems = z.registry<{ problem: ProblemOf }>();

/** A schema like `schema`, which says `problem` of what it refuses. */
export function saying<S extends z.ZodType>(schema: S, problem: ProblemOf): S {
  const own = schema.clone(undefined, { parent: true });
  problems.add(own as z.ZodType, { problem });
  return own;
}

/** A text to quote: what was given, or nothing where that is no text. */
export function textOf(value: unknown): string {
  return typeof value === 'string' ? value : typeof value === 'number' ? String(value) : '';
}

/**
 * What the schema that refused a value has to say of it: the innermost on the way along `path` in `schema` that says
 * anything of what stands there. `null`: it says nothing of its own. `input` is the whole that was given.
 */
export function problemAt(schema: z.ZodType, path: readonly PropertyKey[], input: unknown): Problem | null {
  let [at, value]: [z.core.$ZodType | null, unknown] = [bare(schema), input];
  for (const key of path) {
    at = at && bare(partOf(at, key, value));
    value = value !== null && typeof value === 'object' ? (value as Record<PropertyKey, unknown>)[key] : undefined;
  }
  return (at && problems.get(at as z.ZodType)?.problem(value)) ?? null;
}

/** The schema itself, without what lets a value be absent or stand in for it. What says something is not gone through. */
function bare(schema: z.core.$ZodType | null): z.core.$ZodType | null {
  if (schema === null || problems.has(schema as z.ZodType)) return schema;
  const { def } = (schema as z.core.$ZodTypes)._zod;
  switch (def.type) {
    case 'optional':
    case 'nullable':
    case 'default':
    case 'prefault':
    case 'readonly':
      return bare(def.innerType);
    case 'pipe':
      // What prepares a value comes first; what is asked of it stands behind.
      return bare((def.in as z.core.$ZodTypes)._zod.def.type === 'transform' ? def.out : def.in);
    default:
      return schema;
  }
}

/** The schema of the part of a value that `key` names. */
function partOf(schema: z.core.$ZodType, key: PropertyKey, value: unknown): z.core.$ZodType | null {
  const { def } = (schema as z.core.$ZodTypes)._zod;
  switch (def.type) {
    case 'object':
      return def.shape[String(key)] ?? null;
    case 'array':
      return def.element;
    case 'record':
      return def.valueType;
    case 'union': {
      if (!('discriminator' in def) || value === null || typeof value !== 'object') return null;
      const tag = String(def.discriminator);
      const option = def.options.find((candidate) => {
        const tagged = partOf(candidate, tag, null);
        return tagged !== null && z.safeParse(tagged, (value as Record<string, unknown>)[tag]).success;
      });
      return option ? partOf(option, key, value) : null;
    }
    default:
      return null;
  }
}
