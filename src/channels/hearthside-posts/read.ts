import { readListing } from '@/core/listing/listing-codec';
import type { Answer } from '../kit/channel';
import { textOnPage } from '../kit/public-page';
import { rules } from './rules';

/** What the social page shows of a post: the words as the public reads them; no post on the page is no post. */
export function read({ wire, page }: Pick<Answer, 'wire' | 'page'>) {
  const shown = readListing(rules, wire);
  if (page === null || wire.visible !== true) return shown;
  const body = textOnPage(page, 'SocialMediaPosting', 'articleBody');
  return body === null
    ? { ...shown, listed: { kind: 'flag' as const, on: false } }
    : { ...shown, body: { kind: 'text' as const, text: body } };
}
