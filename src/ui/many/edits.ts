import type { ManyEdit } from '@/core/errands/many-edit';
import { manyHours, manyLines, manyTexts, manyTurns } from '@/core/errands/many-names';

/** What can be done to many events at once, in the order in which it is offered. */
export const manyFacts = {
  ...manyHours,
  ...manyLines,
  ...manyTexts,
  tags: 'Tags',
  announce: 'Announce moment',
  onSale: 'On sale',
} as const;

export type What = ManyEdit['what'];

/** What is typed of an edit: everything that any of them asks for. */
export interface Typed {
  what: What;
  text: string;
  /** Of a text or of tags: how it is put there. */
  how: string;
  date: string | null;
  time: string;
  /** Of a channel: put on it, or taken off. */
  channel: string;
  on: boolean;
  place: string | null;
  /** Of a turn: what becomes of tickets that were bought, and where or by whom they are paid back. */
  tickets: 'valid' | 'returned';
  by: string;
}

/** Nothing typed yet. */
export function blank(what: What, part: Partial<Typed> = {}): Typed {
  const how = what === 'tags' ? 'add' : 'behind';
  const tickets = what === 'cancel' ? 'returned' : 'valid';
  const said = { text: '', date: null, channel: '', tickets, by: '' } as const;
  return { ...said, ...{ what, how, time: '10:00', on: true, place: null }, ...part };
}

const isOf = <K extends string>(table: Record<K, string>, what: string): what is K => what in table;

/** The edit that was typed; `null`: something of it is missing. `zone`: the house's. */
export function editOf(typed: Typed, zone: string): unknown {
  const { what, text, how, date, time, channel, on, place, tickets, by } = typed;
  const filled = text.trim() !== '';
  if (isOf(manyHours, what)) return filled ? { what, to: text } : null;
  // A line can be emptied, but not by opening the form: that is what a blank stands for.
  if (isOf(manyLines, what)) return filled ? { what, to: text } : null;
  if (isOf(manyTexts, what)) return filled ? { what, text, how } : null;
  if (isOf(manyTurns, what)) {
    if (what === 'move' && place === null) return null;
    return { what, place, why: text, tickets, until: date, by, post: channel === '' ? null : channel };
  }
  switch (what) {
    case 'tags':
      return filled ? { what, text, how } : null;
    case 'announce':
      return date === null || time === '' ? null : { what, at: { date, time, zone } };
    case 'onSale':
      return date === null || time === '' ? null : { what, at: { date, time } };
    case 'publicity':
      return { what, to: text };
    case 'channel':
      return { what, channel, on };
    case 'post':
      return channel === '' || !filled ? null : { what, channel, text };
  }
}

/** What is being done, as the heading of its form says it. */
export function nameOfEdit(
  { what, channel, on, text }: Typed,
  channels: readonly { id: string; name: string }[],
): string {
  if (what in manyFacts) return 'Change a fact';
  if (isOf(manyTurns, what)) return manyTurns[what];
  if (what === 'publicity') return publicities[text as keyof typeof publicities];
  if (what === 'post') return 'A post about each';
  const name = channels.find(({ id }) => id === channel)?.name ?? channel;
  return on ? `Put on ${name}` : `Take off ${name}`;
}

/** How far an event is told of, as it is offered. */
export const publicities = {
  public: 'Make public',
  unlisted: 'Make unlisted',
  private: 'Make private',
} as const;
