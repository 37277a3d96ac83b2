import { toLocal } from '@/core/base/zones';
import { shelves } from '../tests/scripted/stand-in';

/** A thing as it lies on a shelf of a stand-in, in its own words. */
export interface Thing {
  shelf: string;
  id: string;
  reference: string;
  body: Record<string, unknown>;
}

/** The calls of each kind that write, by what they do: lost and slowed by name. */
export const places: Record<string, { place: string; open: string | null; amend: string }> = Object.fromEntries(
  Object.entries(shelves).map(([name, { calls }]) => [name, calls]),
);

/** The calls by which something is called off. */
export const callOffs: Record<string, string> = {
  gatefold: 'POST /listings/:id/cancel',
  vestibule: 'POST /rooms/:id/cancel',
  concourse: 'POST /events/:id/call-off',
  pennyseat: 'PUT /in/:file',
};

/** The shelf that a kind's things lie on. */
export const shelfOf = (name: string): string => (name in shelves ? name : '');

/** Whether the public sees it, by its own data. */
export const seenThere = ({ shelf, body }: Thing): boolean => shelves[shelf]?.seen(body) ?? false;

/** Where a person there edits the title; `null`: nobody does, or it is no title. */
export function handField(shelf: string): string | null {
  const edited = ['lectern', 'gatefold', 'hearthside', 'fernway', 'concourse', 'vestibule', 'pennyseat'];
  return edited.includes(shelf) ? (shelves[shelf]?.name ?? null) : null;
}

/** Whether it says the title: as it is, or in its words. A highlight says a date's number. */
export function saysTitle({ shelf, body }: Thing, title: string): boolean {
  const said = body[shelves[shelf]?.name ?? ''];
  return shelf === 'ostinato-highlights' || (typeof said === 'string' && said.includes(title));
}

/** The first start that it shows, `19:30` in Dublin; `null`: it shows none. */
export function startThere({ shelf, body }: Thing): string | null {
  const first = (list: unknown) => (Array.isArray(list) ? (list as Record<string, unknown>[])[0] : undefined);
  const at = (value: unknown) => {
    const ms = typeof value === 'number' ? value : Date.parse(String(value).replace(/\[.*$/, ''));
    return Number.isNaN(ms) ? null : toLocal(ms, 'Europe/Dublin').time;
  };
  switch (shelf) {
    case 'lectern':
      return String(first(body.dates)?.starts ?? '').slice(11, 16) || null;
    case 'gatefold':
      return at(first(body.sessions)?.starts_at);
    case 'hearthside':
      return at(Number(first(body.times)?.begins) * 1000);
    case 'pennyseat':
      return String(body.time ?? '').slice(0, 5) || null;
    case 'vestibule':
      return at(first(body.sessions)?.opens_at);
    case 'concourse':
      return at(first(body.slots)?.begins);
    case 'marrowby-diary':
      return at(body.start);
    default:
      return null;
  }
}

/**
 * Whether people were told something twice, of one listing's things: a call-off, a letter, a note or its correction.
 */
export function toldTwice(things: readonly Thing[]): boolean {
  const said = things.map(({ shelf, body }) => {
    switch (shelf) {
      case 'gatefold':
        return (
          ((body.letters as string[] | undefined) ?? []).filter((letter) => letter.startsWith('cancelled')).length > 1
        );
      case 'vestibule':
        return Number(body.letters ?? 0) > 1;
      case 'concourse':
        return Number(body.told ?? 0) > 1;
      default:
        return false;
    }
  });
  const words = things.flatMap(({ shelf, body }) =>
    shelf === 'postbag' || shelf === 'murmurline'
      ? [`${String(body.answers ?? body.in_reply_to ?? '')} ${String(body.words ?? body.note)}`]
      : [],
  );
  return said.some(Boolean) || new Set(words).size < words.length;
}
