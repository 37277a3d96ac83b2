import { toFollowSchema, type ToFollow } from '@/core/record/record';
import { parseJson, type Tx } from '@/store/database';
import { setting } from '@/store/settings';

/** The setting under which they are kept. */
export const followSetting = 'to-follow';

const kept = new Map<string, ToFollow>();

/**
 * What the public reads in this house in place of what is not known yet, as far as it says otherwise than usual. The
 * same text gives the same words.
 */
export function followWords(db: Tx): ToFollow {
  const text = setting(db, followSetting) ?? '{}';
  let known = kept.get(text);
  if (!known) {
    if (kept.size > 8) kept.clear();
    kept.set(text, (known = toFollowSchema.parse(parseJson(text))));
  }
  return known;
}
