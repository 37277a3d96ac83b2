import type { Venue } from './directory';
import { placeOf } from './places';
import type { Performance } from './record';

/** A performance, as it is saved or as it stands in the form. */
type Turnable = Omit<Performance, 'doors' | 'end' | 'link'>;

/** What can befall an event, as it is done in one step. */
export const doings = {
  postpone: 'Postpone',
  move: 'Move',
  cancel: 'Cancel',
  soldOut: 'Sold out',
  extra: 'Extra date',
} as const;
export type Doing = keyof typeof doings;

/** What is chosen of a turn before it is put into the record. */
export interface TurnChosen {
  /** Which performance; `all`: each that is still to come. */
  which: string;
  date: string | null;
  start: string;
  /** A venue, or a room of one: `venue|room`. */
  place: string | null;
}

/** Performances of which such a turn can befall: those to come, that are not cancelled. */
export function turnable<T extends Turnable>(performances: readonly T[], doing: Doing, today: string): T[] {
  return performances
    .filter(({ date, turn, precision, soldOut }) => {
      if (turn === 'cancelled' || (date < today && precision !== 'open')) return false;
      return doing !== 'soldOut' || !soldOut;
    })
    .toSorted((a, b) => (`${a.date}${a.start ?? ''}` < `${b.date}${b.start ?? ''}` ? -1 : 1));
}

/** True where something that a turn needs was not chosen yet. */
export function lacks(doing: Doing, { date, place }: TurnChosen, venues: ReadonlyMap<string, Venue>): boolean {
  if (doing === 'extra') return date === null;
  return doing === 'move' && venues.get(place?.split('|')[0] ?? '') === undefined;
}

/** The performances after a turn. `fresh`: the id of an extra date. */
export function turned<T extends Turnable>(
  performances: readonly T[],
  doing: Doing,
  chosen: TurnChosen,
  ids: ReadonlySet<string>,
  { venues, fresh }: { venues: ReadonlyMap<string, Venue>; fresh: string },
): T[] {
  const at = (item: T) => (chosen.start.trim() === '' ? item.start : chosen.start);
  if (doing === 'extra') {
    const like = performances.find(({ id }) => ids.has(id)) ?? performances[performances.length - 1];
    if (!like || chosen.date === null) return [...performances];
    const extra = { ...like, id: fresh, date: chosen.date, start: at(like), repeat: null, lastDate: null };
    return [...performances, { ...extra, soldOut: false, turn: 'none' }];
  }
  return performances.map((item) => {
    if (!ids.has(item.id)) return item;
    switch (doing) {
      case 'cancel':
        return { ...item, turn: 'cancelled' };
      case 'soldOut':
        return { ...item, soldOut: true };
      case 'move':
        return { ...item, ...(placeOf(chosen.place, venues) ?? {}), turn: 'moved' };
      case 'postpone':
        if (chosen.date === null) return { ...item, turn: 'postponed' };
        return { ...item, date: chosen.date, repeat: null, start: at(item), turn: 'rescheduled' };
    }
  });
}
