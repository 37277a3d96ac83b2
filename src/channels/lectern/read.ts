import { readListing } from '@/core/listing/listing-codec';
import type { Answer } from '../kit/channel';
import { overlayPage } from '../kit/public-page';
import { rules } from './rules';

/** What the website shows: the entry, with the public page's word over it. */
export function read({ wire, page }: Pick<Answer, 'wire' | 'page'>) {
  return overlayPage(readListing(rules, wire), wire.status === 'published' ? page : null);
}
