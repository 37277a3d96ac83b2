import type { RecordContent } from './record';

/** The address of an event in letters of any script, digits and hyphens: its title and the year of its first date. */
export function slugOf({ title, performances }: Pick<RecordContent, 'title' | 'performances'>): string {
  const stem =
    title
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 60) || 'event';
  const dated = performances.find((performance) => performance.precision !== 'open');
  return dated ? `${stem}-${dated.date.slice(0, 4)}` : stem;
}
