import { z } from 'zod';

/** A way that a person picked for what is locked, as a screen sends it. */
export const waySchema = z.object({
  way: z.string().max(40),
  reason: z.string().max(400),
  code: z.string().max(40),
  until: z.string().max(10).default(''),
});
