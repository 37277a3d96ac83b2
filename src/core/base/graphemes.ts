const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });

/**
 * Code units that are segmented at a time: an engine's segmenter may take a time that grows with the square of the
 * text's.
 */
const piece = 256;

/** The graphemes of `text` in order (UAX #29). */
export function* graphemes(text: string): Generator<string> {
  let size = piece;
  for (let from = 0; from < text.length;) {
    // A piece ends between two characters, never within one.
    const to = from + size + (isHighSurrogate(text.charCodeAt(from + size - 1)) ? 1 : 0);
    const found = Array.from(segmenter.segment(text.slice(from, to)), (part) => part.segment);
    // The last of a piece may go on in the next: it is where that begins.
    if (to < text.length) found.pop();
    if (found.length === 0) size *= 2;
    else size = piece;
    for (const text of found) {
      yield text;
      from += text.length;
    }
  }
}

function isHighSurrogate(unit: number): boolean {
  return unit >= 0xd800 && unit < 0xdc00;
}

/**
 * Characters that are a grapheme each, whichever of them stands beside: those of most scripts without combining marks.
 */
const simple =
  '\\n\\x20-\\x7e\\xa0-\\xac\\xae-\\u02ff\\u0370-\\u0482\\u048a-\\u052f\\u2010-\\u2027\\u2030-\\u205e\\u20a0-\\u20bf\\u3041-\\u3096\\u30a1-\\u30fa\\u4e00-\\u9fff';
/** What has to be looked at closely, with the simple characters that it may join. */
const intricate = new RegExp(`[${simple}]?[^${simple}]+(?:[${simple}][^${simple}]+)*[${simple}]?`, 'g');

/** The long text that was counted last: every channel asks for the same one. */
let counted = { text: '', count: 0 };
const longText = 2000;

/** Length of `text` in graphemes (UAX #29), which is how channels count and people see. */
export function countGraphemes(text: string): number {
  if (text === counted.text) return counted.count;
  let count = text.length;
  for (const [part] of text.matchAll(intricate)) {
    count -= part.length;
    for (const _ of graphemes(part)) count += 1;
  }
  if (text.length > longText) counted = { text, count };
  return count;
}

/**
 * `text` cut to at most `limit` graphemes: at the end of a sentence where one lies in the last half, else
 * between words, with an ellipsis. A text that fits comes back as it is.
 */
export function cutToFit(text: string, limit: number): string {
  const first: string[] = [];
  let fits = true;
  for (const grapheme of graphemes(text)) {
    fits = first.length < limit;
    if (!fits) break;
    first.push(grapheme);
  }
  if (fits) return text;
  const head = first.join('');
  const sentence = /^[\s\S]*[.!?](?=\s)/.exec(`${head} `)?.[0];
  if (sentence !== undefined && sentence.length <= head.length && countGraphemes(sentence) >= limit / 2)
    return sentence;
  const short = first.slice(0, limit - 1).join('');
  const atWord = /^[\s\S]*\S(?=\s)/.exec(short)?.[0];
  const kept = atWord !== undefined && countGraphemes(atWord) >= limit / 2 ? atWord : short;
  return `${kept.replace(/[\s,;:–-]+$/, '')}…`;
}
