import { channelWords } from '../date-words';
import { readMarkup, writePlain } from '../markup';
import type { RecordContent } from '../record';

/** A text of a record that people write by hand, and what it is called. */
export interface Prose {
  where: string;
  text: string;
}

/** Every text of a record in which a fact may stand typed, without its marks; empty ones are left out. */
export function proseOf({ subtitle, words, notices, overrides }: Pick<RecordContent, 'subtitle' | 'words' | 'notices' | 'overrides'>): Prose[] {
  const plain = (html: string) => writePlain(readMarkup(html));
  return [
    { where: 'subtitle', text: subtitle },
    { where: 'line', text: words.line }, { where: 'teaser', text: words.teaser }, { where: 'short text', text: words.short }, { where: 'full text', text: plain(words.full) },
    { where: 'access notes', text: words.access },
    ...notices.map((one) => ({ where: 'notice', text: one.words })),
    ...overrides.map((one) => ({ where: `words by hand for ${channelWords(one.channel)}`, text: plain(one.value) })),
  ].filter(({ text }) => text.trim() !== '');
}
