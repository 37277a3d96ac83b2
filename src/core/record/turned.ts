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
  lineUp: 'Line-up changed',
  back: 'Takes place after all',
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
  /** Who of the line-up cannot be there; `null`: all of them can. */
  act: string | null;
  /** Who joins; empty: nobody. */
  joins: string;
}

/** What is chosen before anything was. `which`: for which performance. */
export function nothingChosen(which: string): TurnChosen {
  return { which, date: null, start: '', place: null, act: null, joins: '' };
}

/** What was taken from a performance, and can be given back: that it takes place, and that tickets are left. */
const isTaken = ({ turn, soldOut }: Pick<Turnable, 'turn' | 'soldOut'>) =>
  turn === 'cancelled' || turn === 'postponed' || soldOut;

/** Performances that such a turn can befall: those to come, that are not cancelled. */
export function turnable<T extends Turnable>(performances: readonly T[], doing: Doing, today: string): T[] {
  return performances
    .filter(({ date, turn, precision, soldOut }) => {
      if (date < today && precision !== 'open') return false;
      if (doing === 'back') return isTaken({ turn, soldOut });
      if (turn === 'cancelled') return false;
      return doing !== 'soldOut' || !soldOut;
    })
    .toSorted((a, b) => (`${a.date}${a.start ?? ''}` < `${b.date}${b.start ?? ''}` ? -1 : 1));
}

/** True where something that a turn needs was not chosen yet. */
export function lacks(
  doing: Doing,
  { date, place, act, joins }: TurnChosen,
  venues: ReadonlyMap<string, Venue>,
): boolean {
  if (doing === 'extra') return date === null;
  if (doing === 'lineUp') return act === null && joins.trim() === '';
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
      case 'lineUp':
        return { ...item, ...withLineUp(item, chosen) };
      case 'back':
        return {
          ...item,
          turn: item.turn === 'cancelled' || item.turn === 'postponed' ? 'none' : item.turn,
          soldOut: false,
        };
      case 'move':
        return { ...item, ...(placeOf(chosen.place, venues) ?? {}), turn: 'moved' };
      case 'postpone':
        if (chosen.date === null) return { ...item, turn: 'postponed' };
        return { ...item, date: chosen.date, repeat: null, start: at(item), turn: 'rescheduled' };
    }
  });
}

/** Who is not on this time, and who is besides. */
function withLineUp({ lineUpOut, lineUpExtra }: Turnable, { act, joins }: TurnChosen) {
  const also = [lineUpExtra.trim(), joins.trim()].filter((names) => names !== '').join(', ');
  return { lineUpOut: act === null ? lineUpOut : [...new Set([...lineUpOut, act])], lineUpExtra: also };
}
