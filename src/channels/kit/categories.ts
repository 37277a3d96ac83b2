import { z } from 'zod';
import type { FieldRow, KindRules, WireCodec } from '@/core/listing/channel-rules';
import { categoriesThere } from '@/core/listing/categories-there';
import { text } from './common-rows';

/** Their categories by our kinds of event. */
export type CategoryMap = Readonly<Record<string, string>>;

/** The setting that holds which of their categories each kind of event stands in, as a person chose. */
export const categorySetting = { categories: z.record(z.string().max(40), z.string().max(60)).optional() };
const settingSchema = z.object(categorySetting);

/**
 * Which of their categories each kind stands in: as chosen, or as proposed where nobody has chosen yet. A name that
 * they do not have is none. `most`: so many of them one event may stand in.
 */
export function categoriesOf(
  settings: Record<string, unknown>,
  theirs: readonly string[],
  proposed: CategoryMap,
  most = 1,
): NonNullable<KindRules['categories']> {
  const chosen = settingSchema.catch({}).parse(settings).categories;
  const map = Object.fromEntries(Object.entries(chosen ?? proposed).filter(([, name]) => theirs.includes(name)));
  return { theirs, map, chosen: chosen !== undefined, most };
}

/** The row of the category. */
export function categoryRow(
  categories: NonNullable<KindRules['categories']>,
  need: 'must' | 'should',
  codec: WireCodec,
): FieldRow {
  return {
    each: 'event',
    field: 'category',
    label: 'category',
    kind: 'text',
    need,
    among: { words: categories.theirs, most: categories.most },
    from: (f) => text(categoriesThere(f, categories).shown.join(', ')),
    ...codec,
  };
}
