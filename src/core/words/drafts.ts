import { countGraphemes, cutToFit } from '../base/graphemes';
import { readMarkup, writePlain } from './markup';
import type { Words } from '../record/record';
import { wordLengths, type WordLength } from '../record/choices';

/** Lengths from which a shorter one may be drafted, longest first. */
const longer: Record<WordLength, readonly ('short' | 'teaser' | 'full')[]> = {
  line: ['teaser', 'short', 'full'],
  teaser: ['short', 'full'],
  short: ['full'],
};

/** A draft of a shorter length, and what it was made from. */
export interface Draft {
  text: string;
  from: 'short' | 'teaser' | 'full';
}

/**
 * Drafts a shorter length from the next longer one that is written: whole sentences as far as they fit, else a cut
 * between words. `null`: nothing longer is written. A draft invents nothing: all its words stand in the longer text.
 */
export function draftShorter(words: Words, length: WordLength): Draft | null {
  const limit = wordLengths[length];
  for (const from of longer[length]) {
    const source = from === 'full' ? plainOf(words.full) : words[from].trim();
    if (source !== '') return { text: firstSentences(source, limit), from };
  }
  return null;
}

function plainOf(html: string): string {
  const blocks = readMarkup(html).flatMap((block) =>
    block.kind === 'heading' || !('runs' in block)
      ? []
      : [{ ...block, runs: block.runs.map(({ text }) => ({ text })) }],
  );
  return writePlain(blocks)
    .replace(/\s*\n+\s*/g, ' ')
    .trim();
}

/** UTF-16 units that a grapheme takes, at the most that is looked at. */
const mostUnits = 16;
const sentences = new Intl.Segmenter('en', { granularity: 'sentence' });

/** As many whole sentences as fit, from the first on; where not even one does, a cut between words. */
export function firstSentences(text: string, limit: number): string {
  let kept = '';
  for (const { segment } of sentences.segment(text)) {
    // Blanks at the ends do not count; but of nothing else than blanks there is an end, too.
    if (kept.length > limit * mostUnits || countGraphemes((kept + segment).trim()) > limit) break;
    kept += segment;
  }
  return kept.trim() === '' ? cutToFit(text, limit) : kept.trim();
}
