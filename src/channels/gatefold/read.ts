import { z } from 'zod';
import type { Answer } from '../kit/kind';

const salesSchema = z.object({ sales: z.record(z.string(), z.number().int().min(0)).default({}) });

/** What it has sold: it counts under the references of session and level. */
export function sales({ wire }: Pick<Answer, 'wire'>) {
  const read = salesSchema.safeParse(wire);
  return Object.entries(read.success ? read.data.sales : {}).flatMap(([key, sold]) => {
    const [performanceId, levelId] = key.split('|');
    return performanceId && levelId ? [{ performanceId, levelId, sold }] : [];
  });
}
