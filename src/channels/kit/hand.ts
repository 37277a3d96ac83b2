import { z } from 'zod';

/** What is kept of an account that a person fills in: tasks, how each ended, and what stands there by their word. */
export const handTask = 'hand task';
export const handMark = 'hand mark';
export const handStands = 'hand stands';

const wireSchema = z.record(z.string(), z.unknown());

/** A task: what is to be done with which listing, and what is to be typed. */
const taskSchema = z.object({ reference: z.string(), op: z.string(), wire: wireSchema });
/** How a task ended: done by somebody, or not to be done; `address`: where it stands, where it has a page. */
const markSchema = z.object({
  by: z.string(),
  at: z.number(),
  address: z.string().nullable(),
  /** Why it could not be done; `null`: it was. */
  word: z.string().nullable(),
});
export type HandMark = z.infer<typeof markSchema>;
/** `before`: what stood there by the word before; a page that was not changed yet says that still. */
const standsSchema = z.object({
  wire: wireSchema,
  before: wireSchema.nullable().default(null),
  address: z.string().nullable(),
});

function reads<T>(schema: z.ZodType<T>): (kept: string | null) => T | null {
  return (kept) => {
    if (kept === null) return null;
    try {
      return schema.safeParse(JSON.parse(kept)).data ?? null;
    } catch {
      return null;
    }
  };
}
export const readTask = reads(taskSchema);
export const readMark = reads(markSchema);
export const readStands = reads(standsSchema);
