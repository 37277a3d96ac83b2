import type { Facts, PerformanceFacts } from '@/core/facts';
import type { ShownValue } from '@/core/shown';

/** A text, or nothing where it is empty. */
export function text(words: string): ShownValue | null {
  return words.trim() === '' ? null : { kind: 'text', text: words.trim() };
}

/** A flag that is on. */
export const on: ShownValue = { kind: 'flag', on: true };

/** An instant in a performance's zone, or nothing. */
export function instant(at: number | null, one: PerformanceFacts): ShownValue | null {
  return at === null ? null : { kind: 'instant', at, zone: one.zone };
}

/** `The Vat, Tallow Yard, Marrowby`. */
export function placeWords(one: PerformanceFacts | undefined): ShownValue | null {
  if (!one?.place) return null;
  const { room, venue, town } = one.place;
  return text([room, venue, town].filter((part) => part !== null && part !== '').join(', '));
}

/** The ticket link: known, to come, or none. */
export function linkValue({ link }: Facts): ShownValue | null {
  switch (link.kind) {
    case 'known':
      return { kind: 'url', href: link.href };
    case 'awaited':
      return { kind: 'awaited', from: link.from };
    case 'none':
      return null;
  }
}

/** The price in words: `from €18`, `free`. */
export function priceText({ price }: Facts): ShownValue | null {
  switch (price.kind) {
    case 'priced':
      return text(price.words);
    case 'free':
      return text('free');
    case 'unknown':
      return null;
  }
}
