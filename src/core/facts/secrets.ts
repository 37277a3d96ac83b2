/** Something that is for some alone: what it is, and the text that stands for it. */
export interface Secret {
  what: string;
  text: string;
}

/** What stands in public words in place of something that is for some alone. */
const inItsPlace = '(for those who hold a place)';

/**
 * An address as it may stand in words: whatever its case, its scheme and how it ends, and however a markup writes it.
 */
function bareAddress(href: string): string {
  return href
    .trim()
    .toLowerCase()
    .replaceAll('&amp;', '&')
    .replace(/^https?:\/\//, '')
    .replace(/\/$/, '');
}

/** True where a text holds it. */
export function holdsSecret(text: string, { text: secret }: Secret): boolean {
  return bareAddress(text).includes(bareAddress(secret));
}

const literally = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/**
 * The same value with every text in it freed of what is for some alone: of anything that is written where everybody may
 * read it.
 * `withoutSecrets({ title: 'Join at https://room.example/x' }, [{ what: 'join', text: 'https://room.example/x' }])`
 */
export function withoutSecrets<T>(value: T, secrets: readonly Secret[]): T {
  if (secrets.length === 0) return value;
  const patterns = secrets.map(
    ({ text }) => new RegExp(`(?:https?://)?${literally(bareAddress(text)).replaceAll('&', '&(?:amp;)?')}/?`, 'gi'),
  );
  const free = (item: unknown): unknown => {
    if (typeof item === 'string') return patterns.reduce((text, pattern) => text.replace(pattern, inItsPlace), item);
    if (Array.isArray(item)) return item.map(free);
    if (item === null || typeof item !== 'object' || item instanceof Map || item instanceof Set) return item;
    return Object.fromEntries(Object.entries(item).map(([key, part]) => [key, free(part)]));
  };
  return free(value) as T;
}
