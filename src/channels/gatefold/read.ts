import { z } from 'zod';
import { readListing } from '@/core/listing/listing-codec';
import type { Answer } from '../kit/channel';
import { overlayPage } from '../kit/public-page';
import { rules } from './rules';

/** What the marketplace shows: the listing, with the public page's word over it. */
export function read({ wire, page }: Pick<Answer, 'wire' | 'page'>) {
  return overlayPage(readListing(rules, wire), wire.state === 'open' ? page : null);
}

const salesSchema = z.object({ sales: z.record(z.string(), z.number().int().min(0)).default({}) });

/** What it has sold: it counts under the references of session and level. */
export function sales({ wire }: Pick<Answer, 'wire'>) {
  const read = salesSchema.safeParse(wire);
  return Object.entries(read.success ? read.data.sales : {}).flatMap(([key, sold]) => {
    const [performanceId, levelId] = key.split('|');
    return performanceId && levelId ? [{ performanceId, levelId, sold }] : [];
  });
}
