const names: Record<string, string> = {
  title: 'title', subtitle: 'subtitle', kind: 'kind', stage: 'stage', performances: 'performance', lineUp: 'line-up', tickets: 'tickets', levels: 'price level',
  words: 'words', teaser: 'teaser', full: 'full text', pictures: 'picture', publicity: 'publicity', announce: 'announce moment', leftOff: 'channels left off',
  start: 'start', end: 'end', doors: 'doors', date: 'date', endsNextDay: 'ends after midnight', venueId: 'venue', roomId: 'room', zone: 'zone', price: 'price (minor units)',
};

/** A path of a record in words: `performances.p1.start` gives `performance › start`. */
export function pathWords(path: string): string {
  return path.split('.').map((part) => names[part] ?? (/\d/.test(part) ? null : part)).filter((part) => part !== null).join(' › ');
}

/** A value of a record in a few words. */
export function plainWords(value: unknown): string {
  if (value === undefined || value === null || value === '') return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  const text = typeof value === 'object' ? JSON.stringify(value) : String(value);
  return text.replace(/<[^>]+>/g, ' ').slice(0, 160);
}
