/** A hashtag as it is kept: letters, digits and `_`, without its sign. */
export function bareHashtag(text: string): string {
  return text.replace(/[^\p{L}\p{N}_]+/gu, '');
}

/** One hashtag out of words: each word with a capital, nothing between them; empty where nothing is left. */
function joined(words: string): string {
  return words
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '')
    .map((word) => word.charAt(0).toUpperCase() + word.slice(1))
    .join('');
}

/** Hashtags that a title and the name of a tour suggest: what stands before a colon, the whole, the tour. */
export function hashtagProposals(title: string, tour: string): string[] {
  const [front = ''] = title.split(/[:–—(]/);
  const all = [joined(front), joined(title), joined(tour)].filter(
    (candidate) => candidate.length > 2 && candidate.length <= 40,
  );
  return [...new Set(all)];
}
