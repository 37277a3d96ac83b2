import type { ManyEdit } from './many-edit';
import { manyLines, manyTexts } from './many-names';

/** What an edit does, for the book: `start 19:30`. `nameOf`: a channel's name. */
export function editWords(edit: ManyEdit, nameOf: (channel: string) => string): string {
  switch (edit.what) {
    case 'start':
    case 'doors':
    case 'end':
      return `${edit.what} ${edit.to}`;
    case 'subtitle':
    case 'eventType':
    case 'age':
    case 'note':
      return `${manyLines[edit.what].toLowerCase()} “${edit.to}”`;
    case 'line':
    case 'teaser':
    case 'short':
    case 'full':
    case 'access':
      return `${manyTexts[edit.what].toLowerCase()} ${edit.how === 'instead' ? 'replaced' : `added to, ${edit.how} it`}`;
    case 'tags':
      return `tags ${edit.how === 'add' ? 'added' : 'taken off'}: ${edit.text}`;
    case 'announce':
      return edit.at === null ? 'no announce moment' : `announced ${edit.at.date} ${edit.at.time}`;
    case 'onSale':
      return edit.at === null ? 'no opening of the sale' : `on sale ${edit.at.date} ${edit.at.time}`;
    case 'publicity':
      return `made ${edit.to}`;
    case 'channel':
      return `${edit.on ? 'put on' : 'taken off'} ${nameOf(edit.channel)}`;
    case 'post':
      return `a post on ${nameOf(edit.channel)}`;
    case 'postpone':
      return 'postponed, date to follow';
    case 'move':
      return 'moved';
    case 'cancel':
      return 'cancelled';
    case 'soldOut':
      return 'sold out';
  }
}
