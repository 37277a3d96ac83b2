import { longDate } from '../dates/date-words';

/** A file name out of a title and a date, with nothing that a file system dislikes. */
export function fileNameOf(title: string, date: string, ending: string): string {
  const stem =
    title
      .normalize('NFKD')
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-+|-+$/g, '')
      .toLowerCase()
      .slice(0, 60) || 'events';
  return `${stem}-${longDate(date).split(' ').slice(1).join('-').toLowerCase()}.${ending}`;
}
