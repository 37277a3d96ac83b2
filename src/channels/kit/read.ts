import { readListing } from '@/core/listing/listing-codec';
import type { ChannelRules } from '@/core/listing/channel-rules';
import { isOff, listedField, type Shown } from '@/core/listing/shown';
import type { Answer, Held } from './kind';
import { overlayPage, standsAs } from './public-page';

/** Reads an answer by a channel's rows, with its public page's word over it: what is seen is what counts. */
export function readAny(rules: ChannelRules, { wire, page }: Pick<Answer, 'wire' | 'page'>, held: Held): Shown {
  const shown = readListing(rules, wire, held.items);
  const stands = standsAs(rules, page);
  const seen = isOff(shown[listedField]) ? stands : stands === 'cancelled' ? stands : null;
  // Hidden, by the interface's word; where its page still stands the public sees it still, or sees that it is
  // cancelled.
  if (seen !== null) return overlayPage(rules, { ...shown, [listedField]: { kind: 'state', is: seen } }, page);
  return isOff(shown[listedField]) ? shown : overlayPage(rules, shown, page);
}
