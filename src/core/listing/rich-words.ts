import { readMarkup, writePlain } from '../words/markup';
import type { ShownValue } from './shown';
import { wordsOf, type PlainChange, type PlainValue } from './value-words';

/** A value without its markup: rich text as its words. */
function plainValue<V extends ShownValue | null>(value: V): PlainValue | (V & null) {
  return value?.kind === 'rich'
    ? { kind: 'text', text: writePlain(readMarkup(value.html), 'named') }
    : (value as PlainValue | (V & null));
}

/** A shown value in words for a person, on one line where that is possible. */
export function valueWords(value: ShownValue | null | undefined): string {
  return wordsOf(plainValue(value ?? null));
}

/** A change for the eye: without markup, which only a reader of markup could put into words. */
export function plainChange<C extends { key: string; before: ShownValue | null; after: ShownValue | null }>(
  change: C,
): Omit<C, 'before' | 'after'> & PlainChange {
  return { ...change, before: plainValue(change.before), after: plainValue(change.after) };
}
