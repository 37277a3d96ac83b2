const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** Length of `text` in graphemes (UAX #29), which is how channels count and people see. */
export function countGraphemes(text: string): number {
  if (isPlain(text)) return text.length;
  let n = 0;
  for (const _ of segmenter.segment(text)) n += 1;
  return n;
}

/**
 * `text` cut to at most `limit` graphemes: at the end of a sentence where one lies in the last half, else
 * between words, with an ellipsis. A text that fits comes back as it is.
 */
export function cutToFit(text: string, limit: number): string {
  if (countGraphemes(text) <= limit) return text;
  const all = Array.from(segmenter.segment(text), (part) => part.segment);
  const head = all.slice(0, limit).join('');
  const sentence = /^[\s\S]*[.!?](?=\s)/.exec(`${head} `)?.[0];
  if (sentence !== undefined && sentence.length <= head.length && countGraphemes(sentence) >= limit / 2) return sentence;
  const short = all.slice(0, limit - 1).join('');
  const atWord = /^[\s\S]*\S(?=\s)/.exec(short)?.[0];
  const kept = atWord !== undefined && countGraphemes(atWord) >= limit / 2 ? atWord : short;
  return `${kept.replace(/[\s,;:–-]+$/, '')}…`;
}

function isPlain(text: string): boolean {
  return /^[\x20-\x7e\n]*$/.test(text);
}
