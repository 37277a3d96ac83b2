import { readListing } from '@/core/listing/listing-codec';
import type { ChannelRules } from '@/core/listing/channel-rules';
import { isOff, listedField, type Shown } from '@/core/listing/shown';
import type { Answer, Held } from './kind';
import { overlayPage } from './public-page';

/** Reads an answer by a channel's rows, with its public page's word over it where it is to be seen at all. */
export function readAny(rules: ChannelRules, { wire, page }: Pick<Answer, 'wire' | 'page'>, held: Held): Shown {
  const shown = readListing(rules, wire, held.items);
  return isOff(shown[listedField]) ? shown : overlayPage(rules, shown, page);
}
