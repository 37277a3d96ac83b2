import { readListing } from '@/core/listing/listing-codec';
import type { ChannelRules } from '@/core/listing/channel-rules';
import { isOff, listedField, type Shown } from '@/core/listing/shown';
import type { Answer, Held } from './kind';
import { overlayPage, standsStill } from './public-page';

/** Reads an answer by a channel's rows, with its public page's word over it: what is seen is what counts. */
export function readAny(rules: ChannelRules, { wire, page }: Pick<Answer, 'wire' | 'page'>, held: Held): Shown {
  const shown = readListing(rules, wire, held.items);
  if (!isOff(shown[listedField])) return overlayPage(rules, shown, page);
  // Hidden, by the interface's word; where its page still stands the public sees it still.
  return standsStill(rules, page) ? overlayPage(rules, { ...shown, [listedField]: seen }, page) : shown;
}

const seen = { kind: 'state', is: 'public' } as const;
